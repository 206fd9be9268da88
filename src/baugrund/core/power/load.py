"""Load: what every powered run takes and loses over its real way, and what boxes and closets draw for it.

Each piece of a run is as warm as the place that it lies in; cords are taken at 20 °C, usual or thin as the project has
them.

References
----------
.. [1] IEEE Std 802.3-2022, clauses 33 and 145.
.. [2] ANSI/TIA-568.2, DC resistance; IEC 60028, its change with temperature.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from ..facts.drop import Drop
from ..facts.kept import kept
from ..facts.lines.router import Router
from ..facts.lines.switch import Switch
from ..facts.project import Project
from ..physics.poe import Feed, FeedTerms, feed, feed_faults, port_watts
from ..reach.runs import ROOM_C, Run, runs
from ..standards.cabling import CORD_OHM_PER_M, THIN_CORD_OHM_PER_M
from ..standards.poe_classes import POE_CLASSES
from .feeds import counted_w, loop_ohm, running_w


@dataclass(frozen=True)
class Fed:
    """One powered run: volts, amperes, and watts by each school of adding up.

    ``device_v`` and what follows from it are None where the run cannot deliver the draw at all.
    """

    drop_id: int
    closet_id: int
    poe_class: int
    pairs: int
    length_m: float
    warm_c: float
    """Temperature that the fixed cable is taken at: that of its pieces by their length [°C]."""
    loop_ohm: float
    draw_w: float
    """What device, and what it passes power on to, take [W]."""
    is_assumed: bool
    """Nobody has typed what the device draws, so that its class's most is counted."""
    passed_on_w: float
    class_w: float
    rated_w: float
    measured_w: float | None
    counted_w: float
    """By the project's school, without margin [W]."""
    running_w: float
    """As it runs [W]: measured where the school is, else rated."""
    lost_w: float | None
    warmth_w: float | None
    """What the warmth on the way adds at the port [W]."""
    thin_w: float | None
    """What thin cords add at the port, or would [W]."""
    device_v: float | None
    least_v: float
    spare_v: float | None
    """Volts at the device over the least that its class needs."""
    pair_set_a: float | None
    most_a: float
    faults: tuple[str, ...]


@dataclass(frozen=True)
class Sum:
    """Powered drops together: Σ watts at the ports by each school, without margin."""

    drops: int
    class_w: float
    rated_w: float
    measured_w: float
    """Measured watts, rated where none were measured."""
    counted_w: float


@dataclass(frozen=True)
class BoxLoad:
    """A box and what it draws.  ``counted_w`` with the margin, against its budget; mains with what the ports give."""

    closet_id: int
    name: str
    powered: Sum
    counted_w: float
    budget_w: float
    own_w: float
    mains_w: float


@dataclass(frozen=True)
class ClosetLoad:
    """A closet and the powered drops that end there."""

    closet_id: int
    powered: Sum


@kept
def fed(project: Project) -> Mapping[int, Fed]:
    """Every live drop that is powered from its closet, by its number."""
    found = runs(project)
    return {
        drop.id: _fed(project, drop, found[drop.id])
        for drop in project.drops
        if drop.poe_class is not None and drop.has_run and project.is_live(drop)
    }


def _fed(project: Project, drop: Drop, run: Run) -> Fed:
    assert drop.poe_class is not None
    poe_class = drop.poe_class
    row = POE_CLASSES[poe_class]
    draw = project.draw_w(drop)
    terms = project.settings.feed_terms
    warm = run.mean_c

    def fed_by(warm_c: float, terms: FeedTerms) -> Feed | None:
        loop = terms.loop_ohm(poe_class, run.length_m, warm_c, clad=drop.copper_clad)
        return feed(draw, loop, terms.port_v)

    loop = loop_ohm(project, drop)
    cold, steady = fed_by(ROOM_C, terms), feed(draw, loop, terms.port_v)
    usual = fed_by(warm, replace(terms, cord_ohm_per_m=CORD_OHM_PER_M))
    thin = fed_by(warm, replace(terms, cord_ohm_per_m=THIN_CORD_OHM_PER_M))
    rated = port_watts("rated", poe_class, draw, loop, port_v=terms.port_v)
    return Fed(
        drop.id, drop.closet_id, drop.poe_class, row.pairs, run.length_m, round(warm, 1), loop, draw,
        not drop.draw_w, project.passed_on_w(drop), row.port_w, rated, drop.measured_w, counted_w(project, drop),
        running_w(project, drop),
        None if steady is None else steady.lost_w,
        None if steady is None or cold is None else steady.port_w - cold.port_w,
        None if usual is None or thin is None else thin.port_w - usual.port_w,
        None if steady is None else steady.device_v, row.device_min_v,
        None if steady is None else steady.device_v - row.device_min_v,
        None if steady is None else steady.current_a / (row.pairs / 2), row.pair_set_max_a,
        tuple(feed_faults(draw, row, loop, terms.port_v)),
    )  # fmt: skip


def summed(some: Sequence[Fed]) -> Sum:
    """Powered runs added up by each school."""
    return Sum(
        len(some), sum(one.class_w for one in some), sum(one.rated_w for one in some),
        sum(one.rated_w if one.measured_w is None else one.measured_w for one in some),
        sum(one.counted_w for one in some),
    )  # fmt: skip


def closet_loads(project: Project) -> tuple[ClosetLoad, ...]:
    """What ends in every closet, added up per closet and never over closets."""
    every = fed(project).values()
    return tuple(
        ClosetLoad(closet.id, summed([one for one in every if one.closet_id == closet.id]))
        for closet in project.closets
    )


def box_load(project: Project, closet_id: int, box: Router | Switch, drop_ids: Sequence[int]) -> BoxLoad:
    """What a box draws from the mains with these drops on its ports: ``(own + Σ running watts) / efficiency``."""
    some = [fed(project)[number] for number in drop_ids if number in fed(project)]
    powered = summed(some)
    margin = 1 + project.settings.margin / 100
    mains = (box.own_draw_w + sum(one.running_w for one in some)) / (box.efficiency_percent / 100)
    return BoxLoad(closet_id, box.name, powered, powered.counted_w * margin, box.poe_budget_w, box.own_draw_w, mains)
