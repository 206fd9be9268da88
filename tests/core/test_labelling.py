"""Labels and cords: what is printed, what it replaces, what fits; how long cords are and which colour."""

from dataclasses import dataclass

import pytest

from baugrund.core.edits import (
    AddEntry,
    ChangeDrops,
    ChangeEntry,
    ChangeSettings,
    PatchCords,
    PutLabels,
    RemoveDrops,
    apply_edits,
)
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.patch import LabelStock
from baugrund.core.findings import SiteState
from baugrund.core.findings.patch import labels as findings_of
from baugrund.core.patch.cords import cord_list
from baugrund.core.patch.labelling import STOCKS, labelling, size_on, stock_of
from baugrund.core.places.labels import labels, panel_letter
from baugrund.core.standards.type import LARGEST_MM, LEAST_MM, text_width


@pytest.fixture(scope="module")
def bare(dye_works):
    return dye_works.changed(printed=(), stocks=(), cord_colours=(), patches=())


def states(project):
    return {line.drop_id or line.printed: line.state for line in labelling(project).lines}


def test_a_printed_label_is_remembered_a_change_warns_and_a_cable_that_goes_leaves_its_label_to_take_off(bare):
    first = labelling(bare)
    assert {line.state for line in first.lines} == {"new"} and first.to_print == 2 * len(first.lines)
    assert first.sheets == -(-first.to_print // 35)
    put = apply_edits(bare, [PutLabels(day="2026-05-06")])
    assert labelling(put).to_print == 0 and {row.day.isoformat() for row in put.printed} == {"2026-05-06"}
    assert list(findings_of(SiteState(put, {}, {}))) == []
    desk, jack = (next(one for one in put.drops if one.kind == kind) for kind in ("desk", "jack"))
    changed = apply_edits(put, [ChangeDrops(ids=[desk.id], changes={"label": "Till"}), RemoveDrops(ids=[jack.id])])
    told = states(changed)
    assert told[desk.id] == "changed" and told[labels(put)[jack.id]] == "off"
    assert sorted(set(told.values())) == ["changed", "off", "same"] and labelling(changed).to_print == 2
    keys = {finding.key: finding for finding in findings_of(SiteState(changed, {}, {}))}
    assert (
        keys["labels-changed"].drop_ids == (desk.id,)
        and f"{labels(put)[desk.id]} is now Till" in keys["labels-changed"].text
    )
    assert "labels-off" in keys
    again = apply_edits(changed, [PutLabels()])
    assert set(states(again).values()) == {"same"} and len(again.printed) == len(put.printed) - 1
    one = apply_edits(bare, [PutLabels(drop_ids=[desk.id])])
    assert [row.drop_id for row in one.printed] == [desk.id]


def test_labels_by_position_follow_the_patching_and_warn_when_it_moves(bare):
    school = apply_edits(bare, [ChangeSettings(changes={"labels": "position"})])
    drop = next(one for one in school.drops if one.kind == "desk")
    assert labels(school)[drop.id].endswith(f"-1-{drop.id:03d}"), "until it is patched its number stands"
    patched = apply_edits(
        school, [PatchCords(closet_id=1, cords=[{"drop_id": drop.id, "panel": "panel/2", "position": 7}])]
    )
    level = next(one.level for one in school.floors if one.id == school.rooms_by_id[drop.room_id].floor_id)
    assert labels(patched)[drop.id] == f"{level}-1-B7"
    put = apply_edits(patched, [PutLabels()])
    moved = apply_edits(put, [PatchCords(closet_id=1, cords=[{"drop_id": drop.id, "panel": "panel/2", "position": 8}])])
    assert states(moved)[drop.id] == "changed"


def test_panels_are_lettered_in_the_order_of_the_list(bare):
    typed = apply_edits(bare, [AddEntry(list="gear", values={"closet_id": 1, "kind": "panel"})] * 2)
    ours = [one.id for one in typed.gear if one.kind == "panel"]
    assert [panel_letter(typed, 1, f"gear/{number}") for number in ours] == ["A", "B"]
    assert [panel_letter(typed, 1, key) for key in ("panel/1", "panel/27", "gear/9999")] == ["A", "AA", "C"]


@pytest.mark.parametrize(("text", "size"), [("1", LARGEST_MM), ("iiiiiiiiii", LARGEST_MM), ("", LARGEST_MM)])
def test_a_short_text_is_as_large_as_labels_ever_are(text, size):
    assert size_on(STOCKS["a4-wraps"], text) == size


def test_a_text_is_as_large_as_its_label_lets_it_and_one_that_nobody_could_read_is_too_long(bare):
    stock = LabelStock(id=1, name="S", form="tape", width_mm=22, height_mm=9)
    assert text_width("Wm") == pytest.approx(0.954 + 0.861) and text_width("é") == 1.0
    wide = "W" * 10
    assert size_on(stock, wide) == pytest.approx(20 / 9.54)
    assert size_on(stock, "1") == LARGEST_MM and size_on(stock.model_copy(update={"height_mm": 5}), "1") == 2.5
    drop = bare.drops[0]
    edges = {int(20 / 0.954 / LEAST_MM): False, int(20 / 0.954 / LEAST_MM) + 1: True}
    for letters, too_long in edges.items():
        own = [AddEntry(list="stocks", values={"name": "S", "form": "tape", "width_mm": 22, "height_mm": 9}),
               ChangeDrops(ids=[drop.id], changes={"label": "W" * letters})]  # fmt: skip
        project = apply_edits(bare, own)
        key = f"stock/{project.stocks[0].id}"
        told = labelling(apply_edits(project, [ChangeSettings(changes={"label_stock": key})]))
        assert told.key == key and next(one for one in told.lines if one.drop_id == drop.id).too_long is too_long
        assert told.tape_mm == told.to_print * 22 and told.sheets == 0
    assert stock_of(apply_edits(bare, [ChangeSettings(changes={"label_stock": "stock/4711"})]))[0] == "a4-wraps"


@pytest.mark.parametrize(
    ("values", "why"),
    [({"columns": 5, "left_mm": 10, "width_mm": 40}, None), ({"columns": 5, "left_mm": 10.1, "width_mm": 40}, "page is 210"),
     ({"rows": 29, "height_mm": 10, "top_mm": 7}, None), ({"rows": 29, "height_mm": 10, "top_mm": 7.1}, "297 mm"),
     ({"page": "letter", "columns": 5, "left_mm": 10, "width_mm": 41}, None), ({"print_mm": 12.1}, "12.1 mm are printed on"),
     ({"columns": 4, "width_mm": 40, "step_x_mm": 60}, "page is 210")],
)  # fmt: skip
def test_a_raster_has_to_fit_its_page(bare, values, why):
    add = AddEntry(list="stocks", values={"name": "S", "width_mm": 30, "height_mm": 12, **values})
    if why is None:
        assert apply_edits(bare, [add]).stocks
    else:
        with pytest.raises(InvalidInput, match=why):
            apply_edits(bare, [add])


def test_every_stock_that_ships_fits_its_page():
    for stock in STOCKS.values():
        assert LabelStock.model_validate(stock.model_dump()) == stock


@dataclass
class Line:
    """A line of the port list as far as cords look at it."""

    use: str = "drop"
    kind: str = "desk"
    at_port: str = "2/1"
    panel: str = "panel/1"
    cord_m: float | None = 0.5


def test_cords_are_bundled_by_colour_and_length_and_unknown_ones_are_said(bare):
    colours = [AddEntry(list="cord_colours", values={"use": use, "colour": colour})
               for use, colour in (("camera", "green"), ("link", "grey"))]  # fmt: skip
    project = apply_edits(bare, [*colours, ChangeSettings(changes={"cords_from": "home_made", "cord_category": "6A"})])
    lines = [Line(), Line(), Line(kind="camera"), Line(kind="camera", cord_m=None), Line(use="link", cord_m=4.2),
             Line(use="uplink"), Line(use="reserve"), Line(use="link", at_port="1/S1"), Line(at_port="")]  # fmt: skip
    told = cord_list(project, lines)
    assert [(one.count, one.length_m, one.colour, one.stock) for one in told.lines] == [
        (2, 0.5, "", True), (1, 0.5, "green", True), (1, None, "green", False), (1, 4.2, "grey", False),
    ]  # fmt: skip
    assert (told.count, told.unknown, told.plugs, told.category) == (5, 1, 10, "6A")
    assert told.cable_m == pytest.approx(3 * 0.5 + 3.0 + 4.2), "one of unknown length counts as the longest stock"
    direct = apply_edits(project, [ChangeSettings(changes={"termination": "direct"})])
    assert cord_list(direct, [Line(panel="", cord_m=None)]).count == 0, "cable ends in the port"
    changed = apply_edits(
        project, [ChangeEntry(list="cord_colours", id=project.cord_colours[0].id, changes={"use": "desk"})]
    )
    assert {one.colour for one in cord_list(changed, lines[:3]).lines} == {"green", ""}
