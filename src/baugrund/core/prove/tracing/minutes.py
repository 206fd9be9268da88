"""Minutes that tracing takes: each step, with the way to it, for one person and for two."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field

from ...facts.tracing import TraceSheet, TraceStep
from ...standards.tracing import CORD, FLOOR, PAIR, READ, SET_UP, SWEEP, WALK
from .state import JackPlace, device_of


def way(one: JackPlace | None, other: JackPlace | None) -> float:
    """Minutes from room to room, or between panel (None) and room."""
    if one is None and other is None:
        return 0.0
    if one is None or other is None:
        return WALK + FLOOR * abs((one or other or JackPlace(0, None, 0)).floor)
    if one.id == other.id or (one.room is not None and one.room == other.room):
        return 0.0
    return WALK + FLOOR * abs(one.floor - other.floor)


@dataclass
class Clock:
    """Two clocks: of who is in the rooms and who is at the panel; one person has one."""

    sheet: TraceSheet
    jacks: dict[int, JackPlace]
    rooms: float = 0.0
    panel: float = 0.0
    at: JackPlace | None = None
    """Where the one in the rooms is; one person: None at the panel."""
    devices: dict[str, int] = field(default_factory=dict)
    """The jack that each is in: it is fetched there."""
    settled: set[int] = field(default_factory=set)
    """Jacks whose place was read: what is in them is taken along by whoever comes by."""
    cords: frozenset[int] = frozenset()
    toning: bool = False

    @property
    def minutes(self) -> float:
        """Elapsed."""
        return max(self.rooms, self.panel)

    def take(self, step: TraceStep) -> None:
        """Let the time of a step pass."""
        jack = self.jacks.get(step.jack_id or 0)
        if jack is not None and (step.found or (step.kind in ("link", "known") and step.position is not None)):
            self.settled.add(jack.id)
        if step.kind == "cords":
            self._at_panel(CORD * len(frozenset(step.positions) - self.cords))
            self.cords = frozenset(step.positions)
        elif step.kind in ("toner", "remote", "laptop") and jack is not None:
            self._put(device_of(step.kind, self.sheet), jack)
            self.toning = self.toning if step.kind == "laptop" else step.kind == "toner"
        elif step.kind == "sweep":
            self._both(SWEEP)
            self.toning = True
        elif step.kind == "pair":
            swap = SET_UP if self.sheet.one_instrument and self.toning else 0.0
            self._both(PAIR + swap)
            self.toning = False
        elif step.kind == "link" and jack is not None:
            is_in = self.devices.get("laptop") == jack.id
            if not self.sheet.reads_table or (is_in and self.sheet.people == 1 and self.at is None):
                # its light, seen at the panel
                self._both(READ)
                return
            if not is_in:
                self._put("laptop", jack)
            # a cord that is still on its way tells nothing
            self.rooms = max(self.rooms, self.panel) if self.sheet.people == 2 else self.rooms
            self._in_room(jack, READ)

    def _put(self, device: str, jack: JackPlace) -> None:
        """Fetch a device from where it is and put it into a jack."""
        last = self.jacks.get(self.devices.get(device, 0))
        if last is not None:
            self._in_room(last, 0.0)
        self._in_room(jack, SET_UP)
        self.devices[device] = jack.id

    def _at_panel(self, minutes: float) -> None:
        if self.sheet.people == 1:
            self.rooms += way(self.at, None) + minutes
            self.at = None
        else:
            self.panel += minutes

    def _in_room(self, jack: JackPlace, minutes: float) -> None:
        if self.sheet.people == 1:
            self.rooms += way(self.at, jack)
        elif self.at is not None and self.at.id != jack.id:
            # the two part at the first jack; who stays in the rooms takes along what is in one
            self._take_along({self.at.id})
            self.rooms += way(self.at, jack)
        self.rooms += minutes
        self.at = jack
        self._take_along({one for one in self.settled if way(jack, self.jacks[one]) == 0})

    def _take_along(self, jacks: set[int]) -> None:
        self.devices = {device: jack for device, jack in self.devices.items() if jack not in jacks}

    def _both(self, minutes: float) -> None:
        """Something at the panel for which a device must be in its jack."""
        if self.sheet.people == 1:
            self._at_panel(minutes)
            return
        self.rooms = self.panel = self.minutes + minutes


def minutes_of(sheet: TraceSheet, jacks: Iterable[JackPlace], steps: Sequence[TraceStep]) -> float:
    """Minutes that steps take, one after the other."""
    clock = Clock(sheet, {jack.id: jack for jack in jacks})
    for step in steps:
        clock.take(step)
    return clock.minutes
