"""What tests of runs say: those that failed, and what a measured cable is other than planned."""

from __future__ import annotations

from collections.abc import Iterator

from ..prove.run_tests import run_tests_of
from .finding import Finding, SiteState


def tests(site: SiteState) -> Iterator[Finding]:
    """What the last test of each run tells."""
    if not site.project.run_tests:
        return
    for run in run_tests_of(site.project, site.grounds).runs:
        name = site.project.name_of(site.project.drops_by_id[run.drop_id])
        for one in run.diagnoses:
            yield Finding(
                key=f"test-{one.key}", weight=one.weight, subject=name, verb="prove", drop_ids=(run.drop_id,),
                text=f"{one.text} {one.do}",
            )  # fmt: skip
