"""What is proven before an edit bounds the search after it, and changes nothing of what it finds."""

import random
from collections import Counter
from dataclasses import replace

import pytest

from baugrund.core.answers.picker import Picker
from baugrund.core.demand.needs import Need
from baugrund.core.edits import ChangeDrops, DropChanges, apply_edits
from baugrund.core.pick.best import fewest_boxes, least_power, least_price
from baugrund.core.pick.branching import Branching
from baugrund.core.pick.links import Trunk
from baugrund.core.pick.proofs import Proof, Proofs, asked_of, covered
from baugrund.core.pick.search import search
from baugrund.core.pick.site import hinted, price_rank

from .small import (
    ACCESS_POINT,
    CAMERA,
    DESK,
    alone,
    altered,
    in_blocks,
    injector,
    module,
    ports,
    problem,
    router,
    slots,
    switch,
)
from .test_pick import random_problem, random_site

HOME = router("home", ports(4), price=100)
EIGHT = switch("eight", ports(8), price=200)
SIXTEEN = switch("sixteen", ports(16), price=330)
MODELS = [HOME, EIGHT, SIXTEEN]
CASE = problem(MODELS, {DESK: 9})


def proven(asked):
    """What a search proves of a problem."""
    proofs = Proofs()
    found = search(replace(asked, proofs=proofs), "price").found
    return proofs.found, tuple(box.model.key for box in found.seating.boxes) if found else ()


def later(asked, before):
    """A problem as it is searched after another one."""
    proofs, hint = proven(before)
    return replace(asked, hint=hint, proofs=Proofs(proofs))


@pytest.fixture
def never_searched(monkeypatch):
    """From the moment when it is called."""
    return lambda: monkeypatch.setattr(Branching, "_go_through", lambda self: pytest.fail("searched"))


@pytest.mark.parametrize(
    "change",
    [
        {},
        {"needs": ((DESK, 10),)},
        {"needs": ((replace(DESK, traffic_kbit=13_000), 1), (DESK, 8))},
        {"sockets": 11},
        {"pins": {"eight": 1}},
        {"switches": tuple(box for box in CASE.switches if box.model.key == "eight")},
    ],
)
def test_an_edit_that_the_boxes_of_before_bear_needs_no_search(change, never_searched):
    asked = later(altered(CASE, **change), CASE)
    never_searched()
    searched = search(asked, "price")
    assert searched.certain and searched.found.proven
    assert searched.found.seating.price_minor == searched.found.bound == 300


@pytest.mark.parametrize(
    ("change", "price"),
    [
        ({"needs": ((DESK, 8),)}, 300),
        ({"needs": ((DESK, 2),)}, 100),
        ({"needs": ((DESK, 12),)}, 430),
        ({"sockets": 13}, 300),
        ({"chain_allowed": True}, 300),
        ({"switches": (replace(CASE.switches[0], price_minor=190), *CASE.switches)}, 290),
    ],
)
def test_what_asks_less_or_has_more_to_choose_from_is_searched_as_ever(change, price):
    asked = later(altered(CASE, **change), CASE)
    assert search(asked, "price").found.seating.price_minor == price


def test_where_nothing_fitted_nothing_fits_what_asks_more():
    full = altered(CASE, sockets=1)
    proofs, _ = proven(full)
    assert [proof.cost for proof in proofs] == [None]
    more = replace(full, needs=((DESK, 10),), proofs=Proofs(proofs))
    assert search(more, "price").certain and search(more, "price").found is None
    assert search(altered(full, sockets=2, proofs=Proofs(proofs)), "price").found is not None


def test_a_search_out_of_time_is_bounded_by_what_was_proven_before():
    before = problem(MODELS, {DESK: 30})
    least = search(before, "price").found.bound
    asked = replace(later(problem(MODELS, {DESK: 40}), before), hint=())
    assert search(asked, "price", seconds=0.0).bound >= least > search(before, "price", seconds=0.0).bound


