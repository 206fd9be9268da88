"""Runs: from every drop to its closet, each piece with its length.

Run = path + every rise and fall + service loops; with no path drawn |dx| + |dy| and through the ceiling, never the
straight line (ANSI/TIA-568.2 gives the limits, practice the loops, *defaults*).  A length that was measured stands over
all that is computed.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from typing import Literal, NamedTuple

from ..facts.building import Building, Floor, is_loft
from ..facts.drop import Drop
from ..facts.kept import kept
from ..facts.labour import Pull, first_task, hours_by_task
from ..facts.path_kinds import LOOSE_DIFFICULTY, LOOSE_PULL
from ..facts.paths import Path, PathRate
from ..facts.project import Project
from ..places.layout import layout
from ..standards.cabling import FIXED_LINK_MAX_M, longest_link_m
from .cable_types import cable_type
from .legs import Leg, Line, Way, line_of
from .network import Anchor, By, Network, Rates, build, hours_of
from .router import REMEMBERED, Router, Target

CLOSET_HEIGHT_M = 1.0
"""Height at which runs leave the closet [m], *default*."""
LOFT_C, OUTSIDE_C, ROOM_C = 45.0, 40.0, 20.0
"""How warm it gets in a loft, outside and in rooms [°C], *defaults*."""
CEILING_KINDS = ("access_point", "camera")

State = Literal["typed", "paths", "loose", "lost", "guess"]


@dataclass(frozen=True)
class Stretch:
    """A piece of a run: what it is in words, its length [m], the path that it lies in, how warm it gets there [°C]."""

    text: str
    length_m: float
    path_id: int | None = None
    temperature_c: float = ROOM_C
    is_outside: bool = False
    is_loop: bool = False
    """Slack at an end: pulled through nothing."""


@dataclass(frozen=True)
class Run:
    """One run.  ``state``: typed by hand, along *paths*, *loose* with none drawn, *lost* where paths lead nowhere, or a
    *guess* while its closet has no room."""

    drop_id: int
    closet_id: int
    state: State
    length_m: float
    """What counts [m]: as typed, else as computed."""
    computed_m: float | None
    stretches: tuple[Stretch, ...]
    difficulty: int
    legs: tuple[Leg, ...] = field(default=(), compare=False)
    """What it was told from: where every stretch lies."""

    @cached_property
    def line(self) -> Line:
        """The run as one line in space."""
        return line_of(self.legs)

    @cached_property
    def path_ids(self) -> tuple[int, ...]:
        """The paths that it takes, in order from the closet."""
        return tuple(dict.fromkeys(s.path_id for s in self.stretches if s.path_id is not None))

    @cached_property
    def temperature_c(self) -> float:
        """The warmest stretch [°C]."""
        return max((stretch.temperature_c for stretch in self.stretches if stretch.length_m > 0), default=ROOM_C)

    @property
    def mean_c(self) -> float:
        """Temperature of its cable, pieces weighed by their length [°C]; resistance follows it in a straight line."""
        told = sum(stretch.length_m for stretch in self.stretches)
        if not told:
            return ROOM_C
        return sum(stretch.length_m * max(stretch.temperature_c, ROOM_C) for stretch in self.stretches) / told

    @property
    def outside_m(self) -> float:
        return sum(stretch.length_m for stretch in self.stretches if stretch.is_outside)


def heat_counted_m(run: Run, *, screened: bool) -> float:
    """Length of a run with every warm metre counted as what it takes of 90 m at 20 °C [m] (ISO/IEC 11801-1)."""
    if run.temperature_c <= ROOM_C:
        return run.length_m
    told = sum(stretch.length_m for stretch in run.stretches)
    warm = sum(
        stretch.length_m * FIXED_LINK_MAX_M / longest_link_m(stretch.temperature_c, screened=screened)
        for stretch in run.stretches
    )
    return run.length_m * warm / told


def too_long(project: Project) -> tuple[int, ...]:
    """Drops whose fixed link is longer than 90 m, or than what the warmth on its way leaves of them."""
    drops = project.drops_by_id
    return tuple(
        run.drop_id
        for run in runs(project).values()
        if heat_counted_m(run, screened=drops[run.drop_id].screened) > FIXED_LINK_MAX_M
    )


@lru_cache(maxsize=8)
def _network(paths: tuple[Path, ...], floors: tuple[Floor, ...], levels: tuple[tuple[int, float], ...]) -> Network:
    return build(paths, {floor.id: floor for floor in floors}, dict(levels))


class _Rated(NamedTuple):
    """What ways cost: hours by kind of path and of loose cable by floor, an hour, a metre of cable [minor]."""

    kinds: tuple[tuple[str, float], ...]
    loose: tuple[tuple[int, float], ...]
    hour_minor: int
    cable_minor_per_m: float


@lru_cache(maxsize=8)
def _router(
    paths: tuple[Path, ...], floors: tuple[Floor, ...], levels: tuple[tuple[int, float], ...], rated: _Rated, by: By
) -> Router:
    """A router, kept from one state of a project to the next while nothing that it stands on changes."""
    rates = Rates(dict(rated.kinds), dict(rated.loose), rated.hour_minor, rated.cable_minor_per_m)
    return Router(_network(paths, floors, levels), rates, by)


@kept
def router(project: Project) -> Router:
    """The router of a project's paths."""
    buildings = {building.id: building for building in project.buildings}
    hours = hours_by_task(project.task_rates, project.settings.difficulty_percent)
    kinds = tuple(hours_of(project.path_rates, hours).items())
    loose = tuple((floor.id, hours[first_task(_loose_pull(floor, buildings))]) for floor in project.floors)
    levels = tuple((storey.id, storey.elevation_m) for storey in layout(project).storeys)
    per_m = cable_type(project, "6").minor_per_m
    rated = _Rated(kinds, loose, project.settings.hour_minor, per_m)
    return _router(project.paths, project.floors, levels, rated, project.settings.route_by)


