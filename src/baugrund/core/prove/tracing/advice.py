"""The next best step of tracing, and the minutes that are left.

A round of tracing is one of a few: a tone at one jack and its confirmation; a pair test or a moved cord through the
positions that are left; a laptop whose light is read at the panel, alone or beside a tone; a tour of the rooms with a
laptop that reads the table of the switch, alone, with a tone at its end, or with a tone wherever no cord answered.

What is left of n jacks takes, with the best round first, V(n) = min over rounds of its minutes + V(n − what it finds),
by dynamic programming over n with the mean ways of the jacks that are left.  The first round of that is begun next, at
the jack that is nearest; inside a round the steps follow from where devices and cords are.  It is a rule that does well
(see the bench), and not proven best.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import Literal, NamedTuple

from ...facts.fact import Fact
from ...facts.tracing import TraceKind, TraceSheet
from ...standards.tracing import CORD, NEIGHBOUR, PAIR, READ, RIGHT, SET_UP, SWEEP, TWO_OFF
from .minutes import way
from .state import JackPlace, Traced, device_of

TESTS = RIGHT * 1.0 + NEIGHBOUR * 2.5 + TWO_OFF * 4.5
"""Positions tested after a sweep, the most probable first, until the jack answers."""
SWEEP_AGAIN = 0.12
"""A position less probable than this is not tested while another sweep would tell more."""
MOST_SWEEPS = 3

RoundName = Literal[
    "tone", "pair", "cord", "light", "tone and light", "tour", "tour and tone", "table and tone", "done"
]

CORDS_BETWEEN = 2
"""Cords that one of two people plugs while the other goes to the next jack."""
TOURS = ("tour", "tour and tone")
BY_LIGHT = ("light", "tone and light", "cord")


class NextStep(Fact):
    """Something to do: a device into a jack, cords to positions, or a reading."""

    kind: TraceKind
    jack_id: int | None = None
    position: int | None = None
    """The position that is tested (``pair``)."""
    positions: tuple[int, ...] = ()
    """Those that have a cord from now on (``cords``)."""


class Round(NamedTuple):
    """What is left costs, if this round comes first."""

    name: RoundName
    minutes: float
    finds: int
    """Jacks that are found when it ends; a tour ends sooner than all its cords have answered."""


class Ways(NamedTuple):
    """Mean minutes of the jacks that are left."""

    panel: float
    """Between panel and jack."""
    hop: float
    """From a jack to the nearest next one."""


def ways_of(jacks: Sequence[JackPlace], people: int) -> Ways:
    """Means over jacks, in the order of their rooms."""
    if not jacks:
        return Ways(0.0, 0.0)
    ordered = sorted(jacks, key=_by_room)
    hops = [way(one, other) for one, other in pairwise(ordered)]
    panel = sum(way(None, jack) for jack in jacks) / len(jacks) if people == 1 else 0.0
    return Ways(panel, sum(hops) / max(1, len(hops)))


def left_by_round(sheet: TraceSheet, jacks: int, ways: Ways, plugged: bool = False) -> list[Round]:
    """The best first round and the minutes that are left, for 0 to so many jacks; ``plugged``: the cords are there."""
    table = [Round("done", 0.0, 0)]
    for _ in range(jacks):
        table.append(min(_rounds(sheet, table, ways, plugged), key=lambda one: one.minutes, default=table[0]))
    return table


def _rounds(sheet: TraceSheet, after: Sequence[Round], ways: Ways, plugged: bool) -> Iterator[Round]:
    """Every round that what is at hand allows, with what is left after it, for one jack more than is known of."""
    many, last = len(after), after[-1].minutes
    confirms = sheet.tester or sheet.one_instrument
    trip = 2 * ways.panel + ways.hop + SET_UP
    # a jack toned, swept for and confirmed, once a toner is in it
    heard = SWEEP + (SET_UP if sheet.one_instrument else 0.0) + PAIR * min(TESTS, (many + 1) / 2)
    tones = sheet.toner and (confirms or sheet.accept < 1)
    if tones:
        yield Round("tone", trip + heard + last, 1)
    if confirms:
        yield Round("pair", trip + PAIR * (many + 1) / 2 + last, 1)
    if not sheet.laptop or not sheet.cords:
        return
    yield Round("cord", trip + (CORD + READ) * (many + 1) / 2 + last, 1)
    if sheet.cords == 1:
        return
    hit = min(sheet.cords, many) / many
    cord = 0.0 if plugged and many <= sheet.cords else CORD
    yield Round("light", (trip + READ) / hit + cord + last, 1)
    if tones and many > 1:
        both = trip + heard + 2 * ways.hop + SET_UP + READ + cord * hit
        yield Round("tone and light", both + hit * after[-2].minutes + (1 - hit) * last, 1)
    if not sheet.reads_table:
        return
    visit = ways.hop + SET_UP + READ
    if sheet.people == 2:
        # cords are moved meanwhile: the next jack has the same chance
        yield Round("tour", visit / hit + last, 1)
        if tones:
            yield Round("table and tone", visit + (1 - hit) * (SET_UP + heard) + last, 1)
        return
    corded = min(sheet.cords, many)
    # all cords answer, or as many as leave no more jacks than cords: then no visit of the next tour is in vain
    for finds in {corded, max(1, min(corded, many - sheet.cords))}:
        # so many answer in the mean after so many visits (negative hypergeometric)
        minutes = 2 * ways.panel + cord * finds + visit * finds * (many + 1) / (corded + 1)
        yield Round("tour", minutes + after[-finds].minutes, finds)
        if tones and finds < many:
            yield Round("tour and tone", minutes + SET_UP + heard + after[-finds - 1].minutes, finds)


def minutes_left(now: Traced, people: int) -> float:
    """Minutes that are left for one or two people, in the mean."""
    sheet = now.sheet.model_copy(update={"people": people})
    return left_by_round(sheet, len(now.left), ways_of(now.left, people), bool(_useful(now)))[-1].minutes


def next_step(now: Traced, at: JackPlace | None) -> NextStep | None:
    """What to do next; ``at``: where the one in the rooms is, None: at the panel.  None: nothing is left, or nothing at
    hand tells anything."""
    if not now.left:
        return None
    sheet = now.sheet
    answered = len(now.cords) - len(_useful(now))
    plugged = bool(_useful(now))
    table = left_by_round(sheet, len(now.left) + answered, ways_of(now.left, sheet.people), plugged)
    first, begun = table[len(now.left)].name, table[-1]
    if first == "done":
        return None
    if sheet.people == 1 and at is not None and begun.name in TOURS and answered:
        if answered < begun.finds and (telling := [jack for jack in now.left if _tells(now, jack.id)]):
            return _step(now, "link", _cheapest(telling, at, now).id)
        if begun.name == "tour and tone" and first != "pair" and _open(now, "toner") is None:
            return _step(now, "toner", _nearest(now.left, at, now).id)
        at = None
    return _at_hand(now, at, first) or _record(now, at, first) or _out(now, at, first)


def _step(now: Traced, kind: str, jack: int | None = None, **values: object) -> NextStep:
    return NextStep.model_validate({"kind": kind, "jack_id": jack, **values})


def _open(now: Traced, device: str) -> int | None:
    """The jack that a device is in, if it is not settled."""
    jack = now.devices.get(device)
    return jack if any(one.id == jack for one in now.left) else None


def _at_hand(now: Traced, at: JackPlace | None, first: RoundName) -> NextStep | None:
    """A reading of what is in a jack already."""
    toned = _open(now, "toner")
    remote = _open(now, device_of("remote", now.sheet))
    laptop = _open(now, "laptop")
    waits = now.sheet.people == 1 and at is not None
    both = first == "tone and light" and toned is not None and not now.read[toned].sweeps
    if both and waits and not (laptop is not None and _tells(now, laptop)) and len(now.left) > 1:
        return None
    if toned is not None and first != "pair" and (now.toning or not now.sheet.one_instrument):
        return _of_tone(now, toned)
    if remote is not None and (first == "pair" or now.read[remote].sweeps):
        return _step(now, "pair", remote, position=now.by_itself(remote)[0])
    if laptop is not None and first in BY_LIGHT and _tells(now, laptop):
        return _step(now, "link", laptop)
    if laptop is not None and first == "cord":
        return _step(now, "cords", positions=(now.by_itself(laptop)[0],))
    return None


def _of_tone(now: Traced, jack: int) -> NextStep:
    """A sweep, or a test of what the sweeps have told."""
    read, sheet = now.read[jack], now.sheet
    likely = now.by_itself(jack)
    swept = [one for one in read.sweeps if one is not None]
    if (
        not swept
        or (likely[1] < SWEEP_AGAIN and len(read.sweeps) < MOST_SWEEPS)
        or not (sheet.tester or sheet.one_instrument)
    ):
        return _step(now, "sweep", jack)
    return _step(now, "pair", jack, position=likely[0])


def _tells(now: Traced, jack: int) -> bool:
    """Whether the cords as they are would tell something of a jack."""
    return bool(set(now.cords) & set(now.free) - now.read[jack].excluded)


def _useful(now: Traced) -> set[int]:
    """Positions with a cord on which some jack may yet answer."""
    return {
        one for one in now.cords if one in now.free and any(one not in now.read[jack.id].excluded for jack in now.left)
    }


def _record(now: Traced, at: JackPlace | None, first: RoundName) -> NextStep | None:
    """Cords to other positions, where that is due."""
    useful, wanted = _useful(now), min(now.sheet.cords, len(now.free))
    if first == "tone" and now.sheet.people == 2 and now.sheet.laptop and now.sheet.cords > 1:
        # whoever waits at the panel for the next tone plugs cords that are needed later
        wanted = min(wanted, CORDS_BETWEEN * (len(now.found) + 1))
    elif first in ("tone", "pair", "cord"):
        return None
    if now.sheet.people == 2 or at is None:
        due = len(useful) < wanted
    else:
        due = not any(_tells(now, jack.id) for jack in now.left)
    fewest = {one: sum(one in now.read[jack.id].excluded for jack in now.left) for one in now.free}
    rest = sorted((one for one in now.free if one not in useful), key=lambda one: (fewest[one], one))
    cords = (*sorted(useful), *rest[: wanted - len(useful)])
    return _step(now, "cords", positions=cords) if due and set(cords) != set(now.cords) else None


def _out(now: Traced, at: JackPlace | None, first: RoundName) -> NextStep:
    """A device into the nearest jack of which it would tell something."""
    open_ = [jack for jack in now.left if jack.id not in now.devices.values()] or list(now.left)
    toned, missed = _open(now, "toner"), _open(now, "laptop")
    if first in (*TOURS, "table and tone"):
        if first == "table and tone" and missed is not None and not _tells(now, missed):
            return _step(now, "toner", missed)
        telling = [jack for jack in now.left if _tells(now, jack.id)]
        if telling:
            lies = next((jack for jack in now.jacks if jack.id == now.devices.get("toner")), None)
            return _step(now, "link", _cheapest(telling, at or lies, now).id)
    if first == "tone and light" and toned is not None and not now.read[toned].sweeps:
        here = next(jack for jack in now.jacks if jack.id == toned)
        telling = [jack for jack in open_ if _tells(now, jack.id)]
        return _step(now, "laptop", _nearest(telling or open_, here, now).id)
    if first == "tone and light" and missed is not None and not _tells(now, missed):
        # where the laptop is fetched anyway
        return _step(now, "toner", missed)
    if first == "light":
        telling = [jack for jack in open_ if _tells(now, jack.id)]
        return _step(now, "laptop", _nearest(telling or open_, at, now).id)
    device = {"pair": "remote", "cord": "laptop"}.get(first, "toner")
    last = next((jack for jack in now.jacks if jack.id == now.devices.get(device)), at)
    return _step(now, device, _nearest(open_, at or last, now).id)


def _by_room(jack: JackPlace) -> tuple[int, int, int]:
    return jack.floor, jack.room or 0, jack.id


def _nearest(jacks: Sequence[JackPlace], at: JackPlace | None, now: Traced) -> JackPlace:
    """The nearest jack; of those as near the next in the order of rooms."""
    here = _by_room(at) if at else (-1, -1, -1)
    return min(jacks, key=lambda jack: (way(at, jack), _by_room(jack) < here, _by_room(jack)))


def _cheapest(jacks: Sequence[JackPlace], at: JackPlace | None, now: Traced) -> JackPlace:
    """The jack with the fewest minutes for each time that its cord answers; of those as good the nearest."""
    free, here = set(now.free), _by_room(at) if at else (-1, -1, -1)

    def minutes(jack: JackPlace) -> float:
        may = free - now.read[jack.id].excluded
        return (way(at, jack) + SET_UP + READ) * len(may) / len(may & set(now.cords))

    return min(jacks, key=lambda jack: (round(minutes(jack), 6), _by_room(jack) < here, _by_room(jack)))
