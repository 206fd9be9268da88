"""Prove: unlabelled cable traced with a thumb, step by step as it is advised, and what was read otherwise."""

import pytest
from playwright.sync_api import expect

from .controls import choose


def saved(page, revision):
    expect(page.get_by_role("status").filter(has_text=f"revision {revision}, saved")).to_be_visible()


@pytest.fixture
def tracing(page, works):
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"/projects/{works}/prove/tracing")
    expect(page.get_by_text("4 found, 8 still to trace")).to_be_visible()
    return page


def test_a_jack_is_toned_tested_and_found_by_what_is_advised(tracing, works, projects):
    now = tracing.get_by_role("region", name="Next")
    expect(now.get_by_text("Put the toner into Gallery, left of the door.")).to_be_visible()
    now.get_by_role("button", name="Done").click()
    saved(tracing, 1)
    expect(now.get_by_text("Where is it heard?")).to_be_visible()
    now.get_by_role("button", name="7", exact=True).click()
    saved(tracing, 2)
    expect(now.get_by_text("Test position 7 for Gallery, left of the door.")).to_be_visible()
    now.get_by_role("button", name="No answer").click()
    saved(tracing, 3)
    # a neighbour comes next
    expect(now.get_by_text("Test position 6 for Gallery, left of the door.")).to_be_visible()
    now.get_by_role("button", name="It answers").click()
    saved(tracing, 4)
    expect(tracing.get_by_text("5 found, 7 still to trace")).to_be_visible()
    last = projects.load(works).project.trace_steps[-1]
    assert (last.kind, last.position, last.found) == ("pair", 6, True)
    assert last.at is not None


def test_a_reading_of_any_jack_is_written_down_and_taken_back(tracing, works, projects):
    tracing.get_by_role("button", name="Shop, door", exact=True).click()
    other = tracing.get_by_role("region", name="Write down another reading")
    choose(other, "What was read", "answers on")
    other.get_by_label("Position").fill("99")
    other.get_by_role("button", name="Write it down").click()
    expect(tracing.get_by_text("The panel has no position 99.")).to_be_visible()
    other.get_by_label("Position").fill("1")
    other.get_by_role("button", name="Write it down").click()
    saved(tracing, 1)
    expect(tracing.get_by_text("Two jacks were found on position 1: one reading is wrong.")).to_be_visible()
    tracing.get_by_role("button", name="Remove the step: Shop, door answers on 1").click()
    saved(tracing, 2)
    expect(tracing.get_by_text("4 found, 8 still to trace")).to_be_visible()


def test_what_is_at_hand_changes_what_is_advised(tracing, works, projects):
    hand = tracing.get_by_role("region", name="At hand")
    hand.get_by_role("checkbox", name="toner and probe").click()
    saved(tracing, 1)
    expect(tracing.get_by_role("region", name="Next")).not_to_contain_text("toner")
    panel = tracing.get_by_role("region", name="The panel")
    panel.get_by_label("Without a cable at the back").fill("4, 11-x")
    panel.get_by_label("Without a cable at the back").press("Enter")
    expect(tracing.get_by_text("4, 11-x names no positions: write 11, 15–16.")).to_be_visible()
    panel.get_by_label("Without a cable at the back").fill("4, 11, 14-16")
    panel.get_by_label("Without a cable at the back").press("Enter")
    saved(tracing, 2)
    assert projects.load(works).project.trace_sheets[0].empty == (4, 11, 14, 15, 16)


def test_a_panel_of_a_closet_is_begun_with_its_drops(page, house, projects):
    page.goto(f"/projects/{house}/prove/tracing")
    page.get_by_role("button", name="Trace a panel of").first.click()
    saved(page, 1)
    page.get_by_role("button", name="drops of this closet").click()
    saved(page, 2)
    project = projects.load(house).project
    assert len(project.traced_jacks) == sum(drop.has_run for drop in project.drops)
    expect(page.get_by_role("table", name="Jacks and positions").get_by_role("row")).to_have_count(
        1 + len(project.traced_jacks)
    )
