"""What Price takes along: tables that read back to the figures they were written from, a calendar that others take."""

import csv
import io
import re
from datetime import date, timedelta

import pytest
from icalendar import Calendar
from openpyxl import load_workbook

from baugrund.core.answers.picker import Picker, standing_boxes
from baugrund.core.edits import AddEntry, ChangeSettings, apply_edits
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.project import Project
from baugrund.core.price.actual import actual_of
from baugrund.core.price.costs import JobCosts, costs_of
from baugrund.core.price.moving import moving_of
from baugrund.core.price.offer import document_of, offers_of
from baugrund.core.price.visits import JobLine, Visit, Visits
from baugrund.core.stack.told import stack_of
from baugrund.core.standing.ground import grounds_of
from baugrund.exchange.paid_list import read_paid
from baugrund.exchange.price_files import (
    AMOUNTS,
    write_moving_csv,
    write_offer_csv,
    write_paid_csv,
    write_parts_csv,
    write_price_xlsx,
    write_visits_csv,
    write_visits_ics,
    write_work_csv,
)
from baugrund.exchange.tables import read_table


def lines_of(text):
    return list(csv.DictReader(io.StringIO(text)))


def told(project, catalogue):
    answer = Picker(project, catalogue).answer("least_price")
    grounds = grounds_of(project, catalogue, standing_boxes(project, catalogue, answer.standing()))
    return grounds, costs_of(project, catalogue, grounds, stack_of(project, catalogue, grounds))


@pytest.fixture(scope="module")
def house(row_house, catalogue):
    """The row house with something of every kind to write."""
    project = apply_edits(row_house, [
        AddEntry(list="task_terms", values={"task": "terminate", "who": "owner"}),
        AddEntry(list="offers", values={"number": "7", "discount_percent": 2.5}),
        AddEntry(list="running", values={"name": "Internet, for work", "kind": "internet"}),
        AddEntry(list="part_terms", values={"part": "part/jack", "by": "client", "note": "=1+1; from the cellar"}),
    ])  # fmt: skip
    return project, *told(project, catalogue)


def minor(text):
    return round(100 * float(text))


def test_parts_read_back_to_their_counts_and_prices(house):
    _, _, costs = house
    rows = {row["Key"]: row for row in lines_of(write_parts_csv(costs))}
    assert list(rows) == [part.key for part in costs.parts]
    for part in costs.parts:
        row = rows[part.key]
        assert float(row["Needed"]) == pytest.approx(part.needed) and float(row["Spare"]) == part.spare
        assert float(row["To buy"]) == pytest.approx(part.to_buy) and int(row["Packs"]) == part.packs
        assert minor(row["Price"]) == part.total_minor and row["Brought by"] == part.by
        assert row["Currency"] == "EUR"
    assert rows["part/jack"]["Brought by"] == "client"


def test_a_price_that_nobody_knows_is_empty_and_said(house, catalogue):
    project = house[0]
    without = catalogue.model_copy(update={"models": tuple(m for m in catalogue.models if m.key != "panel-jack")})
    _, costs = told(project, without)
    row = next(row for row in lines_of(write_parts_csv(costs)) if row["Key"] == "part/panel jack")
    assert (row["Price"], row["Price of a pack"], row["Price from"]) == ("", "", "unknown")


def test_work_reads_back_to_its_hours(house):
    _, _, costs = house
    rows = lines_of(write_work_csv(costs))
    assert [row["Key"] for row in rows] == [line.key for line in costs.labour.lines]
    for row, line in zip(rows, costs.labour.lines, strict=True):
        low, usual, high, mean = (float(row[f"{name} h"]) for name in ("Low", "Usual", "High", "Mean"))
        assert low == pytest.approx(0.7 * usual, abs=1e-3) and high == pytest.approx(1.6 * usual, abs=1e-3)
        assert mean == pytest.approx((low + 4 * usual + high) / 6, abs=1e-3)
        assert minor(row["Cost"]) == line.cost_minor and row["Done by"] == line.who
    assert {row["Done by"] for row in rows} == {"installer", "owner"}


