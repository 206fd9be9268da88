"""What a box comes without, what stands in for one that is not to be had, and fast ports that nothing uses."""

import pytest

from baugrund.core.answers.picker import Picker, balance
from baugrund.core.edits import (
    AddDrops,
    AddRooms,
    ChangeDrops,
    ChangeSettings,
    DropChanges,
    NewRoom,
    SetStance,
    apply_edits,
)
from baugrund.core.explain.substitutes import substitute
from baugrund.core.facts.lines.spare import Spare
from baugrund.core.facts.project import empty_project
from baugrund.core.prices.price_lists import differences, merged
from baugrund.exchange.bill_of_materials import write_bill

from .small import catalogue, changed, kept, module, ports, router, slots, switch


def spare(key, completes, price=10, **more):
    return Spare(key=key, name=key, price_minor=price, completes=completes, **more)


def office(desks, *more, **closet):
    project = apply_edits(empty_project("office", 2026), [AddRooms(rooms=(NewRoom(name="Room"),))])
    return apply_edits(project, [
        AddDrops(room="Room", kind="jack", count=desks),
        ChangeSettings(changes={"growth_percent": 0.0, "separate_networks": False}),
        changed("closets", project.head_end.id, **closet), *more,
    ])  # fmt: skip


HOME = router("home", ports(4), price=100)
LACKING = switch("lacking", ports(8), price=100, lacks=("ears", "supply"))
WHOLE = switch("whole", ports(8), price=115)
PARTS = (spare("dear-ears", "ears", 12), spare("ears", "ears", 7), spare("supply", "supply", 9))


@pytest.mark.parametrize(
    ("housing", "taken", "price"),
    # in a rack 100 + 7 + 9 is dearer than 115; on a shelf no ears are needed, and 109 is cheaper
    [("rack", ["home", "whole"], 215), ("shelf", ["home", "lacking", "supply"], 209)],
)
def test_what_a_box_lacks_is_priced_where_it_is_needed(housing, taken, price):
    answer = Picker(office(8, housing=housing), catalogue(HOME, LACKING, WHOLE, *PARTS)).answer("least_price")
    assert ([part.model for part in answer.parts], answer.price_minor) == (taken, price)
    assert sum(part.total_minor for part in answer.parts) == price


def test_a_box_that_nothing_completes_cannot_be_taken():
    models = catalogue(HOME, LACKING, WHOLE, spare("ears", "ears"), spare("supply", "supply", in_stock=False))
    picker = Picker(office(8, housing="rack"), models)
    answer = picker.answer("least_price")
    why = {one.model: one.sentence for one in picker.reasons(answer)}
    assert why["lacking"] == "It comes without a power supply, and the catalogue has none in stock."
    assert "ears" not in why, "a spare is no model that could have been picked"


def test_a_box_that_is_owned_has_all_that_it_needs():
    answer = Picker(office(8, kept("lacking"), housing="rack"), catalogue(HOME, LACKING, WHOLE)).answer("least_price")
    assert ([part.model for part in answer.parts], answer.price_minor) == (["home", "lacking"], 100)


OLD = switch("old", ports(8, poe=3), ports(8), watts=60, price=200, in_stock=False)


@pytest.mark.parametrize(
    ("new", "keeps"),
    [
        (switch("same", ports(8, poe=4), ports(8), watts=60), True),
        (switch("more", ports(8, poe=4), ports(8), ports(4), watts=90), True),
        (switch("turned", ports(8), ports(8, poe=4), watts=60), False),
    ],
)
def test_a_stand_in_keeps_every_label_or_says_that_it_does_not(new, keeps):
    found = substitute(catalogue(OLD, new), "old")
    assert (found.model, found.keeps_labels) == (new.key, keeps)


@pytest.mark.parametrize(
    "less",
    [
        switch("fewer", ports(8, poe=3), ports(7), watts=60),
        switch("weaker", ports(8, poe=2), ports(8), watts=60),
        switch("thirsty", ports(8, poe=3), ports(8), watts=59),
        switch("slower", ports(8, poe=3), ports(8, speed=100), watts=60),
        switch("plain", ports(8, poe=3), ports(8), watts=60, managed=False),
        switch("gone", ports(8, poe=3), ports(8), watts=60, in_stock=False),
        router("routes", ports(8, poe=3), ports(8), watts=60),
    ],
)
def test_what_does_less_stands_in_for_nothing(less):
    assert substitute(catalogue(OLD, less), "old") is None


def test_of_several_the_one_that_keeps_labels_comes_before_the_cheaper_one():
    cheap = switch("cheap", ports(8), ports(8, poe=4), watts=60, price=10)
    same = switch("same", ports(8, poe=3), ports(8), watts=60, price=250, units=2, depth_mm=230, own_draw_w=7)
    found = substitute(catalogue(OLD, cheap, same), "old")
    assert (
        found.sentence("EUR") == "same: keeps every label, € 0.50 more, 1 unit more, 30 mm deeper, 2 W of own draw more"
    )


