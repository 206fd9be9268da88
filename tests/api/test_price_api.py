"""Price over HTTP: what a job costs, offers that are sent, hours of other projects, payments, and files to take along."""

import csv
import io

import pytest
from icalendar import Calendar
from openpyxl import load_workbook

from .conftest import picked
from .test_api import edit


def rows_of(answer):
    assert answer.status_code == 200 and "attachment" in answer.headers["content-disposition"]
    return list(csv.DictReader(io.StringIO(answer.text.lstrip("\ufeff"))))


def price_of(http, project):
    answer = http.get(f"/api/projects/{project}/price")
    assert answer.status_code == 200
    return answer.json()


def test_sums_are_those_of_the_files(http, works):
    """A second computation over the workbook: every line its packs times their price, all lines their sum."""
    picked(http, works)
    told = price_of(http, works)
    book = load_workbook(io.BytesIO(http.get(f"/api/projects/{works}/price/price.xlsx").content))
    parts = [dict(zip([cell.value for cell in book["Parts"][1]], [cell.value for cell in row], strict=True))
             for row in book["Parts"].iter_rows(min_row=2)]  # fmt: skip
    for part in parts:
        assert round(part["Packs"] * part["Price of a pack"], 2) == part["Price"]
        assert part["To buy"] <= part["Packs"] * part["Each holds"] < part["To buy"] + part["Each holds"] + 1e-9
        assert part["Needed"] + part["Spare"] - part["There"] == pytest.approx(part["To buy"])
    assert round(100 * sum(part["Price"] for part in parts)) == told["parts_minor"]
    work = [[cell.value for cell in row] for row in book["Work"].iter_rows(min_row=2)]
    assert round(100 * sum(row[10] for row in work)) == told["labour"]["cost"]["mean_minor"]
    tools = round(100 * sum(row[5].value for row in book["Tools"].iter_rows(min_row=2)))
    assert told["one_off"]["mean_minor"] == told["parts_minor"] + told["labour"]["cost"]["mean_minor"] + tools
    for row in work:
        # mean hours times the rate, to the last minor unit
        assert abs(row[8] * row[9] - row[10]) < 0.006 + 0.00005 * row[9]
    listed = rows_of(http.get(f"/api/projects/{works}/price/parts.csv"))
    assert [row["Price"] for row in listed] == [f"{part['Price']:.2f}" for part in parts]
    assert len(rows_of(http.get(f"/api/projects/{works}/price/work.csv"))) == len(work)


def test_money_on_the_ground_is_the_price_of_the_whole_job(http, works):
    picked(http, works)
    told = price_of(http, works)
    pits = edit(http, works, 0, {"type": "rename", "name": "Works"}).json()["balance"]["site"]
    money = next(pit for pit in pits if pit["key"] == "money")
    assert round(100 * (money["used"] + money["growth"])) == told["one_off"]["mean_minor"]
    assert money["growth"] > 0, "later phases are hatched"
    opened = http.get(f"/api/projects/{works}/closets/1/capacities/money").json()
    assert round(100 * sum(share["amount"] for share in opened["shares"])) == told["one_off"]["mean_minor"]


def test_an_offer_is_sent_changed_and_told_line_by_line(http, works):
    picked(http, works)
    (before,) = price_of(http, works)["offers"]
    assert before["offer"]["state"] == "sent" and len(before["variation"]["lines"]) == 3
    number = before["offer"]["id"]
    sums = {
        row["Position"]: row["Price"] for row in rows_of(http.get(f"/api/projects/{works}/price/offer.csv?of={number}"))
    }
    assert float(sums["Total"]) * 100 == pytest.approx(before["sent"]["total_minor"])
    again = {"type": "change_entry", "list": "offers", "id": number, "changes": {"sent": "{}"}}
    assert "stays as it was" in edit(http, works, 0, again).json()["detail"]
    add = {"type": "add_entry", "list": "offers", "values": {"number": "2026-015"}}
    assert edit(http, works, 0, add).status_code == 200
    draft = price_of(http, works)["offers"][-1]
    assert edit(http, works, 1, draft["edit"]).status_code == 200
    assert price_of(http, works)["offers"][-1]["sent"] == draft["document"]
    assert http.get(f"/api/projects/{works}/price/offer.csv?of=999").status_code == 404


