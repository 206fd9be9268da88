"""The ledger sorted, filtered, grouped, pasted into; lists in and out; own kinds; photos; history; 45 drops by key."""

import io

import pytest
from PIL import Image
from playwright.sync_api import expect

from baugrund.core.walk.room_starters import STARTERS

from .controls import choice, choose
from .test_main_job import Keys, new_project, tally


@pytest.fixture
def ledger(page, house):
    page.goto(f"/projects/{house}/walk/tally")
    expect(page.get_by_label("Label: Screen 1, Living room")).to_be_visible()
    return page


def saved(page, revision):
    expect(page.get_by_role("status").filter(has_text=f"revision {revision}, saved")).to_be_visible()


def rooms_shown(page):
    lines = page.get_by_role("table", name="Lines of the ledger").locator("tbody").get_by_role("row")
    return [line.get_by_role("cell").nth(1).inner_text() for line in lines.all()]


def test_lines_are_filtered_sorted_and_grouped(ledger):
    ledger.get_by_label("Filter lines").fill("study")
    assert rooms_shown(ledger) == ["Study"] * 3
    ledger.get_by_label("Filter lines").fill("nothing such")
    expect(ledger.get_by_text("No drop has “nothing such” in it.")).to_be_visible()
    ledger.get_by_label("Filter lines").fill("")
    ledger.get_by_role("button", name="Run m: sort").click()
    ledger.get_by_role("button", name="Run m: sort, now ascending").click()
    first = (
        ledger.get_by_role("table", name="Lines of the ledger")
        .get_by_role("rowgroup")
        .get_by_role("textbox", name="Run m")
        .first
    )
    expect(first).to_have_attribute("placeholder", "~21.8")
    ledger.get_by_label("Filter lines").fill("garden")
    choose(ledger, "Group lines", "by floor")
    expect(ledger.get_by_role("row").filter(has_text="Outside 2 drops")).to_be_visible()


def test_a_change_goes_to_all_chosen_lines(ledger, house, projects):
    ledger.get_by_label("Filter lines").fill("garden camera")
    ledger.get_by_role("button", name="Choose all 2").click()
    ledger.get_by_label("Place: Camera 1, Garden").fill("eaves")
    ledger.keyboard.press("Enter")
    saved(ledger, 1)
    assert [d.place for d in projects.load(house).project.drops if d.kind == "camera"] == ["eaves", "eaves"]


def paste(page, target, text):
    target.focus()
    target.evaluate(
        """(element, text) => {
            const data = new DataTransfer();
            data.setData("text/plain", text);
            element.dispatchEvent(new ClipboardEvent("paste", {clipboardData: data, bubbles: true, cancelable: true}));
        }""",
        text,
    )


def test_a_block_from_a_spreadsheet_is_pasted_or_refused_whole(ledger, house, projects):
    label = ledger.get_by_label("Label: Wall jack 1, Living room")
    paste(ledger, label, "Sofa left\tlow\t2.5 G\nSofa right\tlow\t1g\n")
    saved(ledger, 1)
    jacks = [d for d in projects.load(house).project.drops if d.kind == "jack"][:2]
    assert [(d.label, d.place, d.speed_mbit) for d in jacks] == [
        ("Sofa left", "low", 2500),
        ("Sofa right", "low", 1000),
    ]
    paste(ledger, label, "A\tlow\nB\tlow\tquick\n")
    expect(ledger.get_by_role("alert")).to_contain_text("Pasted line 2, Speed: “quick” cannot be taken")
    assert projects.load(house).revision == 1


def bring(page, text):
    page.get_by_label("Choose a file").set_input_files(
        files=[{"name": "list.csv", "mimeType": "text/csv", "buffer": text.encode()}]
    )


def test_another_ones_list_comes_in_with_its_values_settled_and_a_line_mended(page, house, projects):
    page.goto(f"/projects/{house}/walk/list")
    text = "Location,Device,Qty,PoE,Watts,Colour\n" + "".join(
        f"{line}\n"
        for line in (
            "Attic,VoIP phone,2,yes,few,red",
            "Attic,Gadget,1,,,red",
            "Loft,gadget,1,,,",
            ",desk,1,,,",
            "Attic,blob,1,,,",
        )
    )
    bring(page, text)
    expect(page.get_by_text("What: “Gadget” is no kind of drop.", exact=True)).to_be_visible()
    expect(page.get_by_role("button", name="5 lines need an answer before anything is added")).to_be_disabled()
    expect(choice(page, "Device “VoIP phone” means")).to_contain_text("Phone (guessed)")
    choose(page, "Device “Gadget” means", "Hub")
    choose(page, "Device “blob” means", "leave these lines out")
    page.get_by_label("Watts “few” means").fill("6,5")
    page.keyboard.press("Enter")
    expect(page.get_by_text("1 line needs an answer before anything is added")).to_be_visible()
    page.get_by_role("button", name="Mend line 5").click()
    page.get_by_label("Room, line 5").fill("Loft")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Take line 6 again")).to_be_visible()
    choose(page, "Column Colour is", "Label")
    page.get_by_role("button", name="Add 5 drops").click()
    expect(page.get_by_text("5 drops were added; undo takes them back.")).to_be_visible()
    project = projects.load(house).project
    assert [(drop.kind, drop.label) for drop in project.drops[-5:]] == [
        ("phone", "red"), ("phone", "red"), ("hub", "red"), ("hub", ""), ("desk", ""),
    ]  # fmt: skip
    assert {drop.draw_w for drop in project.drops[-5:-3]} == {6.5}
    page.keyboard.press("Control+z")
    saved(page, 2)
    assert len(projects.load(house).project.drops) == 18
    # the next list: what was settled is remembered
    bring(page, "Room,What\nAttic,gadget\nLoft,blob\n")
    expect(choice(page, "What “gadget” means")).to_contain_text("Hub")
    expect(page.get_by_role("button", name="Add 1 drop")).to_be_enabled()
    page.get_by_role("link", name="History").click()
    expect(page.get_by_text("undid: add 5 drops from list.csv")).to_be_visible()


