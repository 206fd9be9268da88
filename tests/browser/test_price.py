"""Price: a part gets its price and who brings it, hours go in on a phone, phases are moved, an offer is sent, bills come in."""

import pytest
from playwright.sync_api import expect

from .controls import choose


def saved(page, revision):
    expect(page.get_by_role("status").filter(has_text=f"revision {revision}, saved")).to_be_visible()


def test_a_part_gets_its_price_and_who_brings_it(page, works, projects):
    page.goto(f"/projects/{works}/price")
    parts = page.get_by_role("table", name="Parts")
    parts.get_by_role("button", name="jack", exact=True).press("Enter")
    sheet = page.get_by_role("region", name="jack", exact=True)
    expect(sheet.get_by_text("House list")).to_be_visible()
    price = sheet.get_by_label("Own price of one")
    price.fill("9.5")
    price.press("Enter")
    saved(page, 1)
    row = parts.get_by_role("row").filter(has_text="own price").filter(has_text="€ 237.50")
    expect(row).to_be_visible()
    choose(sheet, "Brought by", "client")
    saved(page, 2)
    term = next(one for one in projects.load(works).project.part_terms if one.part == "part/jack")
    assert (term.price_minor, term.by) == (950, "client")
    # what could go is chosen, and waits for the last phase with one press
    page.get_by_role("button", name="They wait for glaze shed").click()
    saved(page, 3)
    waiting = [drop for drop in projects.load(works).project.drops if drop.wanted == "could"]
    assert any(drop.phase_id == projects.load(works).project.phases[-1].id for drop in waiting)


def test_hours_are_written_down_on_a_phone(page, works, projects):
    page.set_viewport_size({"width": 360, "height": 740})
    page.goto(f"/projects/{works}/price/work")
    book = page.get_by_role("region", name="Hours worked")
    choose(book, "Task", "terminate a jack or plug")
    book.get_by_label("Hours", exact=True).fill("1,5")
    book.get_by_label("Done", exact=True).fill("9")
    book.get_by_label("By", exact=True).fill("Cleo")
    book.get_by_role("button", name="Write down").click()
    saved(page, 1)
    expect(book.get_by_text("1.5 h, 9")).to_be_visible()
    row = projects.load(works).project.worked[-1]
    assert (row.task, row.hours, row.count, row.by) == ("terminate", 1.5, 9, "Cleo")
    off = page.get_by_role("region", name="Estimated against actual")
    line = off.get_by_role("listitem").filter(has_text="terminate a jack or plug")
    expect(line.get_by_text("29 of 46")).to_be_visible()
    line.get_by_role("button", name="Use this rate").click()
    saved(page, 2)
    assert projects.load(works).project.task_rates[-1].hours > 0.13


def test_a_task_is_given_to_the_owner_and_a_wait_is_listed(page, works, projects):
    page.goto(f"/projects/{works}/price/work")
    choose(page, "Done by: take down a thing that goes", "owner")
    saved(page, 1)
    page.goto(f"/projects/{works}/price/visits")
    expect(page.get_by_text("no plan has fewer")).to_be_visible()
    expect(page.get_by_text("shop on duty").first).to_be_visible()
    wait = page.get_by_label("Waiting for others: Add something that work waits for")
    wait.fill("Keys of the shed")
    wait.press("Enter")
    saved(page, 2)
    assert projects.load(works).project.waits[-1].name == "Keys of the shed"


def test_the_owner_takes_a_stage_and_a_tool_is_there(page, works, projects):
    page.goto(f"/projects/{works}/price/work")
    own = page.get_by_role("region", name="Doing it oneself")
    own.get_by_role("button", name="The owner does it: Punching down").click()
    saved(page, 1)
    assert ("punch_down", "owner") in {(one.task, one.who) for one in projects.load(works).project.task_terms}
    expect(own.get_by_text("paid once")).to_contain_text("€ 65")
    own.get_by_label("There already: stripper, punch-down tool, cutter").check()
    saved(page, 2)
    expect(own.get_by_text("paid once")).to_have_count(0)


