"""Patch: cords are followed and pinned by keyboard, networks are set up and opened cell by cell."""

import pytest
from playwright.sync_api import expect

from baugrund.core.edits import UseNetworks, apply_edits

from ..conftest import without_networks
from .controls import choose


def saved(page, revision):
    expect(page.get_by_role("status").filter(has_text=f"revision {revision}, saved")).to_be_visible()


def picked(page, projects, number):
    """Ports are those of the boxes of the pick: it is there."""
    while projects.last_pick(number, "least_price") is None:
        page.wait_for_timeout(100)


@pytest.fixture
def bare(projects, dye_works):
    """The dye works with nothing plugged and no networks."""
    return projects.create(without_networks(dye_works))


def test_a_closet_is_patched_by_keyboard(page, bare, projects):
    page.goto(f"/projects/{bare}/patch")
    take = page.get_by_role("button", name="All is plugged as listed")
    take.focus()
    page.keyboard.press("Enter")
    saved(page, 1)
    expect(page.get_by_text("Nothing to move.")).to_be_visible()
    rows = projects.load(bare).project.patches
    assert len(rows) > 45
    # a jack is followed to its port, then the next one
    loom = page.get_by_role("group", name="Jacks, positions and ports")
    loom.get_by_role("button").first.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Pin it there")).to_be_visible()
    page.keyboard.press("ArrowRight")
    sheet = page.get_by_role("region", name="Camera, store door", exact=True)
    sheet.get_by_role("button", name="Pin it there").press("Enter")
    saved(page, 2)
    camera = next(one for one in projects.load(bare).project.patches if one.fixed)
    # its position is typed in the list; whoever was there makes way
    cell = page.get_by_label("Position: Camera, store door")
    cell.fill("A99")
    cell.press("Enter")
    expect(page.get_by_text("There is no position A99 in this closet")).to_be_visible()
    cell.fill("B3")
    cell.press("Enter")
    saved(page, 3)
    moved = next(one for one in projects.load(bare).project.patches if one.drop_id == camera.drop_id)
    assert (moved.panel, moved.position, moved.port) == ("panel/2", 3, camera.port)
    page.get_by_role("columnheader", name="Port").get_by_role("button").press("Enter")
    expect(page.get_by_role("columnheader", name="Port")).to_have_attribute("aria-sort", "ascending")


def test_networks_are_begun_with_a_template_and_a_cell_of_the_cloth_is_opened(page, bare, projects):
    page.goto(f"/projects/{bare}/patch/networks")
    expect(page.get_by_text("everything reaches everything")).to_be_visible()
    page.get_by_role("button", name="Begin with the networks of").click()
    page.get_by_role("option", name="a workshop").click()
    saved(page, 1)
    cloth = page.get_by_role("table", name="Who may open connections to whom")
    expect(cloth.get_by_role("row")).to_have_count(8)
    cells = cloth.get_by_role("row", name="30 Guests").get_by_role("button")
    expect(cells).to_have_count(7 + 1)
    cells.first.press("Enter")
    dialog = page.get_by_role("dialog", name="Guests to Office")
    choose(dialog, "Guests to Office", "named services")
    saved(page, 2)
    dialog.get_by_role("checkbox", name="Printing").check()
    saved(page, 3)
    page.keyboard.press("Escape")
    expect(page.get_by_text("may open connections to Office, and guests are in it.")).to_be_visible()
    said = projects.load(bare).project.permissions[-1]
    assert (said.access, said.services) == ("services", ("web", "printing"))
    page.get_by_role("button", name="Let Guests open nothing in Office").click()
    saved(page, 4)
    name = page.get_by_label("Wi-Fi names: Add a Wi-Fi name")
    name.fill("Works")
    name.press("Enter")
    saved(page, 5)
    page.get_by_role("button", name="Put cameras into Office").click()
    saved(page, 6)
    assert "camera" in projects.load(bare).project.networks[0].kinds


def test_a_drop_is_put_into_a_network_of_its_own_beside_its_port(page, projects, dye_works):
    networked = apply_edits(without_networks(dye_works), [UseNetworks(template="shop")])
    number = projects.create(networked)
    page.goto(f"/projects/{number}/patch")
    page.get_by_role("row", name="Kiln controller").first.click()
    sheet = page.get_by_role("region", name="Kiln controller", exact=True)
    choose(sheet, "Network", "20 Tills")
    saved(page, 1)
    tills = next(one for one in projects.load(number).project.networks if one.name == "Tills")
    assert len(tills.drop_ids) == 1


def test_a_difference_is_mended_or_taken_as_built(page, works, projects):
    page.goto(f"/projects/{works}/patch/found")
    picked(page, projects, works)
    page.get_by_role("button", name="Ask the simulated switch").click()
    saved(page, 1)
    found = page.get_by_role("region", name="Found beside the plan")
    slow = found.get_by_role("listitem").filter(has_text="runs at 100 M")
    slow.get_by_role("button", name="Take it as built").press("Enter")
    saved(page, 2)
    expect(slow).to_have_count(0)
    dead = found.get_by_role("listitem").filter(has_text="is dead")
    dead.get_by_role("button", name="Mend it on site").press("Enter")
    saved(page, 3)
    mending = page.get_by_role("region", name="To be mended on site")
    expect(mending.get_by_role("listitem")).to_have_count(1)
    assert sum(one.mend for one in projects.load(works).project.discovered) == 1