def test_lists_go_out_as_files(page, works):
    page.goto(f"/projects/{works}/walk/list")
    for link, start in (("List as CSV", b"\xef\xbb\xbfFloor,Room"), ("List as XLSX", b"PK\x03\x04")):
        with page.expect_download() as download:
            page.get_by_role("link", name=link).click()
        with open(download.value.path(), "rb") as file:
            assert file.read(14).startswith(start[:14])


def test_a_kind_of_ones_own_gets_a_column(ledger, house, projects):
    ledger.get_by_role("button", name="own kinds").click()
    sheet = ledger.get_by_role("dialog", name="Kinds of your own")
    sheet.get_by_label("name a kind of your own").fill("Blind motor")
    ledger.keyboard.press("Enter")
    choose(sheet, "poe_class: Blind motor", "class 3")
    saved(ledger, 2)
    ledger.keyboard.press("Escape")
    cell = tally(ledger, "Study", "Blind motor")
    cell.click()
    ledger.keyboard.press("2")
    expect(cell).to_have_text("2")
    saved(ledger, 3)
    project = projects.load(house).project
    assert [d.poe_class for d in project.drops if d.own_kind_id == project.own_kinds[0].id] == [3, 3]
    ledger.keyboard.press("/")
    ledger.keyboard.type("blind motor kitchen")
    expect(ledger.get_by_text("1 × Blind motor, Kitchen — Enter")).to_be_visible()


def test_one_hand_adds_drops_a_photo_and_a_note_on_a_phone(page, house, projects):
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"/projects/{house}/walk/tally")
    tally(page, "Kitchen", "Wall jacks").click()
    page.get_by_role("group", name="Wall jacks in Kitchen").get_by_role("button", name="One more").click()
    saved(page, 1)
    page.get_by_label("Choose Wall jack 2, Kitchen").check()
    sheet = page.get_by_role("region", name="Wall jack, Kitchen")
    sheet.get_by_label("Note").fill("behind the fridge")
    sheet.get_by_label("Note").blur()
    saved(page, 2)
    out = io.BytesIO()
    Image.new("RGB", (60, 40), "red").save(out, "JPEG")
    sheet.get_by_label("Add a photo").set_input_files(
        files=[{"name": "a.jpg", "mimeType": "image/jpeg", "buffer": out.getvalue()}]
    )
    expect(sheet.get_by_role("img", name="Photo 1")).to_be_visible()
    saved(page, 3)
    drop = projects.load(house).project.drops[-1]
    assert (drop.note, len(drop.photos)) == ("behind the fridge", 1)
    assert page.evaluate("document.documentElement.scrollWidth") <= 390


COOPERATIVE = (
    ("Store", "jack cam"), ("Plant room", "hub nas rec ctrl"), ("Workshop west", "desk 3jack ap cam"),
    ("Workshop east", "3jack ap cam"), ("Kiln room", "cam hub"), ("Packing", "2desk print"),
    ("Shop", "desk screen ap cam door"), ("Gallery", "2jack ap cam"), ("Office", "4desk print phone ap"),
    ("Classroom", "desk screen ap"), ("Glaze shed", "jack ap"), ("Gate", "2cam door"),
)  # fmt: skip
COLUMNS = ("desk", "jack", "screen", "print", "phone", "ap", "cam", "door", "hub", "nas", "rec", "ctrl")


def test_the_cooperative_is_entered_in_a_hundred_and_fifty_strokes_with_its_rooms_pasted(page, projects):
    new_project(page, "Typed")
    paste(page, page.locator("#add-room"), "\n".join(name for name, _ in COOPERATIVE))
    expect(tally(page, "Gate", "Desks")).to_be_visible()
    tally(page, "Store", "Desks").focus()
    keys, column = Keys(page), 0
    keys.strokes = 4  # to the field, the paste of two keys, and into the tally
    for line, (_, listed) in enumerate(COOPERATIVE):
        if line:
            keys.press("ArrowDown")
        wanted = [(COLUMNS.index(word.lstrip("234")), word[0] if word[0].isdigit() else "1") for word in listed.split()]
        if abs(wanted[0][0] - column) > abs(wanted[-1][0] - column):
            wanted.reverse()
        for place, count in wanted:
            if place + 1 < abs(place - column):
                keys.press("Home")
                column = 0
            keys.press(*(["ArrowRight" if place > column else "ArrowLeft"] * abs(place - column)), count)
            column = place
    expect(page.get_by_text("46 drops in 12 rooms")).to_be_visible()
    assert keys.strokes <= 150, keys.strokes


def test_a_template_fills_an_empty_project(page, projects):
    new_project(page, "From a template")
    page.get_by_role("button", name="Clinic with").click()
    clinic = next(starter for starter in STARTERS if starter.key == "clinic")
    count = sum(drop.count for drop in clinic.drops)
    expect(page.get_by_text(f"{count} drops in {len(clinic.rooms)} rooms")).to_be_visible()
    page.keyboard.press("Control+z")
    expect(page.get_by_text("Start with the rooms")).to_be_visible()
