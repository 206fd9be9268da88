"""Price lists in the browser: lines found, compared, changed, brought in; a project is offered the newer edition."""

import pytest
from playwright.sync_api import expect

from baugrund.store.catalogues import Catalogues

from .controls import choice, choose


@pytest.fixture
def catalogues(database, catalogue):
    return Catalogues(database, catalogue)


@pytest.fixture
def own(catalogues, catalogue):
    """A list of one's own, as big as the shipped one."""
    taken = {line.name for line in catalogues.all()}
    name = next(f"Van {n}" for n in range(100) if f"Van {n}" not in taken)
    return catalogues.create(catalogue.model_copy(update={"name": name}), "ann")


@pytest.fixture
def lines(page, own, catalogue):
    page.goto(f"/catalogues/{own}")
    expect(page.get_by_text(f"{len(catalogue.models)} lines").last).to_be_visible()
    return page


def prices(page):
    return [row.locator("td").last.inner_text() for row in page.locator("tbody tr").all()]


def test_lines_are_filtered_by_kind_and_word_and_sorted(lines):
    lines.get_by_role("button", name="switches").click()
    lines.get_by_label("Filter lines").fill("2.5 g none-such")
    expect(lines.get_by_text("No line matches all of these words.")).to_be_visible()
    lines.get_by_label("Filter lines").fill("2.5 g plain")
    expect(lines.get_by_role("row", name="5-port switch, 2.5 G, plain")).to_be_visible()
    price = lines.get_by_role("columnheader", name="Price")
    price.get_by_role("button").click()
    expect(price).to_have_attribute("aria-sort", "ascending")
    told = [float(price.removeprefix("€\u00a0").replace(",", "")) for price in prices(lines)]
    assert told == sorted(told) and len(told) > 1
    price.get_by_role("button").click()
    expect(price).to_have_attribute("aria-sort", "descending")
    assert [float(price.removeprefix("€\u00a0").replace(",", "")) for price in prices(lines)] == told[::-1]


def test_ticked_lines_stand_side_by_side_with_what_differs(lines):
    for name in ("8-port switch, plain", "24-port switch, plain"):
        lines.get_by_role("checkbox", name=f"Compare: {name}").check()
    lines.get_by_role("link", name="Compare (2)").click()
    expect(lines.get_by_role("button", name="Clear")).to_be_visible()
    table = lines.get_by_role("table")
    expect(table.get_by_role("row", name="Ports")).to_contain_text("24 × 1 G")
    expect(table.get_by_role("row", name="Price")).to_contain_text("€ 119 + € 90")
    assert table.get_by_role("row", name="Managed").get_attribute("data-differs") is None
    lines.get_by_role("button", name="Clear").click()
    expect(lines.get_by_text("Tick two or more lines")).to_be_visible()


def test_what_is_sold_by_the_pack_is_compared_by_the_piece(lines):
    pair = lines.get_by_role("row", name="Optical module, 10 G, multimode, pair")
    expect(pair).to_contain_text("€ 56 for 2")
    for name in ("Optical module, 10 G, multimode", "Optical module, 10 G, multimode, pair"):
        lines.get_by_role("checkbox", name=f"Compare: {name}", exact=True).check()
    lines.get_by_role("link", name="Compare (2)").click()
    expect(lines.get_by_role("row", name="Price")).to_contain_text("€ 32 + € 4€ 28 each, € 56 for 2")


def test_the_parts_of_a_pick_tell_pieces_and_packs(page, works):
    page.goto(f"/projects/{works}/pick")
    part = page.get_by_role("row", name="Optical module, 10 G, multimode, pair")
    expect(part).to_contain_text("2a pack of 2€ 56", timeout=120_000)


