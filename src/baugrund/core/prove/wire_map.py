"""Wire map of a run: which pin of one end is which of the other, and what is wrong with it.

Eight pins in four pairs: 1-2, 3-6, 4-5, 7-8 (ANSI/TIA-568.2, T568A and T568B: the same pins, other colours).  A run
wired the same way at both ends joins every pin to itself.  A pair whose both pins are exchanged is reversed; pairs
whose pins end on another pair's are crossed, 1-2 with 3-6 where one end follows T568A and the other T568B.  A split
pair is straight pin by pin; only crosstalk tells it.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Literal

from ..facts.fact import Fact

PAIRS: tuple[tuple[int, int], ...] = ((1, 2), (3, 6), (4, 5), (7, 8))
FaultKind = Literal["open", "short", "reversed", "a_against_b", "crossed", "miswired", "split"]
OPEN = 0


class WireFault(Fact):
    """Something wrong with a wire map."""

    kind: FaultKind
    pins: tuple[int, ...]
    """Of the closet's end."""
    text: str


def faults_of(
    pins: Sequence[int], shorts: Sequence[Sequence[int]] = (), split: Sequence[Sequence[int]] = ()
) -> tuple[WireFault, ...]:
    """Everything wrong with a map: ``pins[n]`` is where pin ``n + 1`` ends, 0 nowhere."""
    return (*_opens(pins), *_shorts(shorts), *_swaps(pins), *_splits(split))


def _opens(pins: Sequence[int]) -> Iterator[WireFault]:
    for first, second in PAIRS:
        open_pins = tuple(pin for pin in (first, second) if pins[pin - 1] == OPEN)
        if len(open_pins) == 2:
            yield WireFault(kind="open", pins=open_pins, text=f"pair {first}-{second} is open")
        elif open_pins:
            yield WireFault(kind="open", pins=open_pins, text=f"pin {open_pins[0]} is open")


def _shorts(shorts: Sequence[Sequence[int]]) -> Iterator[WireFault]:
    for one, other in shorts:
        yield WireFault(kind="short", pins=(one, other), text=f"pins {one} and {other} touch")


def _swaps(pins: Sequence[int]) -> Iterator[WireFault]:
    """Pins that end elsewhere: pairs reversed or crossed as a whole, else single pins."""
    left = {pin for pin in range(1, 9) if pins[pin - 1] not in (OPEN, pin)}
    for first, second in PAIRS:
        if pins[first - 1] == second and pins[second - 1] == first:
            left -= {first, second}
            yield WireFault(kind="reversed", pins=(first, second), text=f"pair {first}-{second} is reversed")
    whole = {pair: _ends_on(pins, pair) for pair in PAIRS if set(pair) <= left}
    crossed = {pair: other for pair, other in whole.items() if other is not None and other in whole}
    done: set[tuple[int, int]] = set()
    for pair, other in crossed.items():
        if pair in done or crossed.get(other) != pair:
            continue
        done |= {pair, other}
        straight = all(pins[pin - 1] == to for pin, to in zip((*pair, *other), (*other, *pair), strict=True))
        is_a_b = {pair, other} == {PAIRS[0], PAIRS[1]} and straight
        yield WireFault(
            kind="a_against_b" if is_a_b else "crossed", pins=(*pair, *other),
            text="one end is T568A, the other T568B" if is_a_b
            else f"pairs {pair[0]}-{pair[1]} and {other[0]}-{other[1]} are crossed"
            + ("" if straight else ", and one is reversed"),
        )  # fmt: skip
    rest = sorted(left - {pin for pair in done for pin in pair})
    if rest:
        told = ", ".join(f"{pin} ends on {pins[pin - 1]}" for pin in rest)
        yield WireFault(kind="miswired", pins=tuple(rest), text=f"pin {told}" if len(rest) == 1 else f"pins: {told}")


def _ends_on(pins: Sequence[int], pair: tuple[int, int]) -> tuple[int, int] | None:
    """The pair on which both pins of a pair end."""
    ends = {pins[pin - 1] for pin in pair}
    return next((other for other in PAIRS if set(other) == ends), None)


def _splits(split: Sequence[Sequence[int]]) -> Iterator[WireFault]:
    for first, second in split:
        one, other = PAIRS[first - 1], PAIRS[second - 1]
        yield WireFault(
            kind="split", pins=(*one, *other),
            text=f"pairs {one[0]}-{one[1]} and {other[0]}-{other[1]} are split: each wire is twisted with one of the"
            " other pair, which only crosstalk tells",
        )  # fmt: skip
