"""Figures of speed of Signal: levels on a grid, one access point moved, a floor drawn, channels, places, correction."""

from __future__ import annotations

import random
import statistics
import time
from collections.abc import Callable

import numpy as np

from baugrund.core.edits import Placed, PlaceDrops, apply_edits
from baugrund.core.facts.brief import Goal
from baugrund.core.facts.building import Building, Closet, Floor, Room
from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.facts.drop import Drop
from baugrund.core.facts.lines.access_point import AccessPoint
from baugrund.core.facts.project import Project, empty_project
from baugrund.core.facts.signal import Reading
from baugrund.core.signal import field
from baugrund.core.signal.contours import picture
from baugrund.core.signal.field import predicted
from baugrund.core.signal.obstructions import obstructions
from baugrund.core.signal.survey import survey_of
from baugrund.core.signal.told import signal_of
from baugrund.core.siting.giving_out import Case, give_out
from baugrund.core.siting.stations import best_stations
from baugrund.core.standards.radio import blocks
from baugrund.core.watch import to_the_end
from baugrund.demo.handset import walked

Line = Callable[[str, str, str], None]
ROOM_M = 4.0
THREE_BANDS = AccessPoint(
    key="ap", name="Access point", price_minor=15_000, generation="802.11be", streams_6=2, draw_w=18
)
LIST = Catalogue(name="One", currency="EUR", priced_on="2026-01-01", models=(THREE_BANDS,))


def storeys(across: int, down: int, floors: int, stations: int, room_m: float = ROOM_M) -> Project:
    """Floors of so many rooms side by side, with access points spread over them."""
    corners = ((0.0, 0.0), (room_m, 0.0), (room_m, room_m), (0.0, room_m))
    rooms = tuple(
        Room(id=100 + n, name=f"Room {n + 1}", floor_id=3 + level, wall="brick",
             outline=tuple((x * room_m + dx, y * room_m + dy) for dx, dy in corners))
        for n, (level, x, y) in enumerate((f, x, y) for f in range(floors) for y in range(down) for x in range(across))
    )  # fmt: skip
    step = max(1, len(rooms) // stations)
    drops = tuple(
        Drop(id=1000 + n, room_id=rooms[n * step % len(rooms)].id, closet_id=1, kind="access_point", speed_mbit=2500,
             model="ap", place="ceiling")
        for n in range(stations)
    )  # fmt: skip
    return empty_project("Storeys", 2026).changed(
        buildings=(Building(id=2, name="House"),),
        floors=tuple(Floor(id=3 + f, building_id=2, name=f"Floor {f}", level=f, height_m=3.0) for f in range(floors)),
        rooms=rooms, closets=(Closet(id=1, name="Closet", room_id=100),), drops=drops, next_id=10_000,
    )  # fmt: skip


def measure_signal(runs: int, line: Line) -> None:
    """Levels of 8 access points in three bands over 800 m²; then with one moved; what is drawn of a floor."""
    project = storeys(8, 8, 2, 8, room_m=2.5)
    project = project.changed(goals=(Goal(id=9000, kind="calls"),))
    whole, moved, drawn = [], [], []
    for run in range(runs + 1):
        for kept in (field._grid, field._in_the_way, field._field):
            kept.cache_clear()
        fresh = project.changed()
        whole.append(_took(lambda: signal_of(fresh, LIST)))  # noqa: B023
        drop = fresh.drops[run % len(fresh.drops)]
        room = fresh.rooms_by_id[drop.room_id]
        x, y = (room.outline or ((0.0, 0.0),))[0]
        place = Placed(id=drop.id, room_id=room.id, x_m=x + 1.1, y_m=y + 1.3)
        after = apply_edits(fresh, [PlaceDrops(places=(place,))])
        moved.append(_took(lambda: signal_of(after, LIST)))  # noqa: B023
        shown = predicted(after, LIST).fields[3, "5"]
        drawn.append(_took(lambda: picture(shown, "strongest")))  # noqa: B023
    cells = sum(len(f.cells.points) for f in predicted(project, LIST).of_band("5"))
    pieces = len(obstructions(project).pieces)
    line(
        f"signal of 8 access points in 3 bands, {cells} cells, {pieces} wall pieces", f"{_median(whole):.0f} ms",
        "asked: 1500 ms",
    )  # fmt: skip
    line("the same after one access point moved", f"{_median(moved):.0f} ms", "asked: 150 ms")
    line("contours of a floor", f"{_median(drawn):.0f} ms", "asked: 100 ms")
    for full in (False, True):
        case = _case(full)
        start = time.perf_counter()
        given = give_out(case)
        took = time.perf_counter() - start
        assert given is not None
        told = "proven" if given.proven else f"{sum(case.shared(given.chosen)) / max(given.bound, 1):.2f} of the bound"
        what = "that all hear each other" if full else "that hear five others each"
        line(f"channels of 24 access points {what}, {told}", f"{took:.1f} s", f"asked: {10 if full else 2} s")
    _measure_places(line)
    _measure_correction(line)


def _case(full: bool) -> Case:
    """24 access points on 40 MHz at 5 GHz."""
    draw = random.Random(1)
    spots = [(draw.random(), draw.random()) for _ in range(24)]
    hears = np.ones((24, 24), dtype=np.bool_)
    if not full:
        hears[:] = False
        for i, (x, y) in enumerate(spots):
            near = sorted(range(24), key=lambda j: (spots[j][0] - x) ** 2 + (spots[j][1] - y) ** 2)
            hears[i, near[1:6]] = True
    np.fill_diagonal(hears, False)
    there = blocks("etsi", "5", 40)
    return Case(
        own=tuple(draw.randint(500, 30_000) for _ in range(24)), hears=hears, blocks=there,
        neighbours=tuple((0,) * len(there) for _ in range(24)), fixed=(None,) * 24, now=(None,) * 24,
    )  # fmt: skip


def _measure_places(line: Line) -> None:
    """Places of some twelve access points among 200 spots over 4,000 points."""
    project = storeys(13, 13, 1, 1, room_m=2.46).changed(
        goals=(Goal(id=9000, kind="heavy", band="5", level=-64.0, share_percent=98.0),)
    )
    start = time.perf_counter()
    found = to_the_end(best_stations(project, LIST))
    took = time.perf_counter() - start
    fewest = found.answers[0]
    told = f"at least {fewest.bound} are proven"
    cells = len(predicted(project, LIST).of_band("5")[0].cells.points)
    line(
        f"places of {len(fewest.stations)} access points, {found.spots} spots, {cells} cells, {told}", f"{took:.1f} s",
        "asked: 10 s",
    )  # fmt: skip


def _measure_correction(line: Line) -> None:
    """The correction that 400 readings tell."""
    project = storeys(6, 4, 2, 8)
    rows = walked(project, LIST, 1, spots=200)
    readings = tuple(Reading(id=20_000 + n, **row) for n, row in enumerate(rows))
    walk = project.changed(readings=readings, next_id=30_000)
    took = _took(lambda: survey_of(walk, LIST))
    line(f"correction from {len(readings)} readings", f"{took:.0f} ms", "asked: 1000 ms")


def _took(act: Callable[[], object]) -> float:
    """How long something takes [ms]."""
    start = time.perf_counter()
    act()
    return (time.perf_counter() - start) * 1000


def _median(times: list[float]) -> float:
    return statistics.median(times[1:])
