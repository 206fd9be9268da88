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
from dataclasses import dataclass

from .catalogue import Router, Switch
from .drop import Drop
from .kept import kept
from .poe import PORT_VOLTS_DEFAULT, feed, feed_faults, loop_resistance_ohm, port_watts
from .project import Project
from .reach.runs import ROOM_C, Run, runs
from .standards.cabling import CORD_OHM_PER_M, THIN_CORD_OHM_PER_M
from .standards.poe_classes import POE_CLASSES


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
    passed_on_w: float
    class_w: float
    rated_w: float
    measured_w: float | None
    counted_w: float
    """By the project's school, without margin [W]."""
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
        if drop.poe_class is not None and drop.behind_id is None and project.is_live(drop)
    }


def _fed(project: Project, drop: Drop, run: Run) -> Fed:
    assert drop.poe_class is not None
    row = POE_CLASSES[drop.poe_class]
    draw = project.draw_w(drop)
    warm = run.mean_c
    cords = project.settings.cord_ohm_per_m

    def loop_of(warm_c: float, cord_ohm_per_m: float) -> float:
        return loop_resistance_ohm(
            run.length_m, temperature_c=warm_c, pairs=row.pairs, cord_ohm_per_m=cord_ohm_per_m
        )  # fmt: skip

    loop = loop_of(warm, cords)
    cold, steady = feed(draw, loop_of(ROOM_C, cords)), feed(draw, loop)
    usual, thin = feed(draw, loop_of(warm, CORD_OHM_PER_M)), feed(draw, loop_of(warm, THIN_CORD_OHM_PER_M))
    rated = row.port_w if steady is None else steady.port_w
    return Fed(
        drop.id, drop.closet_id, drop.poe_class, row.pairs, run.length_m, round(warm, 1), loop, draw,
        draw - drop.draw_w, row.port_w, rated, drop.measured_w,
        port_watts(project.settings.school, drop.poe_class, draw, run.length_m, drop.measured_w,
                   temperature_c=warm, cord_ohm_per_m=cords),
        None if steady is None else steady.lost_w,
        None if steady is None or cold is None else steady.port_w - cold.port_w,
        None if usual is None or thin is None else thin.port_w - usual.port_w,
        None if steady is None else steady.device_v, row.device_min_v,
        None if steady is None else steady.device_v - row.device_min_v,
        None if steady is None else steady.current_a / (row.pairs / 2), row.pair_set_max_a,
        tuple(feed_faults(draw, row, loop, PORT_VOLTS_DEFAULT)),
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
    """What a box draws from the mains with these drops on its ports: ``(own + Σ port watts) / efficiency``."""
    some = [fed(project)[number] for number in drop_ids if number in fed(project)]
    powered = summed(some)
    margin = 1 + project.settings.margin / 100
    mains = (box.own_draw_w + powered.counted_w) / (box.efficiency_percent / 100)
    return BoxLoad(closet_id, box.name, powered, powered.counted_w * margin, box.poe_budget_w, box.own_draw_w, mains)
