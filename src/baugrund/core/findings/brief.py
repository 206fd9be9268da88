"""Checks of the brief: lines and their boxes, the closet's site, services, and what is temporary."""

from __future__ import annotations

import re
from collections.abc import Iterator

from ..edits import ChangeEntry
from ..facts.brief import InternetLine
from ..facts.building import Closet
from ..facts.project import Project
from ..siting.places import FAULTS, faults_of
from ..walk.nameplate import doubts
from ..words import counted, joined, money, speed
from .finding import Finding, Settle, SiteState, Weight


def _settled(label: str, line: InternetLine, **changes: object) -> Settle:
    return Settle(label=label, edit=ChangeEntry.model_validate({"list": "lines", "id": line.id, "changes": changes}))


def _of(line: InternetLine, key: str, weight: Weight, text: str, settle: Settle | None = None) -> Finding:
    return Finding(key=f"{key}-{line.id}", weight=weight, subject=line.name, text=text, verb="brief", settle=settle)


def lines(site: SiteState) -> Iterator[Finding]:
    """Internet lines against the provider's box, its port, and the way to the head end."""
    own_wifi = any(drop.kind == "access_point" for drop in site.project.drops)
    for line in site.project.lines:
        if line.box == "routing":
            yield _of(
                line, "series", "note" if line.series_kept else "strains",
                "the provider's box routes, so two routers stand in series. Ways out: bridge mode, a direct cable from "
                "the terminal, or keep it knowingly.",
                None if line.series_kept else _settled("Keep it knowingly", line, series_kept=True),
            )  # fmt: skip
        if line.down_mbit > line.handoff_mbit:
            loss = line.down_mbit - line.handoff_mbit
            yield _of(
                line, "handoff", "strains",
                f"{line.down_mbit:,} Mbit/s are paid for; the port hands over {speed(line.handoff_mbit)}: "
                f"{loss:,} Mbit/s are lost.",
            )  # fmt: skip
        if line.box_wifi and own_wifi and line.box in ("bridged", "routing"):
            yield _of(
                line, "wifi", "strains", "the provider's box still sends Wi-Fi beside the access points.",
                _settled("It is switched off", line, box_wifi=False),
            )  # fmt: skip
        if line.television and line.box in ("none", "bridged"):
            text = "television or telephone is tied to the provider's box, which does not route any more: ask first."
            yield _of(line, "television", "strains", text)
        yield from _way(site.project, line)


def _way(project: Project, line: InternetLine) -> Iterator[Finding]:
    entry = next((entry for entry in project.entries if entry.id == line.entry_id), None)
    if entry is None:
        if not line.way_planned:
            yield _of(line, "entry", "note", "where it enters is not noted; the provider ends it where it is easiest.")
    elif not line.way_planned and entry.room_id != project.head_end.room_id:
        room = project.rooms_by_id[entry.room_id].name
        yield _of(
            line, "way", "strains",
            f"ends at {entry.name} in {room}; no way from there to the head end is planned. Plan a conduit before "
            "walls close.",
            _settled("A way is planned", line, way_planned=True),
        )  # fmt: skip


def siting(site: SiteState) -> Iterator[Finding]:
    """Whether the place of each closet suits it."""
    for closet in site.project.closets:
        yield from _sited(site.project, closet)


def _sited(project: Project, closet: Closet) -> Iterator[Finding]:
    wrong = faults_of(project, closet, project.rooms_by_id.get(closet.room_id or 0))
    if wrong:
        yield Finding(key=f"siting-{closet.id}", weight="strains", subject=closet.name, verb="brief",
                      text=f"{joined(wrong)}.", settle=Settle(label="Look again", verb="brief"))  # fmt: skip
    unasked = sum(getattr(closet, field) is None for field, _ in FAULTS) + (closet.room_id is None)
    if unasked and project.drops:
        where = "its room is not chosen" if closet.room_id is None else f"{counted(unasked, 'point')} not looked at"
        yield Finding(key=f"siting-open-{closet.id}", weight="note", subject=closet.name, verb="brief",
                      text=f"its place is not judged yet: {where}.",
                      settle=Settle(label="Judge it", verb="brief"))  # fmt: skip


def idle_closets(site: SiteState) -> Iterator[Finding]:
    """Closets beside the head end where nothing ends."""
    used = {drop.closet_id for drop in site.project.drops if drop.has_run}
    for closet in site.project.closets[1:]:
        if closet.id not in used:
            yield Finding(key=f"idle-closet-{closet.id}", weight="note", subject=closet.name, verb="brief",
                          text="no drop ends here yet.",
                          settle=Settle(label="Look at the drops", verb="walk"))  # fmt: skip


