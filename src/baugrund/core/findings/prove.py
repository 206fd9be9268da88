"""What tests of runs say, wrong cabling, and devices that say the same of themselves."""

from __future__ import annotations

from collections.abc import Iterator

from ..facts.order_of_work import drop_of
from ..prove.bench import bench_of
from ..prove.power_up import power_up_of
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


def cabling(site: SiteState) -> Iterator[Finding]:
    """Lines behind switches, second routers and loops, as the plan or what switches told shows them."""
    project = site.project
    if site.stack is None or not (project.discovered or any(row.end.startswith("line/") for row in project.patches)):
        return
    for one in power_up_of(project, site.grounds, site.stack).wrong:
        if one.weight == "breaks":
            yield Finding(key="miswired", weight="breaks", subject="Cabling", text=f"{one.text} {one.do}",
                          verb="prove")  # fmt: skip


def bench(site: SiteState) -> Iterator[Finding]:
    """Two devices with one hardware address or serial: one of them was read wrong."""
    if site.stack is None or not site.project.benched:
        return
    for one in bench_of(site.project, site.grounds, site.stack).devices:
        if one.clash:
            number, text = drop_of(one.subject), f"{one.clash[:1].upper()}{one.clash[1:]}: one of them was read wrong."
            yield Finding(key="bench", weight="strains", subject=one.name, verb="prove", text=text,
                          drop_ids=(number,) if number else ())  # fmt: skip
