"""The offer as the client reads it, what changed since it was sent, and the sheet for the workshop, as PDF."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence
from datetime import date, timedelta
from functools import partial
from html import escape
from pathlib import Path

from baugrund.core.facts.project import Project
from baugrund.core.price.costs import JobCosts
from baugrund.core.price.offer import OfferDocument, OfferTold, Variation
from baugrund.core.price.parts import PricedPart
from baugrund.core.price.visits import Visits

from ..drawings.scene import plan_scene
from ..drawings.svg import write_svg
from .figures import Numbers, amount, figure
from .pages import sentences, table, tick, write_pdf

AIMS = {"least_price": "Least price", "fewest_boxes": "Fewest boxes", "most_room": "Most room",
        "least_power": "Least power"}  # fmt: skip
CAUTIONS = (
    "Mains, earthing, bonding and surge protection are work for a licensed electrician and in this offer only where a "
    "position names them.",
    "Local codes and the standards in force at the time of the work hold.",
)
DRAWING_MM = 180


def write_offer(project: Project, told: OfferTold, fonts: Path | None, made: date) -> bytes:
    """An offer: as it was sent, else as it would be sent now."""
    document, numbers = told.sent or told.document, project.settings.numbers
    money = partial(amount, currency=document.currency, numbers=numbers)
    day = told.offer.day or made
    until = day + timedelta(document.valid_days)
    draft = "" if told.sent else "Draft. "
    lead = f"{draft}{document.client or 'To the client'} · {document.site} · valid until {until.isoformat()} ·"
    body = [
        "<h2>What is delivered</h2>",
        table(["Room", "Floor", "What"], [[escape(one.room), escape(one.floor), escape(one.text)]
                                          for one in document.rooms]),
        "<h2>Positions</h2>", *_positions(document, numbers), _sums(document, numbers),
    ]  # fmt: skip
    if document.open:
        body.append(sentences([f"Still without a price, and in no sum: {', '.join(document.open)}."]))
    if document.answers:
        body += [
            "<h2>Ways to do it</h2>",
            table(["", "Boxes", "Boxes alone", "Full in"], [
                [escape(AIMS[one.aim]) + (", offered here" if one.chosen else ""), escape("; ".join(one.boxes)),
                 money(one.price_minor), str(one.full_year or "after ten years")]
                for one in document.answers
            ], right=frozenset({2})),
        ]  # fmt: skip
    if document.phases:
        rows = [[escape(one.name), one.begins, one.ends, money(one.minor)] for one in document.phases]
        body += ["<h2>Phases</h2>", table(["Phase", "Begins", "Ends", "Without tax"], rows, right=frozenset({3}))]
    if document.payments:
        rows = [[escape(one.name), f"{figure(one.percent, 1, numbers)} %", money(one.minor)]
                for one in document.payments]  # fmt: skip
        body += ["<h2>Payment</h2>", table(["When", "Share", "With tax"], rows, right=frozenset({1, 2}))]
    body += [*_said("Not included", [*document.not_included.splitlines(), *document.brought]),
             *_said("Assumed", document.assumptions.splitlines()), sentences(CAUTIONS), *_plans(project),
             "<section class=keep><h2>Agreed</h2>",
             table(["For the client: day, name, signature", "For the installer: day, name, signature"],
                   [["<br><br><br>", ""]]), "</section>"]  # fmt: skip
    return write_pdf(f"Offer {document.number}: {document.project}", lead, body, fonts, day)


def _positions(document: OfferDocument, numbers: Numbers) -> Iterator[str]:
    groups: dict[str, list[list[str]]] = defaultdict(list)
    for one in document.positions:
        groups[one.group].append([
            escape(one.text), f"{figure(one.quantity, 1, numbers)} {escape(one.unit)}".strip(),
            amount(one.minor, document.currency, numbers),
        ])  # fmt: skip
    rows = [row for group, some in groups.items() for row in ([f"<b>{escape(group)}</b>", "", ""], *some)]
    yield table(["", "How many", "Price"], rows, right=frozenset({1, 2}))


def _sums(document: OfferDocument, numbers: Numbers) -> str:
    money = partial(amount, currency=document.currency, numbers=numbers)
    rows = [["Sum of the positions", money(document.sum_minor)]]
    if document.discount_minor:
        rows.append([f"Discount, {figure(document.discount_percent, 2, numbers)} %", money(-document.discount_minor)])
    rows += [["Without tax", money(document.net_minor)],
             [f"Tax, {figure(document.tax_percent, 2, numbers)} %", money(document.tax_minor)],
             ["<b>Total</b>", f"<b>{money(document.total_minor)}</b>"]]  # fmt: skip
    return f"<section class=keep>{table(['', ''], rows, right=frozenset({1}))}</section>"


def _said(head: str, lines: Sequence[str]) -> Iterator[str]:
    told = [line.strip() for line in lines if line.strip()]
    if told:
        yield f"<h2>{head}</h2>{sentences(told)}"


def _plans(project: Project) -> Iterator[str]:
    """Every floor on which something is delivered."""
    floors = {project.rooms_by_id[drop.room_id].floor_id for drop in project.drops}
    for floor in project.floors:
        if floor.id in floors:
            drawn = write_svg(plan_scene(project, floor), DRAWING_MM)
            yield f"<section class=keep><h2>{escape(floor.name)}</h2>{drawn}</section>"


def write_variation(project: Project, told: OfferTold, fonts: Path | None, made: date) -> bytes:
    """What changed since an offer was sent, as a list with its price."""
    numbers, currency = project.settings.numbers, project.settings.currency
    title = f"Variation of offer {told.offer.number}: {project.name}"
    if told.variation is None or not told.variation.lines:
        why = "Nothing changed since it was sent." if told.sent else "This offer was not sent yet."
        return write_pdf(title, project.site, [f"<p>{why}</p>"], fonts, made)
    body = [_varied(told.variation, currency, numbers)]
    return write_pdf(title, project.site, body, fonts, made)


def _varied(variation: Variation, currency: str, numbers: Numbers) -> str:
    money = partial(amount, currency=currency, numbers=numbers)

    def many(value: float | None, unit: str) -> str:
        return "–" if value is None else f"{figure(value, 1, numbers)} {escape(unit)}".strip()

    rows = [
        [escape(one.text), one.what, many(one.was_quantity, one.unit), many(one.quantity, one.unit),
         money(one.was_minor), money(one.minor), money(one.more_minor)]
        for one in variation.lines
    ]  # fmt: skip
    sums = [["More without tax", money(variation.more_net_minor)], ["More tax", money(variation.more_tax_minor)],
            ["<b>More in all</b>", f"<b>{money(variation.more_minor)}</b>"]]  # fmt: skip
    head = ["Position", "", "Was", "Is", "Was", "Is", "More"]
    return table(head, rows, right=frozenset({2, 3, 4, 5, 6})) + table(["", ""], sums, right=frozenset({1}))


def write_workshop(project: Project, costs: JobCosts, visits: Visits, fonts: Path | None, made: date) -> bytes:
    """For the workshop: what is still to be bought, supplier by supplier, and what every visit takes along."""
    numbers = project.settings.numbers
    body = ["<h2>To buy</h2>", *_by_supplier(costs, numbers), "<h2>Visits</h2>"]
    for visit in visits.visits:
        when = f"{visit.date}, " if visit.date else ""
        jobs = [f"{job.name}, {job.place}: {figure(job.hours, 1, numbers)} h" for job in visit.jobs]
        body.append(
            f"<section class=keep><h2>Day {visit.day}, {when}{escape(visit.crew)}</h2>{sentences(jobs)}"
            f"<p><b>Tools</b> {escape(', '.join(visit.tools) or 'none')}</p>"
            f"<p><b>Bring</b> {escape(', '.join(visit.bring) or 'nothing')}</p>"
            + (f"<p><b>Let in by</b> {escape(', '.join(visit.let_in_by))}</p>" if visit.let_in_by else "")
            + "</section>"
        )
    return write_pdf(f"{project.name}: workshop", f"{project.site} · amounts without tax ·", body, fonts, made)


def _by_supplier(costs: JobCosts, numbers: Numbers) -> Iterator[str]:
    suppliers: dict[str, list[PricedPart]] = defaultdict(list)
    for part in costs.parts:
        if part.open_packs:
            where = part.price_list or "No price list"
            suppliers[where if part.by == "installer" else f"Brought by the {part.by}"].append(part)
    for supplier, parts in suppliers.items():
        rows = [
            [tick(False), escape(part.name), f"{part.open_packs}",
             f"{figure(part.holds, 2, numbers)} {escape(part.unit)}".strip() if part.holds != 1 else escape(part.unit),
             amount(part.each_minor, costs.currency, numbers), amount(part.open_minor, costs.currency, numbers),
             "" if part.in_stock is not False else "out of stock",
             f"{part.lead_days} d" if part.lead_days is not None else ""]
            for part in parts
        ]  # fmt: skip
        head = ["", escape(supplier), "Packs", "Each holds", "Each", "Price", "", "Lead"]
        yield table(head, rows, right=frozenset({2, 3, 4, 5}))
