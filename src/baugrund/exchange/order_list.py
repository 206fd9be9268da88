"""The order of work and the bench as lists: every subject of every step, and every device."""

from __future__ import annotations

from datetime import datetime

from baugrund.core.prove.bench import Bench, kind_name
from baugrund.core.prove.order.told import OrderOfWork

from .cells import shown
from .tables import OutTable

ORDER_HEAD = ["Phase", "Stage", "Step", "What", "State", "At", "By", "Why", "Who", "Hours of the step", "Waits for"]
BENCH_HEAD = [
    "Device", "Kind", "Where", "Label", "Host name", "Address", "Model", "Switched on", "Named", "Up to date",
    "Version", "Serial", "Hardware address", "By", "At", "Clash",
]  # fmt: skip


def _at(at: datetime | None) -> str:
    return f"{at:%Y-%m-%d %H:%M}" if at else ""


def _order_rows(told: OrderOfWork) -> list[list[str]]:
    return [
        [phase.name, stage.name, step.name, one.name, one.state, _at(one.at), one.by, one.why, step.who,
         shown(round(step.hours, 2)), ", ".join(step.waits_for)]
        for phase in told.phases for stage in phase.stages for step in stage.steps for one in step.subjects
    ]  # fmt: skip


def order_table(told: OrderOfWork) -> OutTable:
    """A line a thing that is done in a stage, in the order of work."""
    return OutTable("Order of work", ORDER_HEAD, _order_rows(told))


def _bench_rows(told: Bench) -> list[list[str]]:
    said = {True: "yes", False: ""}
    return [
        [one.name, kind_name(one.kind), one.where, one.label, one.host, one.address, one.model, said[one.powered],
         said[one.named], said[one.updated], one.version, one.serial, one.hardware, one.by, _at(one.at), one.clash]
        for one in told.devices
    ]  # fmt: skip


def bench_table(told: Bench) -> OutTable:
    """A line a device; what nobody has written down stays empty."""
    return OutTable("Bench", BENCH_HEAD, _bench_rows(told))
