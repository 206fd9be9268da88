"""Price in tables: parts, work, visits, positions of an offer, what was paid as CSV and XLSX; visits as iCalendar."""

from __future__ import annotations

from datetime import date, timedelta

from icalendar import Calendar, Event

from baugrund.core.price.actual import Actual
from baugrund.core.price.costs import JobCosts
from baugrund.core.price.moving import Moving
from baugrund.core.price.offer import OfferDocument
from baugrund.core.price.visits import Visits
from baugrund.core.words import plain_money

from .cells import shown
from .tables import write_csv, write_sheets

PARTS = ["Group", "Part", "Needed", "Spare", "There", "To buy", "Unit", "Packs", "Each holds", "Price of a pack",
         "Price", "Currency", "Price from", "Price list", "Edition", "Priced on", "In stock", "Lead days", "Brought by",
         "Still to buy", "Key"]  # fmt: skip
WORK = ["Stage", "Task", "Done by", "Count", "Unit", "Low h", "Usual h", "High h", "Mean h", "Rate", "Cost", "Currency",
        "Key"]  # fmt: skip
TOOLS = ["Tool", "Days", "It is", "Price", "Hire a day", "Cost", "Currency"]
MOVING = ["Step", "Phase", "Name", "What", "Interrupts", "Minutes each", "Times", "Way back"]
VISITS = ["Day", "Date", "Crew", "People", "Hours", "Idle h", "Job", "Place", "Job h", "Rooms", "Let in by", "Tools",
          "Bring"]  # fmt: skip
OFFER = ["Group", "Position", "Quantity", "Unit", "Price", "Currency"]
PAID = ["Part", "Planned", "Unit", "Planned price", "Ordered", "Delivered", "Paid for", "Paid", "By quantity",
        "By price", "By change", "Still to pay", "Currency", "Key"]  # fmt: skip


AMOUNTS = ("Price of a pack", "Price", "Rate", "Cost", "Planned price", "Paid", "By quantity", "By price", "By change",
           "Still to pay", "Hire a day")  # fmt: skip
"""Columns of money."""


def _money(minor: int | None, currency: str) -> str:
    """An amount in whole units with its decimals; empty: nobody knows it."""
    return "" if minor is None else plain_money(minor, currency)


def _as_numbers(rows: list[list[str]], head: list[str]) -> list[list[str]]:
    """The same with amounts that a spreadsheet adds up: without decimals that are nothing."""
    amounts = {place for place, name in enumerate(head) if name in AMOUNTS}
    return [[shown(float(cell)) if place in amounts and cell else cell for place, cell in enumerate(row)]
            for row in rows]  # fmt: skip


def parts_rows(costs: JobCosts) -> list[list[str]]:
    """Parts, one a line."""
    return [
        [part.group, part.name, shown(part.needed), shown(part.spare), shown(part.there), shown(part.to_buy), part.unit,
         str(part.packs), shown(part.holds), _money(part.each_minor, costs.currency),
         _money(part.total_minor, costs.currency), costs.currency,
         "unknown" if part.source == "none" else part.source, part.price_list, shown(part.edition), part.priced_on,
         "" if part.in_stock is None else "yes" if part.in_stock else "no", shown(part.lead_days), part.by,
         str(part.open_packs), part.key]
        for part in costs.parts
    ]  # fmt: skip


def work_rows(costs: JobCosts) -> list[list[str]]:
    """Tasks, one a line."""
    return [
        [line.stage, line.name, line.who, shown(line.count), line.unit,
         *(f"{round(hours, 4):.10g}" for hours in (line.hours.low_h, line.hours.usual_h, line.hours.high_h,
                                                   line.hours.mean_h)),
         _money(line.rate_minor, costs.currency), _money(line.cost_minor, costs.currency), costs.currency, line.key]
        for line in costs.labour.lines
    ]  # fmt: skip


def tool_rows(costs: JobCosts) -> list[list[str]]:
    """Tools of the owner's work, one a line."""
    return [
        [tool.name, str(tool.days), tool.how, *(_money(minor, costs.currency) for minor in (
            tool.buy_minor, tool.hire_minor, tool.cost_minor)), costs.currency]
        for tool in costs.own.given.tools
    ]  # fmt: skip


def visit_rows(visits: Visits) -> list[list[str]]:
    """Jobs of every visit, one a line."""
    return [
        [str(visit.day), visit.date, visit.crew, str(visit.people), shown(visit.hours), shown(visit.idle_h), job.name,
         job.place, shown(job.hours), ", ".join(visit.rooms), ", ".join(visit.let_in_by), ", ".join(visit.tools),
         ", ".join(visit.bring)]
        for visit in visits.visits
        for job in visit.jobs
    ]  # fmt: skip


