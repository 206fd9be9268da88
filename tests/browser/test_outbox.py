"""What the server does not take at once stays in the browser: it is sent once the server answers, and is done once."""

import pytest
from playwright.sync_api import expect

from .test_main_job import tally
from .test_plan import saved

EDITS = "**/edits"


def losing_the_first_answer(page, address):
    """Of requests to an address the first is answered, and its answer is lost; gives the statuses of those."""
    lost = []

    def answer(route):
        answered = route.fetch()
        if lost:
            route.fulfill(response=answered)
        else:
            lost.append(answered.status)
            route.abort()

    page.route(address, answer)
    return lost


def say(page, text):
    page.get_by_label("Quick line: say what to add").fill(text)
    page.keyboard.press("Enter")


def set_two(page):
    """Two edits, one after the other."""
    tally(page, "Study", "Desks").click()
    page.keyboard.press("5")
    tally(page, "Kitchen", "Phones").click()
    page.keyboard.press("2")


def desks(projects, house, room):
    project = projects.load(house).project
    number = next(one.id for one in project.rooms if one.name == room)
    return sum(drop.room_id == number and drop.kind == "desk" for drop in project.drops)


@pytest.fixture
def study(page, house):
    page.goto(f"/projects/{house}/walk/tally")
    expect(tally(page, "Study", "Desks")).to_be_visible()
    return tally(page, "Study", "Desks")


def test_an_edit_whose_answer_is_lost_is_made_once(page, study, house, projects):
    lost = losing_the_first_answer(page, EDITS)
    before = desks(projects, house, "Study")
    say(page, "1 desk study")
    expect(page.get_by_role("alert")).to_contain_text("kept in this browser")
    saved(page, 1)
    assert lost == [200]
    assert desks(projects, house, "Study") == before + 1
    assert len(projects.history(house)) == 1


def test_an_undo_whose_answer_is_lost_takes_back_one_step(page, study, house, projects):
    set_two(page)
    saved(page, 2)

    lost = losing_the_first_answer(page, "**/undo")
    page.get_by_role("button", name="Undo: set Kitchen to 2 phones").click()
    saved(page, 3)
    assert lost == [200]
    expect(study).to_have_text("5")
    expect(tally(page, "Kitchen", "Phones")).not_to_have_text("2")
    assert [entry.act for entry in projects.history(house)] == ["undo", "edit", "edit"]


def test_what_waits_survives_a_closed_tab(page, context, study, house, projects):
    context.route(EDITS, lambda route: route.abort())
    set_two(page)
    expect(page.get_by_role("status").first).to_have_text("not saved yet: 2 changes wait")
    page.close()
    context.unroute(EDITS)
    again = context.new_page()
    again.goto("/projects")
    expect(again.get_by_text("2 changes wait in this browser; open the project to send them")).to_be_visible()
    again.goto(f"/projects/{house}/walk/tally")
    expect(again.get_by_role("alert")).to_contain_text("2 changes that waited in this browser are sent now")
    saved(again, 2)
    expect(tally(again, "Study", "Desks")).to_have_text("5")
    expect(tally(again, "Kitchen", "Phones")).to_have_text("2")
    assert desks(projects, house, "Study") == 5


def test_a_database_that_is_away_is_waited_for_and_a_failure_is_told(page, study, house, projects):
    answers = [503, 503, 500]

    def answer(route):
        if answers:
            status = answers.pop(0)
            body = f'{{"title": "x", "status": {status}, "detail": "The server failed at this."}}'
            route.fulfill(status=status, content_type="application/problem+json", body=body)
        else:
            route.continue_()

    page.route(EDITS, answer)
    study.click()
    page.keyboard.press("7")
    expect(page.get_by_role("alert")).to_contain_text("The server failed at this.")
    assert answers == []
    study.click()
    page.keyboard.press("8")
    saved(page, 1)
    assert desks(projects, house, "Study") == 8


def test_a_change_that_one_tab_sends_is_not_sent_by_another(page, context, study, house, projects):
    sent = []
    context.route(EDITS, lambda route: (sent.append(1), route.abort()))
    study.click()
    page.keyboard.press("5")
    expect(page.get_by_role("status").first).to_have_text("not saved yet: 1 change waits")
    second = context.new_page()
    second.goto(f"/projects/{house}/walk/tally")
    expect(second.get_by_role("status").first).to_have_text("revision 0, saved")
    context.unroute(EDITS)
    saved(page, 1)
    saved(second, 1)
    assert len(projects.history(house)) == 1


def test_a_list_that_is_taken_in_is_taken_in_once(page, house, projects):
    lost = losing_the_first_answer(page, "**/drops/import?**")
    page.goto(f"/projects/{house}/walk/list")
    file = {"name": "drops.csv", "mimeType": "text/csv", "buffer": b"Room,What,Count\nStudy,desk,2\n"}
    page.get_by_label("Choose a file").set_input_files(file)
    before = desks(projects, house, "Study")
    page.get_by_role("button", name="Add 2 drops").click()
    saved(page, 1)
    assert lost == [200]
    assert desks(projects, house, "Study") == before + 2


def test_nine_tabs_of_one_browser_all_hear_of_an_edit(context, house, projects):
    tabs = [context.new_page() for _ in range(9)]
    for tab in tabs:
        tab.goto(f"/projects/{house}/walk/tally")
        expect(tally(tab, "Study", "Desks")).to_be_visible()
    tabs[0].close()
    tally(tabs[8], "Study", "Desks").click()
    tabs[8].keyboard.press("5")
    for tab in tabs[1:]:
        saved(tab, 1)
