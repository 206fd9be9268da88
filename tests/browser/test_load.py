"""Load: powered runs in volts and watts, added up by the school that the project takes; a measured value typed in."""

import pytest
from playwright.sync_api import expect


@pytest.fixture
def load(page, house):
    page.goto(f"/projects/{house}/load")
    expect(page.get_by_role("region", name="Power over the runs")).to_be_visible()
    return page


def saved(page, revision):
    expect(page.get_by_role("status").filter(has_text=f"revision {revision}, saved")).to_be_visible()


def test_every_powered_run_is_told_and_a_measured_value_counts_once_its_school_is_taken(load, house, projects):
    runs = load.get_by_role("region", name="Power over the runs")
    row = runs.get_by_role("row").filter(has_text="Access point, Hall")
    expect(row).to_contain_text("8.9 m")
    expect(row).to_contain_text("52.3 V")
    expect(row).to_contain_text("+9.8 V")
    sums = load.get_by_role("region", name="Added up")
    expect(sums.get_by_role("row").filter(has_text="Hall cupboard")).to_contain_text("106.2 W")
    row.get_by_label("Watts measured at the port: Access point, Hall").fill("12.5")
    load.keyboard.press("Enter")
    saved(load, 1)
    load.get_by_role("radio", name="measured draw").check()
    saved(load, 2)
    project = projects.load(house).project
    assert project.settings.school == "measured"
    assert [drop.measured_w for drop in project.drops if drop.measured_w] == [12.5]
    # 56.0 W rated, 16.0 W of them measured as 12.5 W, and 20 % margin
    expect(sums.get_by_role("row").filter(has_text="Hall cupboard")).to_contain_text("63 W")


def test_boxes_are_told_once_they_are_picked(load, house):
    sums = load.get_by_role("region", name="Added up")
    expect(sums).to_contain_text("Pick boxes to see")
    load.keyboard.press("5")
    expect(load.get_by_text("proven least").first).to_be_visible()
    load.keyboard.press("4")
    expect(sums).to_contain_text("From mains: ")
    expect(sums.get_by_role("row").filter(has_text="switch").first).to_contain_text("W")


def test_a_run_that_cannot_be_fed_says_why_and_is_found_from_its_finding(page, works, projects):
    from baugrund.core.edits import ChangeDrops, DropChanges

    far = next(d for d in projects.load(works).project.drops if d.kind == "access_point" and d.category == "6")
    projects.edit(works, [ChangeDrops(ids=(far.id,), changes=DropChanges(draw_w=25.4, run_m=200.0))], 0, "ann")
    page.goto(f"/projects/{works}/load")
    row = page.get_by_role("region", name="Power over the runs").locator("tr[data-fails]")
    expect(row.first).to_contain_text("arrive at the device")
    expect(page.get_by_role("region", name="Findings")).to_contain_text("over 200 m")
