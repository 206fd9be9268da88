"""Brief: entries are added, changed and removed where they stand; schools, the head end, units and figures."""

import pytest
from playwright.sync_api import expect

from .controls import choose


@pytest.fixture
def brief(page, house):
    page.goto(f"/projects/{house}/brief")
    expect(page.get_by_role("region", name="Client and site")).to_be_visible()
    return page


def saved(page, revision):
    expect(page.get_by_role("status").filter(has_text=f"revision {revision}, saved")).to_be_visible()


def test_lines_are_listed_with_their_boxes_and_findings_follow(brief, house, projects):
    lines = brief.get_by_role("region", name="Internet lines")
    lines.get_by_label("Internet lines: add a line").fill("Second line")
    brief.keyboard.press("Enter")
    saved(brief, 1)
    choose(lines, "provider’s box: Second line", "combination, routing")
    expect(brief.get_by_role("region", name="Findings")).to_contain_text("two routers stand in series")
    brief.get_by_role("button", name="Keep it knowingly").click()
    saved(brief, 3)
    lines.get_by_label("down: Second line").fill("2,000")
    brief.keyboard.press("Enter")
    expect(brief.get_by_role("region", name="Findings")).to_contain_text("1,000 Mbit/s are lost")
    second = projects.load(house).project.lines[1]
    assert (second.name, second.down_mbit, second.series_kept) == ("Second line", 2000, True)
    lines.get_by_role("button", name="Remove Second line").click()
    saved(brief, 5)
    brief.keyboard.press("Control+z")
    expect(lines.get_by_label("name: Second line")).to_have_value("Second line")


def test_goals_name_rooms_and_say_how_they_are_tested(brief, house, projects):
    goals = brief.get_by_role("region", name="Goals")
    choose(goals, "Goals: add a goal", "Footage kept")
    expect(goals).to_contain_text("the oldest recording is played back")
    goals.get_by_role("button", name="in: Footage kept").click()
    brief.get_by_role("checkbox", name="Garden").check()
    brief.keyboard.press("Escape")
    saved(brief, 2)
    goal = projects.load(house).project.goals[-1]
    garden = next(room.id for room in projects.load(house).project.rooms if room.name == "Garden")
    assert (goal.kind, goal.level, goal.room_ids) == ("footage", 30, (garden,))


def test_a_value_that_cannot_be_taken_is_marked_and_not_sent(brief, house, projects):
    field = brief.get_by_label("down: Coax line")
    field.fill("fast")
    brief.keyboard.press("Enter")
    expect(field).to_have_attribute("aria-invalid", "true")
    field.fill("100001")
    brief.keyboard.press("Enter")
    expect(field).to_have_attribute("aria-invalid", "true")
    assert projects.load(house).revision == 0


def test_the_head_end_and_schools_are_chosen(brief, house, projects):
    choose(brief.get_by_role("region", name="Head end"), "Dry", "no")
    expect(brief.get_by_role("region", name="Findings")).to_contain_text("is not dry")
    brief.get_by_label("straight into the switch").check()
    saved(brief, 2)
    project = projects.load(house).project
    assert (project.head_end.dry, project.settings.termination) == (False, "direct")


def test_feet_and_points_are_written_throughout(brief, house, projects):
    client = brief.get_by_role("region", name="Client and site")
    choose(client, "Units", "feet")
    choose(client, "How figures are written", "1.234,5")
    saved(brief, 2)
    brief.keyboard.press("2")
    run = brief.get_by_label("Run m: Screen 1, Living room")
    expect(run).to_have_attribute("placeholder", "~39,04")
    run.fill("50")
    brief.keyboard.press("Enter")
    saved(brief, 3)
    screen = next(d for d in projects.load(house).project.drops if d.kind == "screen")
    assert screen.run_m == pytest.approx(15.24)


def test_a_further_closet_is_added_judged_and_takes_drops(brief, house, projects):
    brief.get_by_label("add a closet: its name, Enter").fill("Garden shelf")
    brief.keyboard.press("Enter")
    shelf = brief.get_by_role("region", name="Garden shelf")
    choose(shelf, "Room", "Garden")
    expect(brief.get_by_role("region", name="Findings")).to_contain_text("is outside")
    shelf.get_by_label("Units").fill("3")
    brief.keyboard.press("Enter")
    saved(brief, 3)
    screen = next(d for d in projects.load(house).project.drops if d.kind == "screen")
    brief.keyboard.press("Escape")
    brief.goto(f"/projects/{house}/walk")
    brief.get_by_role("checkbox", name="Choose Screen 1, Living room").check()
    choose(brief, "Ends in", "Garden shelf")
    saved(brief, 4)
    project = projects.load(house).project
    assert project.drops_by_id[screen.id].closet_id == project.closets[1].id
    assert (project.closets[1].units, project.head_end.name) == (3, project.closets[0].name)
