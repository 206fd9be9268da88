"""What is known of a panel after the steps so far: where devices and cords are, what every jack's readings say."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import NamedTuple

import numpy as np

from ...facts.tracing import TraceSheet, TraceStep
from ...standards.tracing import DEAD, NEIGHBOUR, REPEATS, RIGHT, SILENT, STRAY, TWO_OFF
from .matching import Posterior, posterior

DEAD_AFTER = 2
"""A jack is taken for dead after so many silent sweeps, or after a test at every position that is left."""


class JackPlace(NamedTuple):
    """A jack and where it is; ``floor``: storeys above the panel."""

    id: int
    room: int | None
    floor: int


@dataclass
class Read:
    """What the readings of one jack say."""

    sweeps: list[int | None] = field(default_factory=list)
    """Positions named by sweeps, None: silence."""
    excluded: set[int] = field(default_factory=set)
    """Positions where it does not end, by exact readings."""
    exact: bool = False
    """Where it ends is read, or known, exactly."""
    at: int | None = None
    dead: bool = False
    """Known to be."""


@dataclass(frozen=True)
class Traced:
    """A worksheet after its steps."""

    sheet: TraceSheet
    jacks: tuple[JackPlace, ...]
    read: Mapping[int, Read]
    devices: Mapping[str, int]
    """The jack that toner, remote and laptop are in."""
    cords: tuple[int, ...]
    """Positions with a cord to the switch."""
    toning: bool
    """One instrument for both was used as a toner last."""

    @cached_property
    def wired(self) -> tuple[int, ...]:
        """Positions that have a cable, in their order."""
        empty = set(self.sheet.empty)
        return tuple(one for one in range(1, self.sheet.positions + 1) if one not in empty)

    @cached_property
    def found(self) -> Mapping[int, int]:
        """Positions of jacks that are found."""
        sure = {jack.id: self.read[jack.id].at for jack in self.jacks if self.read[jack.id].exact}
        found = {jack: at for jack, at in sure.items() if at is not None}
        if self.sheet.accept < 1 and len(found) < len(self.jacks):
            for jack, probable in zip(self.open_to_all, self.probable.pairs, strict=True):
                if len(probable) and probable.max() >= self.sheet.accept:
                    found[jack.id] = self.free_of_exact[int(probable.argmax())]
        return found

    @cached_property
    def dead(self) -> frozenset[int]:
        """Jacks that are taken for dead."""
        free = set(self.free_of_exact)
        sure = {
            jack.id
            for jack in self.jacks
            for read in (self.read[jack.id],)
            if not read.exact and (read.dead or silent(read) or free <= read.excluded)
        }
        if self.sheet.accept < 1 and self.open_to_all:
            chances = zip(self.open_to_all, self.probable.dead, strict=True)
            sure |= {jack.id for jack, chance in chances if chance >= self.sheet.accept}
        return frozenset(sure)

    @cached_property
    def open_to_all(self) -> tuple[JackPlace, ...]:
        """Jacks that no exact reading has settled."""
        return tuple(jack for jack in self.jacks if not self.read[jack.id].exact and not self.read[jack.id].dead)

    @cached_property
    def left(self) -> tuple[JackPlace, ...]:
        """Jacks that are neither found nor taken for dead."""
        return tuple(jack for jack in self.jacks if jack.id not in self.found and jack.id not in self.dead)

    @cached_property
    def free_of_exact(self) -> tuple[int, ...]:
        """Wired positions on which no jack was found by an exact reading."""
        taken = {read.at for read in self.read.values() if read.exact}
        return tuple(one for one in self.wired if one not in taken)

    @cached_property
    def free(self) -> tuple[int, ...]:
        """Wired positions on which no jack was found."""
        taken = set(self.found.values())
        return tuple(one for one in self.wired if one not in taken)

    @cached_property
    def heard(self) -> Mapping[int, Mapping[int, float]]:
        """How probable it is that a sweep names a position (inner), for every position where the jack may end."""
        return _heard(self.sheet, self.wired)

    @cached_property
    def probable(self) -> Posterior:
        """Of jacks that are open to all (rows) and positions free of exact readings (columns)."""
        live = np.array([_live(self.read[jack.id], self.free_of_exact, self.heard) for jack in self.open_to_all])
        dead = np.array([_dead(self.read[jack.id]) for jack in self.open_to_all])
        return posterior(live.reshape(len(self.open_to_all), len(self.free_of_exact)), dead)

    def candidates(self, jack: int) -> list[tuple[int, float]]:
        """Positions where a jack may end, the most probable first."""
        at = next(place for place, one in enumerate(self.open_to_all) if one.id == jack)
        row = self.probable.pairs[at]
        order = sorted(range(len(row)), key=lambda place: (-round(float(row[place]), 6), self.free_of_exact[place]))
        return [(self.free_of_exact[place], float(row[place])) for place in order if row[place] > 0]

    def by_itself(self, jack: int) -> tuple[int, float]:
        """The most probable position of a jack by its own readings alone, and how probable it is by them."""
        shares = _live(self.read[jack], self.free_of_exact, self.heard)
        best = max(range(len(shares)), key=lambda place: (shares[place], -place))
        return self.free_of_exact[best], shares[best] / (sum(shares) + _dead(self.read[jack]))

    def after(self, step: TraceStep) -> Traced:
        """The worksheet after one more step."""
        read = {jack: replace(one, sweeps=[*one.sweeps], excluded={*one.excluded}) for jack, one in self.read.items()}
        devices, cords, toning = dict(self.devices), self.cords, self.toning
        cords, toning = _take(step, self.sheet, read, devices, cords, toning)
        then = Traced(self.sheet, self.jacks, read, devices, cords, toning)
        # neither changes from step to step
        vars(then).update({key: vars(self)[key] for key in ("wired", "heard") if key in vars(self)})
        return then


def silent(read: Read) -> bool:
    """Whether sweeps alone tell that a jack is dead."""
    return len(read.sweeps) >= DEAD_AFTER and all(one is None for one in read.sweeps)


def traced(sheet: TraceSheet, jacks: Sequence[JackPlace], steps: Sequence[TraceStep]) -> Traced:
    """The worksheet after all its steps."""
    read = {jack.id: Read() for jack in jacks}
    devices: dict[str, int] = {}
    cords: tuple[int, ...] = ()
    toning = False
    for step in steps:
        cords, toning = _take(step, sheet, read, devices, cords, toning)
    return Traced(sheet, tuple(jacks), read, devices, cords, toning)


def _take(
    step: TraceStep, sheet: TraceSheet, read: Mapping[int, Read], devices: dict[str, int], cords: tuple[int, ...],
    toning: bool,
) -> tuple[tuple[int, ...], bool]:  # fmt: skip
    """Take a step into account; the cords and the use of a single instrument after it."""
    if step.jack_id is None:
        return step.positions, toning
    mine = read.get(step.jack_id)
    if mine is None:
        return cords, toning
    if step.kind in ("toner", "remote", "laptop"):
        # a jack takes one plug
        for device in [device for device, jack in devices.items() if jack == step.jack_id]:
            del devices[device]
        devices[device_of(step.kind, sheet)] = step.jack_id
        return cords, toning if step.kind == "laptop" else step.kind == "toner"
    if step.kind == "sweep":
        mine.sweeps.append(step.position)
        return cords, True
    if step.kind == "link":
        devices["laptop"] = step.jack_id
        if step.position is None:
            mine.excluded |= set(cords)
    toning = toning and step.kind != "pair"
    if step.kind == "pair" and not step.found:
        mine.excluded.add(step.position or 0)
    elif step.position is not None:
        mine.exact, mine.at, mine.dead = True, step.position, False
    elif step.kind == "known":
        mine.exact, mine.at, mine.dead = False, None, True
    return cords, toning


def device_of(kind: str, sheet: TraceSheet) -> str:
    """The device that a step puts into a jack."""
    return "toner" if sheet.one_instrument and kind == "remote" else kind


def _heard(sheet: TraceSheet, wired: Sequence[int]) -> Mapping[int, Mapping[int, float]]:
    """How probable it is that a sweep names a position (inner), for every position (outer) where the jack may end.

    Neighbours are counted among the positions of the same panel that have a cable.  What would fall beyond the end of
    a panel falls on the others in their shares."""
    panels: dict[int, list[int]] = {}
    for one in wired:
        panels.setdefault((one - 1) // sheet.panel_size, []).append(one)
    off = {0: RIGHT, 1: NEIGHBOUR / 2, 2: TWO_OFF / 2}
    found: dict[int, dict[int, float]] = {}
    for panel in panels.values():
        for place, one in enumerate(panel):
            row = {other: off.get(abs(place - at), 0.0) for at, other in enumerate(panel)}
            whole = sum(row.values())
            found[one] = {
                other: (1 - STRAY) * share / whole + STRAY / len(panel) for other, share in row.items()
            }  # fmt: skip
    return found


def _live(read: Read, positions: Sequence[int], heard: Mapping[int, Mapping[int, float]]) -> list[float]:
    return [0.0 if one in read.excluded else (1 - DEAD) * _sweeps(read.sweeps, heard[one]) for one in positions]


def _dead(read: Read) -> float:
    return DEAD if all(one is None for one in read.sweeps) else 0.0


def _sweeps(sweeps: Sequence[int | None], here: Mapping[int, float]) -> float:
    """How probable the sweeps of a jack are: each is silent, or repeats the one heard before it, or is drawn anew."""
    found, before = 1.0, None
    for named in sweeps:
        if named is None:
            found *= SILENT
            continue
        fresh = here.get(named, STRAY / max(1, len(here)))
        repeated = REPEATS * (named == before) + (1 - REPEATS) * fresh if before is not None else fresh
        found *= (1 - SILENT) * repeated
        before = named
    return found
