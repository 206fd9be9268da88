"""Checks of what is kept of what cameras film."""

from __future__ import annotations

from collections.abc import Iterator

from ..footage.kept import RecorderKept, footage_of
from ..standards.disks import DAYS_DEFAULT
from ..words import counted
from .finding import Finding, Settle, SiteState


def goals(site: SiteState) -> Iterator[Finding]:
    """Whether footage is kept for as long as it is wanted, with the cameras planned by the horizon."""
    for goal in footage_of(site.project).goals:
        if goal.met is not True:
            yield Finding(
                key=f"footage-{goal.goal_id}", weight="breaks" if goal.met is False else "note", subject="Footage kept",
                text=f"{goal.text}." if goal.met is False else f"is not known: {goal.text}.", verb="cover",
                settle=Settle(label="Choose disks", verb="cover"),
            )  # fmt: skip


def recorders(site: SiteState) -> Iterator[Finding]:
    """Recorders whose disks do not go together, or that hold less than is wanted where no goal says so."""
    project = site.project
    footage = footage_of(project)
    for one in footage.recorders:
        name = project.name_of(project.drops_by_id[one.drop_id])
        if one.disks is not None and one.disk_tb is not None and not one.fits:
            yield Finding(
                key=f"raid-{one.drop_id}", weight="breaks", subject=name, verb="cover", drop_ids=(one.drop_id,),
                text=f"{_level(one)} does not go with {counted(one.disks, 'disk')}: level 1 takes two, 5 three or "
                     "more, 6 four or more, 10 an even number from four, none a single one.",
            )  # fmt: skip
        elif not footage.goals and one.share_then is not None and one.share_then < 1:
            yield Finding(
                key=f"disk-{one.drop_id}", weight="strains", subject=name, verb="cover", drop_ids=(one.drop_id,),
                text=f"holds {one.share_then:.0%} of the days wanted by the horizon ({DAYS_DEFAULT:g} where nobody "
                     "says otherwise).",
            )  # fmt: skip


def _level(one: RecorderKept) -> str:
    return "no level" if one.raid == "none" else f"level {one.raid}"


def service(site: SiteState) -> Iterator[Finding]:
    """Cameras that an outside service records, against the upstream of the fastest line."""
    project = site.project
    mbit = footage_of(project).service_mbit
    lines = [line for line in project.lines if not line.standby]
    if not mbit:
        return
    ids = tuple(one.drop_id for one in footage_of(project).cameras if one.by_service)
    if not lines:
        yield Finding(key="service-line", weight="note", subject="Outside service", verb="cover", drop_ids=ids,
                      text=f"{mbit:g} Mbit/s go up the line, and no line is listed.")  # fmt: skip
        return
    line = max(lines, key=lambda one: one.up_mbit)
    share = mbit / line.up_mbit * 100
    if share > project.settings.link_fill_percent:
        yield Finding(
            key="service-line", weight="breaks" if share > 100 else "strains", subject="Outside service", verb="cover",
            drop_ids=ids,
            text=f"{mbit:g} Mbit/s of {counted(len(ids), 'camera')} go up {line.name}, {share:.0f} % of its "
                 f"{line.up_mbit:,} Mbit/s; {project.settings.link_fill_percent} % is the most.",
        )  # fmt: skip