@kept
def closet_spots(project: Project) -> Mapping[int, Anchor]:
    """From where the runs of each closet start, by its number; closets with no room are not there."""
    placed = layout(project)
    level = {storey.id: storey.elevation_m for storey in placed.storeys}
    return {
        point.id: Anchor(point.floor_id, point.x_m, point.y_m, level[point.floor_id] + CLOSET_HEIGHT_M)
        for point in placed.closets
    }


@kept
def runs(project: Project) -> Mapping[int, Run]:
    """The run of every drop that goes to a closet, by the drop's number."""
    starts = closet_spots(project)
    targets = targets_of(project, lambda drop: starts.get(drop.closet_id))
    ways = dict(zip(targets, router(project).ways(list(targets.values())), strict=True))
    tell = teller(project)
    return {drop.id: tell.run(drop, ways.get(drop.id)) for drop in project.drops if drop.has_run}


def targets_of(project: Project, start_of: Callable[[Drop], Anchor | None]) -> dict[int, Target]:
    """Where the run of every drop ends, and from where it starts; drops with no start, or behind others, have no run
    to find."""
    level = {storey.id: storey.elevation_m for storey in layout(project).storeys}
    targets: dict[int, Target] = {}
    for spot in layout(project).drops:
        drop = project.drops_by_id[spot.id]
        start = start_of(drop) if drop.has_run else None
        if start is not None:
            targets[spot.id] = Target(
                start, spot.floor_id, spot.x_m, spot.y_m, round(level[spot.floor_id] + spot.height_m, 3),
                frozenset(drop.avoid_ids), drop.via_id,
            )  # fmt: skip
    return targets


def teller(project: Project) -> Teller:
    """What turns ways into runs under a project's terms; kept while they stay."""
    terms = project.settings
    loops = (terms.closet_loop_m, terms.jack_loop_m, terms.ceiling_loop_m)
    return _teller(project.paths, project.floors, project.buildings, project.path_rates, loops)


@kept
def lengths(project: Project) -> Mapping[int, float]:
    """Fixed length of every drop's cable [m]; of one behind another as typed, else usual for its kind."""
    found = {drop_id: run.length_m for drop_id, run in runs(project).items()}
    return found | {drop.id: usual_m(drop) for drop in project.drops if not drop.has_run}


@kept
def warmth(project: Project) -> Mapping[int, float]:
    """Temperature of the cable of every run [°C], by the drop's number."""
    return {drop_id: run.mean_c for drop_id, run in runs(project).items()}


def usual_m(drop: Drop) -> float:
    """The length typed for a drop, else that of its kind [m]."""
    return drop.kind_row.run_m if drop.run_m is None else drop.run_m


def _loose_pull(floor: Floor, buildings: Mapping[int, Building]) -> Pull:
    building = buildings.get(floor.building_id or 0)
    return LOOSE_PULL[building.state] if building else "finished"


@lru_cache(maxsize=8)
def _teller(
    paths: tuple[Path, ...], floors: tuple[Floor, ...], buildings: tuple[Building, ...], rates: tuple[PathRate, ...],
    loops: tuple[float, float, float],
) -> Teller:  # fmt: skip
    return Teller(paths, floors, buildings, rates, loops)