def test_labels_are_put_on_their_cables_and_a_change_warns(page, bare, projects):
    page.goto(f"/projects/{bare}/patch/labels")
    page.get_by_role("button", name="They are on their cables").click()
    saved(page, 1)
    expect(page.get_by_text("every label is on its cable")).to_be_visible()
    label = page.get_by_label("Label of desk, Shop")
    label.fill("Till 1")
    label.press("Enter")
    saved(page, 2)
    expect(page.get_by_text("reads otherwise now, was 038")).to_be_visible()
    expect(page.get_by_text("2 labels to print")).to_be_visible()
    with page.expect_download() as taken:
        page.get_by_role("button", name="Labels, PDF").click()
    assert taken.value.suggested_filename == f"labels-{bare}.pdf"


def test_addresses_are_kept_and_a_wrong_prefix_is_said_at_its_cell(page, works, projects):
    page.goto(f"/projects/{works}/patch/addresses")
    page.get_by_role("button", name="Keep these addresses").click()
    saved(page, 1)
    kept = projects.load(works).project
    assert all(one.prefix for one in kept.networks) and len(kept.reserved) > 15
    cell = page.get_by_label("Prefix of Guests", exact=True)
    cell.fill("10.20.30.1/24")
    cell.press("Enter")
    expect(page.get_by_text("'10.20.30.1/24' is no prefix")).to_be_visible()
    expect(cell).to_have_value(next(one.prefix for one in kept.networks if one.name == "Guests"))


def test_the_quick_line_answers_a_question_and_adds_only_on_enter(page, works, projects):
    page.goto(f"/projects/{works}/patch")
    expect(page.get_by_role("group", name="Jacks, positions and ports")).to_be_visible()
    page.keyboard.press("/")
    page.keyboard.type("what is camera, gate left")
    expect(page.get_by_text("network 40 Cameras")).to_be_visible()
    page.keyboard.press("Escape")
    page.keyboard.type("can I add 1 desk shop")
    expect(page.get_by_text("1 desk, Shop")).to_be_visible()
    assert len(projects.load(works).project.drops) == 46
    page.keyboard.press("Enter")
    saved(page, 1)
    assert len(projects.load(works).project.drops) == 47


def test_networks_wifi_names_and_who_joins_them_are_changed_where_they_stand(page, works, projects):
    page.goto(f"/projects/{works}/patch/networks")
    lists = page.get_by_role("region", name="Networks", exact=True)
    number = lists.get_by_label("number: Guests")
    number.fill("40")
    number.press("Enter")
    expect(page.get_by_text("two networks have the number 40")).to_be_visible()
    expect(number).to_have_value("30")
    number.fill("31")
    number.press("Enter")
    saved(page, 1)
    lists.get_by_role("button", name="kinds: Things: Screen, Access reader").click()
    page.get_by_role("dialog").get_by_role("checkbox", name="Hub").check()
    saved(page, 2)
    page.keyboard.press("Escape")
    add = lists.get_by_label("Networks: Add a network")
    add.fill("Lab")
    add.press("Enter")
    saved(page, 3)
    page.get_by_role("button", name="remove kilns").or_(page.get_by_role("button", name="Remove kilns")).click()
    saved(page, 4)
    networks = projects.load(works).project.networks
    assert [one.number for one in networks if one.name in ("Guests", "Lab")] == [31, 10 * len({10, 20, 30})]
    assert "hub" in next(one.kinds for one in networks if one.name == "Things")
    page.goto(f"/projects/{works}/brief")
    choose(page.get_by_role("region", name="Wireless clients"), "join: Kiln loggers", "dye works")
    saved(page, 5)
    project = projects.load(works).project
    names = {one.id: one.name for one in project.wifi_names}
    assert names[next(one.wifi_name_id for one in project.clients if one.name == "Kiln loggers")] == "dye works"


def test_a_stock_a_colour_and_a_tunnel_of_ones_own_are_listed_and_used(page, works, projects):
    page.goto(f"/projects/{works}/patch/labels")
    stock = page.get_by_label("Stock of your own: Name a stock of labels")
    stock.fill("Yellow tape")
    stock.press("Enter")
    saved(page, 1)
    wide = page.get_by_label("wide: Yellow tape")
    wide.fill("25")
    wide.press("Enter")
    saved(page, 2)
    choose(page, "Printed on", "Yellow tape")
    saved(page, 3)
    choose(page, "Colours by use: Add a colour for", "Desks")
    saved(page, 4)
    colour = page.get_by_label("colour: Desks")
    colour.fill("white")
    colour.press("Enter")
    saved(page, 5)
    expect(page.get_by_role("region", name="Cords", exact=True).get_by_text("white").first).to_be_visible()
    project = projects.load(works).project
    assert project.settings.label_stock == f"stock/{project.stocks[0].id}" and project.stocks[0].width_mm == 25
    page.goto(f"/projects/{works}/patch/addresses")
    tunnel = page.get_by_label("Tunnels to other sites: Name a tunnel")
    tunnel.fill("Depot")
    tunnel.press("Enter")
    saved(page, 6)
    prefix = page.get_by_label("prefix: Depot")
    prefix.fill("10.20.40.0/24")
    prefix.press("Enter")
    saved(page, 7)
    cameras = page.get_by_label("Prefix of Cameras", exact=True)
    expect(cameras).not_to_have_attribute("placeholder", "10.20.40.0/27")


def test_a_cord_of_a_closet_on_a_phone_is_read_without_a_sideways_page(page, works):
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"/projects/{works}/patch")
    row = page.get_by_role("row", name="Kiln controller").first
    row.click()
    expect(page.get_by_role("region", name="Kiln controller", exact=True).get_by_text("Kiln room")).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
