"""A limit of a closet is one row: a made-up resource, added to the table alone, is obeyed everywhere."""

import random
from dataclasses import replace

import pytest

from baugrund.core.answers.picker import pick
from baugrund.core.edits import AddDrops, AddRooms, ChangeSettings, DropChanges, NewRoom, SetTally, apply_edits
from baugrund.core.facts.lines.recorder import Recorder
from baugrund.core.facts.project import empty_project
from baugrund.core.pick.best import least_price
from baugrund.core.pick.branching.search import search
from baugrund.core.pick.model import resources, rules
from baugrund.core.pick.model.filters import standing_reasons
from baugrund.core.pick.standing import Boxes
from baugrund.core.standing.bearing import bearing, opened
from baugrund.core.standing.ground import grounds_of

from .small import CAMERA, DESK, alone, catalogue, in_blocks, injector, is_within, names, ports, problem, router, switch
from .test_pick import judge, random_problem

HOOKS = {"there": 7}
"""How many hooks a closet has, for the time of a test."""


def of_box(box):
    """A few hooks, unlike anything else that is known of a box."""
    return 1 + box.price_minor // 10 % 4


MADE_UP = resources.Resource(
    "hooks", "hooks", "Hooks", "",
    of_box=of_box,
    of_injector=lambda injector: 2,
    limit=lambda closet: HOOKS["there"] if closet.depth_mm < 1500 else None,
    too_much=lambda taken, there: f"It hangs on {taken} hooks; the closet has {there}.",
    more=lambda there: f"More hooks would do; the closet has {there}.",
    lifted={"depth_mm": 1500},
    formula="{boxes} and {injectors} hang on {used:g} of {limit:g} hooks",
    source="Made up.",
)  # fmt: skip


@pytest.fixture(autouse=True)
def hooks(monkeypatch):
    """The table with one more row, and a closet's number of hooks to be set."""
    monkeypatch.setattr(resources, "RESOURCES", (*resources.RESOURCES, MADE_UP))
    monkeypatch.setitem(HOOKS, "there", 7)
    return lambda there: monkeypatch.setitem(HOOKS, "there", there)


def price(asked):
    """The least price, by a search that keeps what it proves."""
    return search(asked, "price").found.seating.price_minor


def hung(asked, there):
    return replace(asked, capacities=(*asked.capacities[:-1], there))


@in_blocks(4)
def test_every_kind_of_best_obeys_it(block):
    judged, mattered = [], 0
    for seed in range(6_000 + block * 25, 6_025 + block * 25):
        asked = random_problem(seed)
        limited = hung(asked, random.Random(seed).randint(3, 8))
        judged.append(judge(alone(limited), 3, seed))
        free, kept = (least_price(alone(one)) for one in (hung(asked, resources.NO_LIMIT), limited))
        mattered += free is not None and (kept is None or kept.price_minor > free.price_minor)
    assert sum(one is True for one in judged) >= 5
    assert mattered >= 4


def test_a_set_that_takes_all_there_is_stands_and_one_more_does_not():
    # the router hangs on 3 hooks, the cheap switch on 1 and the dear one on 4
    models = [
        router("home", ports(4), price=20),
        switch("eight", ports(8), price=40),
        switch("nine", ports(9), price=30),
    ]
    asked = problem(models, {DESK: 10})
    assert names(least_price(alone(hung(asked, 4)))) == ["home", "eight"]
    assert names(least_price(alone(hung(asked, 7)))) == ["home", "nine"]
    assert least_price(alone(hung(asked, 3))) is None


def test_a_box_that_takes_less_of_it_is_not_dominated():
    cheap, thrifty = switch("cheap", ports(8), price=30), switch("thrifty", ports(8), price=40)
    asked = problem([router("home", ports(4), price=20), cheap, thrifty], {DESK: 10})
    assert names(least_price(alone(hung(asked, 7)))) == ["home", "cheap"]
    assert names(least_price(alone(hung(asked, 6)))) == ["home", "thrifty"]


