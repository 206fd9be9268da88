"""Why not: every sentence is verified by forcing the model in; every relaxation by relaxing."""

import random
import re
from dataclasses import replace

import pytest

from baugrund.core.answers.picker import AIMS, Picker, pick, reasons
from baugrund.core.demand.needs import demands
from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    AddRooms,
    ChangeDrops,
    ChangeEntry,
    ChangeSettings,
    DropChanges,
    NewRoom,
    SetStance,
    apply_edits,
)
from baugrund.core.explain.alone import Alone
from baugrund.core.facts.project import empty_project
from baugrund.core.pick.assignment.exact import assign as packed
from baugrund.core.pick.best import least_price
from baugrund.core.pick.enumeration.nodes import is_housed
from baugrund.core.pick.standing import any_seating, given
from baugrund.core.plan import plan
from baugrund.core.watch import Share, watched
from baugrund.core.words import money

from .small import catalogue as small_catalogue
from .small import changed, injector, kept, line, ports, router, some_of, switch


def picker(project, catalogue):
    return Picker(project, catalogue)


@pytest.fixture(scope="module")
def house_answer(row_house, catalogue):
    return pick(row_house, catalogue, ("least_price",)).answers[0]


def test_every_model_not_taken_has_one_sentence(row_house, catalogue, house_answer):
    told = reasons(row_house, catalogue, house_answer)
    taken = {part.model for part in house_answer.parts}
    models = {model.key for model in catalogue.models if model.of_kind.in_picks}
    assert {why.model for why in told} == models - taken
    assert all(re.fullmatch(r"[^.]*(\.\d[^.]*)*\.", why.sentence) for why in told), [w.sentence for w in told]


def test_reasons_are_told_as_they_are_found(row_house, catalogue, house_answer):
    seen = []
    with watched(lambda told: seen.append(told.share) if isinstance(told, Share) else None):
        told = reasons(row_house, catalogue, house_answer)
    assert len(seen) == len(told) and seen == sorted(seen) and seen[0] == 0 and seen[-1] < 1


def test_what_a_box_does_alone_is_what_every_router_tried_beside_it_gives(orchard_school, row_house, catalogue):
    for project in (row_house, orchard_school):
        asking = Picker(project, catalogue)
        answer = asking.answer("least_price")
        site, _ = asking._stated
        for box in site.head_end.switches:
            sets = [(root, box) for root in site.head_end.roots if is_housed(site.head_end, (root, box))]
            bear = any(packed(site.head_end, boxes, "price").seating for boxes in sets)
            assert Alone(project, site, site.head_end, answer).judged(box.model.key).fits == bear, box.model.key


def cramped(seed):
    """A random site whose housing, packs, pins or owned kit forbid what ports alone would allow."""
    draw = random.Random(seed)

    def box(number):
        asks = {"price": draw.randint(40, 300), "mass_kg": draw.randint(1, 9), "units": draw.randint(1, 2)}
        if draw.random() < 0.5:
            return switch(f"plain-{number}", ports(draw.choice([5, 8, 16])), **asks)
        powered = ports(draw.choice([4, 8]), poe=draw.choice([3, 4]))
        return switch(f"powered-{number}", ports(2), powered, watts=draw.choice([40, 90]), **asks)

    boxes = [router("home", ports(4)), router("large", ports(8), price=draw.choice([90, 150]), mass_kg=9)]
    boxes += [box(number) for number in range(5)]
    feeder = injector("feeder", 4, price=60).model_copy(update={"pack": draw.choice([1, 3])})
    room = {"load_kg": draw.choice([8.0, 14.0, 60.0]), "units": draw.randint(2, 4), "sockets": draw.randint(3, 6)}
    edits = [
        AddRooms(rooms=(NewRoom(name="R"),)),
        AddDrops(room="R", kind="desk", count=draw.randint(2, 7)),
        ChangeSettings(changes={"separate_networks": False, "growth_percent": 0.0}),
        changed("closets", 1, **room),
    ]
    if draw.random() < 0.7:
        edits.append(AddDrops(room="R", kind="camera", count=draw.randint(1, 4)))
    if draw.random() < 0.4:
        edits.append(kept(boxes[-1].key))
    if draw.random() < 0.4:
        edits.append(SetStance(model=boxes[2].key, pinned=1))
    return apply_edits(empty_project("Cramped", 2026), edits), small_catalogue(*boxes, feeder)


