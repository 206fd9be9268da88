"""Reach as it is told: every run with its pieces and hours, what each path holds, the cable to buy."""

from __future__ import annotations

from typing import Annotated

from ..facts.fact import Fact, numbers
from ..facts.project import Project
from ..places.layout import layout
from ..reach.network import lines_of
from ..reach.runs import Run, State, runs, too_long
from ..standards.cabling import BEND_TIMES
from .cables import CableLine, cable_list
from .fill import cable_of, filled
from .pulls import run_hours, total_h
from .work import ways_h


class StretchLine(Fact):
    """A piece of a run."""

    text: str
    length_m: float
    path_id: int | None
    temperature_c: float
    is_outside: bool


class RunLine(Fact):
    """A run with its pieces."""

    drop_id: int
    closet_id: int
    state: State
    length_m: float
    computed_m: float | None
    hours: float
    """Its share of the pull, its ends and its mount [h]; 0 where its cable is there."""
    difficulty: int
    temperature_c: float
    stretches: tuple[StretchLine, ...]


class PathFill(Fact):
    """What a path holds."""

    path_id: int
    drop_ids: tuple[int, ...]
    length_m: float
    bundle_mm: float
    used: float | None
    rise_k: float | None
    bends: float
    """Right angles that its corners make together."""
    pull_m: float
    lay_h: float
    """Hours to lay it; 0 where it is there, or where nothing is laid."""
    bend_mm: float
    """Least radius that its widest cable may be bent to."""
    line: tuple[Annotated[tuple[float, float, float], numbers(3)], ...]
    """Its corners: x, y, elevation [m]."""


class Reach(Fact):
    """The runs and paths of a project."""

    total_m: float
    hours: float
    """Of all runs and ways [h]."""
    ways_h: float
    """Of them what laying the ways takes [h]."""
    cost_minor: int
    """Cable by the metre and hours, of what is not there already."""
    too_long: tuple[int, ...]
    """Drops whose fixed link is longer than it may be."""
    runs: tuple[RunLine, ...]
    paths: tuple[PathFill, ...]


class CutLine(Fact):
    """A run cut from a box, between two metre marks."""

    drop_id: int
    length_m: float
    from_m: float
    to_m: float


class BoxLine(Fact):
    """A box, what is cut from it, and what stays."""

    cuts: tuple[CutLine, ...]
    rest_m: float


class CableToBuy(Fact):
    """A cable to buy."""

    name: str
    colour: str
    box_m: float
    price_minor: int
    total_minor: int
    runs: int
    total_m: float
    boxes: tuple[BoxLine, ...]
    bound: int
    proven: bool
    at_once: int
    passes: int
    too_long: tuple[int, ...]


def reach_of(project: Project) -> Reach:
    """Runs and paths of a project, with their hours added up."""
    found, hours = runs(project).values(), run_hours(project)
    return Reach(
        total_m=round(sum(run.length_m for run in found), 1), hours=round(total_h(project), 2),
        ways_h=round(sum(ways_h(project).values()), 2), cost_minor=_cost_minor(project), too_long=too_long(project),
        runs=tuple(_line(run, hours.get(run.drop_id, 0.0)) for run in found), paths=_paths(project),
    )  # fmt: skip


def cable_to_buy(project: Project) -> tuple[CableToBuy, ...]:
    """Boxes of every cable, and which run is cut from which."""
    return tuple(_cable(line) for line in cable_list(project))


def _cable(line: CableLine) -> CableToBuy:
    return CableToBuy.model_validate(line, from_attributes=True)


def _line(run: Run, hours: float) -> RunLine:
    own = {name: getattr(run, name) for name in RunLine.model_fields if name not in ("hours", "stretches")}
    stretches = tuple(StretchLine.model_validate(one, from_attributes=True) for one in run.stretches)
    return RunLine(**own, stretches=stretches, hours=round(hours, 2))


def _cost_minor(project: Project) -> int:
    drops = ((run, project.drops_by_id[run.drop_id]) for run in runs(project).values())
    cable = sum(round(run.length_m * cable_of(project, drop).minor_per_m) for run, drop in drops if not drop.existing)
    return cable + round(total_h(project) * project.settings.hour_minor)


def _paths(project: Project) -> tuple[PathFill, ...]:
    level = {storey.id: storey.elevation_m for storey in layout(project).storeys}
    lines, lay = lines_of(project.paths, project.floors_by_id, level), ways_h(project)
    return tuple(
        PathFill(
            path_id=held.path_id, drop_ids=held.drop_ids, length_m=held.length_m, bundle_mm=held.bundle_mm,
            used=held.used, rise_k=held.rise_k, bends=held.bends, pull_m=held.pull_m,
            lay_h=round(lay.get(held.path_id, 0.0), 2), bend_mm=round(BEND_TIMES * held.widest_mm, 1),
            line=lines[held.path_id],
        )
        for held in filled(project).values()
    )  # fmt: skip
