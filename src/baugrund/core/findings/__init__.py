"""Findings: a sentence, one place that it points to, and one thing that would settle it.

To add one: write a function from a ``SiteState`` to findings in its module, and name it in ``CHECKS``.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

from . import (
    boxes,
    brief,
    drops,
    footage,
    forgotten,
    hanging,
    networks,
    patch,
    price,
    prove,
    reach,
    sight,
    signal,
    stack,
    traffic,
)
from .finding import Finding, Settle, SiteState

__all__ = ["CHECKS", "Finding", "Settle", "SiteState", "findings"]

CHECKS: tuple[Callable[[SiteState], Iterator[Finding]], ...] = (
    drops.over_class, drops.over_reserved, drops.feeds, drops.copper_clad, reach.too_long, reach.too_slow,
    reach.long_cords, reach.lost, reach.no_way_in, reach.faults,
    reach.filled_over, reach.no_size, reach.closet_links, reach.warm, reach.warm_and_closed, reach.pulled,
    reach.grades, reach.beside_mains,
    reach.between_buildings, reach.outside_runs, reach.screens, brief.cords_across_floors,
    drops.outside, drops.behind, drops.sockets_at_drops, drops.passive, drops.powered_twice,
    drops.outside_their_room, sight.targets, sight.near_walls, sight.mounts, sight.turns, sight.privacy, sight.drawn,
    signal.goals, signal.places, signal.clients, signal.settings, hanging.hanging,
    footage.goals, footage.recorders, footage.service,
    traffic.recording, traffic.slow_in_the_middle, boxes.ground, brief.lines, brief.siting,
    brief.idle_closets, brief.services, brief.temporary, brief.goals,
    brief.yearly, forgotten.forgotten, forgotten.closet_sockets, drops.category_5, drops.unknown_draws,
    boxes.margin, boxes.currency, boxes.out_of_stock, boxes.fast_ends, boxes.refused, boxes.unlisted_kinds,
    networks.cut_off, networks.open_too_far, networks.wifi, networks.services_outside, networks.kept_apart,
    networks.addresses, patch.labels, price.phases, price.moving, price.budget, price.unpriced,
    stack.standing, stack.fixings, stack.air, stack.room_around, stack.mains, stack.power_cut,
    forgotten.unknown_surfaces, forgotten.guessed_runs, prove.tests, prove.cabling, prove.bench,
)  # fmt: skip

WEIGHTS = ("breaks", "strains", "note")


def findings(site: SiteState) -> tuple[Finding, ...]:
    """Everything there is to say, heaviest first."""
    found = [finding for check in CHECKS for finding in check(site)]
    return tuple(sorted(found, key=lambda finding: WEIGHTS.index(finding.weight)))