@some_of(range(24))
def test_what_is_said_of_a_model_is_what_forcing_it_in_gives(seed):
    project, models = cramped(seed)
    asking = Picker(project, models)
    answer = asking.answer("least_price")
    if answer is None:
        return
    for why in asking.reasons(answer):
        if why.kind not in ("router", "switch") or not why.may_stand:
            continue
        site, _ = asking._stated
        pins = {key: n for key, n in site.pins.items() if why.kind != "router" or models.get(key).kind != "router"}
        least = least_price(replace(site, pins={**pins, why.model: max(1, pins.get(why.model, 0))}))
        if why.fits:
            assert least is not None and least.proven, why.sentence
            assert why.more_minor == least.price_minor - answer.price_minor >= 0, why.sentence
            assert money(why.more_minor, "EUR") in why.sentence or not why.more_minor
        assert (least is not None) or not why.fits


def test_forcing_a_model_in_is_never_cheaper_and_equals_the_pinned_pick(row_house, catalogue, house_answer):
    site, _ = picker(row_house, catalogue)._stated
    for key in ("switch-24", "switch-8m-8at", "switch-48", "router-2wan-25", "switch-5-4af"):
        why = picker(row_house, catalogue).forced(key, house_answer)
        pinned = least_price(replace(site, pins={key: 1}))
        assert (pinned is None) == (not why.fits)
        if pinned:
            assert why.more_minor == pinned.price_minor - house_answer.price_minor >= 0


def test_what_keeps_a_model_out_answers_for_itself(row_house, catalogue, house_answer):
    asking = picker(row_house, catalogue)
    assert asking.forced("switch-48m-48at-370", house_answer).sentence == "Out of stock."
    assert "Only routers and switches" in asking.forced("module-sx", house_answer).sentence
    assert not asking.forced("no-such-model", house_answer).fits


def test_a_shortfall_counts_what_is_there_and_what_is_needed(row_house, catalogue, house_answer):
    told = {why.model: why.sentence for why in reasons(row_house, catalogue, house_answer)}
    powered = sum(a.need.poe_rank > 0 for a in demands(row_house, 5)[row_house.head_end.id].all)
    assert told["switch-8m-4at"] == f"4 powered ports, {powered} needed."
    assert told["switch-24m"] == f"No powered port, {powered} needed."
    assert told["switch-8m-8af"] == "2 drops need a class above 3; its ports give no more."


@pytest.mark.parametrize(
    ("edit", "limit"),
    [
        (ChangeEntry(list="closets", id=1, changes={"sockets": 1}), "sockets"),
        (ChangeEntry(list="closets", id=1, changes={"units": 1}), "units"),
        (ChangeEntry(list="closets", id=1, changes={"depth_mm": 120}), "depth"),
        (ChangeEntry(list="closets", id=1, changes={"load_kg": 0.1}), "load"),
        (ChangeEntry(list="closets", id=1, changes={"ups_outlets": 1}), "battery outlets"),
        (line("Huge", 20_000, 1), "lines"),
        (SetStance(model="switch-48m-4f", pinned=1), "pin switch-48m-4f"),
    ],
)
def test_the_single_limit_in_the_way_is_named(row_house, catalogue, edit, limit):
    picks = pick(apply_edits(row_house, [edit]), catalogue)
    assert picks.answers == ()
    assert limit in [relaxed.limit for relaxed in picks.relax]


def test_a_need_that_no_model_meets_is_named(row_house, catalogue):
    camera = next(d for d in row_house.drops if d.kind == "camera")
    # 90 W per port is there on one deep switch with a fan only, and through an injector; at 10 G through none
    fast = DropChanges(poe_class=8, draw_w=70, speed_mbit=10_000)
    project = apply_edits(row_house, [
        ChangeDrops(ids=(camera.id,), changes=fast), SetStance(model="injector-bt8", excluded=True),
    ])  # fmt: skip
    relaxed = pick(project, catalogue).relax
    assert any(r.sentence.startswith("No model that may stand here gives class 8 at 10 G") for r in relaxed)


def test_pins_that_contradict_each_other_are_named(row_house, catalogue):
    both = [SetStance(model="router-1wan-4", pinned=1), SetStance(model="router-2wan-4", pinned=1)]
    relaxed = pick(apply_edits(row_house, both), catalogue).relax
    assert {one.limit for one in relaxed} == {"pins", "pin router-1wan-4", "pin router-2wan-4"}
    assert relaxed[0].sentence == "Router, 1 WAN, 4 ports and Router, 2 WAN, 4 ports are pinned; a site has one router."


