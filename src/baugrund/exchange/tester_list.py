"""Tests of runs as a tester writes them (CSV, XLSX, JSON), a line a run; lines that cannot be are said, others kept."""

from __future__ import annotations

import re
from collections.abc import Mapping
from datetime import datetime
from functools import partial
from typing import Any

from pydantic import JsonValue

from baugrund.core.edits import AddEntry
from baugrund.core.edits.entries import ListName
from baugrund.core.facts.project import Project
from baugrund.core.facts.prove import RunTest
from baugrund.core.places.labels import labels
from baugrund.core.prove.run_tests import RunTests
from baugrund.core.prove.wire_map import PAIRS

from .cells import Odd, number_of, shown, speed_of
from .entry_list import EntryColumn, read_lines
from .tables import OutTable, Table


def _pins(text: str) -> list[int]:
    """``12345678``, ``1 2 3 6 4 5 7 8``, ``1:1 2:-``: where each pin comes out; ``x``, ``-`` or 0 where it does not."""
    named = re.findall(r"(\d)\s*[:=>]+\s*([0-9xX–-])", text)
    signs = [far for _, far in sorted(named)] if named else re.findall(r"[0-9xX–-]", text)
    if len(signs) != 8:
        raise Odd(f"“{text}” maps {len(signs)} pins; a wire map has eight")
    pins = [int(sign) if sign.isdigit() else 0 for sign in signs]
    if 9 in pins:
        raise Odd(f"“{text}” ends on a pin 9; a plug has eight")
    return pins


def _pairs_of(text: str, most: int) -> list[list[int]]:
    found = [[int(one), int(other)] for one, other in re.findall(r"(?<!\d)(\d)\s*[-+]\s*(\d)(?!\d)", text)]
    if not found or any(not 1 <= pin <= most for pair in found for pin in pair):
        raise Odd(f"“{text}” names no two pins of eight, like 1-2")
    return found


def _shorts(text: str) -> list[list[int]]:
    return _pairs_of(text, 8)


def _split(text: str) -> list[list[int]]:
    """``1-2/3-6``: two pairs that are split, as pairs by their number."""
    pins = [tuple(pair) for pair in _pairs_of(text, 8)]
    if len(pins) % 2 or any(pair not in PAIRS for pair in pins):
        raise Odd(f"“{text}” names no two pairs of 1-2, 3-6, 4-5 and 7-8")
    numbers = [PAIRS.index(pair) + 1 for pair in pins]
    return [numbers[at : at + 2] for at in range(0, len(numbers), 2)]


def _at(text: str) -> str:
    try:
        at = datetime.fromisoformat(text.strip().replace(" ", "T", 1))
    except ValueError:
        raise Odd(f"“{text}” is no time like 2026-06-12 14:30") from None
    return at.replace(tzinfo=None).isoformat()


def _from_place(text: str) -> bool:
    told = text.strip().casefold()
    if told in ("closet", "panel", "place", "jack", "device"):
        return told not in ("closet", "panel")
    raise Odd(f"“{text}” is neither closet nor place")


COLUMNS = {
    "label": EntryColumn("Label", str, ("cable", "cable id", "run", "name", "id")),
    "at": EntryColumn("At", _at, ("time", "date", "measured", "timestamp")),
    "by": EntryColumn("By", str, ("operator",)),
    "tester": EntryColumn("Tester", str, ("instrument", "serial")),
    "from_place": EntryColumn("From", _from_place, ("measured from", "end")),
    "pins": EntryColumn("Wire map", _pins, ("wiremap", "pins", "map")),
    "shorts": EntryColumn("Shorts", _shorts, ("short",)),
    "split": EntryColumn("Split", _split, ("split pairs",)),
    "length_m": EntryColumn("Length m", number_of, ("length",)),
    "fault_m": EntryColumn("Fault m", number_of, ("distance to fault", "fault")),
    "loop_ohm": EntryColumn("Loop ohm", number_of, ("resistance", "loop resistance", "ohm")),
    "speed_mbit": EntryColumn("Speed", speed_of, ("link", "link speed", "speed mbit/s", "speed_mbit")),
    "poe_v": EntryColumn("Volts", number_of, ("v", "poe v", "voltage")),
    "poe_w": EntryColumn("Watts", number_of, ("w", "poe w", "power")),
    "note": EntryColumn("Note", str, ("remark",)),
}  # fmt: skip
"""The columns."""
SEVERAL = 0
"""Stands for the number of a run whose name others have too."""
HEADS = [*(column.head for column in COLUMNS.values()), "Verdict", "Planned m", "What it tells"]


