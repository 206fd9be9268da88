"""Signal: levels are drawn and asked, an access point is set, channels are chosen by keyboard, a survey is walked."""

import pytest
from playwright.sync_api import expect

from .controls import choose


def saved(page, revision):
    expect(page.get_by_role("status").filter(has_text=f"revision {revision}, saved")).to_be_visible()


@pytest.fixture
def signal(page, works):
    page.goto(f"/projects/{works}/cover/signal")
    expect(page.locator("[data-picture=strongest] path").first).to_be_attached()
    return page


def radio_of(projects, number, drop_id, band):
    return next(one for one in projects.load(number).project.radios if (one.drop_id, one.band) == (drop_id, band))


def test_levels_are_lines_with_their_dbm_and_goals_say_how_far_they_are_met(signal):
    drawn = signal.locator("[data-picture=strongest]")
    expect(drawn.locator("[data-dbm='-67'] path").first).to_be_attached()
    expect(drawn.get_by_text("-67", exact=True).first).to_be_visible()
    goals = signal.get_by_role("region", name="Goals of Wi-Fi")
    expect(goals.get_by_role("listitem").filter(has_text="Kiln room")).to_contain_text("behind Kiln racks")
    choose(signal, "What is drawn", "which access point answers")
    expect(signal.locator("[data-picture=answers] path").first).to_be_attached()
    choose(signal, "Band", "2.4 GHz")
    expect(signal.get_by_text("1/20, 20 dBm").first).to_be_visible()


def test_it_stands_up_and_the_area_of_a_goal_is_drawn(signal, works, projects):
    choose(signal, "How it is drawn", "standing up, across")
    cut = signal.get_by_role("region", name="standing up, across")
    expect(cut.locator("[data-picture=strongest] path").first).to_be_attached()
    signal.get_by_label("Cut at").fill("4")
    signal.get_by_label("Cut at").press("Enter")
    expect(cut.get_by_text("Workshop west", exact=True)).to_be_visible()
    choose(signal, "How it is drawn", "on the plan")
    choose(signal, "What a press does", "Draw the area of a goal")
    box = signal.locator("[data-plan]").bounding_box()
    for x, y in ((0.3, 0.3), (0.4, 0.3), (0.4, 0.4)):
        signal.mouse.click(box["x"] + box["width"] * x, box["y"] + box["height"] * y)
    signal.get_by_role("button", name="Finish").click()
    saved(signal, 1)
    goals = signal.get_by_role("region", name="Goals of Wi-Fi")
    expect(goals.get_by_role("listitem").filter(has_text="Area of a goal")).to_contain_text("-67 dBm in 95 %")
    assert len(projects.load(works).project.goals[-1].area) == 3


def test_a_move_for_looks_is_taken_and_load_counts_what_clients_ask(signal, works, projects):
    listed = signal.get_by_role("region", name="Access points and their airtime")
    listed.get_by_role("button", name="Access point, Workshop west").click()
    sheet = signal.get_by_role("region", name="Access point, Workshop west")
    sheet.get_by_role("button", name="Move it").click()
    saved(signal, 1)
    signal.get_by_role("button", name="Count in Load what clients ask").click()
    saved(signal, 2)
    typed = [drop.traffic_mbit for drop in projects.load(works).project.drops if drop.kind == "access_point"]
    assert sum(value is not None for value in typed) >= 4


def test_what_is_heard_at_a_spot_is_told_piece_by_piece(signal):
    choose(signal, "What a press does", "What is heard here?")
    box = signal.locator("[data-plan]").bounding_box()
    signal.mouse.click(box["x"] + box["width"] * 0.5, box["y"] + box["height"] * 0.5)
    heard = signal.get_by_role("region", name="Heard here")
    expect(heard.get_by_role("listitem").first).to_contain_text("free space")
    signal.keyboard.press("Escape")
    expect(signal.get_by_role("region", name="Goals of Wi-Fi")).to_be_visible()


def test_a_phone_is_carried_along_a_walk(signal):
    choose(signal, "What a press does", "Carry a phone along a walk")
    box = signal.locator("[data-plan]").bounding_box()
    for x in (0.15, 0.6):
        signal.mouse.click(box["x"] + box["width"] * x, box["y"] + box["height"] * 0.35)
    signal.get_by_role("button", name="Finish").click()
    walk = signal.get_by_role("region", name="A phone on this walk")
    expect(
        walk.get_by_role("listitem").filter(has_text="clings, Access point, Workshop east is stronger")
    ).to_be_visible()
    expect(signal.locator("[data-role=walk] polyline").first).to_be_attached()
    signal.keyboard.press("Escape")
    expect(walk).to_be_hidden()


