"""The owner's own work beside having it done: worked by hand, and every offer of it kept when it is taken."""

import pytest

from baugrund.core.edits import AddEntry, ChangeSettings, apply_edits
from baugrund.core.price.costs import costs_of

from .priced import priced, stood
from .test_work import four_to_one_plate


def say(project, rows, **values):
    return apply_edits(project, [AddEntry(list=rows, values=values)])


def wire_map_tester(project, catalogue, count, **tool):
    """What the wire-map tester is in a project whose owner tests so many runs beside."""
    some = say(project, "extra_work", task="test", count=count, who="owner")
    if tool:
        some = say(some, "own_tools", tool="wire-map tester", **tool)
    tools = {one.name: one for one in priced(some, catalogue).own.given.tools}
    return tools["wire-map tester"]


def test_worked_ends_of_four_jacks_by_the_owner(catalogue):
    project = say(four_to_one_plate("finished"), "task_terms", task="terminate", who="owner")
    told = priced(project, catalogue)
    # 4 · 0.15 h, mean 1.05 times that, and half as long again; stripper and crimping tool are bought
    assert told.own.given.hours == pytest.approx(4 * 0.15 * 1.05 * 1.5, abs=0.0051)
    assert [(tool.name, tool.days, tool.how, tool.cost_minor) for tool in told.own.given.tools] == [
        ("stripper, punch-down tool, cutter", 1, "bought", 6500), ("crimping tool", 1, "bought", 4500),
    ]  # fmt: skip
    assert told.own.given.tools_minor == 11_000 and told.own.given.work_minor == 0
    assert told.one_off.mean_minor == told.parts_minor + told.labour.cost.mean_minor + 11_000


@pytest.mark.parametrize(("count", "days", "how", "cost"), [(101, 3, "hired", 9000), (102, 4, "bought", 12_000)])
def test_a_tool_is_hired_while_that_costs_less(catalogue, count, days, how, cost):
    # a test takes the owner 0.15 · 1.05 · 1.5 h: of a working day of 8 h three days hold 101, not 102
    tool = wire_map_tester(four_to_one_plate("finished"), catalogue, count)
    assert (tool.days, tool.how, tool.cost_minor) == (days, how, cost)


def test_a_tool_that_is_there_costs_nothing_and_own_prices_replace_the_usual(catalogue):
    project = four_to_one_plate("finished")
    assert wire_map_tester(project, catalogue, 102, there=True).cost_minor == 0
    dear = wire_map_tester(project, catalogue, 102, buy_minor=90_000)
    assert (dear.how, dear.cost_minor) == ("hired", 4 * 3000)
    cheap = wire_map_tester(project, catalogue, 102, hire_minor=100)
    assert (cheap.how, cheap.cost_minor) == ("hired", 400)


def test_what_a_stage_saves_is_saved_when_it_is_given(dye_works, catalogue):
    """Every stage given to the owner in truth: the job costs less by exactly what was told, or more."""
    project = apply_edits(dye_works, [ChangeSettings(changes={"owner_minor": 1_733})])
    grounds, stack = stood(project, catalogue)
    before = costs_of(project, catalogue, grounds, stack)
    assert {one.stage for one in before.own.stages} > {"pull", "mount", "test"}
    given = project
    for stage in before.own.stages:
        tasks = [AddEntry(list="task_terms", values={"task": task, "who": "owner"}) for task in stage.tasks]
        after = costs_of(apply_edits(project, tasks), catalogue, grounds, stack)
        assert after.one_off.mean_minor == before.one_off.mean_minor - stage.saved_minor, stage.name
        given = apply_edits(given, tasks)
    whole = costs_of(given, catalogue, grounds, stack)
    assert whole.own.given.total_minor == before.own.all.total_minor
    assert whole.own.done_minor == 0 and not whole.own.stages
