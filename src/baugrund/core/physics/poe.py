"""Power over Ethernet: what a run costs in volts and watts, and what a port must reserve.

References
----------
.. [1] IEEE Std 802.3-2022, clauses 33 and 145.
.. [2] ANSI/TIA-568.2, DC resistance.
.. [3] TIA TSB-184-A, temperature rise in bundles of powered cables.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from ..standards.cabling import (
    CLAD_TIMES,
    CONTACT_OHM,
    CONTACTS_DEFAULT,
    COPPER_PER_K,
    CORD_OHM_PER_M,
    CORDS_DEFAULT_M,
    FIXED_OHM_PER_M,
)
from ..standards.poe_classes import POE_CLASSES, PoeClass

PORT_VOLTS_DEFAULT = 53.0
"""Volts at the port, *default*."""


@dataclass(frozen=True)
class FeedTerms:
    """What every powered run of a project is reckoned with: volts at the port [V], cords of the channel together [m],
    contacts in the loop, and the resistance of one conductor of a cord [ohm/m]."""

    port_v: float = PORT_VOLTS_DEFAULT
    cords_m: float = CORDS_DEFAULT_M
    contacts: int = CONTACTS_DEFAULT
    cord_ohm_per_m: float = CORD_OHM_PER_M

    def loop_ohm(self, poe_class: int, fixed_m: float, temperature_c: float = 20.0, *, clad: bool = False) -> float:
        """Loop resistance of a run of ``fixed_m`` [m] to a device of a class [ohm].

        ``clad``: of copper-clad aluminium.
        """
        return loop_resistance_ohm(
            fixed_m, cords_m=self.cords_m, contacts=self.contacts, temperature_c=temperature_c,
            pairs=POE_CLASSES[poe_class].pairs, fixed_ohm_per_m=FIXED_OHM_PER_M * (CLAD_TIMES if clad else 1.0),
            cord_ohm_per_m=self.cord_ohm_per_m,
        )  # fmt: skip


USUAL_TERMS = FeedTerms()

School = Literal["class", "rated", "measured"]
"""The three schools of adding up: class maximum, rated draw plus line loss, measured draw."""


def loop_resistance_ohm(
    fixed_m: float,
    *,
    cords_m: float = CORDS_DEFAULT_M,
    contacts: int = CONTACTS_DEFAULT,
    temperature_c: float = 20.0,
    pairs: int = 2,
    fixed_ohm_per_m: float = FIXED_OHM_PER_M,
    cord_ohm_per_m: float = CORD_OHM_PER_M,
) -> float:
    """Loop resistance between port and device [ohm].

    On two pairs two conductors are in parallel each way, so the loop equals one conductor's
    resistance once; on four pairs it is half of that.  Only the fixed part is warmed to
    ``temperature_c`` [°C]; cords are taken at 20 °C [2]_.
    """
    warm = fixed_ohm_per_m * (1.0 + COPPER_PER_K * (temperature_c - 20.0))
    loop = warm * fixed_m + cord_ohm_per_m * cords_m + CONTACT_OHM * contacts
    return loop if pairs == 2 else loop / 2.0


@dataclass(frozen=True)
class Feed:
    """A powered run in steady state: amperes in the loop, watts at the port and lost, volts at the device."""

    current_a: float
    port_w: float
    device_v: float
    lost_w: float


def feed(device_w: float, loop_ohm: float, port_v: float = PORT_VOLTS_DEFAULT) -> Feed | None:
    """Current, port watts and device volts of a constant-power device behind a loop [1]_.

    Solves ``port_v·I = device_w + I²·loop_ohm`` for the smaller current, in the form that stays exact
    for a vanishing loop.  Returns None when there is no real root: the run cannot deliver ``device_w`` [W].
    """
    root = port_v * port_v - 4.0 * loop_ohm * device_w
    if root < 0.0:
        return None
    current = 2.0 * device_w / (port_v + math.sqrt(root))
    port_w = port_v * current
    return Feed(current, port_w, port_v - current * loop_ohm, port_w - device_w)


def feed_faults(device_w: float, poe_class: PoeClass, loop_ohm: float, port_v: float) -> list[str]:
    """Sentences for all that a run breaks: no root, too few volts, too much current [1]_; empty when sound."""
    steady = feed(device_w, loop_ohm, port_v)
    if steady is None:
        return [f"{device_w:g} W cannot get through {loop_ohm:.1f} Ω at {port_v:g} V"]
    faults = []
    if steady.device_v < poe_class.device_min_v:
        faults.append(
            f"{steady.device_v:.1f} V arrive at the device; class {poe_class.number} needs {poe_class.device_min_v:g} V"
        )
    pair_set_a = steady.current_a / (poe_class.pairs / 2)
    if pair_set_a > poe_class.pair_set_max_a + 1e-9:
        faults.append(
            f"{pair_set_a:.2f} A flow per pair set; type {poe_class.poe_type} allows {poe_class.pair_set_max_a:g} A"
        )
    return faults


def port_watts(
    school: School,
    poe_class: int,
    draw_w: float,
    loop_ohm: float,
    *,
    measured_w: float | None = None,
    port_v: float = PORT_VOLTS_DEFAULT,
) -> float:
    """Watts counted at the port for one device under a school of adding up, without margin [W].

    *class*: what the port reserves.  *rated*: the draw plus the loss in the loop.  *measured*: ``measured_w`` at the
    port, rated where none is.  A run that cannot deliver the draw counts what the class reserves.
    """
    reserved = POE_CLASSES[poe_class].port_w
    if school == "class":
        return reserved
    if school == "measured" and measured_w is not None:
        return measured_w
    steady = feed(draw_w, loop_ohm, port_v)
    return reserved if steady is None else steady.port_w


def half_watts_up_mw(watts: float) -> int:
    """``watts`` rounded up to the next half watt, in milliwatts: what the pick counts with."""
    return math.ceil(watts * 2.0 - 1e-9) * 500


AIR_W_PER_M_K = 8.0
JACKET_W_PER_M_K = 0.2
"""Heat given off by a bundle's surface and conducted inside it, in the shape of TIA TSB-184-A [3]_."""


def heat_w_per_m(pair_set_a: float, pairs: int, ohm_per_m: float = FIXED_OHM_PER_M) -> float:
    """Heat of one powered cable [W/m]: ``n·I_c²·r``, half of ``pair_set_a`` [A] in each of ``2·pairs`` conductors."""
    return 2 * pairs * (pair_set_a / 2.0) ** 2 * ohm_per_m


def bundle_rise_k(heat_w_per_m: float, bundle_mm: float) -> float:
    """How much warmer the middle of a bundle of powered cables gets [K], an estimate [3]_.

    ``heat_w_per_m``: of all its cables together; it gives ``q/(8·π·D)`` off to the air and holds ``q/(4·π·0.2)``
    inside.
    """
    outside = heat_w_per_m / (AIR_W_PER_M_K * math.pi * bundle_mm / 1000.0)
    return outside + heat_w_per_m / (4.0 * math.pi * JACKET_W_PER_M_K)


def poe_left_w(supplies_w: list[float], own_draw_w: float, lost: int = 0) -> float:
    """Watts left for PoE of a box with several supplies when the ``lost`` strongest of them fail."""
    surviving = sorted(supplies_w)[: len(supplies_w) - lost]
    return max(0.0, sum(surviving) - own_draw_w)
