"""Parts: spare, packs and prices of made-up parts at every limit; what a run, an end, a closet and a link ask for."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    AddRooms,
    ChangeDrops,
    ChangeEntry,
    ChangeSettings,
    DropChanges,
    NewRoom,
    apply_edits,
)
from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.facts.lines.material import Material
from baugrund.core.facts.price import PartTerm
from baugrund.core.facts.project import empty_project
from baugrund.core.price.part_items import PartItem, part_items
from baugrund.core.price.parts import part_lines
from baugrund.core.price.work_items import work_items
from baugrund.core.standards.spares import CONSUMABLES, SPARE_PERCENT

from .priced import priced, stood
from .test_reach import drop, hall
from .test_work import four_to_one_plate


def material(key, price, holds=1.0, serves="thing", **values):
    return Material(kind="material", key=key, name=key, price_minor=price, serves=serves, holds=holds, **values)


def listed(*lines, tax="excluded"):
    return Catalogue(name="List", currency="EUR", priced_on="2026-01-01", tax=tax, models=lines)


def bought(count, *lines, group="boxes", tax="excluded", usual=None, **said):
    """One made-up part, priced."""
    terms = (PartTerm(id=1, part="part/thing", **said),) if said else ()
    project = empty_project("P", 2026).changed(part_terms=terms)
    item = PartItem("part/thing", group, "thing", count, usual_minor=usual)
    (line,) = part_lines(project, listed(*lines, tax=tax), [item])
    return line


@pytest.mark.parametrize(
    ("group", "count", "spare"),
    [
        ("boxes", 100, 0), ("devices", 100, 0), ("cable", 100, 0), ("consumables", 7.3, 0),
        ("ways", 20, 1), ("ways", 20.1, 2), ("ways", 40, 2), ("ends", 1, 1), ("ends", 20, 1), ("ends", 21, 2),
        ("cords", 60, 3), ("cords", 61, 4), ("fixings", 10, 1), ("fixings", 11, 2), ("labels", 30, 3),
    ],
)  # fmt: skip
def test_spare_is_a_share_of_the_group_up_to_a_whole_piece(group, count, spare):
    part = bought(count, material("one", 10), group=group)
    assert (part.spare, part.to_buy) == (spare, pytest.approx(count + spare))
    assert part.spare_percent == SPARE_PERCENT[group]


def test_own_spare_replaces_the_rule_even_where_it_is_none():
    assert bought(21, material("one", 10), group="ends", spare=0).to_buy == 21
    more = bought(21, material("one", 10), group="ends", spare=4)
    assert (more.spare, more.spare_percent, more.total_minor) == (4, None, 250)


@pytest.mark.parametrize(("count", "packs"), [(0.2, 1), (5, 1), (5.001, 2), (10, 2), (10.5, 3)])
def test_packs_are_whole(count, packs):
    part = bought(count, material("five", 700, holds=5))
    assert (part.packs, part.total_minor) == (packs, 700 * packs)


@given(st.floats(0.1, 500), st.lists(st.tuples(st.integers(1, 5000), st.sampled_from([1, 2, 5, 10, 25, 100])),
                                     min_size=1, max_size=5))  # fmt: skip
def test_of_lines_that_serve_the_one_that_costs_least_for_so_many_is_bought(count, offers):
    lines = [material(f"m{n}", price, holds=float(holds)) for n, (price, holds) in enumerate(offers)]
    part = bought(count, *lines)
    assert part.total_minor == min(math.ceil(count / holds - 1e-9) * price for price, holds in offers)


def test_a_line_out_of_stock_is_bought_only_where_there_is_no_other():
    cheap = material("cheap", 10, in_stock=False)
    assert bought(3, cheap, material("dear", 90)).model == "dear"
    alone = bought(3, cheap)
    assert (alone.model, alone.in_stock) == ("cheap", False)


def test_a_line_serves_a_part_of_its_name_whatever_capitals_it_is_written_in():
    assert bought(3, material("one", 10, serves="Thing")).total_minor == 30
    assert bought(3, material("one", 10, serves="things")).source == "none"


def test_own_price_is_of_one_piece_and_a_pack_holds_its_pieces():
    part = bought(12, material("ten", 800, holds=10), price_minor=70)
    assert (part.each_minor, part.packs, part.total_minor, part.source) == (700, 2, 1400, "project")
    free = bought(12, material("ten", 800, holds=10), price_minor=0)
    assert (free.total_minor, free.source) == (0, "project"), "given for nothing, and said so"


def test_where_no_list_has_it_the_usual_price_counts_and_else_nobody_knows():
    assert (bought(3, usual=25.4).total_minor, bought(3, usual=25.4).source) == (75, "usual")
    unknown = bought(3)
    assert (unknown.total_minor, unknown.open_minor, unknown.source) == (None, None, "none")
    assert bought(3, there=3).total_minor == 0, "what is not bought costs nothing, whatever its price"


@pytest.mark.parametrize(("there", "buy"), [(0, 5), (4, 1), (5, 0), (9, 0)])
def test_what_is_there_is_not_bought(there, buy):
    part = bought(5, material("one", 10), there=there)
    assert (part.there, part.to_buy, part.total_minor) == (min(there, 5), buy, 10 * buy)


@pytest.mark.parametrize(("already", "left"), [(0, 3), (4, 3), (5, 2), (14, 1), (15, 0), (99, 0)])
def test_bought_pieces_count_as_whole_packs_only(already, left):
    part = bought(15, material("five", 700, holds=5), bought=already)
    assert (part.open_packs, part.open_minor, part.total_minor) == (left, 700 * left, 2100)


def test_a_price_that_holds_the_tax_is_rounded_once_without_it():
    part = bought(3, material("one", 1190), tax="included")
    assert (part.each_minor, part.total_minor) == (round(1190 / 1.2), 3 * round(1190 / 1.2))


def keys_of(project, catalogue):
    return {part.key: part.needed for part in priced(project, catalogue).parts}


def test_cable_that_ends_in_the_box_takes_a_plug_and_no_cord(catalogue):
    panel = keys_of(four_to_one_plate("open"), catalogue)
    direct = keys_of(apply_edits(four_to_one_plate("open"), [ChangeSettings(changes={"termination": "direct"})]),
                     catalogue)  # fmt: skip
    assert panel["part/panel jack"] == 4 and "part/field plug" not in panel
    assert direct["part/field plug"] == 4 and "part/panel jack" not in direct
    assert sum(count for key, count in panel.items() if key.startswith("part/cord ")) > sum(
        count for key, count in direct.items() if key.startswith("part/cord ")
    )


def test_cable_that_is_there_is_neither_bought_nor_ended_but_traced(catalogue):
    project = four_to_one_plate("open")
    old = apply_edits(project, [
        ChangeDrops(ids=tuple(drop.id for drop in project.drops), changes=DropChanges(existing=True))
    ])  # fmt: skip
    told = keys_of(old, catalogue)
    assert not [key for key in told if key.startswith("cable/")]
    assert not {"part/panel jack", "part/jack", "part/plate, 4 jacks, with back box"} & set(told)
    work = {one.task: one.count for one in work_items(old, catalogue, *stood(old, catalogue)) if one.task == "trace"}
    assert work == {"trace": 1}
    traced = [one for one in work_items(old, catalogue, *stood(old, catalogue)) if one.task == "trace"]
    assert len(traced) == 4


@pytest.mark.parametrize(("many", "plates"), [(1, 1), (4, 1), (5, 2), (8, 2), (9, 3)])
def test_a_plate_holds_four_jacks_of_its_form(catalogue, many, plates):
    project = hall()
    spot = DropChanges(x_m=11, y_m=6, height_m=0.3, variant="quad")
    project = apply_edits(project, [AddDrops(room=project.rooms[0].id, kind="jack", count=many, changes=spot)])
    assert keys_of(project, catalogue)["part/plate, 4 jacks, with back box"] == plates


def test_a_rack_is_bought_unless_it_is_there(catalogue):
    project = drop(hall(), 11, 6)
    assert "part/rack of 9 units" in keys_of(project, catalogue)
    there = apply_edits(project, [ChangeEntry(list="closets", id=1, changes={"is_there": True})])
    assert not [key for key in keys_of(there, catalogue) if key.startswith("part/rack")]


def test_what_is_used_up_follows_the_work(catalogue):
    project = four_to_one_plate("finished")
    work = work_items(project, catalogue, *stood(project, catalogue))
    told = keys_of(project, catalogue)
    for one in CONSUMABLES:
        done = sum(item.count for item in work if item.task == one.driver)
        assert told.get(f"part/{one.name}", 0) == pytest.approx(done * one.each), one.name


def test_a_link_between_closets_takes_cords_at_both_ends(catalogue, orchard_school):
    grounds, stack = stood(orchard_school, catalogue)
    work = work_items(orchard_school, catalogue, grounds, stack)
    items = part_items(orchard_school, catalogue, grounds, stack, work)
    (fibre,) = [item for item in items if "fibre cord" in item.name]
    # the barn hangs on one pair of fibre, and two of its boxes are joined by modules
    assert fibre.count == 3 and set(fibre.closet_ids) == {closet.id for closet in orchard_school.closets}


def test_every_part_says_who_asks_for_it(catalogue, dye_works):
    costs = priced(dye_works, catalogue)
    known = {drop.id for drop in dye_works.drops}
    for part in costs.parts:
        assert set(part.drop_ids) <= known
        if part.group in ("devices", "ends", "cable"):
            assert part.drop_ids, part.key
        if part.group in ("boxes", "closets"):
            assert part.closet_ids, part.key


def test_rooms_without_drops_ask_for_a_router_and_its_place_alone(catalogue):
    project = apply_edits(empty_project("P", 2026), [AddRooms(rooms=(NewRoom(name="Hall"), NewRoom(name="Attic")))])
    told = priced(project, catalogue)
    assert {part.group for part in told.parts} == {"boxes", "closets", "consumables"}
    assert {line.task for line in told.labour.lines} == {"rack", "box", "bench", "set_up_router"}
    with_kit = apply_edits(project, [AddEntry(list="kit", values={"name": "Old hub", "fate": "replaced", "count": 3})])
    assert [line.count for line in priced(with_kit, catalogue).labour.lines if line.task == "take_down"] == [3]