def services(site: SiteState) -> Iterator[Finding]:
    """Other services in the walls: outlets that an in-wall device would cost, and odd nameplates."""
    project = site.project
    for service in project.services:
        if service.must_survive:
            taking = tuple(
                drop.id for drop in project.drops if drop.variant == "in_wall" and drop.room_id in service.room_ids
            )
            if taking:
                rooms = joined(sorted({project.rooms_by_id[project.drops_by_id[i].room_id].name for i in taking}))
                yield Finding(
                    key=f"outlet-{service.id}", weight="strains", subject=service.kind.capitalize(), verb="walk",
                    text=f"must survive, and has an outlet in {rooms}: an access point in the wall there may cost it.",
                    drop_ids=taking,
                )  # fmt: skip
        doubt = doubts(service.nameplate)
        if doubt:
            yield Finding(
                key=f"nameplate-{service.id}", weight="strains", subject=service.kind.capitalize(), verb="brief",
                text=f"its nameplate says “{service.nameplate}”: {doubt}",
            )  # fmt: skip


def temporary(site: SiteState) -> Iterator[Finding]:
    """Temporary measures stay for months: each is open until it has ended."""
    for measure in site.project.measures:
        if measure.ended:
            continue
        owner = measure.owner or "nobody"
        until = f"ends in {measure.phase}" if measure.phase else "has no end yet"
        edit = ChangeEntry(list="measures", id=measure.id, changes={"ended": True})
        yield Finding(
            key=f"temporary-{measure.id}", weight="note" if measure.owner and measure.phase else "strains",
            subject=measure.name, verb="brief", text=f"is temporary; {owner} answers for it, it {until}.",
            settle=Settle(label="It has ended", edit=edit),
        )  # fmt: skip


CORD = re.compile(
    r"\b(cords?|cables?|leads?|extensions?)\b.*\b(across|over|on|along)\b.*\b(floors?|doorways?|stairs?)\b", re.I
)
"""How people write down that a cord lies across a floor."""


def cords_across_floors(site: SiteState) -> Iterator[Finding]:
    """A cord across a floor is no way for a cable, however temporary."""
    project = site.project
    names = [measure.name for measure in project.measures if not measure.ended]
    names += [path.name for path in project.paths]
    for name in filter(CORD.search, dict.fromkeys(names)):
        yield Finding(
            key=f"cord-{name}", weight="strains", subject=name, verb="brief",
            text="lies where people walk: somebody trips over it or pulls it out, and it wears through. Run it "
                 "along the skirting, overhead, or through the wall.",
        )  # fmt: skip


def yearly(site: SiteState) -> Iterator[Finding]:
    """What the lines cost a year against the yearly budget, which stands apart from the one-off one."""
    settings = site.project.settings
    cost = sum(line.yearly_minor for line in site.project.lines)
    if settings.yearly_budget_minor is not None and cost > settings.yearly_budget_minor:
        over = money(cost - settings.yearly_budget_minor, settings.currency)
        yield Finding(
            key="yearly", weight="strains", subject="Yearly cost", verb="brief",
            text=f"of the lines is {money(cost, settings.currency)}, {over} over the yearly budget.",
        )  # fmt: skip


def goals(site: SiteState) -> Iterator[Finding]:
    """Goals that the list cannot meet yet."""
    kinds = {drop.kind for drop in site.project.drops}
    needs = {"coverage": "access_point", "calls": "access_point", "footage": "recorder", "image": "camera"}
    for goal in site.project.goals:
        wanted = needs.get(goal.kind)
        if wanted and site.project.drops and wanted not in kinds:
            yield Finding(
                key=f"goal-{goal.id}", weight="strains", subject="Goal", verb="walk",
                text=f"of {goal.kind.replace('_', ' ')} is set, and no {wanted.replace('_', ' ')} is listed.",
            )  # fmt: skip
        if goal.kind == "line_speed" and goal.level is not None and site.project.lines:
            paid = max(line.down_mbit for line in site.project.lines)
            if goal.level > paid * 0.95:
                yield Finding(
                    key=f"goal-{goal.id}", weight="strains", subject="Goal", verb="brief",
                    text=f"{goal.level:g} Mbit/s are wanted at a desk; the fastest line has {paid:,}, and about 94 % "
                         "of a rate arrives.",
                )  # fmt: skip