class Teller:
    """Turns ways into runs: names, temperatures, loops.  What it has told it remembers, way by way."""

    def __init__(
        self, paths: tuple[Path, ...], floors: tuple[Floor, ...], buildings: tuple[Building, ...],
        rates: tuple[PathRate, ...], loops: tuple[float, float, float],
    ) -> None:  # fmt: skip
        self.floors = {floor.id: floor for floor in floors}
        self.buildings = {building.id: building for building in buildings}
        own = {rate.kind: rate.difficulty for rate in rates if rate.difficulty is not None}
        self.difficulty = {path.id: own.get(path.kind) or path.row.difficulty for path in paths}
        self.usual_c = {
            floor.id: OUTSIDE_C if floor.building_id is None else LOFT_C if is_loft(floor.name) else ROOM_C
            for floor in floors
        }
        self.closet_loop, self.jack_loop, self.ceiling_loop = loops
        self._legs: dict[Leg, tuple[Stretch, int]] = {}
        self._runs: dict[tuple[Drop, Way | None], Run] = {}

    def run(self, drop: Drop, way: Way | None) -> Run:
        if len(self._runs) > REMEMBERED:
            self._runs.clear()
            self._legs.clear()
        run = self._runs.get((drop, way))
        if run is None:
            run = self._runs[drop, way] = self.tell(drop, way)
        return run

    def tell(self, drop: Drop, way: Way | None) -> Run:
        """A run, not remembered."""
        if way is None:
            state: State = "guess" if drop.run_m is None else "typed"
            return Run(drop.id, drop.closet_id, state, usual_m(drop), None, (), 1)
        legs = [self._leg(leg) for leg in way.legs]
        stretches = [stretch for stretch, _ in legs]
        detour = sum(self._detour(leg) for leg in way.legs)
        if detour > 0:
            stretches.append(Stretch("detours of the building", detour))
        stretches += self._loops(drop)
        computed = round(sum(stretch.length_m for stretch in stretches), 1)
        if drop.run_m is not None:
            state = "typed"
        elif not way.found:
            state = "lost"
        else:
            state = "paths" if any(leg.path for leg in way.legs) else "loose"
        return Run(
            drop.id, drop.closet_id, state, computed if drop.run_m is None else drop.run_m, computed, tuple(stretches),
            max((hard for _, hard in legs), default=1), way.legs,
        )  # fmt: skip

    def way(self, way: Way, loops_m: float) -> tuple[Stretch, ...]:
        """A way between two closets piece by piece, with loops at both ends."""
        legs = [self._leg(leg) for leg in way.legs]
        detour = sum(self._detour(leg) for leg in way.legs)
        extra = [("detours of the building", detour, False), ("loops in both closets", loops_m, True)]
        more = [Stretch(text, metres, is_loop=is_loop) for text, metres, is_loop in extra if metres > 0]
        return tuple([*(stretch for stretch, _ in legs), *more])

    def _leg(self, leg: Leg) -> tuple[Stretch, int]:
        """A leg in words, its difficulty."""
        told = self._legs.get(leg)
        if told is None:
            told = self._legs[leg] = self._on_path(leg, leg.path) if leg.path else self._loose(leg)
        return told

    def _on_path(self, leg: Leg, path: Path) -> tuple[Stretch, int]:
        floor = self.floors[leg.floor_id]
        usual = max(path.row.temperature_c, self.usual_c[leg.floor_id])
        warm = path.temperature_c if path.temperature_c is not None else usual
        text = f"{path.name}, to {floor.name}" if leg.kind == "riser" else path.name
        outside = path.row.is_outside or floor.building_id is None
        stretch = Stretch(text, leg.length_m, path.id, warm, outside)
        return stretch, self.difficulty[path.id]

    def _loose(self, leg: Leg) -> tuple[Stretch, int]:
        floor = self.floors[leg.floor_id]
        building = self.buildings.get(floor.building_id or 0)
        if leg.kind == "vertical":
            text = "up" if leg.corners[-1][2] > leg.corners[0][2] else "down"
        else:
            text = f"{'outside' if building is None else 'at right angles'}, {floor.name}"
        stretch = Stretch(text, leg.length_m, None, self.usual_c[leg.floor_id], building is None)
        return stretch, LOOSE_DIFFICULTY[building.state if building else "mixed"]

    def _detour(self, leg: Leg) -> float:
        building = self.buildings.get(self.floors[leg.floor_id].building_id or 0)
        if building is None or leg.kind in ("vertical", "riser"):
            return 0.0
        return leg.length_m * (building.detour - 1.0)

    def _loops(self, drop: Drop) -> list[Stretch]:
        on_ceiling = "ceiling" in drop.place.casefold() or (
            drop.kind in CEILING_KINDS and drop.variant != "in_wall" and "wall" not in drop.place.casefold()
        )
        end = ("loop at the device", self.ceiling_loop) if on_ceiling else ("loop at the jack", self.jack_loop)
        loops = (("loop in the closet", self.closet_loop), end)
        return [Stretch(text, length, is_loop=True) for text, length in loops if length > 0]
