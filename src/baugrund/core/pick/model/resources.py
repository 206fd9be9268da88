"""What a closet has only so much of, and every box and injector takes some of: a row a resource.

The search, its bounds, what it keeps of proofs, the reasons and the capacities all read this table.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass

from ...facts.building import Closet
from ...facts.lines.box import Box
from ...facts.lines.injector import Injector
from ...facts.verbs import Verb
from ...gear.beside import Beside
from ...words import counted

NO_LIMIT = 10**9
"""What a closet has of a resource that nobody limits there."""


def _none(model: object) -> int:
    return 0


def _one(model: object) -> int:
    return 1


@dataclass(frozen=True)
class Resource:
    """One row: what of it is taken, how much there is, and how both are said.  Amounts are whole numbers."""

    key: str
    """Of the limit, where it is told what to relax."""
    pit: str
    """Key of its capacity."""
    name: str
    unit: str
    of_box: Callable[[Box], int]
    of_injector: Callable[[Injector], int]
    limit: Callable[[Closet], int | None]
    """How much a closet has; None: nobody limits it."""
    too_much: Callable[[int, int], str]
    """The sentence that keeps a box out: what it takes alone, what there is."""
    more: Callable[[int], str]
    """The sentence that more of it would do: what there is."""
    lifted: Mapping[str, object]
    """Fields of a closet that has plenty."""
    formula: str
    """What is taken of it: with ``boxes`` and ``injectors`` in words, what is ``used``, and the ``limit``."""
    source: str
    of_beside: Callable[[Beside], int] = _none
    """What a thing beside the pick takes of it."""
    verbs: tuple[Verb, ...] = ("brief", "pick")
    """Where its capacity is always shown."""
    per: int = 1
    """How many make one of its unit."""


RESOURCES: tuple[Resource, ...] = (
    Resource(
        "units", "rack", "Height", "U",
        of_box=lambda box: box.units,
        of_injector=_none,
        limit=lambda closet: closet.units,
        too_much=lambda taken, there: f"{taken} units high; the housing has {there}.",
        more=lambda there: f"More height would do: the housing has {counted(there, 'unit')}.",
        lifted={"units": 60},
        formula="{used:g} units of boxes in {limit:g} of the housing",
        source="IEC 60297: one unit is 44.45 mm.",
        of_beside=lambda one: one.units,
    ),
    Resource(
        "load", "load", "Load", "kg",
        of_box=lambda box: round(box.mass_kg * 1000),
        of_injector=_none,
        limit=lambda closet: round(closet.load_kg * 1000),
        too_much=lambda taken, there: f"{taken / 1000:g} kg; the housing carries {there / 1000:g} kg.",
        more=lambda there: f"More load would do: the housing carries {there / 1000:g} kg.",
        lifted={"load_kg": 2000.0},
        formula="{boxes}: {used:g} kg of the {limit:g} kg that the housing carries",
        source="Masses as the data sheets state them; a recorder chosen apart is counted without its disks.",
        of_beside=lambda one: round(one.mass_kg * 1000),
        per=1000,
    ),
    Resource(
        "sockets", "sockets", "Sockets", "",
        of_box=lambda box: box.sockets,
        of_injector=_one,
        limit=lambda closet: closet.sockets,
        too_much=lambda taken, there: f"Its plug covers {taken} sockets; the closet has {there}.",
        more=lambda there: f"More sockets would do; the closet has {there}.",
        lifted={"sockets": 60},
        formula="{boxes} and {injectors} take {used:g} of {limit:g} sockets",
        source="A plug brick wider than one socket counts two; an injector takes one.",
        of_beside=lambda one: one.sockets,
    ),
    Resource(
        "battery outlets", "outlets", "Battery outlets", "",
        of_box=_one,
        of_injector=_one,
        limit=lambda closet: closet.ups_outlets,
        too_much=lambda taken, there: f"It takes a battery outlet; the closet has {there or 'none'}.",
        more=lambda there: f"More battery outlets would do; the closet has {there}.",
        lifted={"ups_outlets": None},
        formula="{boxes} and {injectors} take {used:g} of {limit:g} battery outlets",
        source="Every box and injector takes one outlet of the battery.",
        of_beside=lambda one: int(one.on_battery),
    ),
)  # fmt: skip


def limits_of(closet: Closet, beside: Iterable[Beside] = ()) -> tuple[int, ...]:
    """How much of each resource a closet has for the pick beside what else stands there, in the order of the table;
    `NO_LIMIT` where nobody limits it."""
    return tuple(_left(resource, closet, tuple(beside)) for resource in RESOURCES)


def _left(resource: Resource, closet: Closet, beside: tuple[Beside, ...]) -> int:
    limit = resource.limit(closet)
    return NO_LIMIT if limit is None else max(0, limit - sum(map(resource.of_beside, beside)))


def box_takes(box: Box) -> tuple[int, ...]:
    """How much of each resource a box takes."""
    return tuple(resource.of_box(box) for resource in RESOURCES)


def injector_takes(injector: Injector) -> tuple[int, ...]:
    """How much of each resource an injector takes."""
    return tuple(resource.of_injector(injector) for resource in RESOURCES)
