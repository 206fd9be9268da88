"""The pull sheet: bundle by bundle what is pulled, with marks, labels, hours and the cautions of the way."""

from __future__ import annotations

from datetime import date
from html import escape
from pathlib import Path

from baugrund.core.cabling.pulls import Bundle, Pulled, schedule, total_h
from baugrund.core.cabling.work import ways_h
from baugrund.core.facts.project import Project
from baugrund.core.words import counted

from .lengths import metres, unit
from .pages import sentences, table, tick, write_pdf


def write_pull_sheet(project: Project, fonts: Path | None, made: date) -> bytes:
    """All bundles as PDF, closet by closet, in the order in which they are pulled."""
    bundles = schedule(project)
    cables = sum(len(bundle.cables) for bundle in bundles)
    laid = ways_h(project)
    what = f"{counted(cables, 'cable')} in {counted(len(bundles), 'bundle')}, {total_h(project):.1f} h"
    if laid:
        what += f", of them {sum(laid.values()):.1f} h to lay {counted(len(laid), 'way')} first"
    what += "."
    lead = f"{project.site}. {what}" if project.site else what
    body = [_bundle(project, number, bundle) for number, bundle in enumerate(bundles, 1)]
    return write_pdf(f"{project.name}: pull sheet", lead, body or ["<p>No cable is to be pulled.</p>"], fonts, made)


def _bundle(project: Project, number: int, bundle: Bundle) -> str:
    closet = project.closets_by_id[bundle.closet_id].name
    way = " → ".join(escape(name) for name in bundle.way) or "no path drawn: under the ceiling, at right angles"
    head = (
        f"<h2>{number}. {escape(closet)}: {counted(len(bundle.cables), 'cable')}</h2>"
        f"<p>{way}</p><p>{bundle.hours:.1f} h"
        + (f", one by one {bundle.alone_h:.1f} h" if len(bundle.cables) > 1 else "")
        + (f". Tools: {escape(', '.join(bundle.tools))}" if bundle.tools else "")
        + "</p>"
    )
    said = list(bundle.cautions)
    if bundle.strings:
        said.append(f"Leave a draw string in {', '.join(bundle.strings)}.")
    in_unit = unit(project)
    heads = ["", "Label, both ends", "To", "Cable", f"Cut {in_unit}", f"Marks {in_unit}", "Parts from the first"]
    rows = [_cable(project, cable) for cable in bundle.cables]
    return f'<div class="keep">{head}{sentences(said)}</div>' + table(heads, rows, frozenset((4, 5)))


def _cable(project: Project, cable: Pulled) -> list[str]:
    drop = project.drops_by_id[cable.drop_id]
    room = project.rooms_by_id[drop.room_id]
    where = f"{room.name}, {drop.kind_row.name.lower()}" + (f", {drop.place}" if drop.place else "")
    marks = ""
    if cable.from_m is not None and cable.to_m is not None:
        marks = f"{metres(project, cable.from_m)}–{metres(project, cable.to_m)}"
    leaves = f"after {metres(project, cable.leaves_m)} {unit(project)}, {cable.leaves_at}" if cable.leaves_at else ""
    box = cable.box or cable.cable
    return [tick(cable.pulled), f"<b>{escape(cable.label)}</b>", escape(where), escape(box),
            metres(project, cable.cut_m), marks, escape(leaves)]  # fmt: skip