def test_an_access_point_is_set_and_racking_is_drawn(signal, works, projects):
    listed = signal.get_by_role("region", name="Access points and their airtime")
    listed.get_by_role("button", name="Access point, Shop").click()
    sheet = signal.get_by_role("region", name="Access point, Shop")
    choose(sheet, "Channel, 5 GHz", "44")
    saved(signal, 1)
    sheet.get_by_label("Power, 5 GHz").fill("12")
    sheet.get_by_label("Power, 5 GHz").press("Enter")
    saved(signal, 2)
    shop = next(one for one in projects.load(works).project.radios if one.channel == 44)
    assert (shop.band, shop.power_dbm) == ("5", 12.0)
    sheet.get_by_role("button", name="Done").click()
    choose(signal, "What a press does", "Draw racking or a machine")
    box = signal.locator("[data-plan]").bounding_box()
    for x, y in ((0.3, 0.3), (0.4, 0.3), (0.4, 0.4)):
        signal.mouse.click(box["x"] + box["width"] * x, box["y"] + box["height"] * y)
    signal.get_by_role("button", name="Finish").click()
    saved(signal, 3)
    choose(signal.get_by_role("region", name="Racking 3"), "Kind", "machine")
    saved(signal, 4)
    assert projects.load(works).project.obstacles[-1].kind == "machine"


def test_channels_are_chosen_and_a_plan_is_taken_by_keyboard(page, works, projects):
    page.goto(f"/projects/{works}/cover/channels")
    table = page.get_by_role("table", name="2.4 GHz")
    use = table.get_by_role("button", name="Use these channels").first
    expect(use).to_be_visible()
    keep = table.get_by_role("checkbox", name="Keep: Access point, Workshop west, 2.4 GHz")
    keep.focus()
    page.keyboard.press("Space")
    saved(page, 1)
    # a plan of an older state is not offered
    expect(use).to_be_enabled()
    use.focus()
    page.keyboard.press("Enter")
    saved(page, 2)
    first = next(one.id for one in projects.load(works).project.drops if one.kind == "access_point")
    kept = radio_of(projects, works, first, "2.4")
    assert kept.kept and kept.channel == 1
    expect(table.get_by_text("2 % shared now")).to_be_visible()


def test_places_meet_all_goals_and_are_taken_and_undone_with_one_press(page, works, projects):
    page.goto(f"/projects/{works}/cover/places")
    page.get_by_role("button", name="Use these places").first.click()
    saved(page, 1)
    assert sum(drop.kind == "access_point" for drop in projects.load(works).project.drops) == 2
    expect(page.get_by_text("2 of 2 goals met").first).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    saved(page, 2)
    assert sum(drop.kind == "access_point" for drop in projects.load(works).project.drops) == 7


def test_a_survey_is_walked_on_a_phone_and_its_losses_are_used(page, works, projects):
    page.set_viewport_size({"width": 390, "height": 780})
    page.goto(f"/projects/{works}/cover/survey")
    plan = page.locator("[data-plan]")
    expect(plan).to_be_visible()
    before = len(projects.load(works).project.readings)
    box = plan.bounding_box()
    page.mouse.click(box["x"] + box["width"] * 0.5, box["y"] + box["height"] * 0.5)
    here = page.get_by_role("region", name="Reading here")
    here.get_by_label("Level").fill("-64")
    here.get_by_role("button", name="1 dB weaker").click()
    here.get_by_role("textbox", name="Device").fill("tablet")
    here.get_by_role("button", name="Keep this reading").click()
    saved(page, 1)
    readings = projects.load(works).project.readings
    assert len(readings) == before + 1 and (readings[-1].dbm, readings[-1].device) == (-65.0, "tablet")
    told = page.get_by_role("region", name="Losses that the readings tell")
    told.get_by_role("button", name="Use these losses").click()
    saved(page, 2)
    assert any(loss.make == "brick" for loss in projects.load(works).project.losses)
    expect(told.get_by_text("Losses of this house are in use.")).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
