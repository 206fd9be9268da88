"""The terms of the pick, changed in the sentence where they stand, each followed by the answers."""

import re

import pytest
from playwright.sync_api import expect

from .controls import choose


@pytest.fixture
def pick(page, house):
    page.goto(f"/projects/{house}/pick")
    expect(page.get_by_role("article", name="Least price").get_by_text("proven lowest")).to_be_visible()
    return page


def settings_of(projects, house):
    return projects.load(house).project.settings


def saved(page):
    expect(page.get_by_role("status").filter(has_text="saved")).to_be_visible()


def open_term(page, text):
    page.get_by_role("region", name="Terms of the pick").get_by_role("button", name=re.compile(text)).click()


def test_the_school_of_adding_up_and_its_margin(pick, house, projects):
    open_term(pick, "rated draw")
    pick.get_by_label(re.compile("^class maximum")).check()
    expect(pick.get_by_text("class maximum + 0 %")).to_be_visible()
    pick.get_by_label("Margin on top, %").fill("15")
    pick.keyboard.press("Enter")
    expect(pick.get_by_text("class maximum + 15 %")).to_be_visible()
    saved(pick)
    assert (settings_of(projects, house).school, settings_of(projects, house).margin_percent) == ("class", 15)
    expect(pick.locator("[data-capacity=watts]")).to_contain_text(re.compile(r"of \d+ W"))


def test_growth_is_planned_by_kind_and_year(pick, house, projects):
    open_term(pick, "in reserve to")
    sheet = pick.get_by_role("dialog", name="Growth")
    sheet.get_by_label("How many").fill("3")
    choose(sheet, "Of what", "access points")
    choose(sheet, "Year", "2030")
    sheet.get_by_role("button", name="Plan more").click()
    expect(sheet.get_by_text("3 access points, 2030")).to_be_visible()
    sheet.get_by_role("textbox", name="Desks").fill("0")
    pick.keyboard.press("Enter")
    saved(pick)
    project = projects.load(house).project
    assert ("access_point", 3, 4) in [(a.kind, a.count, a.years) for a in project.additions]
    assert project.growth_of("desk") == 0
    row = sheet.locator("div", has=pick.get_by_text("3 access points, 2030", exact=True)).last
    row.get_by_role("button", name="Remove").click()
    expect(sheet.get_by_text("3 access points, 2030")).to_be_hidden()


def test_a_number_that_cannot_be_one_is_marked_and_not_sent(pick, house, projects):
    open_term(pick, "in reserve to")
    field = pick.get_by_label("Growth, % a year")
    field.fill("lots")
    pick.keyboard.press("Enter")
    expect(field).to_have_attribute("aria-invalid", "true")
    assert settings_of(projects, house).growth_percent == 5


def test_only_jacks_in_use_may_be_live(pick, house, projects):
    open_term(pick, "18 live drops")
    pick.get_by_label(re.compile("^only jacks in use live")).check()
    expect(pick.get_by_text("18 live drops, only jacks in use live")).to_be_visible()
    saved(pick)
    assert settings_of(projects, house).jacks_live == "in_use"


def test_networks_and_the_shape_of_the_tree(pick, house, projects):
    open_term(pick, "one network, star")
    pick.get_by_label("separate networks").last.check()
    pick.get_by_label("chain allowed").check()
    expect(pick.get_by_text("separate networks, chain allowed")).to_be_visible()
    saved(pick)
    assert (settings_of(projects, house).separate_networks, settings_of(projects, house).chain_allowed) == (True, True)
    pick.keyboard.press("Escape")
    pick.get_by_label("Filter models").fill("24-port switch, plain")
    expect(pick.get_by_text("Separate networks are wanted; this one is not managed.")).to_be_visible()


def test_the_closet(pick, house, projects):
    open_term(pick, "shelf, 4 U")
    pick.get_by_label("rack", exact=True).check()
    for label, value in (("Height, units", "6"), ("Depth, mm", "400"), ("Load, kg", "25.5"), ("Battery outlets", "4")):
        pick.get_by_label(label).fill(value)
        pick.keyboard.press("Enter")
    pick.get_by_label("in a living space").uncheck()
    expect(pick.get_by_text("rack, 6 U, 5 sockets")).to_be_visible()
    saved(pick)
    closet = projects.load(house).project.head_end
    assert (closet.housing, closet.units, closet.depth_mm, closet.load_kg) == ("rack", 6, 400, 25.5)
    assert (closet.ups_outlets, closet.living_space) == (4, False)


