"""Two people in one project: each sees what the other does, on every surface, and neither loses an edit."""

import pytest
from playwright.sync_api import expect

from .test_main_job import tally
from .test_plan import drop, middle, saved


@pytest.fixture
def other(browser, server):
    """Somebody else at another machine."""
    context = browser.new_context(base_url=server, viewport={"width": 1280, "height": 800})
    page = context.new_page()
    page.add_init_script("localStorage.setItem('baugrund.account', 'Ben')")
    yield page
    context.close()


def test_a_brief_written_by_two_holds_both_lines(page, other, house, projects):
    for one in (page, other):
        one.goto(f"/projects/{house}/brief")
        expect(one.get_by_role("region", name="Who does what")).to_be_visible()
    page.get_by_label("Who does what: add a task").fill("Chases")
    page.keyboard.press("Enter")
    expect(other.get_by_label("task: Chases")).to_be_visible()
    other.get_by_label("Who does what: add a task").fill("Painting")
    other.keyboard.press("Enter")
    expect(page.get_by_label("task: Painting")).to_be_visible()
    assert [duty.task for duty in projects.load(house).project.duties][-2:] == ["Chases", "Painting"]
    assert [entry.account for entry in projects.history(house)] == ["Ben", "you"]


def test_a_drop_dragged_by_one_moves_before_the_other(page, other, house):
    for one in (page, other):
        one.goto(f"/projects/{house}/walk/plan")
        expect(drop(one, "Screen, Living room")).to_be_visible()
    before = drop(other, "Screen, Living room").get_attribute("transform")
    start = middle(page, drop(page, "Screen, Living room"))
    page.mouse.move(*start)
    page.mouse.down()
    page.mouse.move(start[0] + 50, start[1] + 40, steps=4)
    page.mouse.up()
    saved(other, 1)
    expect(drop(other, "Screen, Living room")).not_to_have_attribute("transform", before)
    assert drop(page, "Screen, Living room").get_attribute("transform") == drop(
        other, "Screen, Living room"
    ).get_attribute("transform")


def test_each_undoes_only_their_own(page, other, house, projects):
    for one in (page, other):
        one.goto(f"/projects/{house}/walk/tally")
        expect(tally(one, "Study", "Desks")).to_be_visible()
    tally(page, "Study", "Desks").click()
    page.keyboard.press("5")
    saved(other, 1)
    tally(other, "Kitchen", "Phones").click()
    other.keyboard.press("2")
    saved(page, 2)
    expect(page.get_by_role("button", name="Undo: set Study to 5 desks")).to_be_enabled()
    expect(other.get_by_role("button", name="Undo: set Kitchen to 2 phones")).to_be_enabled()
    page.get_by_role("button", name="Undo: set Study to 5 desks").click()
    expect(tally(other, "Study", "Desks")).to_have_text("2")
    expect(tally(page, "Kitchen", "Phones")).to_have_text("2")


def test_a_room_removed_by_one_is_told_to_the_other(page, other, house):
    for one in (page, other):
        one.goto(f"/projects/{house}/walk/tally")
        expect(tally(one, "Bedroom", "Desks")).to_be_visible()
    page.route("**/events", lambda route: route.abort())
    page.goto(f"/projects/{house}/walk/tally")
    expect(tally(page, "Bedroom", "Desks")).to_be_visible()
    tally(other, "Bedroom", "Desks").click()
    other.get_by_role("button", name="Remove Bedroom").click()
    expect(tally(other, "Bedroom", "Desks")).to_be_hidden()
    tally(page, "Bedroom", "Desks").click()
    page.keyboard.press("4")
    expect(page.get_by_role("alert")).to_contain_text("There is no room")
    expect(tally(page, "Bedroom", "Desks")).to_be_hidden()
