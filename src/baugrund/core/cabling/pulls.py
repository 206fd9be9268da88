"""The pull schedule: which cables are pulled together, in what order, with marks, labels, hours and cautions.

A bundle is begun by the longest run that is left; those that share at least half of their own way with it, from the
closet on, go along, and of runs that nobody has drawn those to the same room, up to the most that a project pulls at
once.  ``work`` tells its hours.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from ..facts.building import Closet
from ..facts.kept import kept
from ..facts.path_kinds import LADDER, PATH_KINDS
from ..facts.project import Project
from ..places.labels import labels
from ..reach.runs import Run, Stretch, runs
from ..standards.cabling import BEND_TIMES, PULL_MAX_N
from .cables import cable_list
from .fill import cable_of
from .packing import STEP_M, steps
from .work import rates_of, shares_h, ways_h

TOGETHER = 0.5
"""A run goes along with a bundle that it shares so much of its way with, *default*."""
BENDS = "Bend no tighter than {radius:.0f} mm, pull with {pull:g} N at most; ties snug, never tight."


@dataclass(frozen=True)
class Pulled:
    """One cable of a bundle.  Marks on its box from and to [m]; ``leaves_m``: where it parts from the first one."""

    drop_id: int
    label: str
    cable: str
    length_m: float
    cut_m: float
    box: str
    from_m: float | None
    to_m: float | None
    leaves_m: float
    leaves_at: str
    """The path on which it parts; empty: it goes all the way along."""
    pulled: bool


@dataclass(frozen=True)
class Bundle:
    """Cables that are pulled together, longest first."""

    closet_id: int
    way: tuple[str, ...]
    """Names of the paths that the first cable takes, from the closet on."""
    shared_m: float
    cables: tuple[Pulled, ...]
    hours: float
    """To pull them, and to finish and mount all ends [h]."""
    alone_h: float
    """What the same cables would take one by one [h]."""
    tools: tuple[str, ...]
    cautions: tuple[str, ...]
    strings: tuple[str, ...]
    """Closed paths in which a draw string is left."""


@kept
def schedule(project: Project) -> tuple[Bundle, ...]:
    """Every bundle to pull, closet by closet, the longest run first.  Cable that is there already is not pulled."""
    found = runs(project)
    bundles: list[Bundle] = []
    marks = _marks(project)
    for closet in project.closets:
        pulled = [
            found[drop.id] for drop in project.drops_by_closet[closet.id] if drop.id in found and not drop.existing
        ]
        bundles += [_bundle(project, closet, taken, marks) for taken in _together(project, pulled)]
    return tuple(bundles)


@kept
def run_hours(project: Project) -> Mapping[int, float]:
    """Hours of every run that is to be pulled: its share of the pull, its ends, its mount [h], by the drop's number."""
    rates, drops = rates_of(project), project.drops_by_id
    found: dict[int, float] = {}
    for bundle in schedule(project):
        some = [(drops[one.drop_id], runs(project)[one.drop_id]) for one in bundle.cables]
        found |= shares_h(rates, some, project.closets_by_id[bundle.closet_id].room_id)
    return found


def pulled_h(project: Project, some: Sequence[Run], closet_room: int | None) -> float:
    """Hours of all these runs from one closet, pulled in bundles, with their ends and mounts [h]."""
    rates, drops = rates_of(project), project.drops_by_id
    hours = sum(rates.own_h(drops[run.drop_id]) for run in some)
    for taken in _together(project, some):
        hours += rates.pull_h([(drops[run.drop_id], run) for run, _ in taken], closet_room)
    return hours


def total_h(project: Project) -> float:
    """Hours of all runs and of laying all ways [h]."""
    return sum(run_hours(project).values()) + sum(ways_h(project).values())


def _together(project: Project, pulled: Sequence[Run]) -> Iterator[list[tuple[Run, float]]]:
    """The runs of one closet that are pulled together, each with what it shares of the first one's way [m]."""
    pulled = sorted(pulled, key=lambda run: (-run.length_m, run.drop_id))
    ways = {run.drop_id: _in_paths(run) for run in pulled}
    rooms = {run.drop_id: project.drops_by_id[run.drop_id].room_id for run in pulled}
    beside: dict[tuple[str, int], list[Run]] = defaultdict(list)

    def begins(run: Run) -> tuple[str, int]:
        way = ways[run.drop_id]
        return ("path", way[0].path_id or 0) if way else ("room", rooms[run.drop_id])

    for run in pulled:
        beside[begins(run)].append(run)
    gone = set[int]()
    for first in pulled:
        if first.drop_id in gone:
            continue
        way = ways[first.drop_id]
        taken = [(first, _way_m(way))]
        # only what begins in the same path shares any of it; undrawn runs to one room go together
        for run in beside[begins(first)]:
            if len(taken) == project.settings.bundle_most:
                break
            theirs = ways[run.drop_id]
            if run is not first and run.drop_id not in gone:
                # undrawn runs to one room go all the way together
                shared = _shared_m(way, theirs) if way else run.length_m
                if not way or (shared >= TOGETHER * _way_m(theirs) and shared > 0):
                    taken.append((run, shared))
        gone.update(run.drop_id for run, _ in taken)
        yield taken


