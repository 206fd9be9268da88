"""Work of the whole job, piece by piece: which task, how much of it, where, and for which drops.

Pulls, ends, mounts and ways are those that Reach counts; what stands in closets, what is set up, and what belongs to a
job around them is counted here, each once.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from ..cabling.fill import filled
from ..cabling.links import Link, links
from ..cabling.pulls import schedule
from ..cabling.work import Pulled, rates_of, way_laid
from ..edits import RemoveDrops
from ..facts.catalogue import Catalogue
from ..facts.drop import Drop
from ..facts.labour import STAGES, USUAL, Stage, Task, first_task, further_task
from ..facts.lines.router import Router
from ..facts.project import Project
from ..reach.runs import Run, runs
from ..stack.told import Stack
from ..standing.ground import Ground
from .phasing import closet_place, place_of

BENCHED = ("access_point", "camera", "door_station", "recorder", "nas", "controller", "reader", "phone")
"""Kinds whose device is switched on at the bench first."""
CLOSING: tuple[Task, ...] = ("close_hole", "paint_hole")
"""Done where a finished wall was opened."""
NOT_PUT_IN = ("free", "provider_box", "terminal", "telephone", "alarm", "splitter")
"""Things of a closet that nobody puts in: space that is kept, and what others bring."""


@dataclass(frozen=True)
class WorkItem:
    """So much of one task in one place.  ``hours``: usual ones of one person, all of it."""

    task: Task | None
    count: float
    hours: float
    stage: Stage
    name: str = ""
    """Of other work."""
    room_id: int | None = None
    closet_id: int | None = None
    drop_ids: tuple[int, ...] = ()
    extra_id: int | None = None


def work_items(project: Project, catalogue: Catalogue, grounds: Sequence[Ground], stack: Stack) -> list[WorkItem]:
    """All work of a project on the boxes that stand."""
    return [
        *_pulls(project), *_ways(project), *_links(project, catalogue), *_closets(project, grounds, stack),
        *_devices(project), *_around(project), *_taken_down(project), *_extra(project),
    ]  # fmt: skip


def _some(
    project: Project, task: Task, count: float, drops: Sequence[Drop] = (), *, room: int | None = None,
    closet: int | None = None,
) -> WorkItem:  # fmt: skip
    hours = count * rates_of(project).hours[task]
    return WorkItem(task, count, hours, STAGES[task], "", room, closet, tuple(drop.id for drop in drops))


def _pulls(project: Project) -> Iterator[WorkItem]:
    """Every pull, then the ends and the mount of every run in it."""
    rates, found = rates_of(project), runs(project)
    panel: Task = "punch_down" if project.settings.termination == "panel" else "terminate"
    for bundle in schedule(project):
        closet_room = project.closets_by_id[bundle.closet_id].room_id
        some = [(project.drops_by_id[one.drop_id], found[one.drop_id]) for one in bundle.cables]
        drops = [drop for drop, _ in some]
        room, closet = drops[0].room_id, bundle.closet_id
        yield _some(project, "set_up_pull", 1, drops, room=room, closet=closet)
        opened = max(some, key=lambda one: rates.openings_h(one[0], one[1], closet_room))
        walls, floors = rates.openings(opened[0].room_id, opened[1], closet_room)
        if walls:
            yield _some(project, "fish_wall", walls, drops, room=room, closet=closet)
        if floors:
            yield _some(project, "hole_floor", floors, drops, room=room, closet=closet)
        for task, metres, hours in _pulled([rates.pieces(drop, run) for drop, run in some]):
            yield WorkItem(task, metres, hours, "pull", "", room, closet, tuple(drop.id for drop in drops))
        for drop in drops:
            done: list[tuple[Task, float]] = [("terminate", 1.0), (panel, 1.0), ("test", 1.0)]
            if mounted := rates.mounted(drop):
                done.append(mounted)
            for task, count in done:
                yield _some(project, task, count, [drop], room=drop.room_id, closet=closet)


def _pulled(cables: Sequence[Sequence[Pulled]]) -> Iterator[tuple[Task, float, float]]:
    """Metres and hours by task of cables that are pulled together: the longest in a piece at the first rate."""
    pieces: dict[object, list[Pulled]] = defaultdict(list)
    for cable in cables:
        for one in cable:
            pieces[one.piece].append(one)
    metres, hours = Counter[Task](), Counter[Task]()
    for some in pieces.values():
        longest = max(one.length_m for one in some)
        rest = sum(one.length_m for one in some) - longest
        first, further = first_task(some[0].pull), further_task(some[0].pull)
        metres[first] += longest  # type: ignore[assignment]
        hours[first] += longest * max(one.first_h for one in some)  # type: ignore[assignment]
        if rest > 0:
            metres[further] += rest  # type: ignore[assignment]
            hours[further] += rest * max(one.further_h for one in some)  # type: ignore[assignment]
    for task, length in metres.items():
        yield task, length, hours[task]


def _ways(project: Project) -> Iterator[WorkItem]:
    for path in project.paths:
        held = filled(project)[path.id]
        laid = way_laid(project, path, held.length_m)
        if laid and laid[1]:
            yield _some(project, *laid, [project.drops_by_id[number] for number in held.drop_ids])


def _links(project: Project, catalogue: Catalogue) -> Iterator[WorkItem]:
    """Links between closets, as they are made."""
    panel: Task = "punch_down" if project.settings.termination == "panel" else "terminate"
    for link in links(project, catalogue):
        if link.chosen is None:
            continue
        option, at = link.options[link.chosen], link.closet_id
        pulls = option.pulls
        yield _some(project, "set_up_pull", 1, closet=at)
        yield from _of_way(project, link, pulls)
        if option.medium == "copper":
            yield _some(project, panel, 2 * pulls, closet=at)
            yield _some(project, "test", pulls, closet=at)
        else:
            yield _some(project, "fibre_end", 2 * option.strands, closet=at)
            yield _some(project, "test", 1, closet=at)


def _of_way(project: Project, link: Link, pulls: int) -> Iterator[WorkItem]:
    rates = rates_of(project)
    room, other = (project.closets_by_id[number].room_id for number in (link.closet_id, link.to_id))
    run = Run(0, link.to_id, "paths", link.length_m, None, link.stretches, 1)
    walls, floors = rates.openings(room, run, other)
    at = link.closet_id
    if walls:
        yield _some(project, "fish_wall", walls, closet=at)
    if floors:
        yield _some(project, "hole_floor", floors, closet=at)
    for task, metres, hours in _pulled([rates.link_pieces(run, room)] * pulls):
        yield WorkItem(task, metres, hours, "pull", closet_id=link.closet_id)


def _closets(project: Project, grounds: Sequence[Ground], stack: Stack) -> Iterator[WorkItem]:
    """Housings hung, boxes put in and set up, cords plugged."""
    for here in stack.closets:
        closet, at = project.closets_by_id[here.closet_id], here.closet_id
        put_in = [one for one in here.things if one.kind not in NOT_PUT_IN]
        if put_in and closet.housing == "rack" and not closet.is_there:
            yield _some(project, "rack", 1, closet=at)
        if put_in:
            yield _some(project, "box", len(put_in), closet=at)
    lines = {here.closet_id: sum(one.kind == "provider_box" for one in here.things) for here in stack.closets}
    trunks = Counter[int]()
    for ground in grounds:
        for seat in ground.seating.trunks if ground.seating else ():
            trunks.update({ground.closet.id: seat.trunk.ends, seat.trunk.closet_id: seat.trunk.ends})
    for ground in grounds:
        at = ground.closet.id
        routers = sum(isinstance(box, Router) for box in ground.boxes)
        set_up: list[tuple[Task, int]] = [("set_up_router", routers), ("set_up_switch", len(ground.boxes) - routers)]
        for task, count in set_up:
            if count:
                yield _some(project, task, count, closet=at)
        if ground.boxes:
            yield _some(project, "bench", len(ground.boxes), closet=at)
        # boxes may stand for drops that are left out, or built later
        seated = [place.drop_id for place in ground.places if place.drop_id in project.drops_by_id]
        joined = (len(ground.seating.links) if ground.seating else 0) + trunks[at]
        joined += lines.get(at, 0) if ground.boxes and ground.closet is project.head_end else 0
        if seated or joined:
            drops = [project.drops_by_id[number] for number in seated if number is not None]
            yield _some(project, "patch_cord", len(seated) + joined, drops, closet=at)


def _devices(project: Project) -> Iterator[WorkItem]:
    """Devices at the bench and set up; those with a chosen line on cable that is there are mounted too."""
    for drop in project.drops:
        if not drop.in_use:
            continue
        done: list[tuple[Task, float]] = []
        if drop.kind in BENCHED:
            done.append(("bench", 1.0))
        if drop.kind == "access_point":
            done.append(("set_up_access_point", 1.0))
        if drop.kind == "camera":
            done.append(("set_up_camera", 1.0))
        if drop.existing and drop.has_run and drop.model and (mounted := rates_of(project).mounted(drop)):
            done.append(mounted)
        for task, count in done:
            yield _some(project, task, count, [drop], room=drop.room_id, closet=drop.closet_id)


def _around(project: Project) -> Iterator[WorkItem]:
    """What belongs to a job around the cable: looking, tracing, taking down, closing, writing down, clearing away."""
    rates, found = rates_of(project), runs(project)
    by_room: dict[int, list[Drop]] = defaultdict(list)
    for drop in project.drops:
        by_room[drop.room_id].append(drop)
        if drop.existing and drop.has_run:
            yield _some(project, "trace", 1, [drop], room=drop.room_id, closet=drop.closet_id)
        if drop.has_run:
            yield _some(project, "write_down", 1, [drop], room=drop.room_id, closet=drop.closet_id)
    for room_id, drops in by_room.items():
        yield _some(project, "survey", 1, drops, room=room_id)
        if any(not drop.existing for drop in drops):
            yield _some(project, "clear_away", 1, drops, room=room_id)
    for bundle in schedule(project):
        closet_room = project.closets_by_id[bundle.closet_id].room_id
        drops = [project.drops_by_id[one.drop_id] for one in bundle.cables]
        opened = max(drops, key=lambda drop: rates.openings_h(drop, found[drop.id], closet_room))
        walls, _ = rates.openings(opened.room_id, found[opened.id], closet_room)
        if walls:
            for task in CLOSING:
                yield _some(project, task, walls, drops, room=opened.room_id, closet=bundle.closet_id)


def _taken_down(project: Project, phase: str | None = None) -> Iterator[WorkItem]:
    """Kit that goes, in one phase or ever."""
    for kit in project.kit:
        if kit.fate != "kept" and phase in (None, kit.phase.strip().casefold()):
            yield _some(project, "take_down", kit.count)


def work_in_phases(
    project: Project, catalogue: Catalogue, grounds: Sequence[Ground], stack: Stack
) -> list[list[WorkItem]]:
    """The work of every phase.  Runs of a phase are pulled on their own; a way is laid in the first phase that uses it;
    a closet, its boxes and its link come in its own phase, else with the first drop that ends in it; kit goes in the
    phase that it names, else in the last."""
    if not project.phases:
        return [work_items(project, catalogue, grounds, stack)]
    places = {drop.id: place_of(project, drop) for drop in project.drops}
    closets = {closet.id: closet_place(project, closet) for closet in project.closets}
    names = [phase.name.casefold() for phase in project.phases]
    found: list[list[WorkItem]] = []
    for place, name in enumerate(names):
        others = tuple(number for number, one in places.items() if one != place)
        only = RemoveDrops(ids=others).apply(project) if others else project
        found.append([*_pulls(only), *_devices(only), *_around(only), *_taken_down(project, name)])
    for item in [*_ways(project), *_links(project, catalogue), *_closets(project, grounds, stack)]:
        for place in range(len(names)):
            mine = tuple(number for number in item.drop_ids if places[number] == place)
            if item.task == "patch_cord" and mine:
                share = len(mine) / len(item.drop_ids)
                found[place].append(replace(item, count=item.count * share, hours=item.hours * share, drop_ids=mine))
        if item.task != "patch_cord" or not item.drop_ids:
            at = closets.get(item.closet_id or 0, 0)
            found[min((places[number] for number in item.drop_ids), default=at)].append(item)
    known = {phase.id: place for place, phase in enumerate(project.phases)}
    phases = {row.id: known.get(row.phase_id or 0, 0) for row in project.extra_work}
    for item in _extra(project):
        found[phases[item.extra_id or 0]].append(item)
    for kit in project.kit:
        if kit.fate != "kept" and kit.phase.strip().casefold() not in names:
            found[-1].append(_some(project, "take_down", kit.count))
    return found


def _extra(project: Project) -> Iterator[WorkItem]:
    for row in project.extra_work:
        if row.task is None:
            yield WorkItem(None, row.count, row.count, "other", row.name, room_id=row.room_id, extra_id=row.id)
        else:
            hours = row.count * rates_of(project).hours[row.task]
            yield WorkItem(row.task, row.count, hours, STAGES[row.task], row.name or USUAL[row.task][0],
                           room_id=row.room_id, extra_id=row.id)  # fmt: skip
