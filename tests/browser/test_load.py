"""Load: powered runs in volts and watts, added up by the school that the project takes; a measured value typed in."""

import pytest
from playwright.sync_api import expect

from .controls import choose


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
    # 56.0 W rated, 16.0 W of them measured as 12.5 W, the others over their runs to the watt, and 20 % margin
    expect(sums.get_by_role("row").filter(has_text="Hall cupboard")).to_contain_text("63.1 W")


def test_boxes_are_told_once_they_are_picked(load, house):
    sums = load.get_by_role("region", name="Added up")
    load.keyboard.press("6")
    expect(load.get_by_text("proven lowest").first).to_be_visible()
    load.keyboard.press("5")
    expect(sums).to_contain_text("From mains: ")
    expect(sums.get_by_role("row").filter(has_text="switch").first).to_contain_text("W")


def test_boxes_are_told_as_soon_as_the_pick_comes_while_load_is_open(page, house):
    """The pick is asked for only when what Load has without boxes stands on screen."""
    waits = page.get_by_text("Once boxes are picked, this shows what each of them feeds")

    def late(route):
        expect(waits).to_be_visible()
        route.continue_()

    page.route("**/picks/least_price", late, times=1)
    page.goto(f"/projects/{house}/load")
    expect(waits).to_be_hidden()
    expect(page.get_by_role("region", name="Added up").get_by_role("row").filter(has_text="Router")).to_be_visible()


def test_a_run_that_cannot_be_fed_says_why_and_is_found_from_its_finding(page, works, projects):
    from baugrund.core.edits import ChangeDrops, DropChanges

    far = next(d for d in projects.load(works).project.drops if d.kind == "access_point" and d.category == "6")
    projects.edit(works, [ChangeDrops(ids=(far.id,), changes=DropChanges(draw_w=25.4, run_m=200.0))], 0, "ann")
    page.goto(f"/projects/{works}/load")
    row = page.get_by_role("region", name="Power over the runs").locator("tr[data-fails]")
    expect(row.first).to_contain_text("arrive at the device")
    expect(page.get_by_role("region", name="Findings")).to_contain_text("over 200 m")


def test_traffic_is_told_link_by_link_and_drop_by_drop(page, works):
    page.goto(f"/projects/{works}/pick")
    expect(page.get_by_role("article", name="Least price").locator("strong")).to_be_visible()
    page.goto(f"/projects/{works}/load/traffic")
    links = page.get_by_role("region", name="Traffic over the links")
    expect(links.get_by_role("row").filter(has_text="linked to Router").first).to_be_visible()
    expect(links).to_contain_text("Cameras record to Recorder, Plant room")
    ways = page.get_by_role("region", name="Paths of the drops")
    page.get_by_role("radio", name="all").check()
    expect(ways.get_by_role("row").filter(has_text="its port, NAS, Plant room").first).to_contain_text("1 TB in 2.4 h")


def test_the_drill_shows_who_is_refused_and_a_priority_is_kept(page, works, projects):
    page.goto(f"/projects/{works}/pick")
    expect(page.get_by_role("article", name="Least price").locator("strong")).to_be_visible()
    page.goto(f"/projects/{works}/load/drill")
    expect(page.get_by_text("all 7 get power")).to_be_visible()
    page.get_by_label("Try a budget of, W").fill("40")
    page.keyboard.press("Enter")
    box = page.get_by_role("region", name="16-port switch, 2.5 G")
    expect(box).to_contain_text("no power:")
    row = box.get_by_role("row").filter(has_text="Access point, Classroom")
    choose(row, "Priority: Access point, Classroom", "critical")
    saved(page, 1)
    expect(box.get_by_role("row").nth(1)).to_contain_text("Access point, Classroom")
    drops = projects.load(works).project.drops
    assert [drop.priority for drop in drops if drop.priority != "low"] == ["critical"]
