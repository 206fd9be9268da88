"""Targets and how they are met as a table, a line for every view that has some of one in its frame, as CSV or XLSX."""

from __future__ import annotations

from baugrund.core.facts.project import Project
from baugrund.core.sight.targets import TargetLine, targets_of
from baugrund.core.sight.views import views_of

from .tables import write_csv, write_workbook

HEAD = [
    "Target", "Floor", "Shape", "Height m", "Wanted", "Wanted px/m", "Met", "Met with", "View", "px/m", "Seen %",
    "With the detail %", "Distance m", "Down °", "Hidden by", "Against a window", "Own light reaches",
]  # fmt: skip


def _lines(project: Project) -> list[list[str]]:
    names = {(view.drop_id, view.view_id): view.name for view in views_of(project)}
    return [line for target in targets_of(project) for line in _of(project, target, names)]


def _of(project: Project, target: TargetLine, names: dict[tuple[int, int | None], str]) -> list[list[str]]:
    head = [
        target.name, project.floors_by_id[target.floor_id].name, target.shape, f"{target.height_m:g}", target.wanted,
        f"{target.wanted_px_m:g}", _yes(target.met), target.best or "",
    ]  # fmt: skip
    if not target.sightings:
        return [head + [""] * (len(HEAD) - len(head))]
    return [
        [
            *head, names[one.drop_id, one.view_id], f"{one.px_m:g}", f"{one.seen * 100:g}",
            f"{one.with_detail * 100:g}", f"{one.distance_m:g}", f"{one.steep_deg:g}", one.blocked_by,
            _yes(one.against_window), _yes(one.lit),
        ]
        for one in target.sightings
    ]  # fmt: skip


def _yes(value: bool) -> str:
    return "yes" if value else "no"


def write_targets_csv(project: Project) -> str:
    """All targets as CSV."""
    return write_csv(HEAD, _lines(project))


def write_targets_xlsx(project: Project) -> bytes:
    """All targets as an XLSX workbook."""
    return write_workbook("Targets", HEAD, _lines(project))
