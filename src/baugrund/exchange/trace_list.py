"""Jacks as they were traced, as a list: a line a jack."""

from __future__ import annotations

from baugrund.core.prove.tracing.told import Tracing

from .tables import OutTable

HEAD = ["Closet", "Jack", "Room", "Service", "State", "Position", "Most likely", "Chance", "Read so far"]


def tracing_table(told: Tracing) -> OutTable:
    """Every jack of every panel that is traced; where nobody knows yet, its position stays empty."""
    rows = []
    for panel in told.panels:
        for jack in panel.jacks:
            best = jack.likely[0] if jack.likely and jack.state == "open" else None
            rows.append([
                panel.name, jack.name, jack.room, jack.service, jack.state,
                panel.positions[jack.position - 1] if jack.position else "",
                panel.positions[best.position - 1] if best else "", f"{best.chance:.3f}" if best else "",
                "; ".join(jack.readings),
            ])  # fmt: skip
    return OutTable("Tracing", HEAD, rows)
