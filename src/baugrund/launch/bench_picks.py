"""Figures of the pick on seeded made-up cases: proven or how far from its bound, and against the plain model."""

from __future__ import annotations

import statistics
import time
from collections import Counter
from collections.abc import Callable

from baugrund.core.answers.picker import DRAFT_GAP, draft_s
from baugrund.core.demand.needs import Need
from baugrund.core.errors import TookTooLong
from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.pick.best import least_price
from baugrund.core.pick.site import Site, SiteFound, hinted

from .cases import made_up_catalogue, made_up_closet, made_up_needs, made_up_site
from .plain_model import plain_least_price

PLAIN_TIMES = 30
"""How many times as long as ours the plain model may take; where it proves nothing by then, it counts as so long."""
PLAIN_COPIES = 3

Print = Callable[[str, str, str], None]


def measure_picks(catalogue: Catalogue, cases: int, line: Print) -> None:
    """Print the table of the pick: medians over so many seeded cases."""
    _forty(catalogue, cases, line)
    large = made_up_catalogue(200, 1)
    many = [Site((made_up_closet(made_up_needs(150, seed), large),), {}) for seed in range(max(2, cases // 5))]
    _timed("150 drops × 200 models, a first answer", many, draft_s(1), line, "asked: 2,000 ms", DRAFT_GAP)
    _timed("150 drops × 200 models, given 10 s", many, 10.0, line, "asked: proven in 10 s")
    sites = [made_up_site(1000, 10, large, seed) for seed in range(max(1, cases // 10))]
    what = "1,000 drops, 10 closets, 200 models"
    _timed(f"{what}, a first answer", sites, draft_s(10), line, "asked: 20,000 ms, within 3 %", DRAFT_GAP)
    _timed(f"{what}, closed in the background", sites, 20.0, line, "")


def _forty(catalogue: Catalogue, cases: int, line: Print) -> None:
    sites = [Site((made_up_closet(made_up_needs(40, seed), catalogue),), {}) for seed in range(cases)]
    ours = _timed("40 drops × the shipped catalogue", sites, 20.0, line, "asked: 500 ms, all proven")
    for what, fewer in (("one desk more", False), ("one desk fewer", True)):
        later = [_after_an_edit(site, catalogue, seed, fewer) for seed, site in enumerate(sites)]
        _timed(f"40 drops, {what}: from the last answer", later, 20.0, line, "asked: 300 ms")
    for backend, name in (("SAT", "CP-SAT"), ("HIGHS", "HiGHS")):
        ratios, proven = [], 0
        for site, mine in zip(sites, ours, strict=True):
            start = time.perf_counter()
            given = PLAIN_TIMES * mine
            plain = plain_least_price(site.head_end, "SAT" if backend == "SAT" else "HIGHS", given, PLAIN_COPIES)
            ratios.append((time.perf_counter() - start) / mine)
            proven += plain.proven
        what = f"the plain model on {name}, given {PLAIN_TIMES} times as long: time of it over ours"
        line(what, f"{statistics.median(ratios):.0f} ×", f"asked: 20 ×; it proved {proven} of {cases}")


def _after_an_edit(site: Site, catalogue: Catalogue, seed: int, fewer: bool = False) -> Site:
    """The site with one desk more, or fewer, and the boxes that were best before."""
    found = least_price(site)
    assert found is not None
    boxes = {1: [box.model.key for box in found.seatings[0].boxes]}
    needs, desk = made_up_needs(40, seed), Counter([Need(0, 1000, 0, 12_500)])
    edited = needs - desk if fewer else needs + desk
    return hinted(Site((made_up_closet(edited, catalogue),), {}), boxes)


def _timed(
    what: str, sites: list[Site], seconds: float, line: Print, asked: str, gap: float = 0.0
) -> list[float]:  # fmt: skip
    """Time of each case [s]; prints the median, how many are proven, and how far the others are from their bound."""
    times, gaps, proven, none = [], [0.0], 0, 0
    for site in sites:
        start = time.perf_counter()
        found: SiteFound | None = None
        try:
            found = least_price(site, seconds, gap)
        except TookTooLong:
            none += 1
        times.append(time.perf_counter() - start)
        if found:
            proven += found.proven
            gaps.append((found.price_minor - found.bound) / found.price_minor)
    line(what, f"{statistics.median(times) * 1000:,.0f} ms", asked)
    told = f"{proven} of {len(sites)}" + (f", {none} none" if none else "")
    line("  proven; the worst gap to its bound", told, f"{max(gaps) * 100:.1f} %")
    return times
