"""Prove: what was promised is tested with a thumb, stamped, and signed."""

import pytest
from playwright.sync_api import expect


def saved(page, revision):
    expect(page.get_by_role("status").filter(has_text=f"revision {revision}, saved")).to_be_visible()


@pytest.fixture
def acceptance(page, works):
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"/projects/{works}/prove/acceptance")
    expect(page.get_by_text("7 passed, 2 failed").first).to_be_visible()
    return page


def test_a_figure_is_written_down_and_the_check_is_stamped(acceptance, works, projects):
    acceptance.get_by_role("button", name="Footage kept").click()
    sheet = acceptance.get_by_role("region", name="Footage kept")
    expect(sheet.get_by_text("Asked: 30 days at the least.")).to_be_visible()
    sheet.get_by_label("Figure").fill("x")
    sheet.get_by_role("button", name="Write it down").click()
    expect(acceptance.get_by_text("x is no figure.")).to_be_visible()
    sheet.get_by_label("Figure").fill("24")
    sheet.get_by_label("Where").fill("recorder")
    sheet.get_by_role("button", name="Write it down").click()
    saved(acceptance, 1)
    expect(sheet.get_by_text("More disk, fewer pictures a second")).to_be_visible()
    expect(acceptance.get_by_text("7 passed, 3 failed").first).to_be_visible()
    row = projects.load(works).project.acceptance[-1]
    assert (row.value, row.place, row.before) == (24, "recorder", False)
    sheet.get_by_role("button", name="Remove the result of").click()
    saved(acceptance, 2)
    expect(acceptance.get_by_text("7 passed, 2 failed").first).to_be_visible()


def test_who_reaches_whom_is_tested_by_yes_or_no(acceptance, works, projects):
    acceptance.get_by_role("button", name="Guests may open nothing in Machines").click()
    sheet = acceptance.get_by_role("region", name="Guests may open nothing in Machines")
    sheet.get_by_role("button", name="Not as it should be").click()
    saved(acceptance, 1)
    expect(sheet.get_by_text("compare them with the settings of Patch, Networks")).to_be_visible()
    sheet.get_by_role("button", name="As it should be", exact=True).click()
    saved(acceptance, 2)
    expect(acceptance.get_by_text("8 passed, 2 failed").first).to_be_visible()


def test_a_drill_has_a_clock_and_speeds_are_drawn_over_time(acceptance, works, projects):
    acceptance.get_by_role("button", name="Runs on battery").click()
    sheet = acceptance.get_by_role("region", name="Runs on battery")
    sheet.get_by_role("button", name="Begin the drill").click()
    expect(sheet.get_by_role("timer")).not_to_have_text("0:00")
    # the clock goes on where the page was left
    acceptance.reload()
    acceptance.get_by_role("button", name="Runs on battery").click()
    expect(sheet.get_by_role("timer")).not_to_have_text("0:00")
    sheet.get_by_role("button", name="It is over: write it down").click()
    saved(acceptance, 1)
    assert projects.load(works).project.acceptance[-1].value >= 0
    acceptance.get_by_role("button", name="Fibre line: down as contracted").click()
    table = acceptance.get_by_role("table", name="Speeds over time")
    expect(table.get_by_role("row")).to_have_count(3)
    expect(table).to_contain_text("18–24 h")


def test_what_was_tested_is_signed_as_it_stands(acceptance, works, projects):
    acceptance.get_by_label("Name of who accepts").fill("Ruth")
    acceptance.get_by_label("Name of who accepts").press("Enter")
    saved(acceptance, 1)
    signed = projects.load(works).project.sign_offs[-1]
    assert (signed.name, signed.passed, signed.failed) == ("Ruth", 7, 2)
    assert signed.at is not None
    expect(acceptance.get_by_role("region", name="Accepted by")).to_contain_text(
        "7 passed, 2 failed, 37 not yet tested"
    )
