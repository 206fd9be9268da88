"""The main job in the real interface: list the drops, get the pick, by keyboard alone."""

import re

from playwright.sync_api import expect

from .controls import choose


class Keys:
    """A keyboard that counts its strokes."""

    def __init__(self, page):
        self.page = page
        self.strokes = 0

    def press(self, *keys):
        for key in keys:
            self.page.keyboard.press(key)
            self.strokes += 1


def new_project(page, name):
    page.goto("/projects")
    page.get_by_label("Name of the new project").fill(name)
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Rooms of a house")).to_be_focused()


def tally(page, room, kind):
    return page.get_by_role("gridcell", name=re.compile(f"^{kind} in {re.escape(room)}: "))


ROW_HOUSE = {
    "Living room": {"Screens": 1, "Consoles": 1, "Wall jacks": 2},
    "Kitchen": {"Wall jacks": 1},
    "Hall": {"Access points": 1, "Door stations": 1, "Hubs": 2, "NAS": 1},
    "Study": {"Desks": 2, "Printers": 1},
    "Bedroom": {"Wall jacks": 1},
    "Child's room": {"Desks": 1},
    "Landing": {"Access points": 1},
    "Garden": {"Cameras": 2},
}


def test_the_row_house_is_typed_in_sixty_strokes_from_an_empty_project(page, projects):
    new_project(page, "Counted")
    keys = Keys(page)
    keys.press("Enter")
    first = tally(page, "Living room", "Desks")
    expect(first).to_be_focused()
    kinds = [head.get_attribute("title") for head in page.locator("thead th[title]").all()]
    column = 0
    for number, (_, wanted) in enumerate(ROW_HOUSE.items()):
        if number:
            keys.press("ArrowDown")
        places = sorted((kinds.index(kind), count) for kind, count in wanted.items())
        if abs(places[0][0] - column) > abs(places[-1][0] - column):
            places.reverse()
        for place, count in places:
            if place + 1 < abs(place - column):
                keys.press("Home")
                column = 0
            keys.press(*(["ArrowRight" if place > column else "ArrowLeft"] * abs(place - column)), str(count))
            column = place
    expect(page.get_by_text("18 drops in 8 rooms")).to_be_visible()
    assert keys.strokes <= 60, keys.strokes
    expect(page.get_by_role("status").filter(has_text="saved")).to_be_visible()
    kept = next(p for p in projects.all() if p.name == "Counted")
    project = projects.load(kept.id).project
    names = {room.id: room.name for room in project.rooms}
    counted = {}
    for drop in project.drops:
        of_room = counted.setdefault(names[drop.room_id], {})
        of_room[drop.kind_row.plural] = of_room.get(drop.kind_row.plural, 0) + 1
    assert counted == ROW_HOUSE


def test_the_main_job_by_keyboard_alone(page):
    new_project(page, "By keyboard")
    page.keyboard.press("Enter")
    expect(tally(page, "Living room", "Desks")).to_be_focused()
    page.keyboard.type("2")
    page.keyboard.press("/")
    page.keyboard.type("3 cam garden eaves")
    expect(page.get_by_text("3 cameras, eaves, Garden — Enter")).to_be_visible()
    page.keyboard.press("Enter")
    expect(tally(page, "Garden", "Cameras")).to_have_text("3")
    expect(page.locator("#quick-line")).to_have_value("")
    page.keyboard.press("Escape")
    page.keyboard.press("5")
    expect(page.get_by_role("region", name="Power over the runs")).to_contain_text("Camera")
    page.keyboard.press("6")
    expect(page.get_by_text("proven lowest").first).to_be_visible()
    expect(page.get_by_role("article", name="Least price").get_by_role("img")).not_to_have_count(0)
    expect(page.locator("[data-capacity=ports]")).to_contain_text("of")
    expect(page.get_by_role("region", name="Parts of A").get_by_role("row")).not_to_have_count(0)
    page.keyboard.press("]")
    expect(page.get_by_text(re.compile(r"in reserve to \d{4}"))).to_be_visible()
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    page.keyboard.press("2")
    expect(tally(page, "Garden", "Cameras")).to_have_text("·")
    page.keyboard.press("Control+Shift+z")
    expect(tally(page, "Garden", "Cameras")).to_have_text("3")
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Keys")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog", name="Keys")).to_be_hidden()


def test_digits_set_and_signs_adjust(page, house):
    page.goto(f"/projects/{house}/walk")
    cell = tally(page, "Kitchen", "Desks")
    cell.click()
    page.keyboard.type("12")
    expect(cell).to_have_text("12")
    page.keyboard.press("-")
    expect(cell).to_have_text("11")
    page.keyboard.press("+")
    page.keyboard.press("+")
    expect(cell).to_have_text("13")
    page.keyboard.press("Delete")
    expect(cell).to_have_text("·")


def test_a_line_that_is_not_understood_keeps_its_text_and_marks_the_word(page, house):
    page.goto(f"/projects/{house}/walk")
    line = page.get_by_label("Quick line")
    line.fill("2 cam wobbly garden")
    expect(page.locator("[data-role=unknown]")).to_have_text("wobbly")
    page.keyboard.press("Enter")
    expect(line).to_have_value("2 cam wobbly garden")
    expect(page.get_by_text("“wobbly” is not understood")).to_be_visible()


def test_one_visit_later_one_is_where_one_left_off(page, house):
    page.goto(f"/projects/{house}/pick")
    expect(page.get_by_text("proven lowest").first).to_be_visible()
    page.goto("/")
    expect(page).to_have_url(re.compile(rf"/projects/{house}/pick$"))


