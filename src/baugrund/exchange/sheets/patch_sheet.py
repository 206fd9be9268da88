"""The port list, a closet a page in large type, and the matrix of networks with the address plan, as PDF."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date
from html import escape
from pathlib import Path

from baugrund.core.facts.project import Project
from baugrund.core.patch.lines import PortLine
from baugrund.core.patch.networks import MatrixCell
from baugrund.core.patch.told import PatchTold
from baugrund.core.standards.services import SERVICES

from .pages import batched, sentences, table, write_pdf

ROWS = 27
"""Lines of a column."""
CAUTIONS = (
    "Cords of powered ports are moved with care: what hangs on them goes off. Passive gear is never plugged into a "
    "powered port of another kind.",
)  # fmt: skip


def write_port_sheet(project: Project, told: PatchTold, fonts: Path | None, made: date) -> bytes:
    """The port list of every closet, each on a page of its own; cords that have to be moved first."""
    number = {network.id: network.number for network in project.networks}
    rooms = {room.id: room.name for room in project.rooms}
    body = []
    for place, here in enumerate(told.closets):
        style = ' style="break-before: page"' if place else ""
        body.append(f"<section{style}><h2>{escape(here.name)}</h2>{'' if place else sentences(CAUTIONS)}")
        short = {face.thing: face.short for face in here.faces}
        moves = [
            f"{line.label} {line.name}: from {short.get(line.was_panel, '')}{line.was_position or ''} "
            f"{short.get(line.was_box, '?')}/{line.was_port} to {line.at_panel} {line.at_port}"
            for line in here.lines
            if line.moves
        ]
        body.append(sentences(moves))
        rows = [
            [escape(line.at_panel), f"<b>{escape(line.label)}</b>", f"<b>{escape(line.at_port)}</b>",
             escape(_what(line, rooms, short)), str(number.get(line.network_id or -1, "")),
             f"{line.watts:g}" if line.watts else ""]
            for line in here.lines
            if line.use != "reserve"
        ]  # fmt: skip
        body += (_page(some) for some in batched(rows, 2 * ROWS))
        body.append("</section>")
    title = f"{project.name}: port list"
    return write_pdf(title, project.site, body or ["<p>No cable ends yet.</p>"], fonts, made, landscape=True)


def _what(line: PortLine, rooms: Mapping[int, str], short: Mapping[str, str]) -> str:
    """What a line is, with its room where its name does not say it."""
    room = rooms.get(line.room_id or -1, "")
    if line.use != "drop":
        return f"{line.use} to box {short[line.end]}" if line.end in short else f"{line.use}: {line.name}"
    return line.name if room in line.name or not room else f"{line.name}, {room}"


def _page(rows: Sequence[Sequence[str]]) -> str:
    """Two columns of rows beside each other, each row on one line."""
    heads = ["Position", "Label", "Port", "What", "Net", "W"]
    tables = (table(heads, some, frozenset((4, 5))) for some in batched(rows, ROWS))
    columns = "".join(f'<div style="width: 130mm; white-space: nowrap; overflow: hidden">{one}</div>' for one in tables)
    return f'<div class="pair close">{columns}</div>'


def write_network_sheet(project: Project, told: PatchTold, fonts: Path | None, made: date) -> bytes:
    """Who may open connections to whom, then the address plan, with what keeps its address."""
    if not project.networks:
        return write_pdf(f"{project.name}: networks", project.site, ["<p>There are no networks yet.</p>"], fonts, made)
    cells = {(cell.from_id, cell.to_id): cell for cell in told.matrix}
    heads = ["", *(f"{one.number} {escape(one.name)}" for one in project.networks), "Internet"]
    rows = [
        [f"<b>{one.number} {escape(one.name)}</b>", *(_cell(cells[one.id, to.id]) for to in project.networks),
         "all" if one.internet else "nothing"]
        for one in project.networks
    ]  # fmt: skip
    body = ["<h2>Who may open connections to whom</h2>", "<p>From the left to the top; replies follow.</p>"]
    body.append(table(heads, rows))
    networks = {one.id: one for one in project.networks}
    reasons = [f"{networks[c.from_id].name} to {networks[c.to_id].name}: {c.reason}" for c in told.matrix if c.reason]
    body.append(sentences(reasons))
    body.append('<h2 style="break-before: page">Addresses</h2>')
    plan = [
        [str(networks[one.network_id].number), escape(networks[one.network_id].name), str(one.hosts), one.prefix,
         one.gateway, f"{one.first_lease} – {one.last_lease}", one.prefix6]
        for one in told.addresses.networks
    ]  # fmt: skip
    body.append(table(["Number", "Network", "Hosts", "Prefix", "Gateway", "Leases", "IPv6"], plan, frozenset((0, 2))))
    body.append(sentences(told.addresses.wrong))
    kept = [[row.address, escape(row.host), escape(row.name)] for row in told.addresses.kept]
    body.append(table(["Address", "Host", "What"], kept))
    heads = ["Port", "Use", "Label", "What", "Untagged", "Tagged", "Power", "Priority"]
    for box in told.trunks.boxes:
        rows = [
            [port.port, port.use, f"<b>{escape(port.label)}</b>", escape(port.what), str(port.native or ""),
             ", ".join(map(str, port.tagged)), "on" if port.power else "", port.priority]
            for port in box.ports
        ]  # fmt: skip
        body.append(f'<section style="break-before: page"><h2>Box {box.short}: {escape(box.name)}</h2>')
        body.append(
            table(["Port", "Use", "Label", "What", "Untagged", "Tagged", "Power", "Priority"], rows) + "</section>"
        )
    return write_pdf(f"{project.name}: networks", project.site, body, fonts, made, landscape=True)


def _cell(cell: MatrixCell) -> str:
    if cell.access == "services":
        return escape(", ".join(SERVICES[one].name if one in SERVICES else one for one in cell.services))
    if cell.from_id == cell.to_id:
        return "each other" if cell.access == "all" else "clients apart"
    return cell.access
