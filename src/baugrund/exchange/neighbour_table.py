"""What a switch tells of its ports, as CSV, XLSX or JSON: port, hardware address, name, speed, watts, network."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

from pydantic import JsonValue

from baugrund.core.edits import TellDiscovered
from baugrund.core.edits.entries import ListName
from baugrund.core.facts.patch import DiscoveredPort
from baugrund.core.patch.told import PatchTold

from .cells import Odd, number_of, speed_of, yes
from .entry_list import EntryColumn, read_entries
from .tables import Table


def _hardware(text: str) -> str:
    """A hardware address (EUI-48) as six pairs of hexadecimal digits."""
    bare = re.sub(r"[\s:.-]", "", text).casefold()
    if not re.fullmatch(r"[0-9a-f]{12}", bare):
        raise Odd(f"“{text}” is no hardware address; one has six pairs of hexadecimal digits")
    return ":".join(bare[at : at + 2] for at in range(0, 12, 2))


def _whole(text: str) -> int:
    value = number_of(text)
    if value != int(value):
        raise Odd(f"“{text}” is no whole number")
    return int(value)


COLUMNS = {
    "closet": EntryColumn("Closet", str, ("cabinet", "site")),
    "box": EntryColumn("Box", str, ("switch", "device", "system")),
    "port": EntryColumn("Port", str, ("interface", "local port", "port id", "port number")),
    "hardware": EntryColumn("Hardware address", _hardware, ("hardware", "mac", "mac address", "chassis id", "address")),
    "name": EntryColumn("Name", str, ("neighbour", "neighbor", "system name", "host", "hostname", "label")),
    "up": EntryColumn("Up", yes, ("link", "link up", "state")),
    "speed_mbit": EntryColumn("Speed", speed_of, ("speed_mbit", "speed mbit", "speed mbit/s", "rate", "link speed")),
    "watts": EntryColumn("Watts", number_of, ("power", "power w", "poe w", "w")),
    "number": EntryColumn("Network", _whole, ("vlan", "vlan id", "native", "untagged")),
}
"""The columns.  A port alone is of the only box, or is written like 2/14."""


def read_neighbours(table: Table, told: PatchTold) -> TellDiscovered:
    """The edit that keeps what a table tells, all or nothing.  Raises InvalidInput, line by line."""
    seen: set[tuple[int, str, int]] = set()

    def entry(read: dict[str, JsonValue]) -> tuple[ListName, dict[str, JsonValue]]:
        closet, box, port = _place(told, read)
        if (closet, box, port) in seen:
            raise Odd(f"Port: port {port} of this box is told twice")
        seen.add((closet, box, port))
        return "discovered", {"closet_id": closet, "box": box, "port": port, **read}

    edits = read_entries(table, COLUMNS, "port", entry)
    return TellDiscovered(ports=tuple(DiscoveredPort.model_validate(edit.values) for edit in edits))


def _place(told: PatchTold, read: dict[str, Any]) -> tuple[int, str, int]:
    """The closet, the box and the number of a port that a line names.  Raises Odd where there is none."""
    closet, box, port = (str(read.pop(key, "")).strip() for key in ("closet", "box", "port"))
    if not port:
        raise Odd("Port is empty")
    here = [one for one in told.closets if not closet or one.name.casefold() == closet.casefold()]
    if not here:
        raise Odd(f"Closet: there is no closet “{closet}” with ports")
    if "/" in port:
        box, _, port = port.partition("/")
    boxes = [
        (one.closet_id, face)
        for one in here
        for face in one.faces
        if face.kind != "panel" and (not box or box.casefold() in (face.short.casefold(), face.name.casefold()))
    ]
    if len(boxes) != 1:
        raise Odd(f"Box: there is no box “{box}”" if not boxes else "Box: several boxes could be meant; name one")
    closet_id, face = boxes[0]
    numbers: Mapping[str, int | None] = {one.name: one.number for one in face.ports}
    number = numbers.get(port)
    if number is None:
        raise Odd(f"Port: {face.name} has no port “{port}”")
    return closet_id, face.thing, number
