"""Reach on site: closets compared and taken, links, setting out, pulls ticked off, drawings taken along."""

import re

import pytest
from playwright.sync_api import expect

from .controls import choose


def saved(page, revision):
    expect(page.get_by_role("status").filter(has_text=f"revision {revision}, saved")).to_be_visible()


@pytest.fixture
def closets(page, works):
    page.goto(f"/projects/{works}/reach/closets")
    expect(page.get_by_role("article", name="2 closets")).to_be_visible()
    return page


def test_an_answer_is_taken_its_link_told_and_the_other_school_is_one_press_away(closets, works, projects):
    best = closets.get_by_role("article", name="2 closets")
    expect(best).to_contain_text("reaches most drops at the lowest price found")
    expect(best).to_contain_text("the best found; no set of so many")
    expect(closets.get_by_role("article", name="Closets now")).to_contain_text("2 drops are out of reach")
    best.get_by_role("button", name="Move the closets there").click()
    saved(closets, 1)
    expect(closets.get_by_role("article", name="Closets now")).to_contain_text("every drop is within reach")
    links = closets.get_by_role("region", name="Links between closets")
    expect(links).to_contain_text("between buildings it is fibre")
    length = links.get_by_label("Glaze shed closet: measured")
    length.fill("60")
    closets.keyboard.press("Enter")
    saved(closets, 2)
    links.get_by_role("button", name="Take copper").click()
    saved(closets, 3)
    expect(links).to_contain_text("copper is asked for this link")
    expect(closets.get_by_role("region", name="Findings")).to_contain_text("lightning and a difference of earth")
    links.get_by_role("button", name="As set for the project").click()
    saved(closets, 4)
    assert [closet.name for closet in projects.load(works).project.closets][1] == "Glaze shed closet"
    for revision in range(5, 9):
        closets.keyboard.press("Control+z")
        saved(closets, revision)
    assert len(projects.load(works).project.closets) == 1


def test_limits_and_answers_about_places_change_the_comparison(closets, works, projects):
    closets.get_by_label("Closets at most").fill("1")
    closets.keyboard.press("Enter")
    expect(closets.get_by_role("article", name="2 closets")).to_have_count(0)
    table = closets.get_by_role("region", name="Every place with a single closet")
    choose(table, "Dry: Classroom", "no")
    expect(table).to_contain_text("is not dry")
    expect(closets.get_by_role("article", name="1 closet")).not_to_contain_text("Classroom")
    table.get_by_role("button", name="Leave Packing out").click()
    expect(table.get_by_role("button", name="Include Packing again")).to_be_visible()
    candidates = projects.load(works).project.candidates
    classroom = next(room.id for room in projects.load(works).project.rooms if room.name == "Classroom")
    assert [place.dry for place in candidates if place.room_id == classroom] == [False]


@pytest.fixture
def stands(page):
    """What the page is told of a question until it is stopped and begun again: a list, the last of it counts."""
    told = []

    def tell(route):
        nothing = {"revision": 0, "reply": None, "recommended": None, "ready": False}
        asked = {"asked_s": 1, "share": 0, "text": "", "told": ""}
        route.fulfill(json={**nothing, "underway": {**asked, **told[-1]}})

    def stop(route):
        told.append({"state": "stopped"})
        route.continue_()

    def begin_again(route):
        page.unroute(questions)
        route.continue_()

    questions = re.compile(r"/(siting|sheets/pulls)$")
    page.route(questions, tell)
    page.route("**/search/stop", stop)
    page.route("**/search/again", begin_again)
    return told


def test_a_comparison_is_stopped_and_asked_for_again(page, works, stands):
    stands.append({"state": "working", "share": 0.2, "text": "measuring runs from Store"})
    page.goto(f"/projects/{works}/reach/closets")
    expect(page.get_by_role("progressbar")).to_have_attribute("value", "0.2")
    expect(page.get_by_text("measuring runs from Store …")).to_be_visible()
    page.get_by_role("button", name="Stop").click()
    expect(page.get_by_text("Stopped before the end.")).to_be_visible()
    page.get_by_role("button", name="Compare again").click()
    expect(page.get_by_role("article", name="1 closet")).to_be_visible()


def test_a_sheet_tells_how_far_it_is_and_is_stopped_and_written_again(page, works, stands):
    stands.append({"state": "working", "text": "page 3"})
    page.goto(f"/projects/{works}/reach/pulls")
    page.get_by_role("button", name="Sheet (PDF)").click()
    expect(page.get_by_text("Writing the sheet, page 3 …")).to_be_visible()
    page.get_by_role("button", name="Stop").click()
    expect(page.get_by_text("The sheet was stopped.")).to_be_visible()
    with page.expect_download() as coming:
        page.get_by_role("button", name="Write it again").click()
    assert coming.value.suggested_filename == f"pulls-{works}.pdf"
    expect(page.get_by_role("button", name="Sheet (PDF)")).to_be_visible()


