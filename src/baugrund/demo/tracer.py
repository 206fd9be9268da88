"""Simulated instruments on unlabelled cable: what a toner, a pair tester and a live switch would tell of a made-up
building, with error rates of its own, and three routines that people follow without a worksheet."""

from __future__ import annotations

import random
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field

from baugrund.core.facts.tracing import TraceSheet, TraceStep
from baugrund.core.prove.tracing.advice import NextStep, next_step
from baugrund.core.prove.tracing.minutes import Clock
from baugrund.core.prove.tracing.state import JackPlace, Traced, traced

MOST_STEPS = 5_000


@dataclass(frozen=True)
class Rates:
    """How often instruments err; the defaults are those that the worksheet takes for granted."""

    right: float = 0.70
    neighbour: float = 0.25
    two_off: float = 0.05
    repeats: float = 0.5
    dead: float = 0.03
    silent: float = 0.02


@dataclass
class SimulatedPanel:
    """A panel with jacks behind it: it answers steps as instruments would."""

    sheet: TraceSheet
    jacks: tuple[JackPlace, ...]
    ends: dict[int, int | None]
    """Where each jack ends; None: it is dead."""
    rates: Rates
    draw: random.Random
    cords: tuple[int, ...] = ()
    heard: dict[int, int] = field(default_factory=dict)

    @property
    def wired(self) -> list[int]:
        """Positions that have a cable."""
        return [one for one in range(1, self.sheet.positions + 1) if one not in self.sheet.empty]

    def answer(self, step: NextStep) -> TraceStep:
        """The step with what is read."""
        at = self.ends.get(step.jack_id or 0)
        said: dict[str, object] = step.model_dump() | {"id": 1, "closet_id": self.sheet.closet_id}
        if step.kind == "cords":
            self.cords = step.positions
        elif step.kind == "sweep":
            said["position"] = self._sweep(step.jack_id or 0, at)
        elif step.kind == "pair":
            said["found"] = at == step.position
        elif step.kind == "link":
            said["position"] = at if at in self.cords else None
        return TraceStep.model_validate(said)

    def _sweep(self, jack: int, at: int | None) -> int | None:
        rates = self.rates
        if at is None or self.draw.random() < rates.silent:
            return None
        if jack not in self.heard or self.draw.random() >= rates.repeats:
            panel = [
                one for one in self.wired if (one - 1) // self.sheet.panel_size == (at - 1) // self.sheet.panel_size
            ]
            here = panel.index(at)
            off = {0: rates.right, 1: rates.neighbour / 2, 2: rates.two_off / 2}
            shares = [off.get(abs(place - here), 0.0) for place in range(len(panel))]
            self.heard[jack] = self.draw.choices(panel, shares)[0]
        return self.heard[jack]


def made_up_panel(
    sheet: TraceSheet, jacks: int, seed: int, floors: int = 3, rates: Rates | None = None
) -> SimulatedPanel:
    """So many jacks in rooms of one to four on so many floors, the lowest that of the panel, on positions at random."""
    rates, draw = rates or Rates(), random.Random(f"panel {seed}")
    places: list[JackPlace] = []
    room = 0
    while len(places) < jacks:
        room, floor = room + 1, draw.randrange(floors)
        for _ in range(min(draw.randint(1, 4), jacks - len(places))):
            places.append(JackPlace(len(places) + 1, room, floor))
    wired = sorted(draw.sample(range(1, sheet.positions + 1), jacks))
    ends = draw.sample(wired, jacks)
    known = sheet.model_copy(update={"empty": tuple(sorted({*range(1, sheet.positions + 1)} - {*wired}))})
    where = {jack.id: at if draw.random() >= rates.dead else None for jack, at in zip(places, ends, strict=True)}
    return SimulatedPanel(known, tuple(places), where, rates, draw)


@dataclass(frozen=True)
class Outcome:
    """A panel that was traced."""

    minutes: float
    wrong: int
    """Jacks that were taken for found elsewhere, or for dead."""
    steps: int
    now: Traced