def moving_rows(moving: Moving) -> list[list[str]]:
    """Steps of moving over, a line for each thing that they interrupt."""
    named = {one.key: one.name for one in moving.used}
    return [
        [str(number), step.phase, step.name, step.told, *said, step.way_back]
        for number, step in enumerate(moving.steps, 1)
        for said in [[named[down.key], shown(down.each_min), str(down.times)] for down in step.down] or [["", "", ""]]
    ]  # fmt: skip


def offer_rows(document: OfferDocument) -> list[list[str]]:
    """Positions of an offer, then its sums."""
    currency = document.currency
    rows = [
        [one.group, one.text, shown(one.quantity), one.unit, _money(one.minor, currency), currency]
        for one in document.positions
    ]
    sums = [("Sum", document.sum_minor), (f"Discount {document.discount_percent:g} %", -document.discount_minor),
            ("Without tax", document.net_minor), (f"Tax {document.tax_percent:g} %", document.tax_minor),
            ("Total", document.total_minor)]  # fmt: skip
    return rows + [["", name, "", "", _money(minor, currency), currency] for name, minor in sums]


def paid_rows(actual: Actual, currency: str) -> list[list[str]]:
    """Lines of the plan as they were paid."""
    return [
        [line.name, shown(line.planned), line.unit, _money(line.planned_minor, currency), shown(line.ordered),
         shown(line.delivered), shown(line.quantity), *(_money(minor, currency) for minor in (
             line.paid_minor, line.by_quantity_minor, line.by_price_minor, line.by_change_minor, line.still_minor
         )), currency, line.key]
        for line in actual.lines
    ]  # fmt: skip


def write_parts_csv(costs: JobCosts) -> str:
    """The parts as CSV."""
    return write_csv(PARTS, parts_rows(costs))


def write_work_csv(costs: JobCosts) -> str:
    """The work as CSV."""
    return write_csv(WORK, work_rows(costs))


def write_visits_csv(visits: Visits) -> str:
    """The visits as CSV."""
    return write_csv(VISITS, visit_rows(visits))


def write_moving_csv(moving: Moving) -> str:
    """The steps of moving over as CSV."""
    return write_csv(MOVING, moving_rows(moving))


def write_offer_csv(document: OfferDocument) -> str:
    """The positions of an offer as CSV."""
    return write_csv(OFFER, offer_rows(document))


def write_paid_csv(actual: Actual, currency: str) -> str:
    """What was paid as CSV."""
    return write_csv(PAID, paid_rows(actual, currency))


def write_price_xlsx(costs: JobCosts, actual: Actual) -> bytes:
    """Parts, work, tools of the owner and payments as a workbook of four sheets."""
    return write_sheets({
        "Parts": [PARTS, *_as_numbers(parts_rows(costs), PARTS)], "Work": [WORK, *_as_numbers(work_rows(costs), WORK)],
        "Tools": [TOOLS, *_as_numbers(tool_rows(costs), TOOLS)],
        "Paid": [PAID, *_as_numbers(paid_rows(actual, costs.currency), PAID)],
    })  # fmt: skip


def write_visits_ics(visits: Visits, project: str, project_id: int) -> bytes:
    """Visits whose date is known as iCalendar (RFC 5545), a day each."""
    calendar = Calendar()
    calendar.add("prodid", "-//Baugrund//Visits//EN")
    calendar.add("version", "2.0")
    for visit in visits.visits:
        if not visit.date:
            continue
        day = date.fromisoformat(visit.date)
        event = Event()
        event.add("uid", f"project-{project_id}-day-{visit.day}-{visit.crew.casefold().replace(' ', '-')}@baugrund")
        event.add("dtstamp", day)
        event.add("dtstart", day)
        event.add("dtend", day + timedelta(1))
        event.add("summary", f"{project}: {', '.join(dict.fromkeys(job.name for job in visit.jobs))}")
        event.add("location", ", ".join(visit.rooms))
        told = [f"{job.name}, {job.place}: {job.hours:g} h" for job in visit.jobs]
        if visit.let_in_by:
            told.append(f"Let in by {', '.join(visit.let_in_by)}")
        event.add("description", "\n".join([*told, f"Tools: {', '.join(visit.tools)}",
                                            f"Bring: {', '.join(visit.bring)}"]))  # fmt: skip
        calendar.add_component(event)
    return bytes(calendar.to_ical())