def read_tests(
    table: Table, project: Project, told: RunTests, now: datetime
) -> tuple[tuple[AddEntry, ...], tuple[str, ...]]:
    """The edits that add the tests of a file, and what is wrong with the lines that are left out.

    ``now``: in the time of the place.  Raises InvalidInput where the file holds no tests.
    """
    named: dict[str, set[int]] = {}
    for drop in project.drops:
        named.setdefault(project.name_of(drop).casefold(), set()).add(drop.id)
    known = {name: some.pop() if len(some) == 1 else SEVERAL for name, some in named.items()}
    known |= {text.casefold(): number for number, text in labels(project).items()}
    ports = {run.drop_id: run.expected.port_mbit for run in told.runs}
    return read_lines(table, COLUMNS, "label", partial(_entry, known, ports, now))


def _entry(
    known: Mapping[str, int], ports: Mapping[int, int | None], now: datetime, read: dict[str, Any]
) -> tuple[ListName, dict[str, JsonValue]]:  # fmt: skip
    label = str(read.pop("label", "")).strip()
    if not label:
        raise Odd("Label is empty")
    number = known.get(label.casefold())
    if number == SEVERAL:
        raise Odd(f"Label: several runs are called {label}; their labels tell them apart")
    if number is None or number not in ports:
        raise Odd(f"Label: no run is labelled {label}")
    if (at := read.get("at")) and datetime.fromisoformat(at) > now:
        raise Odd(f"At: {at.replace('T', ' ')} is in the future")
    port = ports[number]
    if port is not None and read.get("speed_mbit", 0) > port:
        raise Odd(f"Speed: {read['speed_mbit']} Mbit/s is faster than its port, which has {port} Mbit/s")
    return "run_tests", {"drop_id": number, **read}


def rows_of(project: Project, told: RunTests) -> list[list[str]]:
    """Every run with its last test, a line each, in the columns that are read."""
    called, tests = labels(project), {test.id: test for test in project.run_tests}
    rows = []
    for run in told.runs:
        drop = project.drops_by_id[run.drop_id]
        test = tests.get(run.test_id or 0)
        says = "; ".join(f"{one.text} {one.do}" for one in run.diagnoses)
        label = called.get(run.drop_id) or project.name_of(drop)
        rows.append([label, *(_cells(test) if test else [""] * (len(COLUMNS) - 1)), run.verdict,
                     shown(run.expected.length_m), says])  # fmt: skip
    return rows


def _cells(test: RunTest) -> list[str]:
    return [
        test.at.isoformat(" ", "minutes") if test.at else "", test.by, test.tester,
        "place" if test.from_place else "closet", "".join(str(pin) if pin else "x" for pin in test.pins or ()),
        ", ".join(f"{one}-{other}" for one, other in test.shorts),
        ", ".join("/".join("-".join(map(str, PAIRS[pair - 1])) for pair in two) for two in test.split),
        *(shown(value) for value in (test.length_m, test.fault_m, test.loop_ohm, test.speed_mbit, test.poe_v,
                                     test.poe_w)), test.note,
    ]  # fmt: skip


def table_of_tests(project: Project, told: RunTests) -> OutTable:
    """A line a run, with its last test."""
    return OutTable("Tests", HEADS, rows_of(project, told))
