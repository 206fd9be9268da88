"""What could stand better in every closet: arrangements, the housing of the least price, the UPS of the least price."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any

from pydantic import JsonValue, field_serializer

from ..edits import AddEntry, ChangeEntry, Edit, RemoveEntry, as_sent
from ..facts.building import Closet
from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.lines.housing import Housing
from ..facts.lines.stood import Stood
from ..facts.project import Project
from ..standing.ground import Ground
from .arrangement import Arranged, Arrangement, arranged
from .batteries import UpsPick, pick_ups
from .cords import cords_of
from .flat import FlatArrangement, lay_out
from .housings import BOUGHT, KIND_OF, HousingPick, closet_of, pick_housing
from .rules import weights_of
from .things import positions_needed, things_of

BATTERY_MIN = 15.0
"""What a battery is to last where no goal says so, *default*."""


class ClosetProposal(Fact):
    """What could stand better in a closet, and the edits that take each."""

    closet_id: int
    rack: Arranged | None
    """Of a rack."""
    flat: FlatArrangement | None
    """Of a wall panel or a shelf."""
    edits: tuple[Edit, ...]
    """Take the steady arrangement."""
    better_edits: tuple[Edit, ...]
    """Take the better one."""
    housing: HousingPick | None
    housing_edits: tuple[Edit, ...]
    """Take the housing with all that goes in it."""
    ups: UpsPick

    @field_serializer("edits", "better_edits", "housing_edits")
    def _send(self, edits: tuple[Edit, ...]) -> list[dict[str, Any]]:
        return [as_sent(edit) for edit in edits]


class StackProposals(Fact):
    """What could stand better."""

    closets: tuple[ClosetProposal, ...]


def stack_proposals(project: Project, catalogue: Catalogue, grounds: Sequence[Ground]) -> StackProposals:
    """What could stand better in every closet."""
    return StackProposals(
        closets=tuple(_proposal(project, catalogue, grounds, closet) for closet in project.closets)
    )  # fmt: skip


def wanted_min(project: Project) -> float:
    """How long batteries are to last: the longest that a service asks, the goal, else the usual."""
    goal = next((goal for goal in project.goals if goal.kind == "battery"), None)
    usual = BATTERY_MIN if goal is None or goal.level is None else goal.level
    return max((usual if line.minutes is None else line.minutes for line in project.lifelines), default=usual)


def wants_battery(project: Project) -> bool:
    return bool(project.lifelines) or any(goal.kind == "battery" for goal in project.goals)


def _proposal(project: Project, catalogue: Catalogue, grounds: Sequence[Ground], closet: Closet) -> ClosetProposal:
    things = things_of(project, catalogue, grounds, closet)
    ground = next((one for one in grounds if one.closet.id == closet.id), None)
    minutes = wanted_min(project)
    rack, flat = None, None
    edits: tuple[Edit, ...] = ()
    better: tuple[Edit, ...] = ()
    housing = None
    if closet.housing == "rack":
        rack = arranged(closet, things, cords_of(project, ground, things), weights_of(project))
        edits = tuple(_rack_edits(project, closet, rack.steady)) if rack.steady else ()
        better = tuple(_rack_edits(project, closet, rack.better)) if rack.better else ()
        housing = pick_housing(project, catalogue, ground, closet, things, positions_needed(project, closet, ground),
                               minutes if wants_battery(project) else None)  # fmt: skip
    else:
        flat = lay_out(project, closet, things)
        edits = tuple(_flat_edits(project, closet, flat))
    return ClosetProposal(
        closet_id=closet.id, rack=rack, flat=flat, edits=edits, better_edits=better, housing=housing,
        housing_edits=tuple(_housing_edits(project, catalogue, closet, housing)) if housing else (),
        ups=pick_ups(project, catalogue, closet, things, minutes),
    )  # fmt: skip


def _said(project: Project, closet: Closet, thing: str, values: dict[str, JsonValue]) -> Iterator[Edit]:
    row = next((one for one in project.placings if (one.closet_id, one.thing) == (closet.id, thing)), None)
    if row is None:
        yield AddEntry(list="placings", values={"closet_id": closet.id, "thing": thing, **values})
    elif any(getattr(row, name) != value for name, value in values.items()):
        yield ChangeEntry(list="placings", id=row.id, changes=values)


def _rack_edits(project: Project, closet: Closet, found: Arrangement) -> Iterator[Edit]:
    for put in found.puts:
        values: dict[str, JsonValue] = {"unit": put.unit, "face": put.face, "on": put.on, "x_mm": put.x_mm}
        yield from _said(project, closet, put.thing, values)
    gone = set(found.left_out)
    for row in project.placings:
        # what there is no place for stands nowhere, unless it is screwed in
        if row.closet_id == closet.id and row.thing in gone and not row.fixed and (row.unit is not None or row.on):
            yield ChangeEntry(list="placings", id=row.id, changes={"unit": None, "on": "", "x_mm": None})


def _housing_edits(project: Project, catalogue: Catalogue, closet: Closet, found: HousingPick) -> Iterator[Edit]:
    """Sizes of the rack, and its shelves, panels, strips, UPS and fans in place of those that are listed."""
    if found.housing is None:
        return
    rack = catalogue.get(found.housing.model)
    values: dict[str, JsonValue]
    if isinstance(rack, Housing):
        values = {**closet_of(rack), "housing_model": rack.key, "is_there": False}
        yield ChangeEntry(list="closets", id=closet.id, changes=values)
    for gear in project.gear:
        if gear.closet_id == closet.id and gear.kind in BOUGHT:
            yield RemoveEntry(list="gear", id=gear.id)
    for part in found.parts:
        line = catalogue.get(part.model)
        if isinstance(line, Stood) and type(line) in KIND_OF:
            values = {"closet_id": closet.id, "kind": KIND_OF[type(line)], "model": part.model}
            for _ in range(part.count):
                yield AddEntry(list="gear", values=values)


def _flat_edits(project: Project, closet: Closet, found: FlatArrangement) -> Iterator[Edit]:
    for put in found.puts:
        yield from _said(project, closet, put.thing, {"x_mm": put.x_mm, "y_mm": put.y_mm, "turned": put.turned})
