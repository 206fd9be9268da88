"""The pits of the stack: the battery of a closet against the minutes wanted, and the warmth at its top."""

from __future__ import annotations

from collections.abc import Iterator

from ..facts.verbs import Verb
from ..standing.bearing import Capacity, Opened, Share, Verdict
from .power_cut import Cell
from .rules import heat_w
from .told import ClosetStack, Stack

VERBS: tuple[Verb, ...] = ("stack",)
OVER = 1e-9


def pits_of(stack: Stack, closet_id: int) -> tuple[Capacity, ...]:
    """The pits of a closet: its battery, where one stands or is wanted, and its warmth, where something draws."""
    here = next((one for one in stack.closets if one.closet_id == closet_id), None)
    if here is None or not here.things:
        return ()
    return tuple(one for one in (_battery(stack, here), _heat(here)) if one)


def _cell(stack: Stack, closet_id: int) -> Cell | None:
    return next((cell for cell in stack.power_cut.cells if cell.closet_id == closet_id), None)


def _wanted(stack: Stack) -> float | None:
    asked = [life.wanted for life in stack.power_cut.lives if life.wanted is not None]
    return max(asked, default=stack.power_cut.wanted_min)


def _battery(stack: Stack, here: ClosetStack) -> Capacity | None:
    cell, wanted = _cell(stack, here.closet_id), _wanted(stack)
    if wanted is None:
        return None
    lasts = 0.0 if cell is None or not cell.load_w else cell.minutes
    short = wanted - lasts
    verdict: Verdict = "over" if short > OVER else "holds"
    sentence = f"short by {short:.0f} min" if short > OVER else "lasts at the end of its life"
    if cell is None or not cell.load_w:
        sentence = "no battery stands there" if cell is None else "nothing hangs on the battery"
    return Capacity(key="battery", name="Battery", unit="min", used=round(wanted, 2), growth=0.0, limit=round(lasts, 2),
                    verdict=verdict, sentence=sentence, full_year=None, verbs=VERBS)  # fmt: skip


def _heat(here: ClosetStack) -> Capacity | None:
    warmth = here.warmth
    if not warmth.heat_w:
        return None
    over = warmth.top_c - warmth.bears_c
    verdict: Verdict = "over" if over > OVER else "holds"
    sentence = f"over by {over:.1f} K" if over > OVER else f"{-over:.1f} K left"
    return Capacity(key="heat", name="Heat", unit="°C", used=warmth.top_c, growth=0.0, limit=warmth.bears_c,
                    verdict=verdict, sentence=sentence, full_year=None, verbs=VERBS)  # fmt: skip


def opened_pit(stack: Stack, closet_id: int, key: str) -> Opened | None:
    """A pit of the stack with what makes it up; None: it is none, or is not there."""
    capacity = next((one for one in pits_of(stack, closet_id) if one.key == key), None)
    here = next((one for one in stack.closets if one.closet_id == closet_id), None)
    if capacity is None or here is None:
        return None
    shares = sorted(_shares(here, key), key=lambda share: -share.amount)
    formula, source = _rule(stack, here, key)
    return Opened(capacity=capacity, shares=tuple(shares), formula=formula, source=source)


def _shares(here: ClosetStack, key: str) -> Iterator[Share]:
    for thing in here.things:
        if key == "heat" and heat_w(thing) > 0:
            yield Share(label=f"{thing.name}, W", amount=round(heat_w(thing), 2), drop_id=thing.drop_id)
        if key == "battery" and thing.outlet == "battery" and thing.mains_w > 0:
            yield Share(label=f"{thing.name}, W", amount=round(thing.mains_w, 2), drop_id=thing.drop_id)


def _rule(stack: Stack, here: ClosetStack, key: str) -> tuple[str, str]:
    if key == "heat":
        warmth = here.warmth
        told = (
            f"{warmth.room_c:g} °C + {warmth.heat_w:g} W ÷ (5.5·{warmth.area_m2:g} m² + 1.2·1005·"
            f"{warmth.fans_m3_h:g}/2/3600) = {warmth.top_c:g} °C; {warmth.weakest} bears {warmth.bears_c:g} °C"
        )
        return (
            told,
            "IEC TR 60890: heat through the skin; fans count with half of their free air; open frames gather none.",
        )
    cell = _cell(stack, here.closet_id)
    if cell is None:
        return "no UPS stands in the closet", "Peukert (1897)."
    return (
        f"t = 20·(0.8·C/(I·20))^1.2, I = (load + own)/(V·η): {cell.minutes:g} min at {cell.load_w:g} W",
        "Peukert (1897), k 1.2, 0.8 of the capacity at the end of its life; the load changes as things are shed.",
    )
