"""Steps of one phase, stage by stage: what each is about, who does it, and its hours.

A step is about *subjects* (drops, boxes, closets, ways, links, kit): those are ticked off, so that a drop which comes
later opens its steps again and leaves the rest as it was.  Hours are those of Price, each counted in one step.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from typing import TypeVar

from ...cabling.fill import filled
from ...cabling.pulls import schedule
from ...cabling.work import rates_of, way_laid, ways_h
from ...facts.drop import Drop
from ...facts.drop_kinds import DROP_KINDS
from ...facts.labour import Task
from ...facts.price import DOERS, Doer
from ...facts.project import Project
from ...price.labour import doers, slowness
from ...price.phasing import closet_place, place_of
from ...price.work_items import BENCHED, NOT_PUT_IN, WorkItem
from ...stack.things import Thing
from ...stack.told import Stack
from ...standards.order_of_work import LABOUR_STAGES, BuildStage
from ...standing.ground import Ground
from ...words import counted
from ..power_up import PowerUp

Key = tuple[BuildStage, str]


@dataclass(frozen=True)
class PlannedStep:
    """A step as it follows from the project.  ``hours``: of one person, as slow as who does it."""

    stage: BuildStage
    name: str
    subjects: tuple[str, ...]
    told: str = ""
    closet_id: int | None = None
    room_id: int | None = None
    tools: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    who: Doer = "installer"
    hours: float = 0.0


@dataclass
class Shares:
    """Hours by who does them, of every stage and subject; each is taken once."""

    by_key: dict[Key, dict[Doer, float]] = field(default_factory=dict)

    def add(self, key: Key, who: Doer, hours: float) -> None:
        mine = self.by_key.setdefault(key, {})
        mine[who] = mine.get(who, 0.0) + hours

    def take(self, keys: Iterable[Key]) -> tuple[Doer, float]:
        """Who does most of it, and all its hours."""
        found: dict[Doer, float] = defaultdict(float)
        for key in keys:
            for who, hours in self.by_key.pop(key, {}).items():
                found[who] += hours
        return max(found, key=lambda who: found[who], default=DOERS[0]), sum(found.values())


def shares_of(project: Project, items: Sequence[WorkItem]) -> Shares:
    """Hours of work items, shared equally among the drops of each; ways and kit have theirs from their own rows."""
    shares, doer = Shares(), doers(project)
    for item in items:
        who = doer(item)
        hours = item.hours * slowness(project, who)
        if item.extra_id is not None:
            shares.add(("other", f"extra/{item.extra_id}"), who, hours)
            continue
        if item.stage in ("survey", "ways") or item.task == "take_down":
            continue
        stage = LABOUR_STAGES[item.stage]
        if item.drop_ids:
            for number in item.drop_ids:
                shares.add((stage, f"drop/{number}"), who, hours / len(item.drop_ids))
        elif stage in ("pull", "terminate", "punch_down", "test"):
            shares.add((stage, f"link/{item.closet_id}"), who, hours)
        else:
            shares.add((stage, f"closet/{item.closet_id}"), who, hours)
    return shares


WHOSE: dict[BuildStage, Task] = {"label": "test"}
"""The task whose doer does a stage that has no hours of its own."""


class PhaseSteps:
    """Makes the steps of one phase.  ``only``: the project with the drops of that phase alone."""

    def __init__(
        self, project: Project, only: Project, place: int, grounds: Sequence[Ground], stack: Stack, *,
        items: Sequence[WorkItem], power_up: PowerUp,
    ) -> None:  # fmt: skip
        self.project, self.only, self.place = project, only, place
        self.grounds, self.stack, self.power_up = grounds, stack, power_up
        self.shares, self.rates = shares_of(project, items), rates_of(project)
        self.last = place == max(0, len(project.phases) - 1)
        self.closets = [closet for closet in project.closets if closet_place(project, closet) == place]
        self.things: dict[int, Sequence[Thing]] = {here.closet_id: here.things for here in stack.closets}

    def steps(self) -> Iterator[PlannedStep]:
        """All of them, in the usual order of stages."""
        yield from self._devices("bench")
        yield from self._taken_down()
        yield from self._ways()
        yield from self._pulls()
        yield from self._links("pull", "Link to {}")
        runs = [drop for drop in self.only.drops if drop.has_run]
        new = [drop for drop in runs if not drop.existing]
        yield from self._by_room("terminate", new)
        yield from self._links("terminate", "Ends of the link to {}")
        yield from self._by_closet("punch_down", new)
        yield from self._links("punch_down", "Ends of the link to {}")
        yield from self._by_closet("label", runs)
        yield from self._closets()
        yield from self._patched()
        yield from self._power_up()
        yield from self._devices("configure")
        yield from self._by_room("test", runs)
        yield from self._links("test", "Link to {}")
        mounted = [drop for drop in self.only.drops if self.rates.mounted(drop) and (drop.model or not drop.existing)]
        yield from self._by_room("mount", [drop for drop in mounted if drop.has_run])
        yield from self._by_room("close", [drop for drop in new if ("close", f"drop/{drop.id}") in self.shares.by_key])
        yield from self._by_room("clear_away", [drop for drop in self.only.drops if not drop.existing])
        yield from self._other()
        yield from self._by_closet("document", runs)
        if self.last:
            yield PlannedStep("document", "The whole site", ("site",), told="Handed over: papers, passwords apart")

    def _step(
        self, stage: BuildStage, name: str, subjects: Sequence[str], told: str = "", *, closet: int | None = None,
        room: int | None = None, also: Sequence[str] = (), tools: Sequence[str] = (), cautions: Sequence[str] = (),
    ) -> PlannedStep:  # fmt: skip
        """``also``: keys of further hours that go with it."""
        who, hours = self.shares.take((stage, key) for key in (*subjects, *also))
        if not hours:
            who = doers(self.project)(WorkItem(WHOSE.get(stage), 0.0, 0.0, "other"))
        return PlannedStep(stage, name, tuple(subjects), told, closet, room, tuple(tools), tuple(cautions), who, hours)

    def _by_room(self, stage: BuildStage, drops: Sequence[Drop]) -> Iterator[PlannedStep]:
        for room_id, some in _grouped(drops, lambda drop: drop.room_id).items():
            told = counted(len(some), "thing") if stage == "mount" else _count(some)
            yield self._step(stage, self.project.rooms_by_id[room_id].name, _keys(some), told, room=room_id)

    def _by_closet(self, stage: BuildStage, drops: Sequence[Drop]) -> Iterator[PlannedStep]:
        for closet_id, some in _grouped(drops, lambda drop: drop.closet_id).items():
            name = self.project.closets_by_id[closet_id].name
            yield self._step(stage, name, _keys(some), _count(some), closet=closet_id)

    def _devices(self, stage: BuildStage) -> Iterator[PlannedStep]:
        """Boxes of every closet, then devices by their kind."""
        for closet in self.closets:
            boxes = [thing for thing in self.things.get(closet.id, ()) if thing.kind in ("router", "switch")]
            subjects = [f"thing/{closet.id}/{thing.key}" for thing in boxes if thing.box is not None]
            if subjects:
                yield self._step(stage, f"Boxes of {closet.name}", subjects, counted(len(subjects), "box", "boxes"),
                                 closet=closet.id, also=(f"closet/{closet.id}",))  # fmt: skip
        devices = [drop for drop in self.only.drops if drop.kind in BENCHED and drop.in_use]
        for kind, some in _grouped(devices, lambda drop: drop.kind).items():
            yield self._step(stage, DROP_KINDS[kind].plural, _keys(some), counted(len(some), "device"))

    def _taken_down(self) -> Iterator[PlannedStep]:
        names = [phase.name.casefold() for phase in self.project.phases]
        for kit in self.project.kit:
            said = kit.phase.strip().casefold()
            here = names.index(said) == self.place if said in names else self.last
            if kit.fate != "kept" and here:
                who = next((one.who for one in self.project.task_terms if one.task == "take_down"), None) or "installer"
                hours = kit.count * self.rates.hours["take_down"] * slowness(self.project, who)
                told = counted(kit.count, "piece") if kit.count > 1 else ""
                yield PlannedStep("take_down", kit.name, (f"kit/{kit.id}",), told, who=who, hours=hours)

    def _ways(self) -> Iterator[PlannedStep]:
        doer, hours_by_way = doers(self.project), ways_h(self.project)
        for path in self.project.paths:
            held = filled(self.project)[path.id]
            laid = way_laid(self.project, path, held.length_m)
            places = [place_of(self.project, self.project.drops_by_id[number]) for number in held.drop_ids]
            if not laid or not laid[1] or min(places, default=0) != self.place:
                continue
            who = doer(WorkItem(laid[0], laid[1], 0.0, "ways"))
            yield PlannedStep(
                "ways", path.name, (f"path/{path.id}",), f"{held.length_m:.1f} m" if held.length_m else "",
                cautions=(path.row.caution,) if path.row.caution else (), who=who,
                hours=hours_by_way.get(path.id, 0.0) * slowness(self.project, who),
            )  # fmt: skip

    def _pulls(self) -> Iterator[PlannedStep]:
        for bundle in schedule(self.only):
            drops = [self.only.drops_by_id[one.drop_id] for one in bundle.cables]
            rooms = list(dict.fromkeys(self.only.rooms_by_id[drop.room_id].name for drop in drops))
            to = " and ".join(rooms) if len(rooms) < 3 else f"{rooms[0]} and {len(rooms) - 1} more rooms"
            told = f"{_count(drops)}, the longest {bundle.cables[0].length_m:.1f} m"
            told += f", by {', '.join(bundle.way)}" if bundle.way else ""
            yield self._step("pull", f"{self.project.closets_by_id[bundle.closet_id].name} to {to}", _keys(drops), told,
                             closet=bundle.closet_id, tools=bundle.tools, cautions=bundle.cautions)  # fmt: skip

    def _links(self, stage: BuildStage, name: str) -> Iterator[PlannedStep]:
        for closet in self.project.closets:
            if (stage, f"link/{closet.id}") in self.shares.by_key:
                yield self._step(stage, name.format(closet.name), (f"link/{closet.id}",), closet=closet.id)

    def _closets(self) -> Iterator[PlannedStep]:
        for closet in self.closets:
            put_in = [thing for thing in self.things.get(closet.id, ()) if thing.kind not in NOT_PUT_IN]
            if put_in:
                yield self._step("stack", closet.name, (f"closet/{closet.id}",), counted(len(put_in), "thing"),
                                 closet=closet.id)  # fmt: skip

    def _patched(self) -> Iterator[PlannedStep]:
        for ground in self.grounds:
            drops = [
                self.only.drops_by_id[place.drop_id] for place in ground.places
                if place.drop_id is not None and place.drop_id in self.only.drops_by_id
            ]  # fmt: skip
            closet = ground.closet
            joined = closet in self.closets and ("patch", f"closet/{closet.id}") in self.shares.by_key
            if drops or joined:
                yield self._step("patch", closet.name, [*_keys(drops), *([f"closet/{closet.id}"] if joined else [])],
                                 counted(len(drops), "cord"), closet=closet.id)  # fmt: skip

    def _power_up(self) -> Iterator[PlannedStep]:
        """What comes up in this phase, closet by closet; the run-through has the order."""
        closets = {closet.id for closet in self.closets}
        found: dict[int, list[str]] = defaultdict(list)
        for one in self.power_up.steps:
            kind, _, rest = one.subject.partition("/")
            if int(rest) in self.only.drops_by_id if kind == "drop" else one.closet_id in closets:
                found[one.closet_id].append(one.subject)
        for closet_id, subjects in found.items():
            yield self._step("power_up", self.project.closets_by_id[closet_id].name, subjects,
                             f"{len(subjects)} one after another", closet=closet_id)  # fmt: skip

    def _other(self) -> Iterator[PlannedStep]:
        places = {phase.id: place for place, phase in enumerate(self.project.phases)}
        for row in self.project.extra_work:
            if places.get(row.phase_id or 0, 0) == self.place:
                yield self._step("other", row.name or "Work", (f"extra/{row.id}",), room=row.room_id)


By = TypeVar("By", int, str)


def _grouped(drops: Sequence[Drop], by: Callable[[Drop], By]) -> dict[By, list[Drop]]:
    found: dict[By, list[Drop]] = defaultdict(list)
    for drop in drops:
        found[by(drop)].append(drop)
    return found


def _keys(drops: Iterable[Drop]) -> tuple[str, ...]:
    return tuple(f"drop/{drop.id}" for drop in drops)


def _count(drops: Sequence[Drop]) -> str:
    return counted(len(drops), "run")
