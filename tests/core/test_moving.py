"""Moving over: minutes worked by hand, steps in an order in which what must stay up does, and the way back."""

import pytest

from baugrund.core.answers.picker import balance
from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    AddRooms,
    ChangeEntry,
    DropChanges,
    NewRoom,
    RemoveEntry,
    apply_edits,
)
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.project import empty_project
from baugrund.core.price.moving import moving_of

from .priced import stood


def say(project, rows, **values):
    return apply_edits(project, [AddEntry(list=rows, values=values)])


@pytest.fixture
def office():
    """A room with two desks on new cable, one on old cable, and a phone."""
    project = apply_edits(empty_project("Office", 2026), [AddRooms(rooms=(NewRoom(name="Office"),))])
    room = project.rooms[0].id
    return apply_edits(project, [
        AddDrops(room=room, kind="desk", count=2), AddDrops(room=room, kind="phone", count=1),
        AddDrops(room=room, kind="desk", count=1, changes=DropChanges(existing=True)),
    ])  # fmt: skip


def line(project, **values):
    return say(project, "lines", name=values.pop("name", "Fibre"), down_mbit=100, up_mbit=40, **values)


def used(project, name):
    return next(one for one in moving_of(project, ()).used if one.name == name)


def test_where_nothing_runs_nothing_moves(office):
    assert moving_of(office, ()).steps == () and moving_of(office, ()).used == ()
    assert moving_of(say(office, "kit", name="Old switch", fate="replaced"), ()).steps


def test_worked_minutes_of_devices_on_new_and_old_cable(office):
    wired = used(say(office, "running", name="Machines", kind="wired"), "Machines")
    # new cable: plug 2, address 1; old cable is cut over first: 0.08 h punch down, 0.15 h test
    assert wired.longest_min == pytest.approx(60 * 0.23 + 3) and wired.total_min == pytest.approx(2 * 3 + 16.8)
    phone = used(say(office, "running", name="Phone", kind="telephone"), "Phone")
    assert (phone.longest_min, phone.total_min) == (5, 5)


@pytest.mark.parametrize(
    ("lines", "minutes"),
    [
        ([{}], 5 + 5),
        ([{"box": "bridged"}], 5 + 5 + 10),
        ([{"kind": "dsl"}], 5 + 10),
        ([{}, {"name": "Standby", "standby": True}], 5),
        ([{"standby": True}], 10),
        ([], 0),
    ],
)
def test_worked_minutes_without_internet(office, lines, minutes):
    """A line of its kind and the router; with another line only the routers change hands."""
    project = say(office, "running", name="Internet", kind="internet")
    for one in lines:
        project = line(project, **one)
    assert used(project, "Internet").longest_min == minutes


def test_what_something_else_carries_is_down_while_it_is_plugged_over(office):
    project = line(say(office, "running", name="Internet", kind="internet", meanwhile="mobile router"))
    told = used(project, "Internet")
    assert (told.longest_min, told.total_min) == (2, 4)


def test_television_goes_with_the_line_that_it_hangs_on(office):
    service = {"kind": "television"}
    alone = line(say(say(office, "services", **service), "running", name="Internet", kind="internet"))
    assert used(alone, "Television").longest_min == 0
    tied = apply_edits(alone, [ChangeEntry(list="lines", id=alone.lines[0].id, changes={"television": True})])
    assert used(tied, "Television").longest_min == 5


@pytest.mark.parametrize(("most", "found"), [(None, True), (9.9, True), (10, False)])
def test_what_must_stay_up_is_a_finding_when_it_may_not_be_down_as_long(office, catalogue, most, found):
    project = line(say(office, "running", name="Internet", kind="internet", most_min=most))
    told = [one for one in balance(project, catalogue, None).findings if one.key == "interrupted"]
    assert bool(told) == found
    may = apply_edits(project, [ChangeEntry(list="running", id=project.running[0].id, changes={"must_stay": False})])
    assert not [one for one in balance(may, catalogue, None).findings if one.key == "interrupted" and most is None]


def test_own_minutes_and_the_own_way_back_replace_the_usual(office):
    project = line(say(office, "running", name="Internet", kind="internet"))
    key = f"line/{project.lines[0].id}"
    project = say(project, "move_terms", step=key, minutes=42.0, way_back="The neighbour's line.")
    step = next(one for one in moving_of(project, ()).steps if one.key == key)
    assert step.down[0].each_min == 42 and step.usual_min == 10 and step.way_back == "The neighbour's line."
    with pytest.raises(InvalidInput):
        say(project, "move_terms", step=key, minutes=-1.0)
    with pytest.raises(InvalidInput):
        say(project, "move_terms", step=key, minutes=1.0)


def test_nothing_is_down_before_the_new_network_runs_and_nothing_goes_before_all_has_moved(dye_works, catalogue):
    grounds, _ = stood(dye_works, catalogue)
    told = moving_of(dye_works, grounds)
    keys = [step.key for step in told.steps]
    first_down = min(place for place, step in enumerate(told.steps) if step.down)
    assert max(keys.index(key) for key in ("record", "bench/0", "pull/0", "beside")) < first_down
    over = [place for place, key in enumerate(keys) if key.startswith("over/")]
    in_first = [place for place in over if told.steps[place].phase == dye_works.phases[0].name]
    lines = [keys.index(f"line/{line.id}") for line in dye_works.lines]
    assert max(in_first) < min(lines) and keys.index("off") > max(over)
    # the line that everything uses moves when the standby carries
    assert keys.index(f"line/{dye_works.lines[0].id}") == max(lines)
    assert all(step.way_back for step in told.steps)
    assert [step.phase for step in told.steps] == sorted(
        (step.phase for step in told.steps), key=[phase.name for phase in dye_works.phases].index
    )


def test_sums_are_those_of_the_steps(dye_works, catalogue):
    grounds, _ = stood(dye_works, catalogue)
    told = moving_of(dye_works, grounds)
    for one in told.used:
        downs = [down for step in told.steps for down in step.down if down.key == one.key]
        assert one.total_min == sum(down.each_min * down.times for down in downs)
        assert one.longest_min == max((down.each_min for down in downs), default=0)
    assert sum(one.total_min for one in told.used) == sum(phase.minutes for phase in told.by_phase)


def test_kit_goes_in_the_phase_that_it_names_else_in_the_last(dye_works, catalogue):
    grounds, _ = stood(dye_works, catalogue)
    lost = apply_edits(dye_works, [ChangeEntry(list="kit", id=dye_works.kit[0].id, changes={"phase": "some day"})])
    gone = {step.key: step.phase for step in moving_of(lost, grounds).steps if step.key.startswith("gone/")}
    assert gone == {f"gone/{lost.kit[0].id}": lost.phases[-1].name, f"gone/{lost.kit[1].id}": "second summer"}
    none = apply_edits(lost, [RemoveEntry(list="phases", id=phase.id) for phase in lost.phases])
    assert {step.phase for step in moving_of(none, grounds).steps} == {""}
