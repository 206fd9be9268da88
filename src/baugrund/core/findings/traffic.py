"""Checks of the ways that traffic takes."""

from __future__ import annotations

from collections.abc import Iterator

from ..demand.traffic import keeper, kept_mbit
from ..edits import ChangeDrops, DropChanges
from ..facts.lines.line import SPEEDS
from ..standing.flows import USEFUL_SHARE, slowed
from ..words import counted, speed
from .finding import Finding, Settle, SiteState


def recording(site: SiteState) -> Iterator[Finding]:
    """Streams of cameras against the port of what keeps them, which is judged like a link (IEEE Std 802.3)."""
    project, fill = site.project, site.project.settings.link_fill_percent
    for number, mbit in kept_mbit(project).items():
        drop = project.drops_by_id[number]
        useful = drop.speed_mbit * USEFUL_SHARE
        carried = drop.speed_mbit * fill / 100
        if mbit <= carried + 1e-9:
            continue
        cameras = [one for one in project.drops if one.kind == "camera" and project.is_counted(one)]
        ids = (number, *(one.id for one in cameras if keeper(project, one) == number))
        breaks = mbit > useful + 1e-9
        limit = f"{fill} % of it, {carried:,g} Mbit/s, at most"
        if breaks:
            limit = f"{useful:,.0f} Mbit/s of use"
        faster = next((rate for rate in SPEEDS if rate * fill / 100 >= mbit), None)
        settle = None
        if faster:
            edit = ChangeDrops(ids=(number,), changes=DropChanges(speed_mbit=faster))
            settle = Settle(label=f"Ask for {speed(faster)}", edit=edit)
        yield Finding(
            key=f"recording-{number}", weight="breaks" if breaks else "strains", subject=project.name_of(drop),
            verb="load", drop_ids=ids, settle=settle,
            text=f"keeps {counted(len(ids) - 1, 'stream')} of {mbit:,g} Mbit/s together; its port of "
                 f"{speed(drop.speed_mbit)} takes {limit}.",
        )  # fmt: skip


def slow_in_the_middle(site: SiteState) -> Iterator[Finding]:
    """A room switch, or an access point in the wall, that slows what hangs behind it."""
    project = site.project
    for number, drops in slowed(project).items():
        feeder = project.drops_by_id[number]
        fastest = max(drop.speed_mbit for drop in drops)
        yield Finding(
            key=f"slow-middle-{number}", weight="strains", subject=project.name_of(feeder), verb="load",
            drop_ids=(number, *(drop.id for drop in drops)),
            text=f"carries {speed(feeder.speed_mbit)} and slows {counted(len(drops), 'drop')} behind it, "
                 f"the fastest of which does {speed(fastest)}.",
            settle=Settle(label=f"Take one with {speed(fastest)}",
                          edit=ChangeDrops(ids=(number,), changes=DropChanges(speed_mbit=fastest))),
        )  # fmt: skip
