"""Actual against planned: what was ordered, delivered and paid of every line, and why the sums differ.

A difference is told by its causes so that they add up to it: the quantity (more or fewer at the planned price), the
price (dearer or cheaper for what was bought), and a change (paid for what was not planned).
"""

from __future__ import annotations

from collections import defaultdict

from ..facts.fact import Fact
from ..facts.price import Paid
from ..facts.project import Project
from .costs import JobCosts


class ActualLine(Fact):
    """A line of the plan, or one that was not planned, as it was paid.  Money in minor units without tax."""

    key: str
    name: str
    unit: str
    planned: float
    planned_minor: int | None
    """None: no price was known."""
    ordered: float
    delivered: float
    quantity: float
    paid_minor: int
    by_quantity_minor: int
    by_price_minor: int
    by_change_minor: int
    still_minor: int
    """Planned, and still to be paid."""
    settled: bool
    """All that was planned is paid for, or nothing more is to come."""


class Actual(Fact):
    """All lines, and their sums."""

    lines: tuple[ActualLine, ...]
    planned_minor: int
    """Of what is paid for."""
    paid_minor: int
    by_quantity_minor: int
    by_price_minor: int
    by_change_minor: int
    still_minor: int


def actual_of(project: Project, costs: JobCosts) -> Actual:
    """What was paid for the parts and the work of a project, line by line; hours worked cost what they are charged."""
    paid: dict[str, list[Paid]] = defaultdict(list)
    for row in project.paid:
        paid[row.part].append(row)
    lines = [
        _line(part.key, part.name, part.unit, part.to_buy, part.total_minor, paid.pop(part.key, []))
        for part in costs.parts
        if part.packs or part.key in paid
    ]
    for work in costs.labour.lines:
        lines.append(
            _line(work.key, work.name, "h", work.hours.mean_h, work.cost_minor, paid.pop(work.key, []))
        )  # fmt: skip
    for tool in costs.own.given.tools:
        key = f"tool/{tool.name}"
        lines.append(_line(key, tool.name, "", float(tool.how != "there"), tool.cost_minor, paid.pop(key, [])))
    lines += [_line(key, next((row.name for row in rows if row.name), key), "", 0.0, 0, rows)
              for key, rows in paid.items()]  # fmt: skip
    planned, still = sum(line.planned_minor or 0 for line in lines), sum(line.still_minor for line in lines)
    return Actual(
        lines=tuple(lines), planned_minor=planned - still, paid_minor=sum(line.paid_minor for line in lines),
        by_quantity_minor=sum(line.by_quantity_minor for line in lines),
        by_price_minor=sum(line.by_price_minor for line in lines),
        by_change_minor=sum(line.by_change_minor for line in lines), still_minor=still,
    )  # fmt: skip


def _line(
    key: str, name: str, unit: str, planned: float, planned_minor: int | None, rows: list[Paid]
) -> ActualLine:  # fmt: skip
    quantity, minor = sum(row.quantity or 0.0 for row in rows), sum(row.paid_minor or 0 for row in rows)
    counted = any(row.quantity is not None for row in rows)
    settled = any(row.final for row in rows) or (bool(planned) and quantity >= planned - 1e-9)
    by_quantity = by_price = by_change = 0
    still = 0 if settled else planned_minor or 0
    if planned and planned_minor is not None and (settled or quantity or minor):
        if not counted:
            # nobody said how many were paid for: what is paid counts for what was planned, and only more is dearer
            by_price = minor - planned_minor if settled else max(0, minor - planned_minor)
            still = 0 if settled else max(0, planned_minor - minor)
        else:
            at_plan = round(planned_minor * quantity / planned)
            by_price = minor - at_plan
            if settled:
                by_quantity = at_plan - planned_minor
            else:
                still = planned_minor - at_plan
    elif quantity or minor:
        by_change, still = minor, 0
    return ActualLine(
        key=key, name=name, unit=unit, planned=planned, planned_minor=planned_minor,
        ordered=sum(row.ordered or 0.0 for row in rows), delivered=sum(row.delivered or 0.0 for row in rows),
        quantity=quantity, paid_minor=minor, by_quantity_minor=by_quantity, by_price_minor=by_price,
        by_change_minor=by_change, still_minor=still, settled=settled,
    )  # fmt: skip
