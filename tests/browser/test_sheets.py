"""Sheets beside the drawings: rooms, floors, drops; the closet and entries on the plan; the section; names in the history."""

import pytest
from playwright.sync_api import expect

from .controls import choose
from .test_plan import drag, saved


@pytest.fixture
def plan(page, works):
    page.goto(f"/projects/{works}/walk/plan")
    expect(page.locator("[data-drop]").first).to_be_visible()
    return page


def press_room(page, name):
    box = page.locator(f"[data-room='{name}'] polygon").bounding_box()
    page.mouse.click(box["x"] + box["width"] * 0.4, box["y"] + box["height"] * 0.6)


def test_a_room_is_named_sized_and_laid_out_again(plan, works, projects):
    store = projects.load(works).project.rooms[0]
    press_room(plan, store.id)
    sheet = plan.get_by_role("region", name="Store")
    choose(sheet, "Use", "plant")
    saved(plan, 1)
    sheet.get_by_role("button", name="Estimate its position again").click()
    saved(plan, 2)
    sheet.get_by_label("Width").fill("7,5")
    plan.keyboard.press("Enter")
    saved(plan, 3)
    sheet.get_by_label("Width").fill("0")
    plan.keyboard.press("Enter")
    expect(sheet.get_by_label("Width")).to_have_attribute("aria-invalid", "true")
    sheet.get_by_label("Floor").fill("Vault")
    sheet.get_by_label("Floor").blur()
    saved(plan, 4)
    project = projects.load(works).project
    room = project.rooms[0]
    assert (room.use, room.width_m, room.outline, project.floor_name(room)) == ("plant", 7.5, None, "Vault")


def test_a_floor_has_heights_and_a_building(plan, works, projects):
    plan.get_by_role("button", name="Shed", exact=True).click()
    sheet = plan.get_by_role("region", name="Shed")
    sheet.get_by_label("Height").fill("2.75")
    plan.keyboard.press("Enter")
    saved(plan, 1)
    choose(sheet, "Its walls", "open walls")
    saved(plan, 2)
    sheet.get_by_label("Height").fill("1.4")
    plan.keyboard.press("Enter")
    expect(sheet.get_by_label("Height")).to_have_attribute("aria-invalid", "true")
    choose(sheet, "Building", "another building")
    saved(plan, 3)
    project = projects.load(works).project
    shed = next(floor for floor in project.floors if floor.name == "Shed")
    assert (shed.height_m, project.buildings[1].state) == (2.75, "open")
    assert next(b.name for b in project.buildings if b.id == shed.building_id) == "Second building"


def test_all_that_is_known_of_a_drop_is_changed_beside_the_plan(plan, works, projects):
    plan.locator("[data-drop]").first.focus()
    plan.keyboard.press("PageDown")
    chosen = plan.locator("[data-drop][aria-pressed=true]")
    number = int(chosen.get_attribute("data-drop"))
    sheet = plan.get_by_role("region", name=chosen.get_attribute("aria-label"), exact=True)
    for step, (label, option) in enumerate(
        [
            ("Power", "passive 24/48 V"),
            ("Fixed to", "tile"),
            ("Surroundings", "damp"),
            ("Cable is", "there already"),
            ("Socket", "none"),
        ]
    ):
        choose(sheet, label, option)
        saved(plan, step + 1)
    sheet.get_by_label("Purpose").fill("heating")
    sheet.get_by_label("Purpose").blur()
    saved(plan, 6)
    drop = projects.load(works).project.drops_by_id[number]
    assert (drop.supply, drop.poe_class, drop.surface) == ("passive", None, "tile")
    assert (drop.environment, drop.existing, drop.socket, drop.purpose) == ("damp", True, False, "heating")
    expect(plan.get_by_role("region", name="Findings")).to_contain_text("is passive gear")
    plan.keyboard.press("Escape")


def test_the_closet_and_an_entry_are_dragged(plan, works, projects):
    plan.get_by_role("button", name="Cellar", exact=True).click()
    for point in ("closet-1", f"entry-{projects.load(works).project.entries[0].id}"):
        box = plan.locator(f"[data-point='{point}'] rect").first.bounding_box()
        drag(plan, (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2), (40, 60))
    saved(plan, 2)
    project = projects.load(works).project
    assert project.head_end.x_m > 9.5
    assert project.entries[0].y_m > 2
    box = plan.locator("[data-point='closet-1'] rect").first.bounding_box()
    drag(plan, (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2), (0, 1000))
    expect(plan.get_by_role("alert")).to_contain_text("No room is at that place")
    assert projects.load(works).revision == 2


def test_the_section_shows_every_storey_and_turns(page, works, projects):
    page.goto(f"/projects/{works}/walk/section")
    section = page.get_by_role("region", name="Section through the site")
    for name in ("Cellar 2.4 m", "Ground floor 4 m", "First floor 3.2 m", "Dye works", "Glaze shed"):
        expect(section.get_by_text(name, exact=True)).to_be_visible()
    expect(section.locator("polyline.way")).to_have_count(46)
    before = section.locator("polyline.way").first.get_attribute("points")
    page.get_by_role("button", name="Look from the other side").click()
    assert section.locator("polyline.way").first.get_attribute("points") != before
    section.locator("[data-drop] .hit").last.click(force=True)
    expect(section.locator("[data-drop][aria-pressed=true]")).to_have_count(1)
    expect(section.locator("polyline.way[data-chosen]")).to_have_count(1)


def test_a_name_is_kept_and_stands_in_the_history(page, house, projects):
    page.goto(f"/projects/{house}/walk/history")
    name = page.get_by_label("On this machine you are called")
    name.fill("Žofie")
    name.blur()
    page.keyboard.press("2")
    page.get_by_label("Label: Screen 1, Living room").fill("Big screen")
    page.keyboard.press("Enter")
    saved(page, 1)
    assert projects.history(house)[0].account == "Žofie"
    page.goto(f"/projects/{house}/walk/history")
    expect(page.get_by_role("listitem").filter(has_text="change label of 1 drop")).to_contain_text("Žofie")
    name.fill("<script>")
    name.blur()
    expect(page.get_by_role("alert")).to_contain_text("A name has letters")


def test_rooms_are_typed_as_a_list_with_their_sizes(page, house, projects):
    page.goto(f"/projects/{house}/walk/tally")
    page.locator("#add-room").fill("Pantry 2x3, Porch; Bay 0x1")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("“Bay 0x1”: width_m")
    page.locator("#add-room").fill("Pantry 2x3, Porch")
    page.keyboard.press("Enter")
    saved(page, 1)
    rooms = projects.load(house).project.rooms[-2:]
    assert [(room.name, room.width_m) for room in rooms] == [("Pantry", 2), ("Porch", None)]