def test_moving_a_closet_says_at_once_what_it_costs_and_breaks(page, works, projects):
    page.goto(f"/projects/{works}/reach")
    page.get_by_role("button", name="Cellar", exact=True).click()
    mark = page.locator('[data-point="closet-1"] rect')
    expect(page.get_by_role("group", name="Plan of Cellar")).to_be_visible()
    box = mark.bounding_box()
    start = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.move(*start)
    page.mouse.down()
    page.mouse.move(start[0] + 60, start[1] + 30, steps=6)
    page.mouse.up()
    saved(page, 1)
    told = page.get_by_role("status").filter(has_text="Since the closets changed")
    expect(told).to_contain_text("+")
    expect(told).to_contain_text("2 runs are too long now")
    told.get_by_role("button", name="Close", exact=True).click()
    expect(told).to_have_count(0)


def test_a_landmark_is_set_on_the_plan_and_a_device_recorded_as_built(page, house, projects):
    page.goto(f"/projects/{house}/reach/setting-out")
    page.get_by_role("button", name="First floor", exact=True).click()
    page.get_by_role("button", name="Set a landmark").click()
    box = page.locator("[data-plan]").bounding_box()
    page.mouse.click(box["x"] + box["width"] * 0.5, box["y"] + box["height"] * 0.4)
    saved(page, 1)
    mark = projects.load(house).project.landmarks[-1]
    assert mark.name == "Landmark 3" and mark.x_m == round(mark.x_m, 2)
    device = (
        page.get_by_role("region", name="Setting out").get_by_role("listitem").filter(has_text="Access point").first
    )
    device.get_by_role("textbox").first.fill("1.5")
    page.keyboard.press("Enter")
    saved(page, 2)
    device.get_by_placeholder("Why moved").fill("a joist")
    page.keyboard.press("Enter")
    saved(page, 3)
    expect(device).to_contain_text("moved")
    built = [drop for drop in projects.load(house).project.drops if drop.built_why == "a joist"]
    assert len(built) == 1 and built[0].built_x_m is not None


def test_cables_are_ticked_off_on_a_phone(browser, server, house, projects):
    context = browser.new_context(viewport={"width": 390, "height": 844}, has_touch=True, base_url=server)
    page = context.new_page()
    page.goto(f"/projects/{house}/reach/pulls")
    expect(page.get_by_text("18 of 18 cables pulled")).to_be_visible()
    page.get_by_role("checkbox", name="Lighting hub is pulled").tap()
    saved(page, 1)
    expect(page.get_by_text("17 of 18 cables pulled")).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")
    assert [drop.label for drop in projects.load(house).project.drops if not drop.pulled] == ["Lighting hub"]
    context.close()


def test_a_path_is_chosen_in_the_section_and_its_caution_is_the_projects_own(page, house, projects):
    page.goto(f"/projects/{house}/reach/section")
    page.get_by_role("region", name="Paths").get_by_role("button", name="Chimney chase").click()
    expect(page.locator('polyline.path[data-chosen="true"]')).to_have_count(1)
    caution = page.get_by_label("Caution: ")
    caution.fill("The flue is in use in winter.")
    page.get_by_label("Name", exact=True).focus()
    saved(page, 1)
    assert projects.load(house).project.path_rates[0].caution == "The flue is in use in winter."
    page.goto(f"/projects/{house}/reach/pulls")
    expect(page.get_by_text("The flue is in use in winter.").first).to_be_visible()


@pytest.mark.parametrize(
    ("view", "name", "start"),
    [
        ("", "plan as DXF", b"  0\nSECTION"),
        ("/section", "section as SVG", b"<svg"),
        ("/cable", "Other material: CSV", b"\xef\xbb\xbfGroup"),
    ],
)
def test_what_is_on_screen_is_taken_along(page, house, view, name, start):
    page.goto(f"/projects/{house}/reach{view}")
    with page.expect_download() as coming:
        page.get_by_role("link", name=name).click()
    assert coming.value.path().read_bytes().startswith(start)


@pytest.mark.parametrize("view", ["pulls", "setting-out"])
def test_a_sheet_is_written_and_taken_along(page, house, view):
    page.goto(f"/projects/{house}/reach/{view}")
    for _ in range(2):
        with page.expect_download() as coming:
            page.get_by_role("button", name="Sheet (PDF)").click()
        assert coming.value.path().read_bytes().startswith(b"%PDF")