def test_a_pinned_model_that_is_out_of_stock_is_told_with_its_stand_in():
    models = catalogue(HOME, OLD, switch("same", ports(8, poe=3), ports(8), watts=60, price=200))
    project = office(4, SetStance(model="old", pinned=1))
    (told,) = [one for one in balance(project, models, None).findings if one.key == "stock-old"]
    assert told.text == "is out of stock; nearest is same: keeps every label, the same price."
    why = {
        one.model: one.sentence
        for one in Picker(office(4), models).reasons(Picker(office(4), models).answer("least_price"))
    }
    assert why["old"].startswith("Out of stock; nearest is same: keeps every label")


FAST = switch("fast", ports(8, speed=2500), price=50)


def stranded(project, models):
    answer = Picker(project, models).answer("least_price")
    found = balance(project, models, answer.standing()).findings
    return [one.text for one in found if one.key.startswith("stranded")]


def test_a_switch_for_rooms_is_no_partner_of_fast_ports():
    quick = router("quick", ports(4, speed=2500), price=100)
    room = switch("room", ports(8, speed=2500), price=10, fed_class=3)
    (told,) = stranded(office(8), catalogue(quick, switch("eight", ports(8)), room))
    assert told.endswith("Nothing in stock is as fast.")
    mains = room.model_copy(update={"fed_class": None, "price_minor": 900})
    (told,) = stranded(office(8), catalogue(quick, switch("eight", ports(8)), mains))
    assert told.endswith("The least partner as fast is room, € 9 with its modules.")


def test_fast_ports_with_nothing_fast_on_them_are_told_with_the_cheapest_partner():
    quick = router("quick", ports(4, speed=2500), price=400)
    assert stranded(office(8), catalogue(HOME, FAST, quick)) == [
        "8 ports of 2.5 G, and nothing on them is as fast. The least partner as fast is quick, € 4 with its modules."
    ]


def test_a_module_may_be_the_cheapest_partner():
    slotted = router("slotted", ports(4), slots=slots(1), price=90)
    copper = module("copper", medium="copper", price=30)
    (told,) = stranded(office(8), catalogue(slotted, FAST, copper))
    assert told.endswith("The cheapest way to use one: a link of 2.5 G to slotted, € 0.30 in modules.")


def test_a_fast_drop_is_a_partner():
    project = office(8)
    quick = ChangeDrops(ids=(project.drops[0].id,), changes=DropChanges(speed_mbit=2500))
    assert stranded(apply_edits(project, [quick]), catalogue(HOME, FAST)) == []


def test_lists_are_read_as_one_and_names_stay_apart():
    mine = catalogue(HOME, FAST).model_copy(update={"name": "Mine"})
    theirs = catalogue(
        HOME.model_copy(update={"price_minor": 90}), FAST.model_copy(update={"key": "quick", "in_stock": False})
    )
    both = merged([mine, theirs])
    assert [(one.key, one.name, one.price_minor) for one in both.models] == [
        ("home", "home", 90), ("fast", "fast", 50), ("quick", "fast (Small)", 50),
    ]  # fmt: skip


def test_what_a_newer_list_changes_is_told_line_by_line():
    newer = catalogue(
        HOME.model_copy(update={"price_minor": 120, "in_stock": False}), switch("new", ports(5), price=300),
        WHOLE.model_copy(update={"depth_mm": 300}),
    )  # fmt: skip
    told = differences(catalogue(HOME, FAST, WHOLE), newer)
    assert [(one.what, one.key, one.told) for one in told] == [
        ("changed", "home", "price € 1 → € 1.20, out of stock"),
        ("changed", "whole", "depth mm"),
        ("new", "new", "€ 3"),
        ("gone", "fast", "is not listed any more"),
    ]


@pytest.mark.parametrize(
    ("currency", "told"),
    [("EUR", []), ("CHF", ["the price list is in EUR, the project counts in CHF: figures are not converted."])],
)
def test_prices_in_another_currency_are_told_and_can_be_taken_on(currency, told):
    project = office(4, ChangeSettings(changes={"currency": currency}))
    found = [one for one in balance(project, catalogue(HOME), None).findings if one.key == "currency"]
    assert [one.text for one in found] == told
    for one in found:
        assert apply_edits(project, [one.settle.edit]).settings.currency == "EUR"


def test_a_recorder_built_in_wants_its_disks_wherever_it_stands():
    recorder = router("records", ports(4), price=100, recorder_cameras=8, lacks=("disk",))
    disk = spare("disk", "disk", 90)
    for housing in ("rack", "shelf", "panel"):
        project = office(2, housing=housing)
        models = catalogue(recorder.model_copy(update={"form": "shelf"}), disk)
        assert Picker(project, models).answer("least_price").price_minor == 190


def test_spares_are_bought_with_every_copy_of_a_box_and_stand_on_the_bill():
    lacking = LACKING.model_copy(update={"price_minor": 40})
    answer = Picker(office(14, housing="rack"), catalogue(HOME, lacking, *PARTS)).answer("least_price")
    bought = {part.model: (part.quantity, part.total_minor) for part in answer.parts}
    # four and twice eight ports, four of them for links, bear sixteen; each switch wants ears and a supply
    assert bought == {"home": (1, 100), "lacking": (2, 80), "ears": (2, 14), "supply": (2, 18)}
    assert "Total,,,,2.12,EUR" in write_bill(answer, "EUR")
