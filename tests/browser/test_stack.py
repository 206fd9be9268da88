"""Stack: a rack is arranged with one press, things are moved by pointer and by keys, a drill is stepped, a UPS put."""

import pytest
from playwright.sync_api import expect

from .controls import choose


def saved(page, revision):
    expect(page.get_by_role("status").filter(has_text=f"revision {revision}, saved")).to_be_visible()


@pytest.fixture
def rack(page, works):
    page.goto(f"/projects/{works}/stack")
    expect(page.get_by_role("button", name="UPS, 600 W, 24 V 9 Ah, unit 1")).to_be_visible()
    return page


def unit_of(projects, number, thing):
    return next(one.unit for one in projects.load(number).project.placings if one.thing == thing)


def test_a_thing_is_moved_by_keys_and_by_dragging_and_what_it_breaks_is_said(rack, works, projects):
    panel = rack.get_by_role("button", name="Patch panel, 24 (3), unit 8")
    panel.focus()
    rack.keyboard.press("ArrowUp")
    saved(rack, 1)
    assert unit_of(projects, works, "panel/3") == 9
    expect(rack.get_by_role("button", name="Patch panel, 24 (3), unit 9")).to_be_visible()
    wrong = rack.get_by_role("region", name="What does not fit")
    thing = rack.locator("[data-thing='panel/3'] rect").first.bounding_box()
    x, y = thing["x"] + thing["width"] / 2, thing["y"] + thing["height"] / 2
    rack.mouse.move(x, y)
    rack.mouse.down()
    rack.mouse.move(x, y + thing["height"] * 4, steps=4)
    rack.mouse.up()
    saved(rack, 2)
    assert unit_of(projects, works, "panel/3") == 5
    expect(wrong.get_by_text("are in one another's place")).to_be_visible()


def test_everything_is_arranged_with_one_press_and_a_pinned_thing_stays(rack, works, projects):
    rack.get_by_role("button", name="Arrange them").click()
    saved(rack, 1)
    assert unit_of(projects, works, next(one.thing for one in projects.load(works).project.placings if one.fixed)) == 1
    expect(rack.get_by_text("proven").first).to_be_visible()


def test_a_thing_is_added_sized_and_removed(rack, works, projects):
    choose(rack, "Add a thing", "alarm recorder")
    saved(rack, 1)
    rack.get_by_role("region", name="What stands there").get_by_role("button", name="Alarm recorder").click()
    sheet = rack.get_by_role("region", name="Alarm recorder")
    sheet.get_by_label("deep").fill("310")
    sheet.get_by_label("deep").press("Enter")
    saved(rack, 2)
    assert projects.load(works).project.gear[-1].depth_mm == 310
    choose(sheet, "Plugged into", "battery")
    saved(rack, 3)
    sheet.get_by_role("button", name="Remove").click()
    saved(rack, 4)


def test_a_drill_is_stepped_and_a_service_added(page, works, projects):
    page.goto(f"/projects/{works}/stack/cut")
    services = page.get_by_role("region", name="Services through a power cut")
    expect(services.get_by_role("listitem").filter(has_text="goes off first")).to_have_count(2)
    drill = page.get_by_role("region", name="The drill")
    drill.get_by_role("button", name="Next").click()
    expect(drill.locator("li[data-now]")).to_contain_text("NAS, flat must begin to shut down")
    page.get_by_role("button", name="Add a service").click()
    saved(page, 1)
    assert len(projects.load(works).project.lifelines) == 4


def test_the_least_housing_says_why_no_other(page, works):
    page.goto(f"/projects/{works}/stack/housing")
    housing = page.get_by_role("region", name="Which housing")
    expect(housing.get_by_role("heading", name="Floor rack, 24 units, 800 mm")).to_be_visible()
    expect(housing.get_by_text("25 mm too shallow for Recorder, 8 cameras.").first).to_be_visible()


def test_a_wall_panel_is_arranged_and_moved_by_keys(page, school, projects):
    page.goto(f"/projects/{school}/stack")
    choose(page, "Closet", "Barn rack")
    page.get_by_role("button", name="Arrange them").click()
    saved(page, 1)
    before = [one for one in projects.load(school).project.placings if one.closet_id == 16]
    page.locator("[data-thing]").last.focus()
    page.keyboard.press("ArrowRight")
    saved(page, 2)
    after = [one for one in projects.load(school).project.placings if one.closet_id == 16]
    assert {one.x_mm for one in before} != {one.x_mm for one in after}


def test_warmth_follows_the_room(page, works, projects):
    page.goto(f"/projects/{works}/stack/air")
    warmth = page.get_by_role("region", name="Warmth in summer")
    warmth.get_by_label("Room", exact=True).fill("18")
    warmth.get_by_label("Room", exact=True).press("Enter")
    saved(page, 1)
    assert projects.load(works).project.closets[0].warm_c == 18
