"""Reasons for which a model cannot stand in a closet whatever else is picked: one sentence each."""

from __future__ import annotations

from collections.abc import Iterator

from ...facts.brief import InternetLine
from ...facts.building import Closet
from ...facts.catalogue import Catalogue
from ...facts.lines.box import Accessory, Box
from ...facts.lines.router import Router
from ...facts.project import Project
from ...gear.beside import beside_pick
from ...words import joined
from ..model import resources, rules


def wan_shortfall(router: Router, lines: tuple[InternetLine, ...]) -> str | None:
    """Why a router does not take these lines, or None: a fast enough WAN port each, and throughput for
    all that work at once."""
    wanted = sorted((max(line.down_mbit, line.up_mbit) for line in lines), reverse=True)
    ports = sorted(router.wan_mbit, reverse=True)
    if len(ports) < len(wanted):
        return f"{len(ports)} WAN port{'s' if len(ports) > 1 else ''}, {len(wanted)} lines."
    for port, line in zip(ports, wanted, strict=False):
        if port < line:
            return f"Its WAN port gives {port:,} Mbit/s; a line brings {line:,}."
    at_once = sum(max(line.down_mbit, line.up_mbit) for line in lines if not line.standby)
    asked = max([at_once, *(max(line.down_mbit, line.up_mbit) for line in lines if line.standby)])
    if router.throughput_mbit < asked:
        return f"Its firewall passes {router.throughput_mbit:,} Mbit/s; the lines bring {asked:,}."
    return None


def _misfit(box: Box, project: Project, closet: Closet, left: tuple[int, ...]) -> str | None:
    if box.is_for_rooms:
        return "It is fed over its cable: for a room, not for a closet."
    broken = (rule.broken(box, closet) for rule in rules.RULES if rule.applies(project, closet))
    return next(filter(None, (*broken, *_too_much(box, left))), None)


def _too_much(box: Box, left: tuple[int, ...]) -> Iterator[str]:
    """A sentence for every resource of which a box alone takes more than the closet has for it."""
    table = zip(resources.RESOURCES, resources.box_takes(box), left, strict=True)
    return (resource.too_much(takes, there) for resource, takes, there in table if takes > there)


def lacking(box: Box, closet: Closet) -> tuple[Accessory, ...]:
    """What a box needs in this closet and does not come with: ears and rails are for racks only."""
    in_rack = closet.housing == "rack" and box.form == "rack"
    return tuple(lack for lack in box.lacks if in_rack or lack not in ("ears", "rails"))


ACCESSORY_NAMES: dict[Accessory, str] = {
    "ears": "rack ears", "rails": "rails", "supply": "a power supply", "disk": "disks",
}  # fmt: skip


def _incomplete(box: Box, catalogue: Catalogue, closet: Closet) -> str | None:
    missing = [ACCESSORY_NAMES[lack] for lack in lacking(box, closet) if catalogue.spare_for(lack) is None]
    return f"It comes without {joined(missing)}, and the catalogue has none in stock." if missing else None


def standing_reasons(project: Project, catalogue: Catalogue, closet: Closet) -> dict[str, str]:
    """Model key → the sentence that keeps it out; models that may stand are left out."""
    reasons: dict[str, str] = {}
    left = resources.limits_of(closet, beside_pick(project, catalogue, closet))
    for model in catalogue.models:
        stance = project.stances_by_model.get(model.key)
        reason: str | None = None
        if stance and stance.excluded:
            reason = "You left it out."
        elif not model.in_stock and not project.owned.get(model.key):
            reason = "Out of stock."
        elif isinstance(model, Box):
            reason = _misfit(model, project, closet, left)
            if reason is None and isinstance(model, Router):
                reason = wan_shortfall(model, project.lines)
            if reason is None and not project.owned.get(model.key):
                reason = _incomplete(model, catalogue, closet)
        if reason:
            reasons[model.key] = reason
    return reasons