def test_internet_lines_come_change_and_go(pick, house, projects):
    open_term(pick, "Coax line")
    sheet = pick.get_by_role("dialog", name="Internet")
    sheet.get_by_role("button", name="Add a line").click()
    second = sheet.get_by_role("group", name="Line 2")
    second.get_by_label("Down Mbit/s").fill("900")
    pick.keyboard.press("Enter")
    second.get_by_label("standby").check()
    saved(pick)
    lines = projects.load(house).project.lines
    assert [(line.down_mbit, line.standby) for line in lines] == [(250, False), (900, True)]
    expect(pick.get_by_role("article", name="Least price")).to_contain_text("Router, 2 WAN")
    second.get_by_role("button", name="Remove").click()
    expect(second).to_be_hidden()


def test_the_ground_shows_the_pits_of_the_verb_and_the_rest_when_asked(pick):
    ground = pick.get_by_role("region", name="Ground")
    expect(ground.locator("[data-capacity=rack]")).to_be_visible()
    expect(ground.locator("[data-capacity=per_port]")).to_have_count(0)
    rest = ground.get_by_role("button", name="Per port, Battery, Heat: hold")
    expect(rest).to_have_attribute("aria-expanded", "false")
    rest.click()
    expect(ground.locator("[data-capacity=per_port]")).to_be_visible()
    ground.get_by_role("button", name="Show fewer").click()
    expect(ground.locator("[data-capacity=per_port]")).to_have_count(0)
    pick.get_by_role("link", name="Load").click()
    expect(ground.locator("[data-capacity=per_port]")).to_be_visible()


def test_the_budget_is_a_pit(pick):
    expect(pick.locator("[data-capacity=money]")).to_contain_text("of 5,900 EUR")
    open_term(pick, "Budget")
    pick.get_by_label("Budget, EUR").fill("300")
    pick.keyboard.press("Enter")
    expect(pick.locator("[data-capacity=money]")).to_contain_text("over by")
    pick.get_by_label("Budget, EUR").fill("")
    pick.keyboard.press("Enter")
    expect(pick.get_by_text("no budget")).to_be_visible()
    expect(pick.locator("[data-capacity=money]")).to_be_hidden()


def test_the_horizon_is_a_slider_and_everything_answers_for_its_year(pick, house, projects):
    slider = pick.get_by_role("slider", name="Horizon")
    slider.focus()
    pick.keyboard.press("ArrowRight")
    expect(pick.get_by_text("in reserve to 2032")).to_be_visible()
    pick.keyboard.press("Home")
    expect(pick.get_by_text("in reserve to 2026")).to_be_visible()
    saved(pick)
    assert settings_of(projects, house).horizon_years == 0


def test_owned_kit_costs_nothing_and_left_out_kit_goes(pick):
    answer = pick.get_by_role("article", name="Least price")
    parts = pick.get_by_role("region", name="Parts of A")
    before = answer.locator("strong").inner_text()
    parts.get_by_role("button", name="We have one: 8-port switch, plain").click()
    expect(answer).to_contain_text("(owned)")
    expect(answer.locator("strong")).not_to_have_text(before)
    parts.get_by_role("button", name="Leave out: 8-port switch, plain").click()
    expect(answer).not_to_contain_text("8-port switch, plain")
    pick.get_by_label("Filter models").fill("8-port switch, plain")
    expect(pick.get_by_text("You left it out.")).to_be_visible()
    pick.get_by_role("button", name="Include: 8-port switch, plain").click()
    expect(answer).to_contain_text("8-port switch, plain")


def test_parts_and_project_are_had_as_files(pick):
    with pick.expect_download() as parts:
        pick.get_by_role("link", name="CSV").click()
    assert parts.value.suggested_filename.endswith(".csv")
    with pick.expect_download() as project:
        pick.get_by_role("link", name="File").click()
    assert project.value.suggested_filename.endswith(".json")
