"""Boxes bought phase by phase, against every part of the boxes that the whole stands on."""

import random
from collections import Counter
from itertools import combinations

import pytest

from baugrund.core.answers.phases import phases_of
from baugrund.core.answers.picker import Picker
from baugrund.core.edits import AddDrops, AddEntry, ChangeDrops, DropChanges, apply_edits
from baugrund.core.watch import to_the_end

from .small import catalogue, ports, router, switch
from .test_years import office

HOME = router("home", ports(4), price=100)
SMALL = catalogue(HOME, switch("five", ports(5), price=90), switch("eight", ports(8), price=130),
                  switch("sixteen", ports(16), price=310))  # fmt: skip
PORTS = {"home": 4, "five": 5, "eight": 8, "sixteen": 16}
PRICES = {"home": 100, "five": 90, "eight": 130, "sixteen": 310}


def bears(boxes, desks):
    """Whether a router and switches carry so many desks: each switch takes a port of its own and one of another."""
    return "home" in boxes and sum(PORTS[box] for box in boxes) - 2 * (len(boxes) - 1) >= desks


def least_part(whole, kept, desks):
    """The least price of a part of the boxes that has those that are kept and bears so many desks."""
    rest = list((Counter(whole) - Counter(kept)).elements())
    parts = (kept + list(more) for many in range(len(rest) + 1) for more in combinations(rest, many))
    return min(sum(PRICES[box] for box in part) for part in parts if bears(part, desks))


def in_phases_of(*desks):
    """An office whose desks come in phases."""
    project = office(sum(desks))
    project = apply_edits(project, [AddEntry(list="phases", values={"name": f"Part {n}"}) for n in range(len(desks))])
    ids, at, edits = [drop.id for drop in project.drops], 0, []
    for phase, many in zip(project.phases, desks, strict=True):
        if many:
            edits.append(ChangeDrops(ids=tuple(ids[at : at + many]), changes=DropChanges(phase_id=phase.id)))
        at += many
    return apply_edits(project, edits)


def planned(project):
    answer = Picker(project, SMALL).answer("least_price")
    return answer, to_the_end(phases_of(project, SMALL, answer))


@pytest.mark.parametrize("seed", range(8))
def test_every_phase_buys_the_least_that_bears_it_with_what_it_has(seed):
    chance = random.Random(f"phases {seed}")
    desks = [chance.randrange(1, 12) for _ in range(chance.choice((2, 3, 4)))]
    answer, told = planned(in_phases_of(*desks))
    whole = [box.model for box in answer.boxes]
    assert bears(whole, sum(desks))
    spent, kept, until = 0, [], 0
    for phase, many in zip(told.phases, desks, strict=True):
        until += many
        spent += phase.boxes_minor
        assert spent == least_part(whole, kept, until), (desks, phase.name)
        kept = [key for key in kept] + bought_of(phase.bought)
        assert bears(kept, until)
    assert spent == told.boxes_minor == sum(PRICES[key] for key in kept)
    # all that a whole needs, and no box of it that nothing needs
    assert told.boxes_minor <= answer.price_minor


def bought_of(lines):
    """Keys of the boxes that a phase names."""
    found = []
    for line in lines:
        many, _, name = line.rpartition(" × ")
        found += [name] * (int(many) if many else 1)
    return found


def test_a_phase_without_drops_buys_nothing_and_works():
    _, told = planned(in_phases_of(6, 0, 6))
    empty = told.phases[1]
    assert (empty.drops, empty.bought, empty.boxes_minor, empty.one_off_minor) == (0, (), 0, 0)
    assert all(not phase.breaks for phase in told.phases)


def test_nobody_moves_while_boxes_are_only_added():
    _, told = planned(in_phases_of(3, 6, 9))
    assert [phase.moved for phase in told.phases] == [0, 0, 0]


def test_the_parts_of_a_proven_pick_are_proven_and_of_another_aim_are_not():
    project = in_phases_of(5, 12)
    answer, told = planned(project)
    assert answer.proven and told.proven
    most = Picker(project, SMALL).answer("most_room")
    other = to_the_end(phases_of(project, SMALL, most))
    assert not other.proven and other.boxes_minor >= told.boxes_minor


def test_drops_of_no_phase_are_built_in_the_first():
    project = apply_edits(office(4), [AddEntry(list="phases", values={"name": name}) for name in ("now", "later")])
    more = apply_edits(project, [
        AddDrops(room="Room", kind="jack", count=6, changes=DropChanges(phase_id=project.phases[1].id))
    ])  # fmt: skip
    _, told = planned(more)
    assert [phase.drops for phase in told.phases] == [4, 6]
