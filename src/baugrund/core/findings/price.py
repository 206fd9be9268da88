"""What the price says of itself: over the budget, prices that nobody knows, phases that do not hold together."""

from __future__ import annotations

from collections.abc import Iterator

from ..price.moving import moving_of
from ..price.phasing import place_of
from ..words import counted, joined
from .finding import Finding, Settle, SiteState

NAMED = 3


def budget(site: SiteState) -> Iterator[Finding]:
    """What is paid once, or every year, over its budget."""
    costs = site.costs
    if costs is None or not any(ground.boxes for ground in site.grounds):
        return
    for fit, what, key in ((costs.one_off_fit, "The job", "over-budget"), (costs.yearly_fit, "A year", "over-yearly")):
        if fit and fit.over_minor > 0:
            yield Finding(key=key, weight="strains", subject=what, verb="price", text=f"is {fit.sentence}.",
                          settle=Settle(label="See what could go or wait", verb="price"))  # fmt: skip


def unpriced(site: SiteState) -> Iterator[Finding]:
    """Parts whose price nobody knows."""
    if site.costs is None or not site.costs.unpriced:
        return
    names = [part.name for part in site.costs.parts if part.total_minor is None]
    more = f" and {len(names) - NAMED} more" if len(names) > NAMED else ""
    yield Finding(
        key="unpriced", weight="note", subject=counted(len(names), "part"), verb="price",
        text=f"{'has' if len(names) == 1 else 'have'} no price and {'is' if len(names) == 1 else 'are'} in no sum: "
        f"{', '.join(names[:NAMED])}{more}.",
    )  # fmt: skip


def moving(site: SiteState) -> Iterator[Finding]:
    """What must stay up, and is interrupted for longer than it may be, or nobody has said for how long it may."""
    for one in moving_of(site.project, site.grounds).used:
        if one.holds or not one.must_stay:
            continue
        told = f"has to stay up, and is interrupted for up to {one.longest_min:g} min while it moves over"
        allowed = (
            ": nobody has said for how long it may" if one.holds is None else f", {one.most_min:g} min are allowed"
        )
        yield Finding(key="interrupted", weight="strains", subject=one.name, verb="price", text=f"{told}{allowed}.",
                      settle=Settle(label="See the steps", verb="price"))  # fmt: skip


def phases(site: SiteState) -> Iterator[Finding]:
    """Closets that come after what ends in them; measures and kit that name no phase of the project."""
    project = site.project
    if not project.phases:
        return
    places = {phase.id: place for place, phase in enumerate(project.phases)}
    for closet in project.closets:
        built = places.get(closet.phase_id or 0, 0)
        early = tuple(drop.id for drop in project.drops if drop.closet_id == closet.id
                      and drop.has_run and place_of(project, drop) < built)  # fmt: skip
        if early:
            yield Finding(
                key="closet-too-late", weight="breaks", subject=closet.name, verb="price", drop_ids=early,
                text=f"is built in {project.phases[built].name}, and {counted(len(early), 'drop')} of an earlier phase"
                f" {'ends' if len(early) == 1 else 'end'} in it.",
            )  # fmt: skip
    known = {phase.name.casefold() for phase in project.phases}
    lost = [one.name for one in project.measures if not one.ended and one.phase.strip().casefold() not in known]
    if lost:
        yield Finding(
            key="measure-without-end", weight="strains", subject="Temporary measures", verb="price",
            text=f"end in no phase of this project: {joined(lost)}.",
        )  # fmt: skip