def test_visits_phases_and_the_choice_are_looked_for_and_taken_along(http, works):
    picked(http, works)
    calendar = Calendar.from_ical(http.get(f"/api/projects/{works}/price/visits.ics").content)
    visits = http.get(f"/api/projects/{works}/price/visits").json()["reply"]
    events = calendar.walk("VEVENT")
    assert [event.decoded("dtstart").isoformat() for event in events] == [one["date"] for one in visits["visits"]]
    assert len({str(event["uid"]) for event in events}) == len(events)
    rows = rows_of(http.get(f"/api/projects/{works}/price/visits.csv"))
    assert len(rows) == sum(len(one["jobs"]) for one in visits["visits"])
    for question, key in (("phases", "phases"), ("phases-by-budget", "phases"), ("kept", "kept")):
        found = None
        while found is None:
            found = http.get(f"/api/projects/{works}/price/{question}").json()["reply"]
        assert found[key]


def test_the_steps_of_moving_over_are_told_and_taken_along(http, works):
    picked(http, works)
    told = http.get(f"/api/projects/{works}/price/moving").json()
    rows = rows_of(http.get(f"/api/projects/{works}/price/moving.csv"))
    assert len(rows) == sum(max(1, len(step["down"])) for step in told["steps"])
    minutes = sum(float(row["Minutes each"] or 0) * int(row["Times"] or 0) for row in rows)
    assert minutes == sum(one["total_min"] for one in told["used"])
    assert [row["Name"] for row in rows if row["Interrupts"] == "Internet"] == ["Fibre line moves"]


def test_hours_of_other_projects_are_offered(http, works, projects, row_house):
    other = projects.create(row_house.changed(worked=()))
    told = http.get(f"/api/projects/{other}/price/house-rates").json()
    rates = {one["task"]: one for one in told["rates"]}
    assert told["projects"] >= 1 and rates["dig_duct"]["measured_h"] >= 20.25
    assert rates["dig_duct"]["rate_h"] == pytest.approx(0.8 * rates["dig_duct"]["factor"], abs=1e-4)
    assert "box" not in rates, "nobody counted what was done in those hours"


def test_payments_come_in_as_a_list_all_or_nothing(http, house):
    picked(http, house)
    address = f"/api/projects/{house}/price/paid/read"
    table = "Part,Paid for,Paid,Currency,Supplier\njack,3,16.80,EUR,Counter\nParking,1,12,EUR,\n"
    read = http.post(address, content=table.encode(), headers={"Content-Type": "text/csv"}).json()
    known, other = (one["values"] for one in read["edits"])
    assert (known["part"], known["paid_minor"], known["supplier"]) == ("part/jack", 1680, "Counter")
    assert (other["part"], other["name"]) == ("other/Parking", "Parking")
    before = price_of(http, house)["actual"]
    assert edit(http, house, 0, *read["edits"]).status_code == 200
    after = price_of(http, house)["actual"]
    assert after["paid_minor"] == before["paid_minor"] + 1680 + 1200
    listed = rows_of(http.get(f"/api/projects/{house}/price/paid.csv"))
    assert any(row["Key"] == "other/Parking" and row["Paid"] == "12.00" for row in listed)
    for wrong, said in ((b"Part,Paid,Currency\njack,3,USD\n", "line 2: Currency: it is USD; the project is in EUR"),
                        (b"Part,Paid for\njack,-2\n", "line 2: Paid for"), (b"Part,Paid\n,3\n", "line 2: Part is empty"),
                        (b"Thing,Paid\njack,3\n", "no column Part")):  # fmt: skip
        answer = http.post(address, content=wrong, headers={"Content-Type": "text/csv"})
        assert answer.status_code == 422 and said in answer.json()["detail"]
