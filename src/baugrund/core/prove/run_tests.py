"""Tests of runs: what is expected, what was measured, what is wrong, and what it says of the cable.

Passed is a run whose whole wire map is straight, whose link comes up at the speed of its port and device, whose length
is within its tolerance of what was planned, and whose power, where it is powered, is there.  What nobody measured is
not passed: it is open.

References
----------
.. [1] ANSI/TIA-568.2, wire map and DC resistance; IEEE Std 802.3-2022, clauses 14, 25, 40, 55 and 126: 10 and
   100 Mbit/s use pairs 1-2 and 3-6 alone, all faster ones four pairs.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from typing import Literal

from ..facts.drop import Drop
from ..facts.fact import Fact
from ..facts.project import Project
from ..facts.prove import RunTest
from ..places.labels import labels
from ..reach.runs import Run, runs
from ..standards.cabling import FIXED_LINK_MAX_M, FIXED_OHM_PER_M
from ..standards.poe_classes import POE_CLASSES
from ..standing.ground import Ground
from .wire_map import WireFault, faults_of

LENGTH_PERCENT, LENGTH_M = 10.0, 2.0
"""A length is off where it differs by more than this share and by more than this [%, m], *defaults*."""
NEAR_M = 1.5
"""A fault as near to an end is at that end, *default* [m]."""
CLAD_TIMES = 1.3
"""Loop resistance over that of copper of this length from which a cable is taken for copper-clad, *default*: such
aluminium has 1.6 times."""
FAST_PAIRS = ((4, 5), (7, 8))
Verdict = Literal["passed", "failed", "open"]


class Expected(Fact):
    """What a run should show."""

    length_m: float
    is_guess: bool
    """The length is typed or guessed, and no reason to doubt a measured one."""
    speed_mbit: int
    port_mbit: int | None
    """Of the port that it is seated on; None: nobody knows."""
    device_mbit: int
    powered: bool
    watts: float
    """Drawn by the device, as it is counted [W]."""
    least_v: float | None
    """Volts that its class needs at the device; None: it is not powered."""


class Diagnosis(Fact):
    """Something that a test tells, with what to do about it."""

    key: str
    weight: Literal["breaks", "strains", "note"]
    text: str
    do: str


class TestedRun(Fact):
    """A run, its last test and what that tells."""

    drop_id: int
    closet_id: int
    label: str
    """The label of its cable."""
    name: str
    expected: Expected
    test_id: int | None
    earlier: int
    """Tests of it before the last one."""
    verdict: Verdict
    missing: tuple[str, ...]
    """What nobody has measured yet."""
    faults: tuple[WireFault, ...]
    diagnoses: tuple[Diagnosis, ...]


class RunTests(Fact):
    """Every run as it was tested."""

    runs: tuple[TestedRun, ...]
    passed: int
    failed: int
    open: int


def run_tests_of(project: Project, grounds: Sequence[Ground]) -> RunTests:
    """Every run with its last test, on the boxes that stand."""
    tests: dict[int, list[RunTest]] = {}
    for test in project.run_tests:
        tests.setdefault(test.drop_id, []).append(test)
    ports = port_speeds(grounds)
    told = tuple(
        judged(project, project.drops_by_id[number], run, tests.get(number, ()), ports.get(number))
        for number, run in runs(project).items()
    )
    many = Counter(one.verdict for one in told)
    return RunTests(runs=told, passed=many["passed"], failed=many["failed"], open=many["open"])


def port_speeds(grounds: Sequence[Ground]) -> Mapping[int, int]:
    """The speed of the port that each drop is seated on [Mbit/s]."""
    return {
        place.drop_id: ground.seating.boxes[place.box].ports[place.port].speed_mbit
        for ground in grounds
        if ground.seating
        for place in ground.places
        if place.drop_id is not None
    }


def judged(
    project: Project, drop: Drop, run: Run, tests: Sequence[RunTest], port_mbit: int | None
) -> TestedRun:  # fmt: skip
    """One run with its tests, the last one last."""
    expected = expected_of(project, drop, run, port_mbit)
    test = tests[-1] if tests else None
    faults = faults_of(test.pins, test.shorts, test.split) if test and test.pins else ()
    found = tuple(_diagnoses(expected, test, faults)) if test else ()
    missing = tuple(_missing(expected, test))
    breaks = any(one.weight == "breaks" for one in found)
    return TestedRun(
        drop_id=drop.id, closet_id=run.closet_id, label=labels(project).get(drop.id, ""), name=project.name_of(drop),
        expected=expected, test_id=test.id if test else None,
        earlier=max(0, len(tests) - 1), verdict="failed" if breaks else "open" if missing else "passed",
        missing=missing, faults=faults, diagnoses=found,
    )  # fmt: skip


def expected_of(project: Project, drop: Drop, run: Run, port_mbit: int | None) -> Expected:
    """What a run should show."""
    poe_class = project.port_class(drop) if drop.in_use else None
    return Expected(
        length_m=run.length_m, is_guess=run.state in ("guess", "loose"),
        speed_mbit=min(drop.speed_mbit, port_mbit or drop.speed_mbit), port_mbit=port_mbit,
        device_mbit=drop.speed_mbit, powered=poe_class is not None,
        watts=project.draw_w(drop) if poe_class is not None else 0.0,
        least_v=POE_CLASSES[poe_class].device_min_v if poe_class is not None else None,
    )  # fmt: skip


def _missing(expected: Expected, test: RunTest | None) -> Iterator[str]:
    if test is None or test.pins is None:
        yield "wire map"
    if test is None or test.length_m is None:
        yield "length"
    if test is None or test.speed_mbit is None:
        yield "link speed"
    if expected.powered and (test is None or test.poe_v is None):
        yield "volts"


def _diagnoses(expected: Expected, test: RunTest, faults: Sequence[WireFault]) -> Iterator[Diagnosis]:
    for fault in faults:
        yield Diagnosis(key=fault.kind, weight="breaks", text=f"{fault.text[:1].upper()}{fault.text[1:]}.",
                        do=_mend(fault, _where(expected, test)))  # fmt: skip
    yield from _of_length(expected, test)
    yield from _of_resistance(expected, test)
    yield from _of_speed(expected, test, faults)
    yield from _of_power(expected, test, faults)


FaultAt = Literal["closet", "place", "cable", ""]


def fault_at(expected: Expected, test: RunTest) -> FaultAt:
    """Where the first fault lies, by how far from the end that was measured from; empty: nobody knows."""
    if test.fault_m is None:
        return ""
    whole = expected.length_m if test.length_m is None or test.length_m <= test.fault_m else test.length_m
    if test.fault_m <= NEAR_M:
        return "place" if test.from_place else "closet"
    if test.fault_m >= whole - max(NEAR_M, LENGTH_PERCENT / 100 * whole):
        return "closet" if test.from_place else "place"
    return "cable"


def _where(expected: Expected, test: RunTest) -> str:
    """The same in words."""
    near = "the place" if test.from_place else "the closet"
    match fault_at(expected, test):
        case "":
            return "at one of its ends; measure how far, or begin with the end that was made last"
        case "cable":
            return f"in the cable, {test.fault_m:g} m from {near}: look there for a screw, a clip or a sharp bend"
        case end if f"the {end}" == near:
            return f"at {near}: {test.fault_m:g} m from that end"
        case end:
            return f"at the {end}: {test.fault_m:g} m from {near}"


def _mend(fault: WireFault, where: str) -> str:
    match fault.kind:
        case "open":
            return f"Press the wires in anew {where}."
        case "short":
            return f"Part the wires {where}."
        case "split":
            return "Terminate both ends by the colours of one standard: counting pins alone splits pairs."
        case "a_against_b":
            return "Terminate one end anew by the standard of the site."
    return f"Terminate anew by the colours {where}."


def _of_length(expected: Expected, test: RunTest) -> Iterator[Diagnosis]:
    if test.length_m is None:
        return
    off = test.length_m - expected.length_m
    most = max(LENGTH_M, LENGTH_PERCENT / 100 * expected.length_m)
    if test.length_m > FIXED_LINK_MAX_M:
        yield Diagnosis(
            key="too_long", weight="breaks",
            text=f"{test.length_m:g} m; a fixed link is {FIXED_LINK_MAX_M:g} m at most.",
            do="A closet nearer to it, or fibre, would do.",
        )  # fmt: skip
    if abs(off) > most and not expected.is_guess:
        told = f"{abs(off):.1f} m {'longer' if off > 0 else 'shorter'} than the {expected.length_m:g} m of the plan."
        do = (
            "A coil behind the plate, another way, or another cable: trace it before it is labelled." if off > 0
            else "Another cable, or one that is broken: trace it before it is labelled."
        )  # fmt: skip
        yield Diagnosis(key="length", weight="strains", text=told, do=do)


def _of_resistance(expected: Expected, test: RunTest) -> Iterator[Diagnosis]:
    """Copper of this length, or aluminium with a skin of it."""
    length = test.length_m if test.length_m is not None else None if expected.is_guess else expected.length_m
    if test.loop_ohm is None or not length:
        return
    times = test.loop_ohm / (2 * FIXED_OHM_PER_M * length)
    if times >= CLAD_TIMES:
        yield Diagnosis(
            key="copper_clad", weight="breaks" if expected.powered else "strains",
            text=f"{test.loop_ohm:g} ohm over {length:g} m are {times:.2f} times what copper has.",
            do="It is copper-clad aluminium, or a contact is bad: measure another pair; no standard allows such cable"
            " for power.",
        )  # fmt: skip


def _of_speed(expected: Expected, test: RunTest, faults: Sequence[WireFault]) -> Iterator[Diagnosis]:
    speed = test.speed_mbit
    if speed is None or speed == expected.speed_mbit:
        return
    if speed == 0:
        yield Diagnosis(
            key="no_link", weight="breaks", text="No link comes up.",
            do="Mend the wire map first." if faults else "See that both ends are on and the port is not switched off.",
        )  # fmt: skip
        return
    if speed > expected.speed_mbit:
        port = expected.port_mbit
        if port is not None and speed > port:
            yield Diagnosis(
                key="faster_than_port", weight="strains",
                text=f"The link came up at {_rate(speed)}, and its port has {_rate(port)}.",
                do="It hangs on another port than planned, or the reading is of another run.",
            )  # fmt: skip
        return
    broken = [f"{one}-{other}" for one, other in FAST_PAIRS if any({one, other} & set(f.pins) for f in faults)]
    if speed <= 100 and broken:
        do = f"Pair {' and '.join(broken)} is wrong: up to 100 Mbit/s works without it, anything faster does not."
    elif test.pins is None:
        do = f"Both ends can do {_rate(expected.speed_mbit)}: measure the wire map, pairs 4-5 and 7-8 first."
    elif faults:
        do = "Mend the wire map first."
    else:
        do = "The wire map is straight: try other cords, look for a setting at either end, and test for split pairs."
    yield Diagnosis(
        key="slow", weight="breaks",
        text=f"The link came up at {_rate(speed)}; port and device can do {_rate(expected.speed_mbit)}.", do=do,
    )  # fmt: skip


def _of_power(expected: Expected, test: RunTest, faults: Sequence[WireFault]) -> Iterator[Diagnosis]:
    if test.poe_v is None:
        return
    if not expected.powered:
        if test.poe_v > 0:
            yield Diagnosis(
                key="power_unasked", weight="note", text=f"{test.poe_v:g} V on a run that asks for none.",
                do="See that the port gives power only to what asks for it.",
            )  # fmt: skip
        return
    if test.poe_v == 0:
        do = "Mend the wire map first." if faults else "See that the port gives power, and its injector is plugged in."
        yield Diagnosis(key="no_power", weight="breaks", text="No power arrives.", do=do)
    elif expected.least_v is not None and test.poe_v < expected.least_v:
        yield Diagnosis(
            key="low_volts", weight="breaks",
            text=f"{test.poe_v:g} V arrive; its class needs {expected.least_v:g} V at the device.",
            do="A shorter run, thicker cords or better contacts would do; measure the loop's resistance.",
        )  # fmt: skip


def _rate(mbit: int) -> str:
    return f"{mbit / 1000:g} Gbit/s" if mbit >= 1000 else f"{mbit} Mbit/s"
