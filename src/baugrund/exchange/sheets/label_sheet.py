"""Labels at true size on sheets or tape, strips for panels, and a legend for the closet's door, as PDF."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from datetime import date
from html import escape
from pathlib import Path

from baugrund.core.facts.patch import PAGES_MM, LabelStock
from baugrund.core.facts.project import Project
from baugrund.core.patch.faces import Face
from baugrund.core.patch.labelling import BOTH_ENDS, labelling, size_on
from baugrund.core.patch.told import ClosetPatching, PatchTold
from baugrund.core.stack.things import Thing
from baugrund.core.stack.told import Stack
from baugrund.core.standards.type import LEAST_MM, LINE, text_width

from .pages import batched, sentences, table, write_pages, write_pdf

STRIP_MM, STRIP_WIDEST_MM = 9.0, 250.0
"""Height of a strip for a panel, and how much of one stands on a sheet of paper that lies on its side."""
PANEL_MM = 440.0
TRUE_SIZE = "Print at 100 %, without fitting to the page."


def write_labels(project: Project, fonts: Path | None) -> bytes:
    """Every label that is new or reads otherwise now, once for each end, on the project's stock."""
    told = labelling(project)
    texts = [line.text for line in told.lines if line.state in ("new", "changed") for _ in range(BOTH_ENDS)]
    if told.stock.form == "tape":
        size = f"{told.stock.width_mm:g}mm {told.stock.height_mm:g}mm"
        body = [f'<section class="page">{_label(told.stock, text, 0, 0)}</section>' for text in texts]
        return write_pages(size, body or [_nothing()], fonts)
    across, down = PAGES_MM[told.stock.page]
    sheets = [_sheet(told.stock, some) for some in batched(texts, told.stock.columns * told.stock.rows)]
    return write_pages(f"{across:g}mm {down:g}mm", sheets or [_nothing()], fonts)


def _nothing() -> str:
    return '<section class="page"><p style="position:absolute;left:4mm;top:2mm">Nothing is to be printed.</p></section>'


def _sheet(stock: LabelStock, texts: Sequence[str]) -> str:
    step_x, step_y = stock.step_x_mm or stock.width_mm, stock.step_y_mm or stock.height_mm
    labels = (
        _label(
            stock, text, stock.left_mm + place % stock.columns * step_x, stock.top_mm + place // stock.columns * step_y
        )
        for place, text in enumerate(texts)
    )
    return f'<section class="page">{"".join(labels)}</section>'


def _label(stock: LabelStock, text: str, left: float, top: float) -> str:
    """One label: its text as large as it fits, over and over down to the edge of what is printed on."""
    size = max(size_on(stock, text), LEAST_MM)
    high = stock.print_mm or stock.height_mm
    times = max(1, min(3, int((high - 2) / (size * LINE)))) if stock.print_mm else 1
    lines = "<br>".join([escape(text)] * times)
    return (
        f'<div class="label" style="left:{left:.3f}mm;top:{top:.3f}mm;width:{stock.width_mm:g}mm;height:{high:g}mm;'
        f'font-size:{size:.3f}mm;line-height:{LINE};padding-top:{(high - times * size * LINE) / 2:.3f}mm">{lines}</div>'
    )


def write_strips(project: Project, told: PatchTold, stack: Stack, fonts: Path | None, made: date) -> bytes:
    """Strips for the panels of every closet at true size: a field a position, its label in it."""
    body = [sentences((TRUE_SIZE, "Cut along the lines; the fields are as wide as the positions of the panel."))]
    for here in told.closets:
        things = {one.key: one for one in next(c for c in stack.closets if c.closet_id == here.closet_id).things}
        for face in here.faces:
            if face.kind == "panel":
                body += _strip(here, face, things[face.thing])
    if len(body) == 1:
        body.append("<p>There is no panel.</p>")
    return write_pdf(f"{project.name}: strips for panels", project.site, body, fonts, made, landscape=True)


def _strip(here: ClosetPatching, face: Face, thing: Thing) -> Iterator[str]:
    labels = {line.key: line.label or line.name for line in here.lines}
    pitch = thing.spacing_mm or PANEL_MM / face.columns
    for row in range(face.rows):
        ports = sorted((port for port in face.ports if port.row == row), key=lambda port: port.column)
        for some in batched(ports, max(1, int(STRIP_WIDEST_MM / pitch))):
            fields = "".join(_field(labels.get(port.line, ""), port.name, place * pitch, pitch)
                             for place, port in enumerate(some))  # fmt: skip
            wide = len(some) * pitch
            yield (
                f"<section class=keep><p>{escape(here.name)}, panel {face.short}, {some[0].name} to {some[-1].name}</p>"
                f'<svg xmlns="http://www.w3.org/2000/svg" style="max-width:none" width="{wide:.2f}mm" '
                f'height="{STRIP_MM}mm" font-family="Archivo" viewBox="0 0 {wide:.2f} {STRIP_MM}">'
                f"{fields}</svg></section>"
            )


def _field(label: str, number: str, x: float, pitch: float) -> str:
    wide = text_width(label)
    size = min(3.4, (pitch - 1.2) / wide) if wide else 3.4
    return (
        f'<rect x="{x:.2f}" y="0.1" width="{pitch:.2f}" height="{STRIP_MM - 0.2}" fill="none" stroke="#676256" '
        f'stroke-width="0.15"/><text x="{x + pitch / 2:.2f}" y="3" font-size="2.2" text-anchor="middle" fill="#676256">'
        f'{number}</text><text x="{x + pitch / 2:.2f}" y="7" font-size="{size:.2f}" font-weight="600" '
        f'text-anchor="middle">{escape(label)}</text>'
    )


def write_legend(project: Project, told: PatchTold, fonts: Path | None, made: date) -> bytes:
    """What is behind every label, a closet a page, for the inside of its door."""
    body = []
    rooms = {room.id: room.name for room in project.rooms}
    for place, here in enumerate(told.closets):
        rows = [
            [f"<b>{escape(line.label)}</b>", escape(line.at_panel), escape(line.at_port),
             escape(rooms.get(line.room_id or -1, "")), escape(line.name)]
            for line in here.lines
            if line.drop_id is not None
        ]  # fmt: skip
        style = ' style="break-before: page"' if place else ""
        body.append(f"<section{style}><h2>{escape(here.name)}</h2>")
        body.append(table(["Label", "Position", "Port", "Room", "What"], rows) + "</section>")
    return write_pdf(
        f"{project.name}: legend", project.site, body or ["<p>No cable ends in a closet.</p>"], fonts, made
    )
