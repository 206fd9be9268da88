"""Work: the hours of every pull, of its runs' ends and mounts, and of laying the ways; each counted once.

Runs of one closet that share their drawn way, or that go undrawn to one room, are one pull: it is set up once, its
longest cable on each piece takes the first cable's rate and the others the further one's.  The hours of a pull are
shared among its runs, so that the run table and the pull schedule add up to the same.  Cable that is there is not
pulled again, a way that is there is not laid again.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from typing import NamedTuple

from ..facts.building import State
from ..facts.drop import Drop
from ..facts.kept import kept
from ..facts.labour import Pull, Task, first_task, further_task, hours_by_task
from ..facts.path_kinds import PATH_KINDS
from ..facts.paths import Path
from ..facts.project import Project
from ..places.mounting import JACKS, PER_PLATE
from ..reach.runs import Run
from .fill import filled

Piece = tuple[str, int]
"""A path by its number, or what is undrawn to a room."""
EAVES = ("eaves", "mast")


class Pulled(NamedTuple):
    """So many metres of a run in one piece, and how they are pulled: first and further rate [h/m]."""

    piece: Piece
    length_m: float
    first_h: float
    further_h: float
    pull: Pull


class Rates:
    """The project's hours by task, and what follows from its buildings and closets."""

    def __init__(self, project: Project) -> None:
        self.project = project
        self.hours = hours_by_task(project.task_rates, project.settings.difficulty_percent)
        self.own = {rate.kind: rate.hours_per_m for rate in project.path_rates if rate.hours_per_m is not None}
        self.kinds = {path.id: path.kind for path in project.paths}
        self._plates = plates_of(project.drops)
        states = {building.id: building.state for building in project.buildings}
        floors = {floor.id: states.get(floor.building_id or 0) for floor in project.floors}
        self._states = {room.id: floors[room.floor_id] for room in project.rooms}

    def state_at(self, room_id: int | None) -> State | None:
        """State of the walls of a room's building; None: outside, or nobody knows."""
        return self._states.get(room_id or 0)

    def pulled_undrawn(self, room_id: int | None) -> Pull:
        """How cable goes to a room where nobody has drawn a way: fished, unless the walls are open."""
        return "open" if self.state_at(room_id) == "open" else "finished"

    def pieces(self, drop: Drop, run: Run) -> list[Pulled]:
        """The pieces of a run: each path by its kind, the rest as undrawn; all of it where no path is taken.  Loops at
        the ends of a drawn run are pulled through nothing."""
        return self._pieces(("room", drop.room_id), self.pulled_undrawn(drop.room_id), run)

    def _pieces(self, undrawn: Piece, pull: Pull, run: Run) -> list[Pulled]:
        told: dict[int, float] = defaultdict(float)
        for stretch in run.stretches:
            if stretch.path_id is not None:
                told[stretch.path_id] += stretch.length_m
        loose = (self.hours[first_task(pull)], self.hours[further_task(pull)])
        if not told:
            return [Pulled(undrawn, run.length_m, *loose, pull)]
        pieces = []
        for path_id, metres in told.items():
            kind = self.kinds[path_id]
            way = PATH_KINDS[kind].pull
            rate = self.own.get(kind, self.hours[first_task(way)])
            pieces.append(Pulled(("path", path_id), metres, rate, min(rate, self.hours[further_task(way)]), way))
        rest = sum(s.length_m for s in run.stretches if s.path_id is None and not s.is_loop)
        return [*pieces, Pulled(undrawn, rest, *loose, pull)]

    def link_pieces(self, run: Run, room_id: int | None) -> list[Pulled]:
        """The pieces of a link from a closet in this room."""
        return self._pieces(("room", room_id or 0), self.pulled_undrawn(room_id), run)

    def link_h(self, run: Run, room_id: int | None, closet_room: int | None) -> tuple[float, float]:
        """Hours to pull the first cable between two closets, and each further one, without their ends [h]."""
        pieces = self.link_pieces(run, room_id)
        once = self.hours["set_up_pull"] + self._openings_h(room_id, run, closet_room)
        first_h = once + sum(one.length_m * one.first_h for one in pieces)
        return first_h, sum(one.length_m * one.further_h for one in pieces)

    def openings_h(self, drop: Drop, run: Run, closet_room: int | None) -> float:
        """Opening finished walls at both ends, and a hole through every floor passed, of an undrawn pull."""
        return self._openings_h(drop.room_id, run, closet_room)

    def _openings_h(self, room_id: int | None, run: Run, closet_room: int | None) -> float:
        walls, floors = self.openings(room_id, run, closet_room)
        return walls * self.hours["fish_wall"] + floors * self.hours["hole_floor"]

    def openings(self, room_id: int | None, run: Run, closet_room: int | None) -> tuple[int, int]:
        """Finished walls that are opened, and floors that are passed, by an undrawn pull."""
        if run.path_ids:
            return 0, 0
        ends = [self.state_at(room_id), self.state_at(closet_room)]
        if closet_room is None:
            # nobody knows where the closet stands: its wall is as the room's
            ends[1] = ends[0]
        return sum(state in ("finished", "mixed") for state in ends), self._floors_passed(room_id, closet_room)

    def _floors_passed(self, room_id: int | None, other_id: int | None) -> int:
        rooms = [self.project.rooms_by_id.get(number or 0) for number in (room_id, other_id)]
        floors = [self.project.floors_by_id[room.floor_id] for room in rooms if room]
        if len(floors) < 2 or floors[0].building_id != floors[1].building_id or floors[0].building_id is None:
            return 0
        return abs(floors[0].level - floors[1].level)

    def own_h(self, drop: Drop) -> float:
        """What a run takes whoever pulls it with what: both ends, label and test, and mounting its device or its share
        of a plate."""
        panel: Task = "punch_down" if self.project.settings.termination == "panel" else "terminate"
        return self.hours["terminate"] + self.hours[panel] + self.hours["test"] + self.mount_h(drop)

    def mount_h(self, drop: Drop) -> float:
        """Mounting the device of a drop, or its share of a plate [h]."""
        mounted = self.mounted(drop)
        return self.hours[mounted[0]] * mounted[1] if mounted else 0.0

    def mounted(self, drop: Drop) -> tuple[Task, float] | None:
        """The task that mounts a drop's device, and how much of it: of a plate its share; None: nothing is mounted."""
        if drop.kind == "access_point" and drop.variant != "in_wall":
            return "access_point", 1.0
        if drop.kind == "camera":
            high = drop.surface in EAVES or any(word in drop.place.casefold() for word in EAVES)
            return "camera_eaves" if high else "camera", 1.0
        if drop.kind == "door_station":
            return "door_station", 1.0
        if drop.kind in (*JACKS, "access_point", "reader"):
            plate: Task = "plate" if self.state_at(drop.room_id) == "open" else "plate_finished"
            return plate, self._plates.get(drop.id, 1.0)
        return None

    def pull_h(self, some: Sequence[tuple[Drop, Run]], closet_room: int | None) -> float:
        """Hours of one pull without the ends of its runs."""
        opened = max(self.openings_h(drop, run, closet_room) for drop, run in some)
        metres: dict[Piece, list[Pulled]] = defaultdict(list)
        for drop, run in some:
            for pulled in self.pieces(drop, run):
                metres[pulled.piece].append(pulled)
        return self.hours["set_up_pull"] + opened + sum(map(_piece_h, metres.values()))

    def shared_h(self, drop: Drop, run: Run, closet_room: int | None, cables: int) -> float:
        """What one of so many like runs of a pull takes on average, its ends included: an estimate of its share."""
        once = self.hours["set_up_pull"] + self.openings_h(drop, run, closet_room)
        rates = [(one.length_m, one.first_h, one.further_h) for one in self.pieces(drop, run)]
        pulled = sum(metres * (of_first + (cables - 1) * of_next) for metres, of_first, of_next in rates)
        return (once + pulled) / cables + self.own_h(drop)

    def least_h(self, drop: Drop, run: Run) -> float:
        """What a run takes at the least, pulled along with others: no share of any pull is less."""
        return sum(one.length_m * one.further_h for one in self.pieces(drop, run)) + self.own_h(drop)


