"""Readings of a survey as a list, in and out: a line a reading."""

from __future__ import annotations

from functools import partial
from typing import get_args

from pydantic import JsonValue

from baugrund.core.edits import AddEntry
from baugrund.core.edits.entries import ListName
from baugrund.core.facts.project import Project
from baugrund.core.signal.survey import Survey
from baugrund.core.standards.radio import BANDS, Generation

from .cells import Odd, number_of, one_of, shown
from .entry_list import EntryColumn, read_entries
from .tables import OutTable, Table


def _band(text: str) -> str:
    return str(one_of(BANDS)(text.casefold().replace(",", ".").removesuffix("ghz").strip().removesuffix(".0")))


COLUMNS = {
    "walk": EntryColumn("Walk", str, ("survey",)),
    "floor": EntryColumn("Floor", str, ("storey", "level")),
    "x_m": EntryColumn("X m", number_of, ("x",)),
    "y_m": EntryColumn("Y m", number_of, ("y",)),
    "height_m": EntryColumn("Height m", number_of, ("height",)),
    "device": EntryColumn("Device", str, ("handset", "client")),
    "band": EntryColumn("Band GHz", _band, ("band", "ghz", "frequency band")),
    "dbm": EntryColumn("dBm", number_of, ("signal", "rssi", "level", "signal dbm")),
    "percent": EntryColumn("Signal %", number_of, ("quality", "per cent", "percent")),
    "at_0_dbm": EntryColumn("0 % is dBm", number_of),
    "at_100_dbm": EntryColumn("100 % is dBm", number_of),
    "station": EntryColumn("Access point", str, ("ap", "answered", "bssid name")),
    "generation": EntryColumn("Generation", one_of(get_args(Generation)), ("standard",)),
    "link_mbit": EntryColumn("Link Mbit/s", number_of, ("link rate", "rate")),
    "day": EntryColumn("Day", str, ("date",)),
    "note": EntryColumn("Note", str, ("notes", "comment")),
}
"""The columns.  A device's own per cent count only with what its 0 and 100 are in dBm."""


def read_readings(table: Table, project: Project) -> tuple[AddEntry, ...]:
    """The edits that add what a list of readings holds, all or nothing.  Raises InvalidInput, line by line."""
    return read_entries(table, COLUMNS, "band", partial(_entry, project))


def _entry(project: Project, read: dict[str, JsonValue]) -> tuple[ListName, dict[str, JsonValue]]:
    floor = str(read.pop("floor", ""))
    named = [one for one in project.floors if one.name.casefold() == floor.casefold()]
    if not named:
        raise Odd(f"Floor: there is no floor “{floor}”")
    percent, low, high = (read.pop(key, None) for key in ("percent", "at_0_dbm", "at_100_dbm"))
    if "dbm" not in read:
        if percent is None:
            raise Odd("dBm is empty")
        if low is None or high is None:
            raise Odd("Signal %: per cent of a device count only with what its 0 % and its 100 % are in dBm")
        if not 0 <= float(str(percent)) <= 100:
            raise Odd(f"Signal %: {percent} is not between 0 and 100")
        read["dbm"] = float(str(low)) + (float(str(high)) - float(str(low))) * float(str(percent)) / 100
    station = str(read.pop("station", ""))
    if station:
        stations = [
            drop.id for drop in project.drops
            if drop.kind == "access_point"
            and station.casefold() in (drop.label.casefold(), project.name_of(drop).casefold())
        ]  # fmt: skip
        if not stations:
            raise Odd(f"Access point: there is none called “{station}”")
        read["drop_id"] = stations[0]
    return "readings", {"floor_id": named[0].id, **read}


def readings_table(project: Project, survey: Survey) -> OutTable:
    """All readings, each with what is predicted there."""
    head = [column.head for key, column in COLUMNS.items() if key not in ("percent", "at_0_dbm", "at_100_dbm")]
    beside = {line.reading_id: line for line in survey.readings}
    rows = []
    for one in project.readings:
        line = beside[one.id]
        station = project.name_of(project.drops_by_id[one.drop_id]) if one.drop_id is not None else ""
        rows.append([
            one.walk, project.floors_by_id[one.floor_id].name, shown(one.x_m), shown(one.y_m), shown(one.height_m),
            one.device, one.band, shown(one.dbm), station, one.generation or "", shown(one.link_mbit),
            str(one.day or ""), one.note, shown(line.predicted_dbm), shown(line.error_db), line.repeat,
        ])  # fmt: skip
    return OutTable("Readings", [*head, "Predicted dBm", "Error dB", "Repeat"], rows)