@pytest.mark.parametrize(
    ("stance", "sentence"),
    [
        (SetStance(model="switch-gone", pinned=1), "switch-gone is pinned, but it is not in the catalogue."),
        (SetStance(model="switch-8m", pinned=1, excluded=True), "8-port switch, managed is pinned and left out at once."),
        (SetStance(model="router-1wan-4", pinned=2), "2 × Router, 1 WAN, 4 ports are pinned; a site has one router."),
    ],
)  # fmt: skip
def test_a_pin_that_nothing_can_meet_is_named(row_house, catalogue, stance, sentence):
    picks = pick(apply_edits(row_house, [stance]), catalogue)
    assert picks.answers == ()
    assert picks.relax[0].sentence == sentence


@pytest.fixture(scope="module")
def two_closets(row_house):
    """The row house with a closet of its own for the cameras, as small as a shelf can be."""
    added = apply_edits(row_house, [AddEntry(list="closets", values={"name": "Attic", "housing": "rack"})])
    cameras = tuple(drop.id for drop in row_house.drops if drop.kind == "camera")
    far = added.closets[1].id
    return apply_edits(added, [ChangeDrops(ids=cameras, changes=DropChanges(closet_id=far))])


def test_the_limit_in_the_way_is_named_with_its_closet(two_closets, catalogue):
    far = two_closets.closets[1].id
    assert pick(two_closets, catalogue, ("least_price",)).answers[0].proven
    shallow = apply_edits(two_closets, [ChangeEntry(list="closets", id=far, changes={"depth_mm": 120})])
    relaxed = {one.limit: one.sentence for one in pick(shallow, catalogue).relax}
    assert relaxed == {
        "depth": "Attic: more depth would do: the housing has 120 mm.",
        "need class 3 at 100 M": "No model that may stand in Attic gives class 3 at 100 M on a port; "
                                 "2 drops ask for it.",
    }  # fmt: skip


def test_why_not_looks_at_every_closet_and_says_where_a_model_fits(two_closets, catalogue):
    models = tuple(one for place, one in enumerate(catalogue.models) if place % 4 == 0 or one.kind == "router")
    catalogue = catalogue.model_copy(update={"models": models})
    answer = pick(two_closets, catalogue, ("least_price",)).answers[0]
    told = {why.model: why for why in reasons(two_closets, catalogue, answer)}
    fitting = [why for why in told.values() if why.fits and why.kind == "switch"]
    assert any(why.sentence.startswith("Fits in Attic as the only switch; ") for why in fitting)
    for why in fitting[:1]:
        sure = picker(two_closets, catalogue).forced(why.model, answer)
        assert sure.fits and sure.more_minor == why.more_minor


def test_a_plan_is_the_same_every_time_and_adds_up(row_house, catalogue):
    first, second = plan(row_house, catalogue), plan(row_house, catalogue)
    assert first == second
    assert [answer.aim for answer in first.pick.picks.answers] == list(AIMS)
    live = {drop.id for drop in row_house.drops}
    for answer in first.pick.picks.answers:
        assert sum(part.total_minor for part in answer.parts) == answer.price_minor
        assert {place.drop_id for place in answer.places} - {None} == live
        assert sum(place.drop_id is None for place in answer.places) == first.ground.counts.reserve
        for box in answer.boxes:
            assert sum(g.live + g.reserve + g.links for g in box.groups) == box.ports_used <= box.ports
            assert box.power_used_w <= box.power_w + 1e-9
            assert sum(g.live_powered + g.reserve_powered for g in box.groups) == box.powered_used


def test_an_answer_bears_until_the_year_that_it_names(row_house, catalogue, house_answer):
    full = house_answer.full_year - row_house.settings.start_year
    number = row_house.head_end.id
    for years, borne in ((full - 1, True), (full, False)):
        site, _ = picker(row_house, catalogue).outlook.site(years)
        narrowed = given(site.head_end, house_answer.standing()[number])
        assert (any_seating(narrowed) is not None) is borne


def test_more_drops_never_make_the_pick_cheaper(row_house, catalogue):
    prices = []
    for count in (0, 1, 3, 8):
        more = apply_edits(row_house, [AddDrops(room="Study", kind="desk", count=count)]) if count else row_house
        prices.append(pick(more, catalogue, ("least_price",)).answers[0].price_minor)
    assert prices == sorted(prices)
