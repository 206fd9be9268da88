"""A thousand drops: a list comes in, the ledger scrolls without drawing all, an edit shows before it is saved."""

import pytest
from playwright.sync_api import expect

from .test_list import paste
from .test_main_job import tally
from .test_plan import saved

THOUSAND = "Floor,Room,What,Run m\n" + "\n".join(
    f"Floor {n // 250},Room {n // 10},{('desk', 'camera', 'ap', 'jack', 'phone')[n % 5]},{10 + n % 60}"
    for n in range(1000)
)


@pytest.fixture
def large(page, projects):
    from baugrund.core.edits import apply_edits
    from baugrund.core.facts.project import empty_project
    from baugrund.exchange.drop_list import read_list
    from baugrund.exchange.tables import read_table

    project = empty_project("Large", 2026)
    listed = read_list(read_table(THOUSAND.encode()), project)
    number = projects.create(apply_edits(project, [listed.edit]))
    # the pick of a thousand drops is another matter; here it would only take the processor
    page.route("**/picks/**", lambda route: route.fulfill(status=503, json={"detail": "not now"}))
    page.goto(f"/projects/{number}/walk/tally")
    expect(page.get_by_text("1000 drops in 100 rooms")).to_be_visible()
    return page


def test_a_thousand_lines_come_in_after_a_look(page, projects):
    from baugrund.core.facts.project import empty_project

    number = projects.create(empty_project("Comes", 2026))
    page.goto(f"/projects/{number}/walk/list")
    chosen = {"name": "thousand.csv", "mimeType": "text/csv", "buffer": THOUSAND.encode()}
    page.get_by_label("Choose a file").set_input_files(files=[chosen])
    expect(page.get_by_text("and 800 more lines")).to_be_visible()
    page.get_by_role("button", name="Add 1000 drops").click()
    expect(page.get_by_text("1000 drops were added")).to_be_visible()
    assert len(projects.load(number).project.drops) == 1000


def test_lines_are_drawn_as_they_come_into_sight(large):
    lines = large.get_by_role("table", name="Lines of the ledger").locator("tbody")
    large.get_by_label("Label: Desk 1, Room 0").scroll_into_view_if_needed()
    large.mouse.move(600, 560)
    for _ in range(12):
        large.mouse.wheel(0, 900)
        large.wait_for_timeout(40)
    assert lines.get_by_role("row").count() < 60
    assert lines.evaluate("element => element.scrollTop") > 2000


def test_an_edit_shows_before_it_is_saved(large):
    cell = tally(large, "Room 3", "Printers")
    cell.click()
    waited_ms = large.evaluate(
        """() => new Promise(done => {
            const cell = document.activeElement, start = performance.now();
            new MutationObserver(() => requestAnimationFrame(() => done(performance.now() - start)))
                .observe(cell, {subtree: true, childList: true, characterData: true});
            cell.dispatchEvent(new KeyboardEvent("keydown", {key: "7", bubbles: true}));
        })"""
    )
    print("a digit of the tally shows after [ms]:", waited_ms)
    expect(cell).to_have_text("7")
    saved(large, 1)


def test_many_lines_are_filtered_chosen_and_changed_at_once(large, projects):
    large.get_by_label("Filter lines").fill("camera")
    large.get_by_role("button", name="Choose all 200").click()
    field = large.get_by_label("Place: Camera 1, Room 0")
    field.fill("high")
    field.blur()
    saved(large, 1)
    number = int(large.url.split("/projects/")[1].split("/")[0])
    places = {drop.place for drop in projects.load(number).project.drops if drop.kind == "camera"}
    assert places == {"high"}


@pytest.mark.parametrize(("lines", "taken"), [(500, True), (501, False)])
def test_five_hundred_pasted_lines_are_the_most(large, projects, lines, taken):
    paste(large, large.get_by_label("Label: Desk 1, Room 0"), "a\tb\n" * lines)
    number = int(large.url.split("/projects/")[1].split("/")[0])
    if taken:
        saved(large, 1)
        assert sum(drop.label == "a" for drop in projects.load(number).project.drops) == lines
    else:
        expect(large.get_by_role("alert")).to_contain_text("501 lines were pasted; 500 at once are the most")
        assert projects.load(number).revision == 0
