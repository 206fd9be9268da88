"""A panel as it is traced: where each jack may end, what to do next, the minutes that are left."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from typing import Literal

from pydantic import field_serializer

from ...edits import AddEntry, Edit, PinCord, as_sent
from ...errors import InvalidInput
from ...facts.fact import Fact
from ...facts.project import Project
from ...facts.tracing import ServiceOfLine, TracedJack, TraceSheet
from ...places.labels import labels, panel_letter
from ...stack.told import Stack
from .advice import NextStep, minutes_left, next_step
from .minutes import Clock
from .state import JackPlace, Traced, traced

TOLD_MOST = 12
"""Candidates of a jack that are told; the others are less probable."""
SAID_MOST = 6
"""Positions that a jack does not end on, as far as they are named."""


class Chance(Fact):
    """A position where a jack may end."""

    position: int
    chance: float


class JackTold(Fact):
    """A jack and where it ends, as far as anybody knows."""

    id: int
    drop_id: int | None
    name: str
    room: str
    service: ServiceOfLine
    state: Literal["found", "dead", "open"]
    position: int | None
    """Where it ends, if it is found."""
    chance: float | None
    """Of that position, where it is taken for found though no exact reading said so."""
    likely: tuple[Chance, ...]
    """The most probable positions, the best first; none before any reading that tells them apart."""
    ruled_out: tuple[int, ...]
    """Free positions where it does not end."""
    dead_chance: float
    readings: tuple[str, ...]


class PanelTold(Fact):
    """A panel that is traced."""

    closet_id: int
    sheet_id: int
    name: str
    positions: tuple[str, ...]
    """What each position is called, from the first on."""
    jacks: tuple[JackTold, ...]
    found: int
    dead: int
    left: int
    free: tuple[int, ...]
    """Positions that have a cable, on which no jack was found."""
    error: float
    """Twice the largest standard error of the chances told here; 0: they are exact."""
    problem: str
    """Why the readings cannot all be right; empty: they can."""
    next: NextStep | None
    minutes_spent: float
    """That the steps so far take, by the usual minutes of each."""
    minutes_one: float
    """That are left for one person, and for two, in the mean."""
    minutes_two: float
    take: tuple[Edit, ...]
    """Writes what was found and is not yet in the port list into it."""

    add: tuple[Edit, ...]
    """Adds each drop whose cable ends in this closet and that is not traced yet; none for an old panel."""

    @field_serializer("take", "add")
    def _send(self, take: tuple[Edit, ...]) -> list[dict[str, object]]:
        return [as_sent(edit) for edit in take]


class Tracing(Fact):
    """Every panel that is traced."""

    panels: tuple[PanelTold, ...]


def tracing_of(project: Project, stack: Stack) -> Tracing:
    """What is known of every panel that is traced."""
    panels = {
        one.closet_id: [
            (thing.key, thing.positions) for thing in one.things if thing.kind == "panel" and thing.positions
        ]
        for one in stack.closets
    }
    return Tracing(
        panels=tuple(
            _panel(project, sheet, [] if sheet.panel else panels.get(sheet.closet_id, []))
            for sheet in project.trace_sheets
        )
    )


def _panel(project: Project, sheet: TraceSheet, panels: Sequence[tuple[str, int]]) -> PanelTold:
    rows = [jack for jack in project.traced_jacks if jack.closet_id == sheet.closet_id]
    steps = [step for step in project.trace_steps if step.closet_id == sheet.closet_id]
    places = _places(project, sheet, rows)
    now = traced(sheet, places, steps)
    clock = Clock(sheet, {place.id: place for place in places})
    for step in steps:
        clock.take(step)
    names = _names(project, sheet, panels)
    problem, error, first = _twice(now, names), 0.0, None
    if not problem:
        try:
            error, first = now.probable.error, next_step(now, clock.at)
        except InvalidInput as wrong:
            problem = str(wrong)
    if problem:
        # only what was read exactly is told until that is mended
        now = traced(sheet.model_copy(update={"accept": 1.0}), places, steps)
    jacks = tuple(_jack(project, now, row, names, broken=bool(problem)) for row in rows)
    states = [jack.state for jack in jacks]
    return PanelTold(
        closet_id=sheet.closet_id, sheet_id=sheet.id, name=sheet.panel or project.closets_by_id[sheet.closet_id].name,
        positions=names, jacks=jacks, found=states.count("found"), dead=states.count("dead"), left=states.count("open"),
        free=now.free, error=error, problem=problem, next=first, minutes_spent=clock.minutes,
        minutes_one=minutes_left(now, 1), minutes_two=minutes_left(now, 2),
        take=tuple(_as_built(project, rows, now.found, panels)), add=tuple(_to_trace(project, sheet)),
    )  # fmt: skip


def _twice(now: Traced, names: Sequence[str]) -> str:
    at = Counter(read.at for read in now.read.values() if read.exact)
    twice = [names[one - 1] for one, times in at.items() if one is not None and times > 1]
    return f"Two jacks were found on position {twice[0]}: one reading is wrong." if twice else ""


def _places(project: Project, sheet: TraceSheet, rows: Sequence[TracedJack]) -> list[JackPlace]:
    level = {floor.id: floor.level for floor in project.floors}
    floor = {room.id: level[room.floor_id] for room in project.rooms}
    home = project.closets_by_id[sheet.closet_id].room_id
    here = floor.get(home or 0)
    places = []
    for row in rows:
        room = _room(project, row)
        there = floor.get(room or 0)
        places.append(JackPlace(row.id, room, 0 if here is None or there is None else there - here))
    return places


def _room(project: Project, row: TracedJack) -> int | None:
    """The room of a jack: as it is said, else that of its drop."""
    drop = project.drops_by_id.get(row.drop_id or 0)
    return row.room_id or (drop.room_id if drop else None)


def _names(project: Project, sheet: TraceSheet, panels: Sequence[tuple[str, int]]) -> tuple[str, ...]:
    """Letter of the panel and position where the panels of the closet hold so many, else counted through."""
    names = [
        f"{panel_letter(project, sheet.closet_id, key)}{place}"
        for key, count in panels
        for place in range(1, count + 1)
    ]
    return tuple(names[: sheet.positions] if len(names) >= sheet.positions else map(str, range(1, sheet.positions + 1)))


def _jack(project: Project, now: Traced, row: TracedJack, names: Sequence[str], *, broken: bool) -> JackTold:
    read, room = now.read[row.id], _room(project, row)
    at = now.found.get(row.id)
    open_ = {jack.id: place for place, jack in enumerate(now.open_to_all)} if not broken else {}
    state: Literal["found", "dead", "open"] = "found" if at is not None else "dead" if row.id in now.dead else "open"
    likely: tuple[Chance, ...] = ()
    if row.id in open_ and (read.sweeps or read.excluded):
        likely = tuple(
            Chance(position=one, chance=round(chance, 4)) for one, chance in now.candidates(row.id)[:TOLD_MOST]
        )
    dead = float(now.probable.dead[open_[row.id]]) if row.id in open_ else float(state == "dead")
    return JackTold(
        id=row.id, drop_id=row.drop_id, name=row.name, service=row.service, state=state, position=at,
        room=project.rooms_by_id[room].name if room else "", likely=likely,
        chance=likely[0].chance if at is not None and not read.exact and likely else None,
        ruled_out=tuple(one for one in now.free if one in read.excluded) if state == "open" else (),
        dead_chance=round(dead, 4), readings=tuple(_readings(now, row.id, names)),
    )  # fmt: skip


def _readings(now: Traced, jack: int, names: Sequence[str]) -> list[str]:
    read = now.read[jack]
    said = ["silent" if one is None else f"tone at {names[one - 1]}" for one in read.sweeps]
    if read.excluded:
        tested = sorted(read.excluded)
        more = f" and {len(tested) - SAID_MOST} more" if len(tested) > SAID_MOST else ""
        said.append(f"not on {', '.join(names[one - 1] for one in tested[:SAID_MOST])}{more}")
    return said


def _to_trace(project: Project, sheet: TraceSheet) -> Iterator[AddEntry]:
    if sheet.panel:
        return
    known = {row.drop_id for row in project.traced_jacks}
    called = labels(project)
    for drop in project.drops:
        if drop.has_run and drop.closet_id == sheet.closet_id and drop.id not in known:
            name = called.get(drop.id) or project.name_of(drop)
            values = {"closet_id": sheet.closet_id, "drop_id": drop.id, "name": name}
            yield AddEntry.model_validate({"list": "traced_jacks", "values": values})


def _as_built(
    project: Project, rows: Sequence[TracedJack], found: Mapping[int, int], panels: Sequence[tuple[str, int]]
) -> list[PinCord]:  # fmt: skip
    every = [(key, place) for key, count in panels for place in range(1, count + 1)]
    known = {patch.drop_id: (patch.panel, patch.position, patch.fixed) for patch in project.patches}
    edits = []
    for row in rows:
        at = found.get(row.id)
        if row.drop_id is None or at is None or at > len(every):
            continue
        if project.drops_by_id[row.drop_id].closet_id != row.closet_id:
            continue
        panel, position = every[at - 1]
        if known.get(row.drop_id) != (panel, position, True):
            edits.append(PinCord(drop_id=row.drop_id, panel=panel, position=position))
    return edits