def test_the_workbook_holds_numbers_that_a_spreadsheet_adds_up(house):
    project, _, costs = house
    book = load_workbook(io.BytesIO(write_price_xlsx(costs, actual_of(project, costs))))
    assert book.sheetnames == ["Parts", "Work", "Tools", "Paid"]
    for sheet in book:
        head = [cell.value for cell in sheet[1]]
        for row in sheet.iter_rows(min_row=2, values_only=True):
            for name, value in zip(head, row, strict=True):
                if name in AMOUNTS and value is not None:
                    assert isinstance(value, int | float), (sheet.title, name, value)
    tools = [row for row in book["Tools"].iter_rows(min_row=2, values_only=True)]
    assert {row[0] for row in tools} == {"stripper, punch-down tool, cutter", "crimping tool"}
    assert round(100 * sum(row[5] for row in tools)) == costs.own.given.tools_minor


def test_money_of_a_currency_without_cents_has_none(row_house, catalogue):
    yen = apply_edits(row_house, [ChangeSettings(changes={"currency": "JPY"})])
    _, costs = told(yen, catalogue)
    row = next(row for row in lines_of(write_parts_csv(costs)) if row["Key"] == "part/jack")
    assert row["Price"] == "6160" and row["Currency"] == "JPY"


def test_an_offer_ends_with_its_sums(house):
    project, _, costs = house
    document = document_of(project, costs, project.offers[-1], {})
    rows = lines_of(write_offer_csv(document))
    sums = {row["Position"]: minor(row["Price"]) for row in rows[-5:]}
    assert list(sums) == ["Sum", "Discount 2.5 %", "Without tax", "Tax 19 %", "Total"]
    assert sums["Sum"] == sum(minor(row["Price"]) for row in rows[:-5])
    assert sums["Sum"] + sums["Discount 2.5 %"] == sums["Without tax"]
    assert sums["Without tax"] + sums["Tax 19 %"] == sums["Total"] == document.total_minor
    assert not [row for row in rows if row["Position"] == "Jack"], "the client brings the jacks"


def test_steps_of_moving_over_are_a_line_for_each_thing_they_interrupt(house):
    project, grounds, _ = house
    moving = moving_of(project, grounds)
    rows = lines_of(write_moving_csv(moving))
    assert [row["Step"] for row in rows] == sorted((row["Step"] for row in rows), key=int)
    interrupted = [row for row in rows if row["Interrupts"] == "Internet, for work"]
    assert [float(row["Minutes each"]) for row in interrupted] == [moving.used[0].longest_min]
    assert all(row["Way back"] for row in rows)


def visit(day, when, *jobs, **values):
    given = {"crew": "Van & Co", "who": "installer", "people": 2, "hours": 3.0, "idle_h": 4.25, "rooms": ("Hall", "Attic"),
             "let_in_by": (), "tools": ("ladder",), "bring": ("3 jack",)} | values  # fmt: skip
    lines = tuple(JobLine(stage=stage, name=name, place=place, hours=1.5, drop_ids=()) for stage, name, place in jobs)
    return Visit(day=day, date=when, jobs=lines, **given)


TWO = Visits(
    visits=(
        visit(1, "2026-06-05", ("survey", "Survey", "Hall"), ("pull", "Pulling, part 1 of 2", "Hall, Rack; left side"),
              let_in_by=("Ada, next door",)),
        visit(2, "2026-06-08", ("test", "Testing and tracing", "Rack")),
        visit(3, "", ("clear_away", "Clearing away", "Hall")),
    ),
    waits=(), days=3, bound=3, proven=True, ends="2026-06-08", idle_h=12.75, travel_h=4.5,
)  # fmt: skip


def test_a_calendar_has_a_day_for_every_visit_whose_date_is_known():
    raw = write_visits_ics(TWO, "Row house", 12)
    events = Calendar.from_ical(raw).walk("VEVENT")
    assert [event.decoded("dtstart") for event in events] == [date(2026, 6, 5), date(2026, 6, 8)]
    assert all(event.decoded("dtend") - event.decoded("dtstart") == timedelta(1) for event in events)
    assert len({str(event["uid"]) for event in events}) == 2
    assert "Pulling, part 1 of 2, Hall, Rack; left side: 1.5 h" in str(events[0]["description"])
    assert "Let in by Ada, next door" in str(events[0]["description"])


