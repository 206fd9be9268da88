"""Moving over from the network that is there: steps in their order, what each interrupts and for how long, and the way
back.

The new network is built beside the old one and joined to it by one cord, so that devices go over one at a time while
both sides are one network.  Only then does the new router take the lines, and last the old boxes go.  With a second
line the first moves while the other carries; with one line, or where the provider's box changes its mode, everything
that leaves the house is down meanwhile.  Minutes are *defaults* (``standards/moving.py``) and sums of single
interruptions, with nothing done at once; what is not known to stay up counts as interrupted.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator, Sequence

from ..cabling.work import rates_of
from ..facts.brief import InternetLine, Service
from ..facts.drop import Drop
from ..facts.fact import Fact
from ..facts.labour import Task
from ..facts.moving import RunningKind
from ..facts.project import Project
from ..standards.moving import (
    BRIDGE_MIN,
    KEPT_DAYS,
    LINE_MIN,
    PLUG_MIN,
    RENEW_MIN,
    RESTART_MIN,
    ROUTER_MIN,
    USUAL_RESTART_MIN,
    WIFI_MIN,
)
from ..standing.ground import Ground
from ..words import counted, joined
from .phasing import place_of
from .work_items import BENCHED

TAKEN_OVER_BY: dict[RunningKind, tuple[str, ...]] = {
    "internet": (), "wifi": ("access_point",), "recording": ("camera", "recorder", "nas"), "printing": ("printer",),
    "telephone": ("phone",), "television": (), "alarm": (), "doorbell": ("door_station",), "other": (),
    "wired": ("desk", "jack", "screen", "console", "hub", "controller", "server", "reader", "room_switch", "nas"),
}  # fmt: skip
"""Kinds of drop that carry what runs on the old network today."""
OVER_LINE: tuple[RunningKind, ...] = ("internet", "alarm")
"""Kinds that leave the house, or may: they are down while the line moves."""
OVER_ROUTER: tuple[RunningKind, ...] = ("wifi", "wired", "recording", "printing", "telephone", "doorbell")
"""Kinds whose devices take a new address when the networks come."""
NEW_BESIDE_OLD = ("access_point", "camera", "door_station", "recorder")
"""Kinds whose new device runs beside the old one until that goes: on new cable it interrupts nothing."""


GOES = {"spare": "kept as a spare", "sold": "sold", "moved": "to another room", "recycled": "recycled"}


class Used(Fact):
    """Something that runs on the old network."""

    key: str
    """``running/12``, or ``service/80`` of another service in the walls."""
    name: str
    kind: RunningKind
    must_stay: bool
    most_min: float | None
    when: str
    meanwhile: str
    longest_min: float
    """The longest single interruption that is planned [min]."""
    total_min: float
    """All of them together [min]."""
    holds: bool | None
    """Whether no interruption is longer than it may be; None: it must stay up, and nobody has said how long it may be
    down."""


class Down(Fact):
    """What a step interrupts: each of so many things for so long, one after the other."""

    key: str
    each_min: float
    times: int


class MoveStep(Fact):
    """A step of moving over."""

    key: str
    phase: str
    """Empty: there are no phases."""
    name: str
    told: str
    down: tuple[Down, ...]
    usual_min: float | None
    """Usual interruption of each thing, the longest of them; None: it interrupts nothing."""
    own_min: float | None
    """What the project says instead."""
    way_back: str
    drop_ids: tuple[int, ...] = ()


class PhaseDown(Fact):
    """Interruptions of a phase, added up over all that it interrupts [min]."""

    phase: str
    minutes: float


class Moving(Fact):
    """Moving over: what runs, and the steps in their order.  No steps where no network is there."""

    used: tuple[Used, ...]
    steps: tuple[MoveStep, ...]
    by_phase: tuple[PhaseDown, ...]
    kept_days: int = KEPT_DAYS


_SERVICE_KINDS: dict[str, RunningKind] = {
    "telephone": "telephone", "television": "television", "alarm": "alarm", "doorbell": "doorbell",
}  # fmt: skip


def moving_of(project: Project, grounds: Sequence[Ground]) -> Moving:
    """The steps of a project whose old network runs on; none where nothing runs there."""
    rows = tuple(_used(project))
    if not project.running and not any(kit.fate != "kept" for kit in project.kit):
        return Moving(used=(), steps=(), by_phase=())
    steps = tuple(_said(project, step) for step in _Mover(project, grounds, rows).steps())
    used = tuple(_summed(one, steps) for one in rows)
    phases = tuple(dict.fromkeys(step.phase for step in steps))
    return Moving(used=used, steps=steps, by_phase=tuple(
        PhaseDown(phase=phase, minutes=sum(_minutes(step) for step in steps if step.phase == phase))
        for phase in phases
    ))  # fmt: skip


def _minutes(step: MoveStep) -> float:
    return sum(down.each_min * down.times for down in step.down)


def _used(project: Project) -> Iterator[Used]:
    """What runs today: as it is told, and other services in the walls."""
    for row in project.running:
        yield Used(key=f"running/{row.id}", name=row.name, kind=row.kind, must_stay=row.must_stay,
                   most_min=row.most_min, when=row.when, meanwhile=row.meanwhile, longest_min=0, total_min=0,
                   holds=None)  # fmt: skip
    told = {row.kind for row in project.running}
    for service in project.services:
        kind = _SERVICE_KINDS.get(service.kind, "other")
        if kind not in told:
            yield Used(key=f"service/{service.id}", name=_name_of(service), kind=kind, must_stay=service.must_survive,
                       most_min=None, when="", meanwhile="", longest_min=0, total_min=0, holds=None)  # fmt: skip


def _name_of(service: Service) -> str:
    return service.note if service.kind == "other" and service.note else service.kind.capitalize()


def _summed(one: Used, steps: Iterable[MoveStep]) -> Used:
    downs = [down for step in steps for down in step.down if down.key == one.key]
    longest = max((down.each_min for down in downs), default=0.0)
    total = sum(down.each_min * down.times for down in downs)
    if one.most_min is not None:
        holds: bool | None = longest <= one.most_min
    else:
        holds = None if one.must_stay and longest else True
    return one.model_copy(update={"longest_min": longest, "total_min": total, "holds": holds})


def _said(project: Project, step: MoveStep) -> MoveStep:
    """A step with what the project says of it: own minutes replace the usual ones of each thing that it moves."""
    term = next((one for one in project.move_terms if one.step == step.key), None)
    if term is None:
        return step
    down = step.down
    if term.minutes is not None:
        down = tuple(one.model_copy(update={"each_min": term.minutes}) for one in down)
    return step.model_copy(update={"down": down, "own_min": term.minutes, "way_back": term.way_back or step.way_back})


class _Mover:
    """Makes the steps of one project."""

    def __init__(self, project: Project, grounds: Sequence[Ground], used: Sequence[Used]) -> None:
        self.project, self.used = project, used
        self.boxes = sum(len(ground.boxes) for ground in grounds)
        self.rooms = {f"running/{row.id}": set(row.room_ids) for row in project.running}
        moved = (place_of(project, drop) for drop in project.drops if any(self._moves(drop, one) for one in used))
        self.last = max(moved, default=0)
        """The phase at whose end nothing hangs on the old boxes any more."""

    def steps(self) -> Iterator[MoveStep]:
        """All steps, phase by phase; the router, the lines and the networks come in the first."""
        phases = self.project.phases or (None,)
        for place, phase in enumerate(phases):
            drops = [drop for drop in self.project.drops if place_of(self.project, drop) == place]
            name = phase.name if phase else ""
            for step in self._of_phase(place, drops, name):
                yield step.model_copy(update={"phase": name})

    def _of_phase(self, place: int, drops: Sequence[Drop], name: str) -> Iterator[MoveStep]:
        if place == 0:
            yield _step("record", "Write down what runs",
                        "Names, passwords, fixed addresses and rules of the old boxes; photos of every cord; speeds as"
                        " they are today.", back="Nothing has changed.")  # fmt: skip
        yield from self._bench(place, drops)
        new = [drop for drop in drops if drop.has_run and not drop.existing]
        if new:
            yield _step(f"pull/{place}", "Pull beside the old cable",
                        f"{counted(len(new), 'run')}, terminated and tested; the old cable stays plugged.", drops=new,
                        back="The old cable is untouched.")  # fmt: skip
        if place == 0 and self.boxes:
            yield _step("beside", "New boxes run beside the old ones",
                        f"{counted(self.boxes, 'box', 'boxes')} with power of their own; one cord from a port of the"
                        " old router makes both sides one network. The new router’s own addresses and Wi-Fi are off.",
                        back="Pull that cord.")  # fmt: skip
        yield from self._over(place, drops)
        if place == 0:
            yield from self._lines()
        rooms = {drop.room_id for drop in drops if drop.kind == "access_point" and drop.in_use}
        wifi = [one for one in self.used if one.kind == "wifi" and self._in_some(one, rooms)]
        if wifi and rooms:
            yield _step(f"wifi/{place}", "Wi-Fi goes over",
                        "Where new radios run the old ones go off; the new ones take their names and passwords.",
                        down=_downs((one, WIFI_MIN) for one in wifi),
                        back="Old radios go on, new ones off.")  # fmt: skip
        if place == 0 and len(self.project.networks) > 1:
            yield self._networks()
        if place == self.last:
            yield _step("off", "Old boxes go off", f"They stay wired in their place for {KEPT_DAYS} days.",
                        back="Switch them on and plug the cords back.")  # fmt: skip
        yield from self._gone(place, name)

    def _bench(self, place: int, drops: Sequence[Drop]) -> Iterator[MoveStep]:
        devices = [drop for drop in drops if drop.kind in BENCHED and drop.in_use]
        what = [counted(self.boxes, "box", "boxes")] if place == 0 and self.boxes else []
        what += [counted(len(devices), "device")] if devices else []
        if what:
            yield _step(f"bench/{place}", "On the bench",
                        f"{joined(what)}: switched on, named, up to date, set up as planned, serial and address"
                        " written down.", drops=devices, back="Nothing is in use yet.")  # fmt: skip

    def _over(self, place: int, drops: Sequence[Drop]) -> Iterator[MoveStep]:
        """Rooms move over one after the other: those on which nothing depends that must stay up go first."""
        by_room: dict[int, list[tuple[Drop, tuple[Used, ...]]]] = defaultdict(list)
        for drop in drops:
            if carried := tuple(one for one in self.used if self._carries(drop, one)):
                by_room[drop.room_id].append((drop, carried))
        kept = {room: sum(one.must_stay for _, carried in some for one in carried) for room, some in by_room.items()}
        for room, some in sorted(by_room.items(), key=lambda one: (kept[one[0]], len(one[1]), one[0])):
            named = self.project.rooms_by_id[room].name
            old = sum(drop.existing for drop, _ in some)
            told = f"{counted(len(some), 'cord')}{', one after the other' if len(some) > 1 else ''}"
            told += f"; {counted(old, 'old cable')} cut over to the new panel" if old else ""
            yield _step(f"over/{place}/{room}", f"Move over: {named}", f"{told}.", drops=[drop for drop, _ in some],
                        down=_downs((one, self._minutes(drop)) for drop, carried in some for one in carried),
                        back="Plug the cord back: the old port is still alive.")  # fmt: skip

    def _moves(self, drop: Drop, one: Used) -> bool:
        """Whether something that runs leaves the old boxes when a drop is built."""
        by_air = one.kind == "wifi" and drop.kind == "access_point" and drop.in_use
        return self._carries(drop, one) or (by_air and self._in_some(one, {drop.room_id}))

    def _carries(self, drop: Drop, one: Used) -> bool:
        rooms = self.rooms.get(one.key, set())
        if one.key not in self.rooms or not drop.in_use or (drop.kind in NEW_BESIDE_OLD and not drop.existing):
            return False
        return drop.kind in TAKEN_OVER_BY[one.kind] and (not rooms or drop.room_id in rooms)

    def _minutes(self, drop: Drop) -> float:
        """How long what a drop carries is down while it moves over [min]."""
        again = RESTART_MIN.get(drop.kind, USUAL_RESTART_MIN)
        if not drop.existing:
            return PLUG_MIN + again
        hours = rates_of(self.project).hours
        panel: Task = "punch_down" if self.project.settings.termination == "panel" else "terminate"
        return round(60 * (hours[panel] + hours["test"]), 1) + PLUG_MIN + again

    def _lines(self) -> Iterator[MoveStep]:
        """The new router takes the lines."""
        lines = sorted(self.project.lines, key=lambda one: not one.standby)
        for line in lines:
            others, changes = [one.name for one in lines if one is not line], line.box == "bridged"
            tied = [one for one in self.used if line.television and one.kind in ("telephone", "television")]
            down = [(one, _line_min(line)) for one in tied]
            told = f"{line.name} goes from the old router to the new one"
            if changes:
                told += "; the provider’s box goes into bridge mode"
            if line is lines[-1]:
                # with another line only the routers change hands
                minutes = ROUTER_MIN + (0.0 if others else _line_min(line))
                down += [(one, minutes) for one in self.used if one.kind in OVER_LINE]
                told += f"; {joined(others)} carries meanwhile" if others else ""
            back = "The cord goes back into the old router, which is still set up."
            yield _step(f"line/{line.id}", f"{line.name} moves", f"{told}.", down=_downs(down),
                        back=back + (" The provider’s box goes back to the mode it had." if changes else ""),
                        )  # fmt: skip

    def _in_some(self, one: Used, rooms: set[int]) -> bool:
        """Whether it is used in some of the rooms."""
        mine = self.rooms.get(one.key, set())
        return not mine or bool(mine & rooms)

    def _networks(self) -> MoveStep:
        some = [one for one in self.used if one.kind in OVER_ROUTER and one.key in self.rooms]
        later = " What moves later stays in the first of them until then." if self.last else ""
        return _step("networks", "Networks are set apart",
                     f"{counted(len(self.project.networks), 'network')} by the sheets of Patch; devices take addresses"
                     f" there.{later}", down=_downs((one, RENEW_MIN) for one in some),
                     back="The saved settings of before: one network for all.")  # fmt: skip

    def _gone(self, place: int, name: str) -> Iterator[MoveStep]:
        """Kit that goes in a phase; what names none goes in the last."""
        last = not self.project.phases or place == len(self.project.phases) - 1
        known = {phase.name.casefold() for phase in self.project.phases}
        for kit in self.project.kit:
            said = kit.phase.strip().casefold()
            if kit.fate == "kept" or not (said == name.casefold() if said in known else last):
                continue
            many = f"{kit.count} pieces, " if kit.count > 1 else ""
            yield _step(f"gone/{kit.id}", f"{kit.name} goes",
                        f"{many}{GOES.get(kit.goes, 'nobody has said where')}; not before what hung on it has run"
                        f" {KEPT_DAYS} days on the new network.",
                        back="Put it back as the photos of the first step show.")  # fmt: skip


def _line_min(line: InternetLine) -> float:
    return LINE_MIN[line.kind] + (BRIDGE_MIN if line.box == "bridged" else 0.0)


def _step(
    key: str, name: str, told: str, *, back: str, down: Sequence[Down] = (), drops: Iterable[Drop] = ()
) -> MoveStep:  # fmt: skip
    return MoveStep(key=key, phase="", name=name, told=told, down=tuple(down),
                    usual_min=max((one.each_min for one in down), default=None), own_min=None, way_back=back,
                    drop_ids=tuple(drop.id for drop in drops))  # fmt: skip


def _downs(some: Iterable[tuple[Used, float]]) -> tuple[Down, ...]:
    """Interruptions by what is interrupted and for how long; what something else carries meanwhile is down while it is
    plugged there and back."""
    found: dict[tuple[str, float], int] = defaultdict(int)
    for one, minutes in some:
        if one.meanwhile and minutes > PLUG_MIN:
            found[one.key, PLUG_MIN] += 2
        else:
            found[one.key, minutes] += 1
    return tuple(Down(key=key, each_min=minutes, times=times) for (key, minutes), times in found.items())
