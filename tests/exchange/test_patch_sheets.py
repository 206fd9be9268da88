"""Labels, strips, legend, port list and networks on paper: measured in the PDF."""

from datetime import date
from itertools import pairwise

import pypdfium2
import pytest

from baugrund.core.answers.picker import standing_boxes
from baugrund.core.edits import ChangeDrops, ChangeSettings, Held, Hold, PutLabels, apply_edits
from baugrund.core.patch.labelling import STOCKS, labelling
from baugrund.core.patch.told import patch_of
from baugrund.core.stack.told import stack_of
from baugrund.core.standing.ground import grounds_of
from baugrund.exchange.address_list import write_addresses_csv
from baugrund.exchange.label_list import write_labels_csv
from baugrund.exchange.sheets.label_sheet import write_labels, write_legend, write_strips
from baugrund.exchange.sheets.patch_sheet import write_network_sheet, write_port_sheet

from ..conftest import ROOT

FONTS = ROOT / "web" / "node_modules" / "@fontsource-variable"
MM = 72 / 25.4
DAY = date(2026, 5, 6)


@pytest.fixture(scope="module")
def fonts(tmp_path_factory):
    """The fonts of the house in one folder, as they are built."""
    folder = tmp_path_factory.mktemp("fonts")
    for file in [*FONTS.glob("archivo/files/archivo-latin-wdth-normal*"),
                 *FONTS.glob("source-serif-4/files/source-serif-4-latin-wght-normal*")]:  # fmt: skip
        (folder / file.name).write_bytes(file.read_bytes())
    return folder


@pytest.fixture(scope="module")
def patched(dye_works, catalogue):
    """The dye works on boxes that it holds, with all that is told of its ports."""
    models = {"router-2wan-8-sfp": 1, "switch-48m-24at": 1, "switch-8m-25at": 2}
    held = Hold(models=[Held(closet_id=1, model=key, count=count) for key, count in models.items()])
    project = apply_edits(dye_works.changed(printed=(), patches=()), [held])
    grounds = grounds_of(project, catalogue, standing_boxes(project, catalogue, None))
    stack = stack_of(project, catalogue, grounds)
    return project, stack, patch_of(project, grounds, stack)


def texts(pdf):
    return "\n".join(page.get_textpage().get_text_bounded() for page in pypdfium2.PdfDocument(pdf))


def inked(page):
    """Boxes of all texts of a page from its upper left corner [mm]."""
    high = page.get_height()
    text = page.get_textpage()
    for number in range(text.count_rects()):
        left, bottom, right, top = text.get_rect(number)
        yield left / MM, (high - top) / MM, right / MM, (high - bottom) / MM


@pytest.mark.parametrize("key", ["a4-wraps", "letter-wraps", "tape-12"])
def test_every_label_lies_inside_its_place_of_the_raster_at_true_size(patched, fonts, key):
    project = apply_edits(patched[0], [ChangeSettings(changes={"label_stock": key})])
    stock, told = STOCKS[key], labelling(project)
    document = pypdfium2.PdfDocument(write_labels(project, fonts))
    if stock.form == "tape":
        assert len(document) == told.to_print
        assert document[0].get_size() == pytest.approx((stock.width_mm * MM, stock.height_mm * MM), abs=0.1)
    else:
        assert len(document) == told.sheets
        assert document[0].get_width() == pytest.approx({"A4": 210, "letter": 215.9}[stock.page] * MM, abs=0.1)
    boxes = list(inked(document[0]))
    assert boxes
    for left, top, right, bottom in boxes:
        column = round((left - stock.left_mm) // (stock.step_x_mm or stock.width_mm))
        row = round((top - stock.top_mm) // (stock.step_y_mm or stock.height_mm))
        x = stock.left_mm + column * (stock.step_x_mm or 0)
        y = stock.top_mm + row * (stock.step_y_mm or 0)
        assert x <= left and right <= x + stock.width_mm, "no text leaves its label"
        assert y <= top and bottom <= y + (stock.print_mm or stock.height_mm)


def test_only_what_is_new_or_changed_is_printed_for_both_ends(patched, fonts):
    project = apply_edits(patched[0], [PutLabels()])
    assert "Nothing is to be printed." in texts(write_labels(project, fonts))
    drop = project.drops[0]
    changed = apply_edits(project, [ChangeDrops(ids=[drop.id], changes={"label": "Yard 7"})])
    document = pypdfium2.PdfDocument(write_labels(changed, fonts))
    assert len(document) == 1 and len({round(box[0]) for box in inked(document[0])}) == 2
    assert write_labels_csv(labelling(changed)).splitlines() == ["Text,Copies,Replaces", f"Yard 7,2,{drop.id:03d}"]


def test_strips_are_as_wide_as_their_panel_and_hold_every_label(patched, fonts):
    project, stack, told = patched
    pdf = write_strips(project, told, stack, fonts, DAY)
    said = texts(pdf)
    assert all(line.label in said for here in told.closets for line in here.lines if line.panel and line.label)
    # fields of a panel of 24 are 440 / 24 mm wide: so far apart are the middles of their numbers
    boxes = sorted(inked(pypdfium2.PdfDocument(pdf)[0]))
    rows = [[box for box in boxes if abs(box[1] - at) < 0.3 and box[2] - box[0] < 4] for _, at, _, _ in boxes]
    middles = []
    for left, _, right, _ in max(rows, key=len):
        if not middles or left - middles[-1][1] > 3:
            middles.append((left, right))
        middles[-1] = (middles[-1][0], right)
    at = [(left + right) / 2 for left, right in middles]
    apart = [other - one for one, other in pairwise(at)]
    assert len(at) >= 8 and all(gap / (440 / 24) == pytest.approx(round(gap / (440 / 24)), abs=0.02) for gap in apart)


def test_the_port_list_has_a_page_a_closet_and_the_legend_every_label(patched, fonts):
    project, _, told = patched
    document = write_port_sheet(project, told, fonts, DAY)
    assert len(pypdfium2.PdfDocument(document)) <= 1 + len(told.closets[0].lines) // 60
    said, legend = texts(document), texts(write_legend(project, told, fonts, DAY))
    for line in told.closets[0].lines:
        if line.use == "drop":
            assert line.at_port in said and line.label.split()[0] in legend


def test_networks_stand_on_paper_with_reasons_and_every_address(patched, fonts):
    project, _, told = patched
    said = texts(write_network_sheet(project, told, fonts, DAY)).replace("\r\n", " ").replace("\n", " ")
    assert all(network.name in said for network in project.networks)
    assert all(plan.prefix in said for plan in told.addresses.networks)
    assert all(row.address in said for row in told.addresses.kept)
    rows = write_addresses_csv(project, told.addresses).splitlines()
    assert len(rows) == 1 + 2 * len(project.networks) + len(told.addresses.kept)
    bare = project.changed(networks=(), wifi_names=(), permissions=())
    assert "no networks yet" in texts(write_network_sheet(bare, told, fonts, DAY))