def test_a_finding_is_settled_where_it_stands(page, works, projects):
    page.goto(f"/projects/{works}/walk")
    page.get_by_role("button", name="Take outdoor jacket").click()
    expect(page.get_by_text("drops outside are on indoor cable")).to_be_hidden()
    rooms = projects.load(works).project.rooms_by_id
    assert all(d.outdoor_jacket for d in projects.load(works).project.drops if rooms[d.room_id].outside)


def test_the_ledger_edits_one_line_or_all_chosen(page, house, projects):
    page.goto(f"/projects/{house}/walk")
    page.get_by_label("Choose Camera 1, Garden").check()
    page.get_by_label("Choose Camera 2, Garden").check()
    page.get_by_label("Run m: Camera 1, Garden").fill("44")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Run m: Camera 2, Garden")).to_have_value("44")
    page.get_by_label("Class: Camera 1, Garden").focus()
    choose(page, "Class: Camera 1, Garden", "cl. 4")
    expect(page.get_by_role("status").filter(has_text="saved")).to_be_visible()
    cameras = [d for d in projects.load(house).project.drops if d.kind == "camera"]
    assert [(d.run_m, d.poe_class) for d in cameras] == [(44, 4), (44, 4)]
    page.get_by_role("region", name="Ledger", exact=True).get_by_role("button", name="Remove all 2").click()
    expect(tally(page, "Garden", "Cameras")).to_have_text("·")


def test_pins_exclusions_and_the_answer_to_stand_on(page, house):
    page.goto(f"/projects/{house}/pick")
    answer = page.get_by_role("article", name="Least price")
    expect(answer.get_by_text("proven lowest")).to_be_visible()
    before = answer.locator("strong").inner_text()
    page.get_by_label("Filter models").fill("16-port switch, 8 powered at")
    page.get_by_role("button", name="Pin: 16-port switch, 8 powered at").click()
    expect(answer.locator("strong")).not_to_have_text(before)
    expect(answer).to_contain_text("16-port switch, 8 powered at")
    page.get_by_role("article", name="Most room").get_by_role("button", name="Use this answer").click()
    expect(page.get_by_role("region", name="Parts of C")).to_be_visible()
    page.get_by_role("button", name="Keep these boxes").click()
    expect(page.get_by_role("button", name="Stop keeping them")).to_be_visible()


def test_why_not_is_priced_on_asking(page, house):
    page.goto(f"/projects/{house}/pick")
    page.get_by_label("Filter models").fill("48-port switch, plain")
    page.get_by_role("button", name="Compute its price: 48-port switch, plain").click()
    expect(page.get_by_text("The least pick with it costs €")).to_be_visible()


def test_when_nothing_fits_the_limit_in_the_way_is_named(page, house, projects):
    page.goto(f"/projects/{house}/pick")
    page.get_by_role("button", name=re.compile("sockets")).first.click()
    page.get_by_label("Free sockets").fill("1")
    page.keyboard.press("Enter")
    page.keyboard.press("Escape")
    expect(page.get_by_role("heading", name="Nothing fits")).to_be_visible()
    expect(page.get_by_text("More sockets would do; the closet has 1.")).to_be_visible()


def test_the_ground_says_that_nothing_fits_where_drops_are_listed(page, projects, row_house):
    closet = row_house.head_end.model_copy(update={"sockets": 1})
    number = projects.create(row_house.changed(closets=(closet,)))
    page.goto(f"/projects/{number}/walk")
    ground = page.get_by_role("region", name="Ground")
    expect(ground.get_by_text("No boxes fit. Pick says which limit")).to_be_visible(timeout=120_000)


def test_a_pit_opens_into_drops_formula_and_source(page, house):
    page.goto(f"/projects/{house}/walk")
    page.get_by_role("button", name=re.compile("^Watts")).click()
    sheet = page.get_by_role("dialog", name="Watts")
    expect(sheet).to_contain_text("Σ watts at the ports × 1.2")
    expect(sheet).to_contain_text("IEEE Std 802.3-2022")
    expect(sheet).to_contain_text("Camera, Garden")


def test_two_browsers_see_each_other_and_neither_loses_an_edit(page, house, context):
    other = context.new_page()
    for each in (page, other):
        each.goto(f"/projects/{house}/walk")
        expect(tally(each, "Kitchen", "Desks")).to_be_visible()
    tally(page, "Kitchen", "Desks").click()
    page.keyboard.type("3")
    expect(tally(other, "Kitchen", "Desks")).to_have_text("3")
    tally(other, "Bedroom", "Screens").click()
    other.keyboard.type("2")
    expect(tally(page, "Bedroom", "Screens")).to_have_text("2")
    expect(tally(other, "Kitchen", "Desks")).to_have_text("3")


def test_a_project_file_is_read_and_a_bad_one_refused(page, row_house, tmp_path):
    from baugrund.exchange.project_file import write_project

    good, bad = tmp_path / "good.json", tmp_path / "bad.json"
    good.write_text(write_project(row_house), "utf-8")
    bad.write_text(write_project(row_house).replace('"run_m": 14.0', '"run_m": -14.0'), "utf-8")
    page.goto("/projects")
    page.get_by_label("Read a project file", exact=True).first.set_input_files(bad)
    expect(page.get_by_role("alert")).to_contain_text("run_m")
    page.get_by_label("Read a project file", exact=True).first.set_input_files(good)
    expect(page.get_by_text("18 drops in 8 rooms")).to_be_visible()
