"""Reach: paths are drawn, bent and typed; runs follow; cable is bought by the box."""

import pytest
from playwright.sync_api import expect

from .controls import choose


@pytest.fixture
def reach(page, house):
    page.goto(f"/projects/{house}/reach")
    expect(page.get_by_role("region", name="Runs")).to_be_visible()
    return page


def saved(page, revision):
    expect(page.get_by_role("status").filter(has_text=f"revision {revision}, saved")).to_be_visible()


def on_plan(page, x, y):
    """A spot of the drawing, as parts of its width and height."""
    box = page.locator("[data-plan]").bounding_box()
    return box["x"] + box["width"] * x, box["y"] + box["height"] * y


def test_a_path_is_drawn_kept_chosen_and_taken_back(reach, house, projects):
    reach.get_by_role("button", name="Draw a path").click()
    choose(reach, "Kind of the new path", "conduit")
    keep = reach.get_by_role("button", name="Finish the path", exact=True)
    expect(keep).to_be_disabled()
    for spot in ((0.42, 0.3), (0.42, 0.7), (0.55, 0.9)):
        reach.mouse.click(*on_plan(reach, *spot))
    reach.keyboard.press("Backspace")
    keep.click()
    saved(reach, 1)
    path = projects.load(house).project.paths[-1]
    assert (path.name, path.kind, len(path.points)) == ("Conduit 1", "conduit", 2)
    assert path.points[0][0] == path.points[1][0], "nearly in line is taken in line"
    sheet = reach.get_by_role("region", name="Conduit 1")
    sheet.get_by_label("inner diameter, mm").fill("20")
    reach.keyboard.press("Enter")
    saved(reach, 2)
    reach.keyboard.press("Control+z")
    reach.keyboard.press("Control+z")
    saved(reach, 4)
    assert projects.load(house).project.paths[-1].name != "Conduit 1"


def test_a_path_is_bent_by_its_corner_and_typed_by_its_corners(reach, house, projects):
    before = projects.load(house).project
    joists = next(path for path in before.paths if path.name == "Landing joists")
    reach.get_by_role("region", name="Paths").get_by_role("button", name="Landing joists").click()
    handle = reach.locator('[data-bend="2"]')
    box = handle.bounding_box()
    start = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    reach.mouse.move(*start)
    reach.mouse.down()
    reach.mouse.move(start[0] + 30, start[1] + 20, steps=4)
    reach.mouse.up()
    saved(reach, 1)
    bent = projects.load(house).project.paths[before.paths.index(joists)]
    assert bent.points[:2] == joists.points[:2]
    assert bent.points[2] != joists.points[2]
    corners = reach.get_by_label("Corners: x y; x y, in metres")
    corners.fill("1 1; oops")
    reach.keyboard.press("Enter")
    expect(reach.get_by_role("alert")).to_contain_text("Corners are written as")
    corners.fill("5.3 6; 2.8 6; 2.8 2")
    reach.keyboard.press("Enter")
    saved(reach, 2)
    assert projects.load(house).project.paths[before.paths.index(joists)].points == ((5.3, 6), (2.8, 6), (2.8, 2))


def test_a_run_is_opened_into_its_pieces_and_told_by_hand(reach, house, projects):
    table = reach.get_by_role("region", name="Runs")
    table.get_by_role("button", name="Child's room").click()
    sheet = reach.get_by_role("region", name="Run: Desk, Child's room")
    expect(sheet).to_contain_text("Chimney chase, to First floor")
    expect(sheet).to_contain_text("loop in the closet")
    sheet.get_by_label("Measured").fill("19.5")
    reach.keyboard.press("Enter")
    saved(reach, 1)
    expect(sheet).to_contain_text("as measured")
    expect(table.get_by_role("button", name="Child's room")).to_contain_text("19.5 m")
    choose(sheet, "Goes through", "Hall skirting")
    saved(reach, 2)
    sheet.get_by_role("button", name="Avoids").click()
    reach.get_by_role("checkbox", name="Landing joists").check()
    reach.keyboard.press("Escape")
    saved(reach, 3)
    sheet.get_by_label("Stands at: as built, x y in metres").fill("1.5 6.5")
    reach.keyboard.press("Enter")
    saved(reach, 4)
    sheet.get_by_label("Why moved").fill("a joist")
    reach.keyboard.press("Enter")
    saved(reach, 5)
    drop = next(d for d in projects.load(house).project.drops if d.run_m == 19.5)
    assert (drop.built_x_m, drop.built_y_m, drop.built_why) == (1.5, 6.5, "a joist")
    assert len(drop.avoid_ids) == 1
    assert drop.via_id is not None


