"""Links between closets as the pick sees them: of the medium and speed that Reach chose, and what crosses them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from math import ceil

from ...cabling.links import Link
from ...demand.needs import Demands, behind, crossing_kbit
from ...demand.traffic import COPPER_MBIT, rate_for_mbit
from ...facts.project import Project
from ...standards.fibre import APPLICATIONS, is_singlemode, standard_reach_m
from .links import Trunk


def trunks(project: Project, of: Demands, made: Sequence[Link]) -> Mapping[int, Trunk]:
    """The link that feeds each further closet with drops in or behind it, by the closet's number.

    ``made``: the links as Reach makes them.  One that Reach has not measured, or finds nothing for, counts as copper of
    the least speed that carries it.
    """
    chosen = {link.closet_id: link for link in made}
    everywhere = [asked.need.large_frames for demand in of.values() for asked in demand.all]
    found, fill = {}, project.settings.link_fill_percent
    for closet in project.closets[1:]:
        fed = behind(project, of, closet.id)
        if fed:
            frames = sum(asked.need.large_frames for asked in fed)
            crossed = 0 < frames < sum(everywhere)
            traffic_kbit = crossing_kbit(project, of, closet.id)
            asked = closet.link or project.settings.link_by
            trunk = _trunk(closet.id, chosen.get(closet.id), traffic_kbit, crossed, asked, fill)
            found[closet.id] = replace(trunk, fill_percent=fill)
    return found


def _unmeasured_fibre(closet_id: int, needed_mbit: int, traffic_kbit: int, large_frames: bool) -> Trunk:
    """Fibre of a length that nobody knows: OM3 as far as the standard has it, so that its modules do for any."""
    rates = sorted({one.speed_mbit for one in APPLICATIONS})
    speed = next((rate for rate in rates if rate >= needed_mbit), rates[-1])
    return Trunk(
        closet_id, "fibre-multimode", speed, max(1, ceil(needed_mbit / speed)), traffic_kbit, large_frames,
        standard_reach_m(speed, "OM3") or 0.0, "OM3",
    )  # fmt: skip


def _trunk(closet_id: int, link: Link | None, traffic_kbit: int, large_frames: bool, asked: str, fill: int) -> Trunk:
    if link is None or link.chosen is None:
        needed = rate_for_mbit(traffic_kbit, fill)
        if asked == "fibre":
            return _unmeasured_fibre(closet_id, needed, traffic_kbit, large_frames)
        speed = next((rate for rate in COPPER_MBIT if rate >= needed), COPPER_MBIT[-1])
        return Trunk(closet_id, "copper", speed, max(1, ceil(needed / speed)), traffic_kbit, large_frames)
    option = link.options[link.chosen]
    if option.medium == "copper":
        return Trunk(closet_id, "copper", option.speed_mbit, option.pulls, traffic_kbit, large_frames, link.length_m)
    medium = f"fibre-{'single' if option.grade and is_singlemode(option.grade) else 'multi'}mode"
    return Trunk(
        closet_id, medium, option.speed_mbit, option.pairs, traffic_kbit, large_frames, link.length_m, option.grade
    )
