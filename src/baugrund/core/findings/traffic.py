"""Checks of the ways that traffic takes."""

from __future__ import annotations

from collections.abc import Iterator

from ..edits import ChangeDrops, DropChanges
from ..flows import slowed
from ..words import counted, speed
from .finding import Finding, Settle, Site


def slow_in_the_middle(site: Site) -> Iterator[Finding]:
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
