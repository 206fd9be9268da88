"""Plan and section as drawings: true scale in metres, every layer, read back by other programs; sheets as PDF."""

from __future__ import annotations

import io
import math
from collections import Counter
from datetime import date
from xml.etree import ElementTree

import ezdxf
import pypdfium2
import pytest
from PIL import Image

from baugrund.core.cabling.pulls import schedule
from baugrund.core.edits import AddEntry, AddRooms, ChangeDrops, ChangeSettings, DropChanges, NewRoom, apply_edits
from baugrund.core.errors import Stopped
from baugrund.core.facts.project import empty_project
from baugrund.core.places.labels import labels
from baugrund.core.places.layout import layout
from baugrund.core.places.setting_out import set_out
from baugrund.core.sight.views import views_of
from baugrund.core.stack.told import stack_of
from baugrund.core.standards.stack import UNIT_MM
from baugrund.core.standing.ground import grounds_of
from baugrund.core.watch import watched
from baugrund.exchange.drawings.dxf import write_dxf
from baugrund.exchange.drawings.elevation import elevation
from baugrund.exchange.drawings.scene import Dot, Stroke, Text, plan_scene, section_scene, sight_scene
from baugrund.exchange.drawings.svg import scale_of, write_svg
from baugrund.exchange.part_list import write_parts_csv
from baugrund.exchange.sheets.pull_sheet import write_pull_sheet
from baugrund.exchange.sheets.setting_out_sheet import write_setting_out_sheet
from baugrund.exchange.sheets.stack_sheet import write_pattern_sheet, write_stack_sheet
from baugrund.exchange.sheets.view_sheet import write_view_sheet

from ..conftest import ROOT

FONTS = ROOT / "web" / "dist" / "assets"
DAY = date(2026, 11, 25)
SVG = "{http://www.w3.org/2000/svg}"


def floor_of(project, name):
    return next(floor for floor in project.floors if floor.name == name)


def test_a_plan_is_drawn_as_dxf_in_metres_on_named_layers(dye_works):
    scene = plan_scene(dye_works, floor_of(dye_works, "Ground floor"))
    drawing = ezdxf.read(io.StringIO(write_dxf(scene)))
    assert drawing.units == ezdxf.units.M
    assert not drawing.audit().has_errors
    rooms = [line for line in drawing.modelspace() if line.dxf.layer == "ROOMS"]
    west = next(room for room in dye_works.rooms if room.name == "Workshop west")
    outlines = [{(round(x, 3), round(-y, 3)) for x, y in line.get_points("xy")} for line in rooms]
    assert {(float(x), float(y)) for x, y in west.outline} in outlines, "10 by 8 m is 10 by 8 units"
    spots = {(round(c.dxf.center.x, 3), round(-c.dxf.center.y, 3)) for c in drawing.modelspace().query("CIRCLE")}
    here = {(d.x_m, d.y_m) for d in layout(dye_works).drops if d.floor_id == floor_of(dye_works, "Ground floor").id}
    assert spots == here
    texts = {text.dxf.text for text in drawing.modelspace().query("TEXT")}
    assert {"Kiln flue", "East tray"} <= texts
    assert labels(dye_works)[next(iter(d.id for d in dye_works.drops if d.room_id == west.id))] in texts


def test_a_plan_as_svg_is_true_to_its_scale(dye_works):
    scene = plan_scene(dye_works, floor_of(dye_works, "Ground floor"))
    drawing = ElementTree.fromstring(write_svg(scene))
    width_m = float(drawing.attrib["viewBox"].split()[2])
    width_mm = float(drawing.attrib["width"].removesuffix("mm"))
    scale = scale_of(width_m)
    assert width_mm == pytest.approx(width_m * 1000 / scale, abs=0.01)
    assert f"1:{scale}" in "".join(drawing.itertext())
    layers = {group.attrib.get("id") for group in drawing.iter(f"{SVG}g")}
    assert {"ROOMS", "PATHS", "RUNS", "DROPS", "LANDMARKS", "TEXT"} <= layers
    assert "CLOSETS" not in layers, "the closet is in the cellar"


def test_a_plan_holds_only_the_pieces_of_runs_that_lie_on_its_floor(dye_works):
    ground = plan_scene(dye_works, floor_of(dye_works, "Ground floor"))
    west, north, east, south = ground.bounds()
    assert (west, north) == pytest.approx((-0.0, 0.0), abs=0.3)
    assert east <= 28 + 5 and south <= 14 + 0.3, "nothing of yard and shed"
    cellar = plan_scene(dye_works, floor_of(dye_works, "Cellar"))
    tray = [s for s in cellar.shapes if isinstance(s, Stroke) and s.layer == "RUNS"]
    assert any(math.isclose(a[0], 9) and math.isclose(b[0], 9) for s in tray for a, b in [s.spots])