def test_an_injector_takes_it_too():
    models = [router("home", ports(4), price=20), injector("feeds", 3, price=5),
              switch("powered", ports(8, poe=3), watts=60, price=400)]  # fmt: skip
    asked = problem(models, {CAMERA: 2})
    found = least_price(alone(hung(asked, 7)))
    assert names(found) == ["home"]
    injectors = [one.model for seating in found.seatings for one in seating.injectors.elements()]
    assert is_within(hung(asked, 7), found.seatings[0].boxes, injectors)
    assert names(least_price(alone(hung(asked, 6)))) == ["home", "powered"]


@pytest.fixture
def small_site():
    rooms = AddRooms(rooms=(NewRoom(name="Office"),))
    project = empty_project("Hooks", 2026)
    project = apply_edits(project, [rooms, ChangeSettings(changes={"horizon_years": 0, "growth_percent": 0})])
    drops = [SetTally(room_id=project.rooms[-1].id, kind="desk", count=10)]
    models = catalogue(router("home", ports(4), price=20), switch("eight", ports(8), price=40))
    return apply_edits(project, drops), models


def test_reasons_and_capacities_name_it(small_site, hooks):
    project, models = small_site
    assert [part.model for part in pick(project, models).answers[0].parts] == ["home", "eight"]
    (ground,) = grounds_of(project, models, {1: Boxes(("home", "eight"))})
    told = {capacity.key: capacity for capacity in bearing(ground)}["hooks"]
    assert (told.used, told.limit, told.verdict) == (4, 7, "holds")
    assert opened(ground, "hooks").formula == "2 boxes and 0 injectors hang on 4 of 7 hooks"
    hooks(2)
    assert standing_reasons(project, models, project.head_end) == {"home": "It hangs on 3 hooks; the closet has 2."}
    relaxed = {one.limit: one.sentence for one in pick(project, models).relax}
    assert relaxed["hooks"] == "More hooks would do; the closet has 2."


def test_a_made_up_rule_keeps_boxes_out_and_is_named(small_site, monkeypatch):
    project, models = small_site
    rule = rules.Rule(
        "quiet names",
        applies=lambda project, closet: closet.depth_mm < 1500,
        broken=lambda box, closet: "Its name is too long." if len(box.key) > 4 else None,
        would_do=lambda closet: "Longer names would do.",
        of_closet={"depth_mm": 1500},
    )
    monkeypatch.setattr(rules, "RULES", (*rules.RULES, rule))
    assert standing_reasons(project, models, project.head_end) == {"eight": "Its name is too long."}
    relaxed = {one.limit: one.sentence for one in pick(project, models).relax}
    assert relaxed["quiet names"] == "Longer names would do."


def test_a_recorder_chosen_apart_leaves_the_pick_the_rest(small_site):
    project, models = small_site
    recorder = Recorder(key="nvr", name="Recorder", price_minor=1, channels=8, in_mbit=80, bays=1, own_draw_w=9,
                        units=2, mass_kg=5.0)  # fmt: skip
    models = models.model_copy(update={"models": (*models.models, recorder)})
    stands = AddDrops(room=project.rooms[-1].id, kind="recorder", changes=DropChanges(model="nvr"))
    fewer = SetTally(room_id=project.rooms[-1].id, kind="desk", count=9)
    project = apply_edits(project, [fewer, stands])

    def fits(**closet):
        there = project.head_end.model_copy(update=closet)
        return bool(pick(project.changed(closets=(there,)), models).answers)

    assert fits(units=4) and not fits(units=3)
    assert fits(load_kg=7.0) and not fits(load_kg=6.9)
    assert fits(sockets=3) and not fits(sockets=2)
    assert fits(ups_outlets=3) and not fits(ups_outlets=2)
    (ground,) = grounds_of(project, models, {1: Boxes(("home", "eight"))})
    assert {one.key: one.used for one in bearing(ground)}["rack"] == 4
    assert [share.label for share in opened(ground, "rack").shares] == ["home", "eight", "Recorder"]
