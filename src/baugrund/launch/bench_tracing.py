"""Figures of tracing: minutes of the advised order over those of the best fixed routine, 84 jacks on 96 positions."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable
from functools import partial

from baugrund.core.facts.tracing import TraceSheet
from baugrund.core.prove.tracing.state import Traced
from baugrund.demo.tracer import FIXED, cords_in_rounds, follow, made_up_panel, minutes_of

JACKS, POSITIONS, CORDS = 84, 96, 24
AT_HAND = (
    ("table at the jack", True, 1, 0.75), ("table at the jack", True, 2, 0.85), ("lights at the panel", False, 1, 0.90),
    ("lights at the panel", False, 2, 0.90), ("no switch", None, 1, 1.00), ("no switch", None, 2, 1.00),
)  # fmt: skip
"""What is at hand: its name, whether the table is read (None: no switch), people, and the ratio that is asked."""
FLOORS = 3


def measure_tracing(seeds: int, line: Callable[[str, str, str], None]) -> None:
    """A line for everything at hand; medians over so many made-up buildings of three storeys."""
    watch, wrong, traced = Watch(), 0, 0
    follow(made_up_panel(sheet_of(None, 1), 20, 0), Watch())
    for name, table, people, asked in AT_HAND:
        for one_instrument in (False, True):
            sheet = sheet_of(table, people, one_instrument=one_instrument)
            ratios, to_rounds = [], []
            for seed in range(seeds):
                build = partial(made_up_panel, sheet, JACKS, seed, FLOORS)
                outcome = follow(build(), watch if seed == 0 else None)
                fixed = FIXED if table is not None else FIXED[:2]
                ratios.append(outcome.minutes / min(minutes_of(build(), routine) for routine in fixed))
                if table is not None:
                    to_rounds.append(outcome.minutes / minutes_of(build(), cords_in_rounds))
                wrong, traced = wrong + outcome.wrong, traced + JACKS
            who = f"{'one person' if people == 1 else 'two'}, {'one instrument' if one_instrument else 'two apart'}"
            rounds = f"; {statistics.median(to_rounds):.2f} of cords in rounds" if to_rounds else ""
            line(f"tracing {JACKS} jacks, {name}, {who}", f"{statistics.median(ratios):.3f}",
                 f"asked: {asked:.2f} of the best fixed routine{rounds}")  # fmt: skip
    line("jacks told wrong", f"{wrong / traced:.2%}", "asked: 0.5 %")
    line("the slowest update of the worksheet", f"{1000 * watch.slowest:.0f} ms", "asked: 200 ms")


def sheet_of(table: bool | None, people: int, *, one_instrument: bool = False, accept: float = 1.0) -> TraceSheet:
    """What is at hand: toner and tester, and with a switch (``table`` not None) a laptop and 24 cords."""
    return TraceSheet(
        id=1, closet_id=1, positions=POSITIONS, one_instrument=one_instrument, laptop=table is not None,
        cords=CORDS if table is not None else 0, reads_table=bool(table), people=people, accept=accept,
    )  # fmt: skip


class Watch:
    """How long probabilities of a worksheet take to come about."""

    slowest = 0.0

    def __call__(self, now: Traced) -> None:
        started = time.perf_counter()
        now.probable.pairs.any()
        self.slowest = max(self.slowest, time.perf_counter() - started)