@pytest.mark.parametrize("axis", [0, 1])
def test_the_section_shows_every_drop_path_and_run_at_its_height(dye_works, axis):
    scene = section_scene(dye_works, axis)
    dots = [shape for shape in scene.shapes if isinstance(shape, Dot)]
    assert len(dots) == len(dye_works.drops)
    heights = {round(-shape.spot[1], 2) for shape in dots}
    assert round(-2.75 + 2.1, 2) in heights, "the camera over the store's door, 2.1 m over the cellar's floor"
    paths = [shape for shape in scene.shapes if shape.layer == "PATHS"]
    assert len(paths) == len(dye_works.paths)
    duct = [shape for shape in paths if all(round(-y, 2) == -0.6 for _, y in shape.spots)]
    assert duct, "the yard duct lies 0.6 m under the ground"
    assert not ezdxf.read(io.StringIO(write_dxf(scene))).audit().has_errors


def test_views_and_targets_are_layers_of_their_own_that_end_beside_the_rooms(dye_works):
    floor = floor_of(dye_works, "Ground floor")
    scene, plan = sight_scene(dye_works, floor), plan_scene(dye_works, floor)
    drawing = ezdxf.read(io.StringIO(write_dxf(scene)))
    assert not drawing.audit().has_errors
    on = Counter(shape.dxf.layer for shape in drawing.modelspace())
    assert on["OPENINGS"] == 10 and on["TARGETS"] == 4 and on["VIEWS"] > 20
    (west, _, _, south), (bare_west, _, _, bare_south) = scene.bounds(), plan.bounds()
    assert west >= bare_west - 12 - 1e-6 and south <= bare_south + 12 + 1e-6
    assert "VIEWS" not in {shape.layer for shape in plan.shapes}


def test_the_sheet_of_views_has_every_camera_that_is_placed_its_targets_and_its_still(dye_works):
    row = dye_works.views[0].model_copy(update={"still": "a" * 64, "unseen": "Whoever stands in the corner."})
    project = dye_works.changed(views=(row, *dye_works.views[1:]))
    picture = io.BytesIO()
    Image.new("RGB", (40, 30), "green").save(picture, "PNG")
    asked = []

    def pictures(key):
        asked.append(key)
        return "image/png", picture.getvalue()

    pdf = write_view_sheet(project, FONTS, DAY, pictures)
    said = pages(pdf)
    assert asked == ["a" * 64]
    for view in views_of(project):
        assert view.name in said
    assert "Delivery hatch" in said and "Whoever stands in the corner." in said and "privacy law" in said
    bare = empty_project("Bare", 2026)
    assert "No camera is placed yet" in pages(write_view_sheet(bare, None, DAY, lambda key: None))


def test_names_of_any_script_and_with_signs_are_drawn_as_they_are():
    project = apply_edits(empty_project('A "<b>" & Söhne', 2026), [AddRooms(rooms=(NewRoom(name="<i> & 木"),))])
    drawing = ElementTree.fromstring(write_svg(plan_scene(project, project.floors[0])))
    said = "".join(drawing.itertext())
    assert "<i> & 木" in said and 'A "<b>" & Söhne' in said
    dxf = ezdxf.read(io.StringIO(write_dxf(plan_scene(project, project.floors[0]))))
    assert any("<i> & 木" in text.dxf.text for text in dxf.modelspace().query("TEXT"))


def pages(pdf):
    document = pypdfium2.PdfDocument(pdf)
    said = (document[number].get_textpage().get_text_range() for number in range(len(document)))
    return " ".join(" ".join(said).split())


def test_the_pull_sheet_names_every_label_mark_and_caution(dye_works):
    said = pages(write_pull_sheet(dye_works, FONTS, DAY))
    for bundle in schedule(dye_works):
        for cable in bundle.cables:
            assert cable.label in said
            assert f"{cable.from_m:.1f}–{cable.to_m:.1f}" in said
    assert "Bend no tighter than 30 mm" in said
    assert "2026-11-25" in said
    assert "Leave a draw string in Yard duct" in said


def test_a_sheet_tells_its_pages_as_they_are_laid_out_and_stops_when_told(dye_works):
    seen = []

    def watch(share):
        seen.append(share.text)
        if share.text == "page 2":
            raise Stopped("Nobody waits.")

    with watched(watch), pytest.raises(Stopped):
        write_pull_sheet(dye_works, FONTS, DAY)
    assert [text for text in seen if text] == ["page 1", "page 2"]


def test_the_setting_out_sheet_names_every_device_and_what_was_moved(dye_works):
    said = pages(write_setting_out_sheet(dye_works, FONTS, DAY))
    devices = set_out(dye_works)
    moved = next(device for device in devices if device.built)
    assert moved.built_why in said
    assert "Iron column" in said
    for device in devices:
        assert labels(dye_works)[device.drop_id] in said
    assert "asbestos" in said and "joists or boards only" in said