def follow(panel: SimulatedPanel, watch: Callable[[Traced], None] | None = None) -> Outcome:
    """Trace a panel by what is advised, step by step; ``watch`` sees the worksheet before each step."""
    now = traced(panel.sheet, panel.jacks, [])
    clock = Clock(panel.sheet, {jack.id: jack for jack in panel.jacks})
    steps = 0
    while step := next_step(now, clock.at):
        if watch:
            watch(now)
        done = panel.answer(step)
        clock.take(done)
        now, steps = now.after(done), steps + 1
        if steps > MOST_STEPS:
            raise RuntimeError(f"no end of tracing: {len(now.left)} jacks are left after {steps} steps")
    wrong = sum(panel.ends[jack] != at for jack, at in now.found.items())
    wrong += sum(panel.ends[jack] is not None for jack in now.dead)
    return Outcome(clock.minutes, wrong, steps, now)


Do = Callable[[NextStep], TraceStep]


def minutes_of(panel: SimulatedPanel, routine: Callable[[SimulatedPanel, Do], None]) -> float:
    """Minutes of a fixed routine on a panel."""
    clock = Clock(panel.sheet, {jack.id: jack for jack in panel.jacks})

    def do(step: NextStep) -> TraceStep:
        done = panel.answer(step)
        clock.take(done)
        return done

    routine(panel, do)
    return clock.minutes


def _in_order(panel: SimulatedPanel) -> Sequence[JackPlace]:
    return sorted(panel.jacks, key=lambda jack: (jack.floor, jack.room or 0, jack.id))


def tone_and_confirm(panel: SimulatedPanel, do: Do) -> None:
    """Jack by jack: a tone, a test where it was heard, then on its neighbours; two silent sweeps: it is dead."""
    taken: set[int] = set()
    for jack in _in_order(panel):
        do(NextStep(kind="toner", jack_id=jack.id))
        silences, tested, at = 0, set(taken), None
        while silences < 2 and at is None:
            named = do(NextStep(kind="sweep", jack_id=jack.id)).position
            if named is None:
                silences += 1
                continue
            size = panel.sheet.panel_size
            row = [one for one in panel.wired if (one - 1) // size == (named - 1) // size]
            here = row.index(named)
            for off in (0, -1, 1, -2, 2):
                if not 0 <= here + off < len(row) or row[here + off] in tested:
                    continue
                tested.add(row[here + off])
                if do(NextStep(kind="pair", jack_id=jack.id, position=row[here + off])).found:
                    at = row[here + off]
                    taken.add(at)
                    break


def pair_by_pair(panel: SimulatedPanel, do: Do) -> None:
    """Jack by jack: a pair tester through all positions that are left."""
    left = panel.wired
    for jack in _in_order(panel):
        do(NextStep(kind="remote", jack_id=jack.id))
        for at in left:
            if do(NextStep(kind="pair", jack_id=jack.id, position=at)).found:
                left = [one for one in left if one != at]
                break


def moved_cord(panel: SimulatedPanel, do: Do) -> None:
    """Jack by jack: a laptop, and one cord through all positions that are left, its light read at the panel."""
    left = panel.wired
    for jack in _in_order(panel):
        do(NextStep(kind="laptop", jack_id=jack.id))
        for at in left:
            do(NextStep(kind="cords", positions=(at,)))
            if do(NextStep(kind="link", jack_id=jack.id)).position:
                left = [one for one in left if one != at]
                break


def cords_in_rounds(panel: SimulatedPanel, do: Do) -> None:
    """All cords on the next positions, a laptop through every jack that is left, until all cords have answered."""
    left, free = list(_in_order(panel)), panel.wired
    while left and free:
        batch, free = tuple(free[: panel.sheet.cords]), free[panel.sheet.cords :]
        do(NextStep(kind="cords", positions=batch))
        answered = 0
        for jack in list(left):
            if not panel.sheet.reads_table:
                do(NextStep(kind="laptop", jack_id=jack.id))
            if do(NextStep(kind="link", jack_id=jack.id)).position:
                left.remove(jack)
                answered += 1
            if answered == len(batch):
                break


FIXED = (tone_and_confirm, pair_by_pair, moved_cord)
"""Routines that are followed without a worksheet."""