def test_a_pick_at_its_floor_is_proven_whatever_the_search_left_open(monkeypatch):
    proofs, _ = proven(CASE)
    seating = search(CASE, "price").found.seating

    def half(self):
        self.unproven.append(0)
        self._keep(seating)

    monkeypatch.setattr(Branching, "_go_through", half)
    assert search(replace(CASE, proofs=Proofs(proofs)), "price").found.proven
    assert not search(CASE, "price").found.proven


@pytest.mark.parametrize(
    ("change", "ceiling"),
    [
        ({}, 300),
        ({"needs": ((DESK, 8),)}, 300),
        ({"needs": ((DESK, 10),)}, None),
        ({"sockets": 13}, 300),
        ({"sockets": 11}, None),
        ({"pins": {"eight": 1}}, None),
        ({"switches": (replace(CASE.switches[0], price_minor=190), *CASE.switches)}, 300),
        ({"switches": tuple(box for box in CASE.switches if box.model.key == "eight")}, None),
    ],
)
def test_what_asks_less_or_has_more_to_choose_from_costs_no_more_than_before(change, ceiling):
    proofs, _ = proven(CASE)
    assert Proofs(proofs).ceiling(asked_of(altered(CASE, **change), "price", None)) == ceiling
    assert Proofs(proofs).ceiling(asked_of(altered(CASE, **change), "power", None)) is None
    none_before = proven(altered(CASE, sockets=1))[0]
    assert Proofs(none_before).ceiling(asked_of(altered(CASE, **change), "price", None)) is None


def test_the_boxes_of_before_are_the_answer_where_time_is_out_before_any_is_found(monkeypatch):
    """It is known what they cost, so they are seated only then."""
    asked = later(problem(MODELS, {DESK: 29}), problem(MODELS, {DESK: 30}))
    before = search(problem(MODELS, {DESK: 30}), "price").found.seating
    monkeypatch.setattr(Branching, "_go_through", lambda self: self.unproven.append(1))
    found = search(asked, "price").found
    assert not found.proven
    assert [box.model.key for box in found.seating.boxes] == [box.model.key for box in before.boxes]
    assert sum(seat.count for seat in found.seating.seats) == 29


def test_nothing_is_kept_of_a_search_under_a_ceiling_or_of_any_pick():
    proofs = Proofs()
    asked = replace(CASE, proofs=proofs)
    search(asked, "price", price_ceiling=1000)
    search(asked, "price", first_will_do=True)
    assert proofs.found == []


def test_free_injectors_that_draw_nothing_leave_ties_that_no_proof_tells():
    free = problem([*MODELS, injector("free", 4, price=0, own=0)], {CAMERA: 2})
    assert proven(free)[0] == []
    assert proven(problem([*MODELS, injector("dear", 4, price=1, own=0)], {CAMERA: 2}))[0]


@pytest.mark.parametrize(
    ("earlier", "after", "does"),
    [
        ({DESK: 2}, {DESK: 2}, True),
        ({DESK: 2}, {DESK: 1}, False),
        ({DESK: 1, CAMERA: 1}, {ACCESS_POINT: 2}, True),
        ({CAMERA: 2}, {CAMERA: 1, ACCESS_POINT: 1}, True),
        ({ACCESS_POINT: 1}, {CAMERA: 5}, False),
        ({CAMERA: 1, DESK: 1}, {CAMERA: 1, Need(0, 100, 0, 0): 1}, False),
        ({Need(0, 100, 0, 0, True): 1}, {ACCESS_POINT: 1}, False),
        ({CAMERA: 1, Need(3, 100, 9_000, 6_000): 1}, {Need(3, 100, 9_000, 6_000): 2}, True),
        ({}, {DESK: 1}, True),
    ],
)
def test_drops_are_covered_by_as_many_that_ask_no_less(earlier, after, does):
    def needs(some):
        return asked_of(problem(MODELS, some), "price", None).needs

    assert covered(needs(earlier), needs(after)) is does


LINK = Trunk(2, "fibre-multimode", 10_000, 1, 5_000)
FED = problem(
    [HOME, switch("hub", ports(8), slots=slots(2)), module("sfp")], {DESK: 4}, trunks=(LINK,), pins={"hub": 1}
)