def test_sheets_follow_the_units_of_the_project_and_stand_without_its_fonts(dye_works):
    feet = apply_edits(dye_works, [ChangeSettings(changes={"units": "imperial"})])
    longest = schedule(dye_works)[0].cables[0]
    said = pages(write_pull_sheet(feet, None, DAY))
    assert f"{longest.cut_m / 0.3048:.1f}" in said and "Cut ft" in said


def test_an_empty_project_has_sheets_that_say_so():
    project = empty_project("Empty & <new>", 2026)
    assert "No cable is to be pulled." in pages(write_pull_sheet(project, None, DAY))
    assert "No device is set out yet" in pages(write_setting_out_sheet(project, None, DAY))


def test_no_text_of_a_project_makes_a_sheet_fetch_or_run_anything(row_house):
    evil = '<img src="file:///etc/passwd"><style>@import "http://127.0.0.1:1/x"</style>'
    drop = row_house.drops[0]
    project = apply_edits(row_house, [
        ChangeDrops(ids=(drop.id,), changes=DropChanges(label=evil)),
        AddEntry(list="landmarks", values={"name": evil, "floor_id": row_house.floors[0].id, "x_m": 1, "y_m": 1}),
    ])  # fmt: skip
    said = pages(write_setting_out_sheet(project, None, DAY)) + pages(write_pull_sheet(project, None, DAY))
    assert "passwd" in said, "it is text and stays text"
    assert "root:" not in said


def test_parts_beside_the_cable_are_had_as_csv(dye_works, catalogue):
    from baugrund.core.cabling.parts import part_list

    lines = write_parts_csv(part_list(dye_works, catalogue)).splitlines()
    assert lines[0] == "Group,Part,Count,Unit,For"
    assert any(line.startswith("strings,draw string,") for line in lines)


def test_the_paper_pattern_is_at_true_size(orchard_school, catalogue):
    told = stack_of(orchard_school, catalogue, grounds_of(orchard_school, catalogue, {}))
    document = pypdfium2.PdfDocument(write_pattern_sheet(orchard_school, told, FONTS, DAY))
    wide, high = 400, 600
    assert len(document) == 1 + 3 * 3, "one sheet for every tile of 170 by 225 mm"
    # the bar of 100 mm, measured on a page: the longest path that lies flat
    spans = [
        path.get_bounds()
        for path in document[1].get_objects(max_depth=6)
        if path.type == 2 and path.get_bounds() is not None
    ]
    flat = [right - left for left, low, right, top in spans if top - low < 3 and 200 < right - left < 400]
    assert any(abs(width - 100 / 25.4 * 72) < 2.5 for width in flat), (flat, wide, high)
    said = pages(write_pattern_sheet(orchard_school, told, FONTS, DAY))
    assert "Print at 100 %" in said and "Pipe clamp" in said


def test_the_sheet_of_closets_has_everything_in_the_order_of_fitting(dye_works, catalogue):
    told = stack_of(dye_works, catalogue, grounds_of(dye_works, catalogue, {}))
    said = pages(write_stack_sheet(dye_works, told, FONTS, DAY))
    assert "licensed electrician" in said and "UPS, 600 W, 24 V 9 Ah" in said and "Recorder, 8 cameras asks" in said


@pytest.mark.parametrize(("fixing", "entry", "walls", "cables"), [
    ("", "", 0, 0), ("masonry", "", 1, 0), ("studs", "top", 1, 3), ("floor", "bottom", 1, 3), ("frame", "", 1, 0),
])  # fmt: skip
def test_what_a_rack_is_fixed_to_and_where_its_cables_come_in_is_drawn(
    dye_works, catalogue, fixing, entry, walls, cables
):
    (closet,) = dye_works.closets
    closet = closet.model_copy(update={"fixing": fixing, "entry": entry})
    project = dye_works.changed(closets=(closet,), gear=(), placings=())
    (here,) = stack_of(project, catalogue, grounds_of(project, catalogue, {})).closets
    bare = elevation(project, closet.model_copy(update={"fixing": "", "entry": ""}), here).shapes
    added = [shape for shape in elevation(project, closet, here).shapes if shape not in bare]
    high = closet.units * UNIT_MM / 1000
    drawn = [shape for shape in added if isinstance(shape, Stroke) and shape.layer == "WALLS"]
    assert len(drawn) == walls
    for stroke in drawn:
        (x, y), (to_x, to_y) = stroke.spots
        # a wall stands behind the rack from top to bottom, a floor lies under it
        assert (y == to_y and y > high) if fixing in ("floor", "frame") else (x == to_x and y < 0 and to_y > high)
    edge = 0.0 if entry == "top" else high
    over = [shape for shape in added if isinstance(shape, Stroke) and shape.layer == "HATCH"
            and min(y for _, y in shape.spots) < edge < max(y for _, y in shape.spots)]  # fmt: skip
    assert len(over) == cables, "three cables pass the edge that they come in at"
    texts = [shape.text for shape in added if isinstance(shape, Text)]
    assert texts == [fixing] * bool(fixing) + ["cables"] * bool(entry)
