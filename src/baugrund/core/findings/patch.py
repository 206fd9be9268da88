"""What the patching says of itself: labels that are not true any more, and those that are to be taken off."""

from __future__ import annotations

from collections.abc import Iterator

from ..patch.labelling import labelling
from ..words import counted
from .finding import Finding, SiteState


def labels(site: SiteState) -> Iterator[Finding]:
    """Labels on cables that read otherwise now, or whose cable is gone."""
    if not site.project.printed:
        return
    told = labelling(site.project)
    changed = tuple(line.drop_id for line in told.lines if line.state == "changed" and line.drop_id is not None)
    if changed:
        first = next(line for line in told.lines if line.drop_id == changed[0])
        yield Finding(
            key="labels-changed", weight="strains", subject="Labels", verb="patch", drop_ids=changed,
            text=f"of {counted(len(changed), 'cable')} are not what they should be: {first.printed} is now"
            f" {first.text}. Print them, and take the old ones off.",
        )  # fmt: skip
    off = [line.printed for line in told.lines if line.state == "off"]
    if off:
        yield Finding(
            key="labels-off", weight="note", subject="Labels", verb="patch",
            text=f"of {counted(len(off), 'cable')} that are gone are to be taken off: {', '.join(off[:5])}.",
        )  # fmt: skip