def test_cable_is_shown_box_by_box_and_follows_what_a_box_holds(reach, house):
    reach.get_by_role("link", name="Cable").click()
    buy = reach.get_by_role("region", name="Cable to buy")
    expect(buy).to_contain_text("proven: fewer boxes are not enough")
    prices = reach.get_by_role("region", name="Cable and boxes")
    choose(prices, "Cable and boxes: add a cable", "6")
    prices.get_by_label("box of: 6").fill("100")
    reach.keyboard.press("Enter")
    expect(buy).to_contain_text("of 100 m")
    reach.get_by_label("Closet loop").fill("5")
    reach.keyboard.press("Enter")
    saved(reach, 3)


def test_the_list_of_runs_is_had_as_a_file(reach):
    with reach.expect_download() as coming:
        reach.get_by_role("link", name="CSV").click()
    text = coming.value.path().read_text("utf-8-sig")
    assert text.startswith("Floor,Room,Drop,Closet,Cable,Run m")
    assert "Chimney chase" in text


def test_a_finding_of_a_path_leads_to_it(page, works):
    page.goto(f"/projects/{works}/reach")
    page.get_by_role("region", name="Runs").get_by_role("button", name="Glaze shed").first.click()
    sheet = page.get_by_role("region", name="Run: Wall jack, Glaze shed")
    sheet.get_by_role("button", name="Yard duct").click()
    expect(page.get_by_role("region", name="Yard duct")).to_contain_text("% full")
    expect(page.get_by_role("button", name="Yard", exact=True)).to_have_attribute("aria-pressed", "true")


def test_the_detour_of_a_building_lengthens_its_runs(page, house, projects):
    page.goto(f"/projects/{house}/walk/plan")
    page.get_by_label("Detours").fill("1.5")
    page.keyboard.press("Enter")
    saved(page, 1)
    page.keyboard.press("Escape")
    page.goto(f"/projects/{house}/reach")
    page.get_by_role("region", name="Runs").get_by_role("button", name="Child's room").click()
    expect(page.get_by_role("region", name="Run: Desk, Child's room")).to_contain_text("detours of the building")
    assert projects.load(house).project.buildings[0].detour == 1.5


def test_a_phone_draws_a_path_and_opens_a_run(browser, server, house, projects):
    context = browser.new_context(viewport={"width": 390, "height": 844}, has_touch=True, base_url=server)
    page = context.new_page()
    page.goto(f"/projects/{house}/reach")
    page.get_by_role("button", name="Draw a path").tap()
    for x, y in ((0.5, 0.3), (0.5, 0.6)):
        page.touchscreen.tap(*on_plan(page, x, y))
    page.get_by_role("button", name="Finish the path", exact=True).tap()
    saved(page, 1)
    page.get_by_role("region", name="Runs").get_by_role("button").first.tap()
    expect(page.get_by_role("region", name="Run: ")).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")
    context.close()


def test_tools_of_a_kind_and_the_screen_of_a_cable_are_told(reach, house, projects):
    reach.get_by_role("region", name="Paths").get_by_role("button", name="Landing joists").click()
    reach.get_by_label("Tools").fill("long rods")
    reach.keyboard.press("Enter")
    saved(reach, 1)
    reach.goto(f"/projects/{house}/walk")
    reach.get_by_role("checkbox", name="Choose Screen 1, Living room").check()
    reach.get_by_role("checkbox", name="screened").check()
    saved(reach, 2)
    project = projects.load(house).project
    assert [(rate.kind, rate.tools) for rate in project.path_rates] == [("joist_bay", "long rods")]
    assert [drop.kind for drop in project.drops if drop.screened] == ["screen"]
    reach.goto(f"/projects/{house}/reach")
    expect(reach.get_by_role("region", name="Findings")).to_contain_text("earthed at the closet")