def shares_h(rates: Rates, some: Sequence[tuple[Drop, Run]], closet_room: int | None) -> dict[int, float]:
    """Hours of one pull by run: its ends, its mount, what a further cable of its length takes, and an equal share of
    all that the pull takes beside."""
    least = {drop.id: rates.least_h(drop, run) for drop, run in some}
    whole = rates.pull_h(some, closet_room) + sum(rates.own_h(drop) for drop, _ in some)
    beside = (whole - sum(least.values())) / len(some)
    return {number: hours + beside for number, hours in least.items()}


def _piece_h(pulled: Sequence[Pulled]) -> float:
    """The longest cable in a piece at the first rate, the others at the further one."""
    longest = max(one.length_m for one in pulled)
    rest = sum(one.length_m for one in pulled) - longest
    return longest * max(one.first_h for one in pulled) + rest * max(one.further_h for one in pulled)


def plates_of(drops: Iterable[Drop]) -> dict[int, float]:
    """Share of a plate of every jack: those of a room that go on one share it, plates rounded up."""
    groups: dict[tuple[int, str], list[int]] = defaultdict(list)
    for drop in drops:
        if drop.kind in JACKS and not drop.existing:
            groups[drop.room_id, drop.variant if drop.variant in PER_PLATE else "single"].append(drop.id)
    shares: dict[int, float] = {}
    for (_, variant), numbers in groups.items():
        plates = -(-len(numbers) // PER_PLATE[variant])
        shares |= dict.fromkeys(numbers, plates / len(numbers))
    return shares


@kept
def rates_of(project: Project) -> Rates:
    """The rates of a project."""
    return Rates(project)


def way_h(project: Project, path: Path, length_m: float) -> float:
    """Hours to lay a way; 0 where it is there, or where nothing is laid."""
    if path.existing:
        return 0.0
    laid = way_laid(project, path, length_m)
    return laid[1] * rates_of(project).hours[laid[0]] if laid else 0.0


def way_laid(project: Project, path: Path, length_m: float) -> tuple[Task, float] | None:
    """The task that lays a way, and how much of it; None: it is there, or nothing is laid."""
    if path.existing or (path.kind == "tray" and path.width_mm is None):
        return None  # a tray of no size is a ceiling void, in which nothing is fitted
    floor = project.floors_by_id[path.floor_id]
    match path.row.lay:
        case "fit":
            return "fit_way", length_m
        case "dig":
            return "dig_duct", length_m
        case "floor":
            return "hole_floor", 1
        case "wall":
            if floor.building_id is None:
                return "hole_outer", 1
            return "hole_stud" if floor.construction == "timber" else "hole_masonry", 1
    return None


@kept
def ways_h(project: Project) -> Mapping[int, float]:
    """Hours to lay every way that is not there, by its number."""
    held = filled(project)
    found = {path.id: way_h(project, path, held[path.id].length_m) for path in project.paths}
    return {number: hours for number, hours in found.items() if hours}
