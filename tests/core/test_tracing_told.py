"""What is told of a panel that is traced: jacks, positions by the names on the panel, the port list as built."""

import pytest

from baugrund.core.edits import AddEntry, ChangeEntry, RemoveEntry, apply_edits
from baugrund.core.errors import InvalidInput
from baugrund.core.prove.tracing.told import tracing_of
from baugrund.core.stack.told import stack_of

from .priced import stood


@pytest.fixture
def desk(dye_works):
    """The dye works with the first 24 positions of its panels traced, and three of its jacks on them."""
    works = apply_edits(dye_works, [RemoveEntry(list="trace_sheets", id=dye_works.trace_sheets[0].id)])
    here = [drop for drop in works.drops if drop.has_run][:3]
    closet = works.head_end.id
    sheet = AddEntry(list="trace_sheets", values={"closet_id": closet, "positions": 24, "empty": [23, 24]})
    jacks = [
        AddEntry(list="traced_jacks", values={"closet_id": closet, "drop_id": drop.id, "name": f"J{place}"})
        for place, drop in enumerate(here, 1)
    ]
    phone = AddEntry(list="traced_jacks", values={"closet_id": closet, "name": "old phone", "service": "phone"})
    return apply_edits(works, [sheet, *jacks, phone])


def traced(project, *steps):
    """The panel after steps: kind, place of the jack, values."""
    closet = project.head_end.id
    edits = [
        AddEntry(list="trace_steps", values={
            "closet_id": closet, "kind": kind, "jack_id": project.traced_jacks[jack].id if jack is not None else None, **values,
        })
        for kind, jack, values in steps
    ]  # fmt: skip
    return apply_edits(project, edits)


def told_of(project, catalogue):
    grounds = stood(project, catalogue)[0]
    return tracing_of(project, stack_of(project, catalogue, grounds)).panels[0]


def test_a_found_jack_goes_into_the_port_list_as_it_is_built(desk, catalogue):
    after = traced(desk, ("remote", 0, {}), ("pair", 0, {"position": 5, "found": True}))
    told = told_of(after, catalogue)
    assert [jack.state for jack in told.jacks] == ["found", "open", "open", "open"]
    assert (told.found, told.dead, told.left, told.problem) == (1, 0, 3, "")
    assert told.positions[4] == "A5" and 5 not in told.free and 23 not in told.free
    assert len(told.take) == 1
    built = apply_edits(after, told.take)
    patch = next(one for one in built.patches if one.drop_id == desk.traced_jacks[0].drop_id)
    assert (patch.position, patch.fixed) == (5, True)
    assert told_of(built, catalogue).take == ()


def test_a_line_of_another_service_is_traced_and_has_no_port(desk, catalogue):
    told = told_of(traced(desk, ("known", 3, {"position": 9})), catalogue)
    assert (told.jacks[3].service, told.jacks[3].state, told.jacks[3].position) == ("phone", "found", 9)
    assert told.take == ()
    dead = told_of(traced(desk, ("known", 3, {})), catalogue)
    assert (dead.jacks[3].state, dead.dead) == ("dead", 1)


def test_two_jacks_on_one_position_are_a_problem_and_nothing_is_advised(desk, catalogue):
    twice = traced(desk, *(("pair", jack, {"position": 5, "found": True}) for jack in (0, 1)))
    told = told_of(twice, catalogue)
    assert told.problem == "Two jacks were found on position A5: one reading is wrong."
    assert told.next is None


@pytest.mark.parametrize(
    ("values", "said"),
    [
        ({"kind": "sweep", "position": 25}, "the panel has 24 positions, and not 25"),
        ({"kind": "sweep", "position": 24}, "position 24 has no cable at its back"),
        ({"kind": "pair", "position": 3}, "a pair test says whether the jack answered"),
        ({"kind": "sweep", "positions": [3]}, "only cords name several positions"),
        ({"kind": "cords"}, "every step but one of cords names the jack"),
    ],
)
def test_a_step_that_cannot_be_is_refused_with_what_is_wrong(desk, values, said):
    jack = desk.traced_jacks[0].id
    with pytest.raises(InvalidInput, match=said):
        apply_edits(
            desk, [AddEntry(list="trace_steps", values={"closet_id": desk.head_end.id, "jack_id": jack, **values})]
        )


def test_a_panel_that_is_traced_no_more_takes_its_jacks_and_steps_along(desk):
    after = traced(desk, ("sweep", 0, {"position": 5}))
    gone = apply_edits(after, [RemoveEntry(list="trace_sheets", id=after.trace_sheets[0].id)])
    assert (gone.trace_sheets, gone.traced_jacks, gone.trace_steps) == ((), (), ())
    fewer = apply_edits(after, [RemoveEntry(list="traced_jacks", id=after.traced_jacks[0].id)])
    assert (len(fewer.traced_jacks), fewer.trace_steps) == (3, ())


def test_positions_that_were_read_cannot_be_taken_away(desk):
    after = traced(desk, ("sweep", 0, {"position": 20}))
    change = {"positions": 19, "empty": []}
    with pytest.raises(InvalidInput, match="the panel has 19 positions, and not 20"):
        apply_edits(after, [ChangeEntry(list="trace_sheets", id=after.trace_sheets[0].id, changes=change)])


def test_a_jack_whose_room_nobody_knows_is_taken_for_one_on_the_floor_of_the_panel(desk, catalogue):
    told = told_of(desk, catalogue)
    phone = told.jacks[3]
    assert (phone.name, phone.room, phone.drop_id) == ("old phone", "", None)
    assert told.minutes_one > told.minutes_two > 0


def test_nothing_read_tells_no_candidate_and_the_usual_chance_of_being_dead(desk, catalogue):
    for jack in told_of(desk, catalogue).jacks:
        assert (jack.likely, jack.ruled_out, jack.readings) == ((), (), ())
        assert 0 < jack.dead_chance < 0.15
