"""Nameplates: what a transformer or plug supply says of itself, and whether that can be."""

from __future__ import annotations

import re

VOLTS = (5.0, 60.0)
"""Usual output of a bell transformer or plug supply [V]."""
DOORBELL_LEAST_V = 12.0
"""Under this a powered door station does not start, *default*."""
_FIGURE = re.compile(
    r"(\d+(?:[.,]\d+)?)\s*(kva|va|kw|mw|w|ma|kv|mv|v|a)(?: ?(?:ac|dc|~|⎓|=))?(?![a-z0-9])", re.IGNORECASE
)
_SCALE = {"k": 1000.0, "m": 0.001}


def read_nameplate(text: str) -> dict[str, float]:
    """Figures of a nameplate in base units: ``16 V 10 VA`` and ``16VAC 10VA`` give V 16 and VA 10; volts, amperes, VA
    or W."""
    found: dict[str, float] = {}
    for number, unit in _FIGURE.findall(text):
        lower = unit.lower()
        scale = _SCALE.get(lower[0], 1.0) if len(lower) > 1 and lower != "va" else 1.0
        base = lower[1:] if scale != 1.0 else lower
        found.setdefault(base.upper(), float(number.replace(",", ".")) * scale)
    return found


def doubts(text: str) -> str:
    """One sentence on what cannot be right or will not do; empty: nothing to say."""
    if not text.strip():
        return ""
    figures = read_nameplate(text)
    if "V" not in figures:
        return "no volts are on it; read it again."
    volts = figures["V"]
    power = figures.get("VA", figures.get("W"))
    if not VOLTS[0] <= volts <= VOLTS[1]:
        return f"{volts:g} V is not what a bell transformer or plug supply gives; read the output side."
    if power is not None and not 0.5 <= power <= 200:
        return f"{power:g} VA is odd for such a supply; check the unit."
    if power is not None and "A" in figures and not 0.5 <= volts * figures["A"] / power <= 1.5:
        return f"{volts:g} V × {figures['A']:g} A is {volts * figures['A']:.1f} VA, not {power:g}; check the units."
    if volts < DOORBELL_LEAST_V:
        return f"{volts:g} V is too little for a powered door station; most want {DOORBELL_LEAST_V:g} V or more."
    return ""
