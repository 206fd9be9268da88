"""The channels of access points as a list: a line a radio that is on."""

from __future__ import annotations

from baugrund.core.signal.told import Signal

from .cells import shown
from .tables import write_csv

HEAD = [
    "Access point", "Model", "Band GHz", "Channel", "Width MHz", "Power dBm", "EIRP dBm", "Clients", "Own time %",
    "Others' time %", "Neighbours' time %",
]  # fmt: skip


def write_channels_csv(told: Signal) -> str:
    """Every radio with its channel and airtime as CSV."""
    return write_csv(HEAD, [
        [
            station.name, station.model, radio.band, shown(radio.channel), shown(radio.width_mhz),
            shown(radio.power_dbm), shown(radio.eirp_dbm), f"{radio.associated:.1f}", f"{100 * radio.own:.2f}",
            f"{100 * radio.shared:.2f}", f"{100 * radio.neighbours:.2f}",
        ]
        for station in told.stations
        for radio in station.radios
    ])  # fmt: skip