def test_a_calendar_is_written_as_its_standard_asks():
    """RFC 5545: CRLF, lines of 75 octets at most, commas and semicolons of a text marked."""
    raw = write_visits_ics(TWO, "Row house", 12)
    lines = raw.split(b"\r\n")
    assert b"\n" not in raw.replace(b"\r\n", b"") and all(len(line) <= 75 for line in lines)
    unfolded = re.sub(rb"\r\n[ \t]", b"", raw).decode()
    assert "LOCATION:Hall\\, Attic" in unfolded and "Rack\\; left side" in unfolded
    assert unfolded.startswith("BEGIN:VCALENDAR") and "VERSION:2.0" in unfolded and "PRODID:" in unfolded


def test_visits_are_a_line_a_job():
    rows = lines_of(write_visits_csv(TWO))
    assert [(row["Day"], row["Job"]) for row in rows] == [
        ("1", "Survey"), ("1", "Pulling, part 1 of 2"), ("2", "Testing and tracing"), ("3", "Clearing away"),
    ]  # fmt: skip
    assert rows[0]["Let in by"] == "Ada, next door" and rows[3]["Date"] == ""


def test_cells_are_no_formulas(row_house, catalogue):
    project = apply_edits(row_house, [
        AddEntry(list="paid", values={"part": "other/x", "name": "=HYPERLINK(1)", "paid_minor": 100}),
        AddEntry(list="extra_work", values={"name": "@SUM(A1)", "count": 1}),
    ])  # fmt: skip
    _, costs = told(project, catalogue)
    for text in (write_paid_csv(actual_of(project, costs), "EUR"), write_work_csv(costs)):
        assert not re.search(r"(^|,)\"?[=@]", text, re.M)


def paid_of(project: Project, costs: JobCosts, text: str):
    return read_paid(read_table(text.encode()), project, costs)


def test_what_was_written_of_payments_reads_in_again(house):
    project, _, costs = house
    rows = write_paid_csv(actual_of(project, costs), "EUR").splitlines()
    edits = paid_of(project, costs, "\n".join(rows[:6]))
    assert [edit.values["part"] for edit in edits] == [line.key for line in actual_of(project, costs).lines[:5]]


@pytest.mark.parametrize(
    ("line", "said"),
    [
        ("jack,-1,5,EUR", "line 2: Paid for"),
        ("jack,1,-5,EUR", "line 2: Paid"),
        ("jack,one,5,EUR", "line 2: Paid for: “one” is not a number"),
        ("jack,1,5,CHF", "line 2: Currency: it is CHF; the project is in EUR"),
        (",1,5,EUR", "line 2: Part is empty"),
    ],
)
def test_a_payment_that_cannot_be_is_said_where_it_stands_and_nothing_is_taken(house, line, said):
    project, _, costs = house
    with pytest.raises(InvalidInput, match=re.escape(said)):
        paid_of(project, costs, f"Part,Paid for,Paid,Currency\n{line}\njack,1,5,EUR\n")


def test_parts_are_known_by_key_and_by_name_whatever_capitals(house):
    project, _, costs = house
    edits = paid_of(project, costs, "Part,Paid\nJACK,5\npart/panel jack,6\nParking,7\nterminate a jack or plug,8\n")
    assert [edit.values["part"] for edit in edits] == [
        "part/jack", "part/panel jack", "other/Parking", "task/terminate/owner",
    ]  # fmt: skip
    assert [edit.values["paid_minor"] for edit in edits] == [500, 600, 700, 800]


def test_an_offer_that_was_sent_is_written_as_it_was(dye_works, catalogue):
    _, costs = told(dye_works, catalogue)
    (offer,) = offers_of(dye_works, costs, {})
    sent, now = (lines_of(write_offer_csv(some)) for some in (offer.sent, offer.document))
    assert sent[-1]["Price"] != now[-1]["Price"]
    assert minor(now[-1]["Price"]) - minor(sent[-1]["Price"]) == offer.document.total_minor - offer.sent.total_minor