def test_a_line_is_changed_refused_and_copied(lines, own, catalogues):
    lines.get_by_role("button", name="8-port switch, plain", exact=True).click()
    price = lines.get_by_role("textbox", name="Price", exact=True)
    expect(price).to_have_value("29.00")
    price.fill("abc")
    lines.get_by_role("button", name="Save the line").click()
    expect(lines.get_by_text("Price: “abc” is not a number.").first).to_be_visible()
    expect(price).to_have_value("abc")
    price.fill("31.50")
    lines.get_by_role("button", name="Save the line").click()
    expect(lines.get_by_role("row", name="8-port switch, plain").first).to_contain_text("€ 31.50")
    assert catalogues.edition(own).number == 2
    lines.get_by_role("button", name="8-port switch, plain", exact=True).click()
    lines.get_by_role("button", name="Save as a new line").click()
    lines.get_by_role("button", name="Save the line").click()
    expect(lines.get_by_role("button", name="8-port switch, plain, copy")).to_be_visible()
    lines.get_by_role("button", name="8-port switch, plain, copy").click()
    lines.get_by_role("button", name="Remove the line").click()
    expect(lines.get_by_role("button", name="8-port switch, plain, copy")).to_have_count(0)
    lines.get_by_role("link", name="Editions").click()
    lines.get_by_role("button", name="What changed: edition 2").click()
    expect(lines.get_by_text("price € 29 → € 31.50")).to_be_visible()


def test_a_file_is_looked_at_line_by_line_and_taken_whole(lines, own, catalogues):
    def bring(*rows):
        text = "\n".join(["kind,name,price,completes", *rows])
        lines.get_by_label("Choose a file").set_input_files(
            {"name": "prices.csv", "mimeType": "text/csv", "buffer": text.encode()}
        )

    lines.get_by_role("link", name="Import").click()
    bring("spare,Long ears,9,ears", "spare,Wide ears,nine,ears")
    expect(lines.get_by_text("1 line is wrong; nothing is changed yet")).to_be_visible()
    expect(lines.get_by_text("Price: “nine” is not a number.")).to_be_visible()
    lines.get_by_role("button", name="Mend line 3").click()
    lines.get_by_label("Price, line 3").fill("8")
    lines.keyboard.press("Enter")
    expect(lines.get_by_role("button", name="Change 2 lines")).to_be_visible()
    bring("accessory,Long ears,9,ears", "thing,Wide ears,8,ears")
    expect(choice(lines, "Kind “accessory” means")).to_contain_text("spare (guessed)")
    choose(lines, "Kind “thing” means", "spare")
    lines.get_by_role("button", name="Change 2 lines").click()
    expect(lines.get_by_text("The list was changed.")).to_be_visible()
    assert [model.name for model in catalogues.edition(own).catalogue.models[-2:]] == ["Long ears", "Wide ears"]


def test_a_list_goes_out_as_a_file_and_says_so_when_it_comes_back(lines):
    with lines.expect_download() as told:
        lines.get_by_role("button", name="XLSX").click()
    assert told.value.suggested_filename.endswith(".xlsx")
    lines.get_by_role("link", name="Import").click()
    lines.get_by_label("Choose a file").set_input_files(told.value.path())
    expect(lines.get_by_text("The file changes nothing.")).to_be_visible()
    expect(lines.get_by_role("button", name="XLSX")).to_be_visible()


def test_a_file_that_is_no_price_list_is_refused_and_another_is_taken(lines, own, catalogues):
    lines.get_by_role("link", name="Import").click()
    chooser = lines.get_by_label("Choose a file")
    chooser.set_input_files({"name": "a.csv", "mimeType": "text/csv", "buffer": b"a,b\n1,2"})
    expect(lines.get_by_text("columns: No column is called “Kind”.")).to_be_visible()
    lines.get_by_role("button", name="Close the file").click()
    expect(lines.get_by_text("No column is called")).to_have_count(0)
    rail = b"kind,name,price,completes\nspare,Long rail,9,rails"
    chooser.set_input_files({"name": "b.csv", "mimeType": "text/csv", "buffer": rail})
    lines.get_by_role("button", name="Change 1 line").click()
    expect(lines.get_by_text("The list was changed.")).to_be_visible()
    assert catalogues.edition(own).catalogue.models[-1].name == "Long rail"


