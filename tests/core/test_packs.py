"""What is sold by the pack is bought in whole packs, over the whole site, and never more of them than is least."""

from dataclasses import replace

import pytest
from pydantic import ValidationError

from baugrund.core.answers.picker import Picker
from baugrund.core.edits import ChangeSettings, apply_edits
from baugrund.core.facts.lines.injector import Injector
from baugrund.core.pick import packs as packing
from baugrund.core.pick.best import fewest_boxes, least_power, least_price, most_room
from baugrund.core.pick.branching.search import search
from baugrund.core.pick.model.links import Trunk
from baugrund.core.pick.packs import closets_minor
from baugrund.core.pick.site import Site
from baugrund.exchange.bill_of_materials import write_bill

from . import small
from .priced import priced
from .small import (
    CAMERA,
    DESK,
    alone,
    injector,
    kept,
    module,
    planned,
    ports,
    problem,
    router,
    slots,
    switch,
)
from .test_years import office

HOME = router("home", ports(8), price=100)
HUB = switch("hub", ports(8), slots=slots(2), price=200)
SINGLE = module("single", price=30)


def pack_of(pieces, price, line=SINGLE):
    return line.model_copy(update={"key": f"{line.key}-{pieces}", "name": f"{line.name}, {pieces}", "pack": pieces,
                                   "price_minor": price})  # fmt: skip


def closets(*modules, fed=1, owned=None):
    """A switch in a closet and in each of so many that it feeds, over fibre."""
    links = tuple(Trunk(number, "fibre-multimode", 10_000, 1, 100_000) for number in range(2, 2 + fed))
    terms = {"owned": owned or {}}
    first = problem([HOME, HUB, *modules], {DESK: 2}, trunks=links, closet_id=1, **terms)
    others = (problem([HOME, HUB, *modules], {DESK: 2}, uplink=link, closet_id=link.closet_id, **terms)
              for link in links)  # fmt: skip
    return Site((first, *others), {})


def shop(*more):
    """A desk and what is planned, in a closet with sockets enough."""
    project = office(1, *more)
    return project.changed(closets=(project.head_end.model_copy(update={"sockets": 12}),))


def taken(found, site):
    """Packs bought by key, and the price."""
    keys = {kind.index: kind.model.key for p in site.closets for kind in (*p.injectors, *p.modules)}
    return {keys[index]: count for index, count in found.packs.items()}, found.price_minor


BOXES = 100 + 200
"""And 200 for every closet that is fed."""


@pytest.mark.parametrize(
    ("lines", "fed", "packs", "price"),
    [
        ([SINGLE, pack_of(2, 50)], 1, {"single-2": 1}, 50),
        ([SINGLE, pack_of(2, 59)], 1, {"single-2": 1}, 59),
        ([SINGLE, pack_of(2, 61)], 1, {}, 60),
        ([SINGLE, pack_of(3, 59)], 1, {"single-3": 1}, 59),
        ([SINGLE, pack_of(3, 61)], 1, {}, 60),
        ([pack_of(3, 61)], 1, {"single-3": 1}, 61),
        ([SINGLE, pack_of(3, 70)], 2, {"single-3": 1}, 100),
        ([SINGLE, pack_of(3, 50)], 2, {"single-3": 1}, 80),
        ([SINGLE, pack_of(3, 40)], 2, {"single-3": 1}, 70),
        ([pack_of(3, 40)], 2, {"single-3": 2}, 80),
        ([pack_of(2, 50), pack_of(4, 90)], 2, {"single-4": 1}, 90),
        ([pack_of(2, 50), pack_of(4, 110)], 2, {"single-2": 2}, 100),
    ],
)
def test_closets_share_a_pack(lines, fed, packs, price):
    site = closets(*lines, fed=fed)
    found = least_price(site)
    assert taken(found, site) == (packs, BOXES + 200 * fed + price)
    assert found.proven and found.bound == found.price_minor
    assert sum(closets_minor(site, found)) == found.price_minor


def test_a_pack_stands_in_the_closet_that_opens_it():
    site = closets(SINGLE, pack_of(2, 50))
    assert closets_minor(site, least_price(site)) == [100 + 200 + 50, 200]


def test_pieces_that_are_owned_are_used_before_a_pack_is_bought():
    site = closets(SINGLE, pack_of(2, 50), owned={"single-2": 1})
    found = least_price(site)
    assert taken(found, site) == ({}, BOXES + 200 + 30)
    assert sum(closets_minor(site, found)) == found.price_minor
    none = closets(pack_of(2, 50), owned={"single-2": 1})
    assert taken(least_price(none), none) == ({"single-2": 1}, BOXES + 200 + 50)
    assert sum(closets_minor(none, least_price(none))) == BOXES + 200 + 50


