"""Walk beside the main job: rooms, findings, clashes, a long ledger, a thumb."""

import re

from playwright.sync_api import expect

from baugrund.core.edits import AddRooms, NewRoom, SetTally, apply_edits
from baugrund.core.facts.project import empty_project

from .controls import choice
from .test_main_job import tally


def test_rooms_are_named_added_removed_and_brought_back(page, house, projects):
    page.goto(f"/projects/{house}/walk")
    page.get_by_label("Name of Kitchen").fill("Scullery")
    page.keyboard.press("Enter")
    expect(tally(page, "Scullery", "Desks")).to_be_visible()
    page.get_by_label("Add a room", exact=True).first.fill("Greenhouse")
    page.keyboard.press("Enter")
    expect(tally(page, "Greenhouse", "Desks")).to_be_visible()
    assert projects.load(house).project.rooms[-1].outside, "the floor of the last room is taken"
    tally(page, "Garden", "Cameras").click()
    page.get_by_role("button", name="Remove Garden").click()
    expect(tally(page, "Garden", "Cameras")).to_be_hidden()
    page.get_by_role("button", name="Undo: remove Garden with 2 drops").click()
    expect(tally(page, "Garden", "Cameras")).to_have_text("2")
    page.get_by_role("button", name="Redo: remove Garden with 2 drops").click()
    expect(tally(page, "Garden", "Cameras")).to_be_hidden()


def test_a_finding_shows_the_drop_that_it_is_about(page, works):
    page.goto(f"/projects/{works}/walk")
    page.get_by_role("button", name="Heat camera, kiln", exact=True).click()
    line = page.get_by_role("row").filter(has=page.get_by_label("Label: Camera 1, Kiln room"))
    expect(line).to_have_attribute("data-lit", "true")
    page.get_by_role("button", name="Ask for class 4").click()
    expect(choice(page, "Class: Camera 1, Kiln room")).to_have_text("cl. 4")
    expect(page.get_by_text("draws 13.8 W; class 3")).to_be_hidden()


def test_a_clash_is_told_and_the_other_value_shown(page, house, projects):
    page.goto(f"/projects/{house}/walk")
    field = page.get_by_label("Run m: Camera 1, Garden")
    field.fill("66")
    drop = next(d.id for d in projects.load(house).project.drops if d.kind == "camera")
    page.route("**/events", lambda route: route.abort())
    seen = {"edit": {"type": "change_drops", "ids": [drop], "changes": {"run_m": 55}}}
    page.evaluate(
        """async ([house, edit]) => fetch(`/api/projects/${house}/edits`, {method: 'POST',
        headers: {'content-type': 'application/json', 'x-account': 'ben'},
        body: JSON.stringify({seen_revision: 0, edits: [edit]})})""",
        [house, seen["edit"]],
    )
    page.route(
        "**/edits",
        lambda route: route.continue_(
            post_data=re.sub(r'"seen_revision":\d+', '"seen_revision":0', route.request.post_data)
        ),
    )
    field.focus()
    field.fill("67")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("ben changed run m of Camera, Garden to 55")
    expect(field).to_have_value("55")
    page.get_by_role("button", name="Close", exact=True).click()
    expect(page.get_by_role("alert")).to_be_hidden()


def test_a_thousand_drops_are_listed_and_an_edit_shows_at_once(page, projects):
    rooms = AddRooms(rooms=(NewRoom(name="Hall"), NewRoom(name="Far")))
    two = apply_edits(empty_project("Thousand", 2026), [rooms])
    number = projects.create(
        apply_edits(two, [SetTally(room_id=room.id, kind="jack", count=500) for room in two.rooms])
    )
    page.goto(f"/projects/{number}/walk")
    expect(page.get_by_text("1000 drops in 2 rooms")).to_be_visible()
    lines = page.get_by_role("table", name="Lines of the ledger").locator("tbody")
    assert lines.get_by_role("row").count() < 60, "only what is in sight is drawn"
    lines.evaluate("element => element.scrollTo(0, element.scrollHeight)")
    expect(page.get_by_label("Label: Wall jack 500, Far")).to_be_visible()
    page.get_by_label("Label: Wall jack 500, Far").fill("the last")
    page.keyboard.press("Enter")
    expect(page.get_by_role("status").filter(has_text="revision 1, saved")).to_be_visible()
    assert projects.load(number).project.drops[-1].label == "the last"


def test_a_thumb_steps_the_chosen_cell(page, house):
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"/projects/{house}/walk")
    cell = tally(page, "Kitchen", "Wall jacks")
    cell.click()
    stepper = page.get_by_role("group", name="Wall jacks in Kitchen")
    stepper.get_by_role("button", name="One more").click()
    expect(cell).to_have_text("2")
    stepper.get_by_role("button", name="One less").click()
    expect(cell).to_have_text("1")
    for button in stepper.get_by_role("button").all():
        box = button.bounding_box()
        assert min(box["width"], box["height"]) >= 44


def test_the_quick_line_completes_and_backs_out(page, house):
    page.goto(f"/projects/{house}/walk")
    expect(tally(page, "Study", "Desks")).to_be_visible()
    page.keyboard.press("/")
    line = page.get_by_label("Quick line")
    expect(line).to_be_focused()
    page.keyboard.type("2 desk stu")
    expect(page.get_by_text("Tab: 2 desk Study")).to_be_visible()
    page.keyboard.press("Tab")
    expect(line).to_have_value("2 desk Study ")
    page.keyboard.press("Escape")
    expect(line).to_have_value("")
    page.keyboard.press("Escape")
    expect(line).not_to_be_focused()


def test_projects_are_removed_after_a_second_word(page, projects, row_house):
    number = projects.create(row_house.changed(name="To be removed"))
    page.goto("/projects")
    page.get_by_role("button", name="Remove To be removed").click()
    page.get_by_role("button", name="Do not remove").click()
    expect(page.get_by_role("link", name="To be removed")).to_be_visible()
    page.get_by_role("button", name="Remove To be removed").click()
    page.get_by_role("button", name="Remove for good").click()
    expect(page.get_by_role("link", name="To be removed")).to_be_hidden()
    assert number not in [line.id for line in projects.all()]


def test_a_project_that_is_not_there_is_told_at_once(page):
    asked = []
    page.on("request", lambda request: asked.append(request.url))
    page.goto("/projects/987654/walk")
    expect(page.get_by_role("alert")).to_have_text("There is no project 987654.")
    assert len([url for url in asked if url.endswith("/projects/987654/state")]) == 1, "not asked again"
    page.get_by_role("button", name="Projects").click()
    expect(page.get_by_role("heading", name="Projects")).to_be_visible()


def test_typing_fast_keeps_every_digit(page, house, projects):
    page.goto(f"/projects/{house}/walk")
    tally(page, "Living room", "Desks").click()
    for _ in range(8):
        page.keyboard.press("1")
        page.keyboard.press("ArrowDown")
    expect(page.get_by_role("status").filter(has_text="revision")).to_be_visible()
    expect(tally(page, "Landing", "Desks")).to_have_text("1")
    expect(page.get_by_text("23 drops in 8 rooms")).to_be_visible()
    counts = [sum(d.room_id == room.id and d.kind == "desk" for d in projects.load(house).project.drops)
              for room in projects.load(house).project.rooms]  # fmt: skip
    assert counts == [1] * 8