def test_a_list_begins_is_named_and_removed(page, catalogues):
    page.goto("/catalogues")
    page.get_by_label("Name of the new list").fill("Second hand")
    page.get_by_role("button", name="Create the list").click()
    expect(page.get_by_text("No line yet.")).to_be_visible()
    name = page.get_by_role("textbox", name="Name", exact=True)
    name.fill("Second-hand gear")
    page.keyboard.press("Enter")
    expect(page.get_by_role("link", name="Second-hand gear")).to_be_visible()
    page.get_by_role("button", name="Remove this list").click()
    page.get_by_role("button", name="Remove it for good").click()
    expect(page.get_by_role("link", name="Second-hand gear")).to_have_count(0)


def test_a_project_is_offered_newer_prices_and_takes_them(page, own, catalogues, projects, row_house):
    number = projects.create(catalogues.priced(row_house, [catalogues.edition(own).catalogue], "ann"))
    page.goto(f"/projects/{number}/pick")
    expect(page.get_by_role("article", name="Least price").locator("strong")).to_have_text("€ 517")
    before = catalogues.edition(own).catalogue
    dearer = [model.model_copy(update={"price_minor": model.price_minor + 1000}) for model in before.models]
    catalogues.change(own, 1, before.model_copy(update={"models": tuple(dearer)}), "ann", "dearer")
    page.reload()
    page.get_by_role("button", name=f"newer prices: {len(before.models)} changes").click()
    page.get_by_role("button", name="Use edition 2").click()
    page.keyboard.press("Escape")
    # three boxes, ten more each
    expect(page.get_by_role("article", name="Least price").locator("strong")).to_have_text("€ 547")
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("article", name="Least price").locator("strong")).to_have_text("€ 517")


def test_years_steps_flips_and_rooms_are_told_and_a_room_switch_is_taken(page, house, projects):
    page.goto(f"/projects/{house}/pick")
    years = page.get_by_role("region", name="Answer A year by year")
    expect(years.get_by_role("row", name="2035")).to_contain_text("ports")
    page.get_by_role("button", name="Compute: Buy in two steps").click()
    expect(page.get_by_text("Buying in two steps saves nothing now")).to_be_visible()
    page.get_by_role("button", name="Compare prices").click()
    rooms = page.get_by_role("region", name="Ports beyond the closet")
    expect(rooms.get_by_role("row", name="Living room")).to_contain_text("less")
    rooms.get_by_role("button", name="Use a room switch: Living room").click()
    expect(page.get_by_role("status").filter(has_text="revision 1, saved")).to_be_visible()
    assert [drop.kind for drop in projects.load(house).project.drops][-1] == "room_switch"


def test_room_switches_in_several_rooms_are_taken_with_one_press(page, works, projects):
    page.goto(f"/projects/{works}/pick")
    page.get_by_role("button", name="Compare prices").click()
    rooms = page.get_by_role("region", name="Ports beyond the closet")
    together = rooms.get_by_text("Room switches in")
    expect(together).to_contain_text("less than cables to every port", timeout=120_000)
    together.get_by_role("button", name="Use all of them").click()
    expect(page.get_by_role("status").filter(has_text="revision 1, saved")).to_be_visible()
    switches = [drop for drop in projects.load(works).project.drops if drop.kind == "room_switch"]
    assert len(switches) >= 2
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("status").filter(has_text="revision 2, saved")).to_be_visible()
    assert not [drop for drop in projects.load(works).project.drops if drop.kind == "room_switch"]


def test_a_search_is_stopped_and_begun_again(nothing_found, page, school):
    page.goto(f"/projects/{school}/pick")
    page.get_by_role("button", name="Stop: Most room").click()
    roomy = page.get_by_role("article", name="Most room")
    expect(roomy.get_by_text("Stopped.")).to_be_visible()
    roomy.get_by_role("button", name="Search again: Most room").click()
    expect(roomy.locator("strong")).to_be_visible(timeout=120_000)