def test_what_runs_moves_over_step_by_step(page, works, projects):
    page.goto(f"/projects/{works}/price/moving")
    expect(page.get_by_role("img", name="Internet: interrupted by Fibre line moves")).to_be_visible()
    step = page.get_by_role("listitem").filter(has_text="Fibre line moves")
    expect(step.get_by_text("Internet 2 × 2 min")).to_be_visible()
    minutes = step.get_by_label("Each takes: Fibre line moves")
    minutes.fill("25")
    minutes.press("Enter")
    saved(page, 1)
    expect(step.get_by_text("Alarm 25 min")).to_be_visible()
    choose(page, "Add what runs", "Recording of cameras")
    saved(page, 2)
    assert projects.load(works).project.running[-1].kind == "recording"
    with page.expect_download() as taken:
        page.get_by_role("link", name="CSV").click()
    assert "Fibre line moves" in taken.value.path().read_text(encoding="utf-8-sig")


def test_phases_are_proposed_by_their_budgets_and_taken(page, works, projects):
    page.goto(f"/projects/{works}/price/phases")
    page.get_by_role("button", name="Propose by the budgets").click()
    page.get_by_role("button", name="Take these phases").click()
    saved(page, 1)
    project = projects.load(works).project
    assert all(drop.phase_id for drop in project.drops)
    assert {drop.phase_id for drop in project.drops} == {phase.id for phase in project.phases}


def test_drops_move_between_phases_and_a_phase_says_what_it_buys(page, works, projects):
    page.goto(f"/projects/{works}/price/phases")
    expect(page.get_by_text("no way to buy them in phases costs less")).to_be_visible()
    expect(page.get_by_text("Mobile router on the packing bench, office")).to_be_visible()
    choose(page, "Phase of Packing: printer", "second summer")
    saved(page, 1)
    project = projects.load(works).project
    moved = [drop for drop in project.drops if drop.kind == "printer"]
    assert all(drop.phase_id == project.phases[1].id for drop in moved)
    add = page.get_by_label("Add a phase")
    add.fill("Roof")
    add.press("Enter")
    saved(page, 2)
    # both ends of the drag are on the screen
    page.set_viewport_size({"width": 1280, "height": 2000})
    page.get_by_text("Gallery: camera", exact=True).drag_to(page.get_by_role("textbox", name="Phases: Roof"))
    saved(page, 3)
    project = projects.load(works).project
    gallery = next(room.id for room in project.rooms if room.name == "Gallery")
    (camera,) = [drop for drop in project.drops if drop.room_id == gallery and drop.kind == "camera"]
    assert camera.phase_id == project.phases[-1].id


def test_an_offer_is_named_sent_and_printed(page, house, projects):
    page.goto(f"/projects/{house}/price/offers")
    number = page.get_by_label("Add an offer, by its number")
    number.fill("2026-031")
    number.press("Enter")
    saved(page, 1)
    page.get_by_role("button", name="It was sent today").click()
    saved(page, 2)
    expect(page.get_by_text("Nothing changed since it was sent.")).to_be_visible()
    discount = page.get_by_label("Discount")
    discount.fill("3")
    discount.press("Enter")
    saved(page, 3)
    offer = projects.load(house).project.offers[-1]
    assert offer.state == "sent" and offer.sent and offer.day
    with page.expect_download() as taken:
        page.get_by_role("button", name="Offer, PDF").click()
    assert taken.value.suggested_filename == f"offer-{house}.pdf"


@pytest.mark.parametrize("typed", [True, False], ids=["typed", "as a list"])
def test_payments_are_typed_or_brought_as_a_list(page, works, projects, typed, tmp_path):
    page.goto(f"/projects/{works}/price/paid")
    if typed:
        for label, value in (("Paid for: jack", "25"), ("Paid: jack", "150")):
            cell = page.get_by_label(label, exact=True)
            cell.fill(value)
            cell.press("Enter")
        saved(page, 2)
        expect(page.get_by_text("by price").last).to_be_visible()
    else:
        file = tmp_path / "bills.csv"
        file.write_text("Part,Paid for,Paid\njack,25,150\n")
        with page.expect_file_chooser() as chosen:
            page.get_by_role("button", name="Bring a list of payments").click()
        chosen.value.set_files(file)
        saved(page, 1)
    (row,) = projects.load(works).project.paid
    assert (row.part, row.quantity, row.paid_minor) == ("part/jack", 25, 15000)