@pytest.mark.parametrize(
    ("change", "does"),
    [
        ({}, True),
        ({"trunks": (replace(LINK, traffic_kbit=5_001),)}, True),
        ({"trunks": (replace(LINK, traffic_kbit=4_999),)}, False),
        ({"trunks": (replace(LINK, ends=2),)}, False),
        ({"trunks": ()}, False),
        ({"pins": {}}, False),
        ({"pins": {"hub": 2}}, True),
        ({"units": 19}, True),
        ({"units": 21}, False),
        ({"ups_outlets": 5}, True),
        ({"modules": ()}, True),
    ],
)
def test_a_state_stands_for_those_that_ask_no_less_of_no_more(change, does):
    earlier, after = asked_of(FED, "price", None), asked_of(altered(FED, **change), "price", None)
    assert earlier.stands_for(after) is does
    assert not earlier.stands_for(asked_of(altered(FED, **change), "power", None))
    assert not earlier.stands_for(asked_of(altered(FED, **change), "price", 2))
    assert not earlier.model_copy(update={"version": "0"}).stands_for(after)


def edited(asked, rng):
    """A problem after a random edit: a drop more, one fewer, one that asks for more, a limit, a model less."""
    needs = Counter(dict(asked.needs))
    one = rng.choice(list(needs))
    what = rng.randint(0, 4)
    if what == 0:
        needs[one] += 1
    elif what == 1:
        needs[one] -= 1
    elif what == 2:
        needs[one] -= 1
        needs[replace(one, traffic_kbit=one.traffic_kbit * 2, speed_mbit=max(one.speed_mbit, 1000))] += 1
    elif what == 3:
        return altered(asked, sockets=asked.capacities[2] + rng.choice([-1, 1]))
    else:
        return replace(asked, switches=tuple(box for box in asked.switches if rng.random() < 0.8))
    return replace(asked, needs=tuple(sorted((+needs).items(), reverse=True)))


@in_blocks(6)
def test_an_answer_is_the_same_with_and_without_what_was_proven_before(block):
    held = 0
    for seed in range(500 + block * 25, 525 + block * 25):
        rng = random.Random(seed)
        before = random_site(seed) if seed % 2 else alone(random_problem(seed))
        proofs = Proofs()
        found = least_price(hinted(before, {}, proofs))
        boxes = {}
        if found:
            fewest_boxes(hinted(before, {}, proofs), found)
            least_power(hinted(before, {}, proofs), found)
            closets = [problem.closet_id for problem in before.closets]
            boxes = {
                closet: [box.model.key for box in seating.boxes]
                for closet, seating in zip(closets, found.seatings, strict=True)
            }
        after = replace(before, closets=tuple(edited(problem, rng) for problem in before.closets))
        plain, begun = least_price(after), least_price(hinted(after, boxes, Proofs(proofs.found)))
        assert (plain is None) == (begun is None), seed
        if plain is None:
            continue
        held += 1
        assert plain.proven and begun.proven, seed
        assert costs(begun) == costs(plain), seed
        for best in (fewest_boxes, least_power):
            one, other = best(after, plain), best(hinted(after, boxes, Proofs(proofs.found)), begun)
            assert (costs(one), one.bound, one.proven) == (costs(other), other.bound, other.proven), seed
    assert held > 4


def costs(found):
    return sorted(price_rank(seating) for seating in found.seatings)


def test_an_edit_of_a_project_that_asks_no_more_of_its_boxes_needs_no_search(row_house, catalogue, never_searched):
    first = Picker(row_house, catalogue)
    answer = first.answer("least_price")
    kept = [Proof.model_validate(proof.model_dump(mode="json")) for proof in first.proofs.found]
    never_searched()
    noted = apply_edits(row_house, [ChangeDrops(ids=(row_house.drops[0].id,), changes=DropChanges(note="low"))])
    again = Picker(noted, catalogue, answer.standing(), kept).answer("least_price")
    assert (again.price_minor, again.proven) == (answer.price_minor, True)