def _in_paths(run: Run) -> tuple[Stretch, ...]:
    return tuple(stretch for stretch in run.stretches if stretch.path_id is not None)


def _way_m(way: Sequence[Stretch]) -> float:
    """Length of a run without its loops [m]: what is told piece by piece up to them."""
    return sum(stretch.length_m for stretch in way)


def _shared_m(first: Sequence[Stretch], other: Sequence[Stretch]) -> float:
    """How far two runs lie in the same paths, from the closet on [m]."""
    metres = 0.0
    for mine, its in zip(first, other, strict=False):
        if mine.path_id != its.path_id:
            break
        metres += min(mine.length_m, its.length_m)
        if abs(mine.length_m - its.length_m) > STEP_M:
            break
    return metres


def _bundle(
    project: Project, closet: Closet, taken: Sequence[tuple[Run, float]], marks: Mapping[int, tuple[str, float, float]]
) -> Bundle:
    names = {path.id: path.name for path in project.paths}
    first = taken[0][0]
    rates = rates_of(project)
    some = [(project.drops_by_id[run.drop_id], run) for run, _ in taken]
    ends = sum(rates.own_h(drop) for drop, _ in some)
    alone = sum(rates.pull_h([one], closet.room_id) for one in some)
    used = dict.fromkeys(path_id for run, _ in taken for path_id in run.path_ids)
    return Bundle(
        closet.id, tuple(names[path_id] for path_id in first.path_ids),
        round(min((m for _, m in taken[1:]), default=0.0), 1),
        tuple(_pulled(project, run, shared, first, names, marks) for run, shared in taken),
        rates.pull_h(some, closet.room_id) + ends, alone + ends, *_told(project, [run for run, _ in taken], list(used)),
    )  # fmt: skip


def _pulled(
    project: Project, run: Run, shared: float, first: Run, names: Mapping[int, str],
    marks: Mapping[int, tuple[str, float, float]],
) -> Pulled:  # fmt: skip
    drop = project.drops_by_id[run.drop_id]
    box, start, end = marks.get(drop.id, ("", None, None))
    leaves_at = ""
    if run is not first:
        at = 0.0
        for stretch in _in_paths(first):
            at += stretch.length_m
            if at > shared + 1e-9:
                leaves_at = names[stretch.path_id or 0]
                break
    return Pulled(
        drop.id, labels(project)[drop.id], cable_of(project, drop).name, run.length_m,
        steps(run.length_m) * STEP_M, box, start, end, round(shared, 1), leaves_at, drop.pulled,
    )  # fmt: skip


def _told(
    project: Project, taken: Sequence[Run], path_ids: Sequence[int]
) -> tuple[tuple[str, ...], tuple[str, ...], tuple[str, ...]]:
    """Tools, cautions and draw strings of the paths that a bundle takes."""
    paths = {path.id: path for path in project.paths}
    rates = {rate.kind: rate for rate in project.path_rates}
    tools: dict[str, None] = {}
    cautions: dict[str, None] = {}
    strings = []
    for path_id in path_ids:
        path = paths[path_id]
        rate = rates.get(path.kind)
        row = PATH_KINDS[path.kind]
        for tool in (rate.tools if rate and rate.tools is not None else row.tools).split(", "):
            if tool:
                tools[tool] = None
        caution = rate.caution if rate and rate.caution is not None else row.caution
        if caution:
            cautions[caution] = None
        if row.is_closed:
            strings.append(path.name)
        if path.with_mains:
            cautions["Mains cables share the way: keep apart as the local code says; nobody opens what is live."] = None
    widest = max(cable_of(project, project.drops_by_id[run.drop_id]).diameter_mm for run in taken)
    cautions[BENDS.format(radius=BEND_TIMES * widest, pull=PULL_MAX_N)] = None
    if any(not run.path_ids for run in taken):
        cautions[LADDER] = None
    if any(run.outside_m > 0 for run in taken):
        cautions["A drip loop before every hole; holes fall outwards and are sealed."] = None
    return tuple(tools), tuple(cautions), tuple(dict.fromkeys(strings))


def _marks(project: Project) -> dict[int, tuple[str, float, float]]:
    """For every run the box that it is cut from, and the metre marks on it."""
    found = {}
    for line in cable_list(project):
        name = f"{line.name}, {line.colour}" if line.colour else line.name
        for number, box in enumerate(line.boxes, 1):
            for cut in box.cuts:
                found[cut.drop_id] = (f"{name}, box {number}", cut.from_m, cut.to_m)
    return found