@pytest.mark.parametrize(
    ("cameras", "packs", "injectors"),
    [(1, {}, 50), (2, {}, 100), (3, {}, 150), (4, {"five": 1}, 160), (5, {"five": 1}, 160), (6, {"five": 1}, 210)],
)
def test_injectors_by_the_pack(cameras, packs, injectors):
    five = Injector(**{**injector("five", 3).model_dump(), "pack": 5, "price_minor": 160})
    site = alone(problem([HOME, injector("one", 3, price=50), five], {CAMERA: cameras}))
    found = least_price(site)
    assert taken(found, site) == (packs, 100 + injectors)
    for other in (fewest_boxes, least_power, most_room):
        assert taken(other(site, found), site) == (packs, 100 + injectors), other


def test_a_search_that_looked_at_too_many_packs_says_so(monkeypatch):
    site = closets(SINGLE, pack_of(3, 40), fed=2)
    monkeypatch.setattr(packing, "NODES_MOST", 1)
    found = least_price(site)
    assert not found.proven and found.bound <= BOXES + 400 + 70 <= found.price_minor


def test_the_parts_list_counts_pieces_and_packs():
    five = Injector(**{**injector("five", 3, own=0.5).model_dump(), "pack": 5, "price_minor": 160})
    models = small.catalogue(router("home", ports(8), price=100), five)
    project = shop(planned("camera", 6, 1))
    answer = Picker(project, models).answer("least_price")
    part = next(part for part in answer.parts if part.model == "five")
    assert (part.quantity, part.packs, part.pack, part.price_minor, part.total_minor) == (6, 2, 5, 160, 320)
    assert answer.price_minor == 420 == sum(part.total_minor for part in answer.parts)
    assert "6,five,injector,five,1.60,3.20,EUR,,2,5" in write_bill(answer, "EUR")
    owned = Picker(shop(planned("camera", 6, 1), kept("five", 2)), models).answer("least_price")
    told = [(part.quantity, part.packs, part.total_minor, part.owned) for part in owned.parts if part.model == "five"]
    assert told == [(2, 0, 0, True), (4, 1, 160, False)]


def test_what_is_left_of_a_pack_is_there_in_the_second_step():
    five = Injector(**{**injector("five", 3, own=0.5).model_dump(), "pack": 5, "price_minor": 160})
    models = small.catalogue(router("home", ports(8), price=100), five, switch("eight", ports(8), price=200))
    picker = Picker(shop(planned("camera", 3, 1), planned("camera", 2, 2), planned("jack", 3, 2)), models)
    answer = picker.answer("least_price")
    assert answer.price_minor == 460
    told = [(step.way, step.now_minor, step.then_minor) for step in picker.steps(answer).steps if step.year == 2028]
    assert told == [("as_needed", 260, 200)]


@pytest.mark.parametrize(("pieces", "is_fine"), [(0, False), (1, True), (100, True), (101, False)])
def test_a_pack_has_from_1_to_100_pieces(pieces, is_fine):
    given = {**SINGLE.model_dump(), "pack": pieces}
    if is_fine:
        assert type(SINGLE)(**given).pack == pieces
    else:
        with pytest.raises(ValidationError, match="pack"):
            type(SINGLE)(**given)


def test_a_free_module_takes_no_slot_from_a_link_that_wants_it():
    """An owned copper module costs nothing, but its slot is the one that the fibre needs."""
    copper = module("copper", "copper", 1000, price=40)
    hub = switch("hub", ports(4), slots=slots(1), price=200)
    link = Trunk(2, "fibre-multimode", 10_000, 1, 1_000)
    asked = problem([router("home", ports(4), price=100), hub, SINGLE, copper], {DESK: 2}, trunks=(link,),
                    owned={"copper": 1})  # fmt: skip
    assert search(asked, "price").found.seating.price_minor == 330
    assert search(replace(asked, trunks=()), "price").found.seating.price_minor == 100


def test_the_job_counts_the_packs_that_the_pick_buys(orchard_school, catalogue):
    # so much growth that the link between its closets is of 10 Gbit/s, whose modules are sold in pairs
    school = apply_edits(orchard_school, [ChangeSettings(changes={"growth_percent": 12.0})])
    answer = Picker(school, catalogue).answer("least_price")
    assert any(part.packs for part in answer.parts)
    costs = priced(school, catalogue, answer)
    assert sum(part.total_minor for part in costs.parts if part.group == "boxes") == answer.price_minor


def test_a_link_in_fibre_is_priced_in_packs():
    assert [pack_of(2, 56).price_of(pieces) for pieces in (1, 2, 3)] == [56, 56, 112]
    assert SINGLE.price_of(3) == 90
