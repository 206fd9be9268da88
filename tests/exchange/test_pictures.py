"""Pictures that come in are made harmless, or refused in a sentence."""

import io
from concurrent.futures import ThreadPoolExecutor

import ezdxf
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image

from baugrund.core.errors import InvalidInput
from baugrund.exchange import pictures
from baugrund.exchange.pictures import read_picture

SVG = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 20 10" {more}>{inside}</svg>'


def image(kind, size=(40, 30), **more):
    out = io.BytesIO()
    Image.new("RGB", size, "white").save(out, kind, **more)
    return out.getvalue()


def svg(inside="<rect width='3' height='2'/>", more=""):
    return read_picture(SVG.format(inside=inside, more=more).encode()).content.decode()


@pytest.mark.parametrize(("kind", "media"), [("PNG", "image/png"), ("JPEG", "image/jpeg")])
def test_pixels_are_kept_and_nothing_else(kind, media):
    data = image(kind, **({"exif": b"Exif\x00\x00secret place"} if kind == "JPEG" else {}))
    kept = read_picture(data + b"<script>trailing</script>")
    assert (kept.media_type, kept.width_px, kept.height_px) == (media, 40, 30)
    assert b"secret" not in kept.content
    assert b"script" not in kept.content


def test_a_picture_of_thirty_thousand_pixels_is_refused_before_it_is_drawn():
    wide = io.BytesIO()
    Image.new("1", (30_000, 2)).save(wide, "PNG")
    with pytest.raises(InvalidInput, match="30,000 × 2 pixels"):
        read_picture(wide.getvalue())


def test_a_side_at_the_limit_is_taken_and_shrunk():
    out = io.BytesIO()
    Image.new("1", (pictures.MAX_SIDE_PX, 12)).save(out, "PNG")
    assert read_picture(out.getvalue()).width_px == pictures.KEPT_SIDE_PX


def test_a_page_of_a_pdf_becomes_a_picture():
    kept = read_picture(image("PDF", (300, 200)))
    assert kept.media_type == "image/png"
    assert kept.width_px / kept.height_px == pytest.approx(1.5, rel=0.01)


def test_pages_that_come_at_once_are_drawn_one_after_the_other():
    pages = [image("PDF", (200 + 10 * n, 200)) for n in range(8)]
    with ThreadPoolExecutor(8) as pool:
        kept = list(pool.map(read_picture, pages))
    assert [round(one.width_px / one.height_px, 2) for one in kept] == [
        pytest.approx((200 + 10 * n) / 200, abs=0.01) for n in range(8)
    ]


@pytest.mark.parametrize(
    "inside",
    [
        "<script>alert(1)</script>", "<foreignObject><body/></foreignObject>", "<image href='http://e/x.png'/>",
        "<use href='http://e/x.svg#a'/>", "<a href='javascript:x()'><text>t</text></a>", "<style>@import 'x'</style>",
        "<rect onclick='x()'/>", "<rect style='fill:url(http://e/x)'/>", "<rect fill='url(http://e/x)'/>",
        "<animate attributeName='href' to='x'/>", "<set/>", "<h:script xmlns:h='http://www.w3.org/1999/xhtml'>x</h:script>",
    ],
)  # fmt: skip
def test_an_svg_keeps_shapes_and_nothing_that_acts_or_reaches_out(inside):
    kept = svg(f"<g>{inside}<circle r='1'/></g>")
    for bad in ("script", "foreignObject", "http://e", "javascript", "onclick", "import", "animate", "<set"):
        assert bad not in kept
    assert "circle" in kept


def test_an_svg_keeps_its_look():
    kept = svg("<path d='M0 0h3' style='stroke:#123456;stroke-width:2'/>")
    assert 'stroke="#123456"' in kept
    assert 'stroke-width="2"' in kept
    assert 'viewBox="0 0 20 10"' in kept


BOMB = """<!DOCTYPE x [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;">]>"""


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (BOMB.encode() + b"<svg xmlns='http://www.w3.org/2000/svg'>&b;</svg>", "entities or a document type"),
        (b"<!DOCTYPE svg SYSTEM 'http://e/x.dtd'><svg/>", "entities or a document type"),
        (b"<svg><unclosed></svg>", "not well-formed"), (b"<html/>", "not an SVG"),
        (b"<svg xmlns='http://www.w3.org/2000/svg'><rect/></svg>", "neither a view box nor a size"),
        (SVG.format(inside="", more="").encode(), "no shape"), (b"hello", "no PNG, JPEG, SVG, PDF or DXF"),
        (b"\x89PNG\r\n\x1a\nbroken", "damaged"), (b"%PDF-1.4 broken", "cannot be read"),
        (b"0\nSECTION\nbroken", "cannot be read|damaged|nothing to see"), (b"x" * (pictures.MAX_BYTES + 1), "bytes"),
        (image("PNG")[:60], "damaged"),
    ],
)  # fmt: skip
def test_what_is_no_harmless_picture_is_refused_in_a_sentence(data, said):
    with pytest.raises(InvalidInput, match=said):
        read_picture(data)


def drawing(units=6, fill=None):
    document = ezdxf.new()
    document.header["$INSUNITS"] = units
    (fill or (lambda _, space: space.add_lwpolyline([(0, 0), (10, 0), (10, 6), (0, 6)], close=True)))(
        document, document.modelspace()
    )
    out = io.StringIO()
    document.write(out)
    return out.getvalue().encode()


@pytest.mark.parametrize(("units", "metres"), [(6, 10.0), (4, 0.010), (5, 0.10), (1, 0.254)])
def test_a_dxf_comes_in_its_true_scale(units, metres):
    kept = read_picture(drawing(units))
    assert kept.media_type == "image/svg+xml"
    assert kept.width_px * kept.m_per_px == pytest.approx(metres, rel=0.001)
    assert kept.width_px / kept.height_px == pytest.approx(10 / 6, rel=0.01)


def test_a_dxf_without_units_has_no_scale_and_one_without_lines_is_refused():
    assert read_picture(drawing(0)).m_per_px is None
    with pytest.raises(InvalidInput, match="nothing to see"):
        read_picture(drawing(fill=lambda *_: None))


def test_blocks_in_blocks_are_counted_before_they_are_drawn():
    def nested(document, space):
        inner = document.blocks.new("b0")
        for n in range(10):
            inner.add_line((n, 0), (n, 1))
        for depth in range(1, 7):
            outer = document.blocks.new(f"b{depth}")
            for n in range(10):
                outer.add_blockref(f"b{depth - 1}", (n, 0))
        space.add_blockref("b6", (0, 0))

    with pytest.raises(InvalidInput, match="entities"):
        read_picture(drawing(fill=nested))


HEADS = (
    b"\x89PNG\r\n\x1a\n",
    b"\xff\xd8\xff",
    b"%PDF-1.7\n",
    b"<svg xmlns='http://www.w3.org/2000/svg'>",
    b"0\nSECTION\n",
    b"",
)


@given(st.sampled_from(HEADS), st.binary(max_size=200))
@settings(max_examples=120, deadline=None)
def test_any_bytes_are_a_picture_or_are_refused_in_a_sentence(head, rest):
    try:
        kept = read_picture(head + rest)
    except InvalidInput as error:
        assert error.sentence.endswith(".") or ":" in error.sentence
    else:
        assert kept.width_px > 0
