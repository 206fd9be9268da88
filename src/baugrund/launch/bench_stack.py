"""Figures of the stack: an arrangement of twenty things, of more corded boxes, a housing with its UPS, the drill."""

from __future__ import annotations

import random
import statistics
import time
from collections.abc import Callable
from itertools import combinations

from baugrund.core.facts.building import Closet
from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.facts.lines.fan_unit import FanUnit
from baugrund.core.facts.lines.housing import Housing
from baugrund.core.facts.lines.line import Line as PriceLine
from baugrund.core.facts.lines.patch_panel import PatchPanel
from baugrund.core.facts.lines.rack_shelf import RackShelf
from baugrund.core.facts.lines.ups import Ups
from baugrund.core.facts.project import empty_project
from baugrund.core.stack.arrangement import arrange
from baugrund.core.stack.cords import Cords
from baugrund.core.stack.housings import pick_housing
from baugrund.core.stack.power_cut import cell_of
from baugrund.core.stack.rules import Weights
from baugrund.core.stack.things import Thing

Line = Callable[[str, str, str], None]
WISHES = Weights(1.0, 0.02, 0.2)


def measure_stack(runs: int, line: Line) -> None:
    """The figures of a closet."""
    for boxes, asked in ((8, "proven in 5 s"), (14, "within 5 % in 10 s")):
        closet, things, cords = made_up_rack(boxes)
        start = time.perf_counter()
        found = arrange(closet, things, cords, WISHES)
        took = time.perf_counter() - start
        assert found is not None
        gap = 100 * (1 - found.bound / found.score.total) if found.score.total else 0.0
        told = "proven" if found.proven else f"within {gap:.0f} %"
        line(f"arrangement of {len(things)} things, {boxes} corded boxes, 24 units, {told}", f"{took:.1f} s", asked)
    _housing(line)
    _drill(runs, line)


def _thing(key: str, **more: object) -> Thing:
    return Thing.model_validate({
        "key": key, "closet_id": 1, "kind": "other", "source": "typed", "name": key, "width_mm": 440, "units": 1,
        "height_mm": 44, "depth_mm": 250, "mass_kg": 2.0, "mains_w": 0.0, "own_w": 0.0, "noise_dba": 0.0,
        "plug": "cord", "sockets": 1, "fanless": True, **more,
    })  # fmt: skip


def made_up_rack(boxes: int) -> tuple[Closet, list[Thing], list[Cords]]:
    """A rack of 24 units, so many corded boxes and panels, a UPS, and what else makes twenty things."""
    draw = random.Random(boxes)
    panels = boxes // 3
    corded = [
        _thing(f"b{n}", kind="panel" if n < panels else "switch", mass_kg=draw.choice([1.4, 3.0, 5.0]),
               hangs=n < panels, mains_w=0.0 if n < panels else draw.choice([20.0, 60.0, 150.0]))
        for n in range(boxes)
    ]  # fmt: skip
    rest = [
        _thing(f"r{n}", mass_kg=draw.choice([1.0, 4.0]), mains_w=draw.choice([0.0, 15.0])) for n in range(19 - boxes)
    ]
    ups = _thing("ups", kind="ups", units=2, mass_kg=24.0)
    cords = [
        Cords(one.key, other.key, draw.randint(1, 24))
        for one, other in combinations(corded, 2)
        if one.kind == "panel" and other.kind == "switch"
    ]
    closet = Closet(id=1, name="Rack", units=24, depth_mm=800, load_kg=400.0)
    return closet, [*corded, *rest, ups], cords


def _housing(line: Line) -> None:
    """Over sixty lines."""
    draw = random.Random(1)
    models: list[PriceLine] = [
        Housing(key=f"h{n}", name=f"h{n}", price_minor=draw.randint(5_000, 60_000),
                units=draw.choice([6, 9, 12, 18, 24, 42]), depth_mm=draw.choice([450, 600, 800]),
                carries_kg=draw.choice([30.0, 60.0, 400.0]), mass_kg=10.0)
        for n in range(20)
    ]  # fmt: skip
    models += [RackShelf(key=f"s{n}", name=f"s{n}", price_minor=2_000 + 400 * n, units=1 + n % 4, carries_kg=10.0 + n,
                         clear_mm=40 + 20 * n) for n in range(10)]  # fmt: skip
    models += [PatchPanel(key=f"p{n}", name=f"p{n}", price_minor=2_000 + 900 * n, positions=12 * (1 + n % 4),
                          units=1 + n // 4) for n in range(8)]  # fmt: skip
    models += [Ups(key=f"u{n}", name=f"u{n}", price_minor=9_000 + 4_000 * n, watts=300.0 + 150 * n, va=500.0 + 250 * n,
                   volts=24.0, ah=7.0 + n, outlets=4 + n) for n in range(12)]  # fmt: skip
    models += [FanUnit(key=f"f{n}", name=f"f{n}", price_minor=5_000 + 700 * n, free_m3_h=60.0 + 20 * n, draw_w=8.0)
               for n in range(10)]  # fmt: skip
    things = [_thing(f"b{n}", kind="switch", mains_w=60.0, outlet="battery") for n in range(4)]
    things += [
        _thing(f"l{n}", units=0, width_mm=150, height_mm=60, mass_kg=1.0, plug="brick", mains_w=10.0) for n in range(5)
    ]
    closet = Closet(id=1, name="Rack", battery_for="chosen")
    catalogue = Catalogue(name="L", currency="EUR", priced_on="2026-01-01", models=tuple(models))
    start = time.perf_counter()
    found = pick_housing(empty_project("P", 2026), catalogue, None, closet, things, 60, 15.0)
    took = time.perf_counter() - start
    line(f"housing and UPS over {len(models)} lines, {len(found.others)} told why not", f"{took:.1f} s", "asked: 5 s")


def _drill(runs: int, line: Line) -> None:
    """The drills of ten closets with twelve things each."""
    ups = _thing("ups", kind="ups", volts=24.0, ah=9.0, watts_most=600.0, va_most=1000.0)
    things = [
        _thing(f"t{n}", mains_w=10.0 + n, outlet="battery", shed_percent=90.0 - 7 * n if n % 2 else None)
        for n in range(12)
    ]
    project, closet = empty_project("P", 2026), Closet(id=1, name="Rack")

    def drill() -> float:
        start = time.perf_counter()
        for _ in range(10):
            cell_of(project, closet, [ups, *things], None)
        return time.perf_counter() - start

    took = statistics.median(drill() for _ in range(runs + 1))
    line("drills of 10 closets, 12 things each", f"{1000 * took:.1f} ms", "asked: 50 ms")
