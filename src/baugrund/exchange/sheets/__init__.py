"""Sheets to print: what goes along to the building site, as PDF."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date
from pathlib import Path

from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.facts.project import Project
from baugrund.core.patch.told import PatchTold
from baugrund.core.price.costs import JobCosts
from baugrund.core.price.moving import Moving
from baugrund.core.price.offer import OfferTold
from baugrund.core.price.visits import Visits
from baugrund.core.prove.acceptance import Acceptance
from baugrund.core.prove.bench import Bench
from baugrund.core.prove.order.told import OrderOfWork
from baugrund.core.prove.power_up import PowerUp
from baugrund.core.prove.run_tests import RunTests
from baugrund.core.prove.tracing.told import Tracing
from baugrund.core.stack.told import Stack

from .label_sheet import write_labels, write_legend, write_strips
from .moving_sheet import write_moving
from .offer_sheet import write_offer, write_variation, write_workshop
from .order_sheets import write_bench, write_order, write_power_up
from .pages import Pictures
from .patch_sheet import write_network_sheet, write_port_sheet
from .prove_sheets import write_acceptance, write_tests, write_tracing
from .pull_sheet import write_pull_sheet
from .setting_out_sheet import write_setting_out_sheet
from .signal_sheet import write_signal_sheet
from .stack_sheet import write_pattern_sheet, write_stack_sheet
from .view_sheet import write_view_sheet


@dataclass(frozen=True)
class SheetSources:
    """What a sheet is made from: the folder of the fonts, the day that stands on it, kept pictures."""

    project: Project
    catalogue: Catalogue
    fonts: Path | None
    made: date
    pictures: Pictures
    stack: Callable[[], Stack]
    """What stands in the closets, with the boxes of the pick that is followed."""
    patch: Callable[[], PatchTold]
    """The port list on those boxes."""
    costs: Callable[[], JobCosts]
    offer: Callable[[], OfferTold]
    """The offer that the sheet is about."""
    visits: Callable[[], Visits]
    moving: Callable[[], Moving]
    tests: Callable[[], RunTests]
    tracing: Callable[[], Tracing]
    acceptance: Callable[[], Acceptance]
    order: Callable[[], OrderOfWork]
    power_up: Callable[[], PowerUp]
    bench: Callable[[], Bench]


SHEETS: dict[str, Callable[[SheetSources], bytes]] = {
    "pulls": lambda of: write_pull_sheet(of.project, of.fonts, of.made),
    "setting-out": lambda of: write_setting_out_sheet(of.project, of.fonts, of.made),
    "views": lambda of: write_view_sheet(of.project, of.fonts, of.made, of.pictures),
    "stack": lambda of: write_stack_sheet(of.project, of.stack(), of.fonts, of.made),
    "pattern": lambda of: write_pattern_sheet(of.project, of.stack(), of.fonts, of.made),
    "ports": lambda of: write_port_sheet(of.project, of.patch(), of.fonts, of.made),
    "networks": lambda of: write_network_sheet(of.project, of.patch(), of.fonts, of.made),
    "labels": lambda of: write_labels(of.project, of.fonts),
    "strips": lambda of: write_strips(of.project, of.patch(), of.stack(), of.fonts, of.made),
    "legend": lambda of: write_legend(of.project, of.patch(), of.fonts, of.made),
    "offer": lambda of: write_offer(of.project, of.offer(), of.fonts, of.made),
    "variation": lambda of: write_variation(of.project, of.offer(), of.fonts, of.made),
    "workshop": lambda of: write_workshop(of.project, of.costs(), of.visits(), of.fonts, of.made),
    "moving": lambda of: write_moving(of.project, of.moving(), of.fonts, of.made),
    "tests": lambda of: write_tests(of.project, of.tests(), of.fonts, of.made),
    "tracing": lambda of: write_tracing(of.project, of.tracing(), of.fonts, of.made),
    "acceptance": lambda of: write_acceptance(of.project, of.acceptance(), of.fonts, of.made),
    "order": lambda of: write_order(of.project, of.order(), of.fonts, of.made),
    "power-up": lambda of: write_power_up(of.project, of.power_up(), of.fonts, of.made),
    "bench": lambda of: write_bench(of.project, of.bench(), of.fonts, of.made),
    "signal": lambda of: write_signal_sheet(of.project, of.catalogue, of.fonts, of.made),
}
"""Every sheet by its name."""
