"""What was promised, as tests: each with its way and pass level, what it showed before and after, and its verdict.

Goals of the brief, the rate of each line, who may open connections to whom, the warmth and noise of closets, and the
change to a standby line become checks.  What nobody has measured after the work is open.

References
----------
.. [1] A speed test over Gigabit Ethernet shows 941 Mbit/s at the most: 1,460 bytes of TCP payload in 1,538 on the wire
   (IEEE Std 802.3-2022, 3.1.1 and 4.4.2; RFC 9293; timestamps of RFC 7323 take 12 more).
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from datetime import datetime
from statistics import median
from typing import Literal

from ..facts.brief import GOALS, WIFI_GOALS, Goal, InternetLine
from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.lines.line import SPEEDS
from ..facts.project import Project
from ..facts.prove import AcceptanceResult
from ..footage.kept import footage_of
from ..patch.networks import MatrixCell, matrix
from ..signal.told import signal_of
from ..stack.told import Stack
from ..words import counted
from .signal_walk import WalkedSpot, spots_of

PAYLOAD_SHARE = 0.941
"""Of a port's rate that a speed test can show."""
SPEED_DAYS = 3
"""A line is judged after speeds of so many days, *default*."""

Group = Literal["goals", "lines", "networks", "closets"]
Verdict = Literal["passed", "failed", "open"]


class Check(Fact):
    """Something that was promised, and how it is tested."""

    key: str
    group: Group
    name: str
    way: str
    unit: str
    """Of its figure; empty: it is as it should be, or not."""
    wanted: float | None
    """Pass level; None: yes or no, or only noted."""
    at_least: bool
    """Whether more is better."""
    planned: float | None
    """What the plan expects."""
    by_word: bool = False
    """Somebody has to say whether it was as it should be, whatever its figure."""


class Checked(Fact):
    """A check with what it showed."""

    check: Check
    before: float | None
    """The worst before the work, or the middle one of speeds; None: nobody has measured."""
    after: float | None
    """The same after it."""
    low: float | None
    high: float | None
    results: int
    """After the work."""
    spots: int
    """Of signal walks after the work, counted among what it is judged by."""
    verdict: Verdict
    on: datetime | None
    """When the last result came."""
    text: str
    """What is wrong, and what would change it; empty: nothing."""


class SpeedHour(Fact):
    """Speeds of a line in a part of the day."""

    hours: str
    tests: int
    middle: float


class SpeedSeries(Fact):
    """Speeds of a check over time, at a desk or over Wi-Fi."""

    key: str
    over_air: bool
    at: tuple[datetime, ...]
    mbit: tuple[float, ...]
    low: float
    middle: float
    high: float
    by_hour: tuple[SpeedHour, ...]


class Acceptance(Fact):
    """Everything that was promised, as it was tested."""

    checks: tuple[Checked, ...]
    passed: int
    failed: int
    open: int
    speeds: tuple[SpeedSeries, ...]
    walked: tuple[WalkedSpot, ...]
    """Spots of signal walks that goals of Wi-Fi are about."""


def acceptance_of(project: Project, catalogue: Catalogue, stack: Stack) -> Acceptance:
    """Every check with its results, on the boxes that stand."""
    walked = tuple(
        spot for goal in project.goals if goal.kind in WIFI_GOALS for spot in spots_of(project, catalogue, goal)
    )
    checked = tuple(_checked(check, project, walked) for check in checks_of(project, catalogue, stack))
    verdicts = [one.verdict for one in checked]
    return Acceptance(
        checks=checked, passed=verdicts.count("passed"), failed=verdicts.count("failed"), open=verdicts.count("open"),
        speeds=tuple(_series(project, [one.check for one in checked])), walked=walked,
    )  # fmt: skip


def checks_of(project: Project, catalogue: Catalogue, stack: Stack) -> Iterator[Check]:
    """What a project promises, in the order of its verbs."""
    worst = _worst_dbm(project, catalogue)
    for goal in project.goals:
        yield _of_goal(project, goal, stack, worst.get(goal.id))
    for line in project.lines:
        if line.down_mbit is not None:
            yield _of_line(line)
    if any(line.standby for line in project.lines) and not all(line.standby for line in project.lines):
        yield Check(
            key="failover", group="lines", name="The standby line takes over, and gives back", unit="s", wanted=None,
            way="first line unplugged, time until a page loads, plugged in again; note what the standby carries",
            at_least=False, planned=None,
        )  # fmt: skip
    names = {network.id: network.name for network in project.networks}
    for cell in matrix(project):
        yield _of_cell(cell, names)
    for closet in stack.closets:
        if not closet.things:
            continue
        name = project.closets_by_id[closet.closet_id].name
        warmth, noise = closet.warmth, closet.noise
        yield Check(
            key=f"heat/{closet.closet_id}", group="closets", name=f"{name}: warmest spot, doors shut", unit="°C",
            way="thermometer at the top, all on, doors shut for an hour", wanted=warmth.bears_c, at_least=False,
            planned=warmth.top_c,
        )  # fmt: skip
        if noise.limit_dba is not None:
            yield Check(
                key=f"noise/{closet.closet_id}", group="closets", name=f"{name}: noise where people are", unit="dB(A)",
                way="sound level meter where people sit, all on, doors shut", wanted=noise.limit_dba, at_least=False,
                planned=noise.heard_dba,
            )  # fmt: skip


def _worst_dbm(project: Project, catalogue: Catalogue) -> dict[int, float]:
    """The weakest spot that is predicted of every goal of Wi-Fi."""
    if not any(goal.kind in WIFI_GOALS for goal in project.goals):
        return {}
    return {
        line.goal_id: round(line.worst.dbm, 1)
        for line in signal_of(project, catalogue).goals
        if line.worst is not None and line.worst.dbm is not None
    }


def _of_goal(project: Project, goal: Goal, stack: Stack, worst_dbm: float | None) -> Check:
    name, unit, usual, way = GOALS[goal.kind]
    rooms = [room.name for room in project.rooms if room.id in goal.room_ids]
    planned = worst_dbm
    if goal.kind == "footage":
        planned = next((one.least_days for one in footage_of(project).goals if one.goal_id == goal.id), None)
    elif goal.kind == "battery":
        planned = stack.power_cut.least_min
    wanted = goal.level if goal.level is not None else usual
    if goal.kind in WIFI_GOALS:
        way = f"{way}; the weakest spot counts"
    return Check(
        key=f"goal/{goal.id}", group="goals", name=f"{name}{', ' + ', '.join(rooms) if rooms else ''}",
        way=f"{way}: {goal.note}" if goal.note else way,
        unit=unit if wanted is not None else "", wanted=wanted, at_least=True, planned=planned,
        by_word=goal.kind == "calls",
    )  # fmt: skip


def _of_line(line: InternetLine) -> Check:
    port = next((speed for speed in SPEEDS if speed >= (line.down_mbit or 0)), SPEEDS[-1])
    return Check(
        key=f"line/{line.id}", group="lines", name=f"{line.name}: down as contracted", unit="Mbit/s",
        way=f"wired speed test at a desk on {SPEED_DAYS} days at least, at several hours",
        wanted=round(min(float(line.down_mbit or 0), PAYLOAD_SHARE * port), 1), at_least=True, planned=None,
    )  # fmt: skip


def _of_cell(cell: MatrixCell, names: dict[int, str]) -> Check:
    one, other = names[cell.from_id], names[cell.to_id]
    if cell.from_id == cell.to_id:
        who, there = f"{one}: its clients", "of each other"
    else:
        who, there = one, f"in {other}"
    if cell.access == "nothing":
        name, way = f"{who} may open nothing {there}", "a client there tries; nothing answers"
    elif cell.access == "all":
        name, way = f"{who} may open everything {there}", "a client there opens something; it answers"
    else:
        name = f"{who} may open {', '.join(cell.services)} {there}, and nothing else"
        way = "a client there opens each, and one other service; only those answer"
    return Check(key=f"cell/{cell.from_id}/{cell.to_id}", group="networks", name=name, way=way, unit="", wanted=None,
                 at_least=True, planned=None)  # fmt: skip


def is_speed(check: Check) -> bool:
    """Whether it is a rate, measured over days."""
    return check.unit == "Mbit/s"


def _checked(check: Check, project: Project, walked: Sequence[WalkedSpot]) -> Checked:
    every = [one for one in project.acceptance if one.key == check.key]
    after = [one for one in every if not one.before]
    figures = [one.value for one in after if one.value is not None and not one.over_air]
    first = [one.value for one in every if one.before and one.value is not None]
    spots = [spot for spot in walked if spot.key == check.key]
    figures += [spot.measured_dbm for spot in spots if not spot.before]
    first += [spot.measured_dbm for spot in spots if spot.before]
    verdict, text = _verdict(check, after, figures)
    return Checked(
        check=check, before=_figure(check, first),
        after=_figure(check, figures), low=min(figures, default=None), high=max(figures, default=None),
        results=len(after), spots=sum(not spot.before for spot in spots), verdict=verdict,
        on=max((one.at for one in after if one.at), default=None), text=text,
    )  # fmt: skip


def _figure(check: Check, figures: Sequence[float]) -> float | None:
    """What a check is judged by: the middle one of speeds, else the worst."""
    if not figures:
        return None
    if is_speed(check):
        return median(figures)
    return min(figures) if check.at_least else max(figures)


def _verdict(check: Check, after: Sequence[AcceptanceResult], figures: Sequence[float]) -> tuple[Verdict, str]:
    said = [one.met for one in after if one.met is not None]
    if said and not said[-1]:
        return "failed", _change(check)
    if check.wanted is None or not check.unit:
        done = bool(said) or (check.unit != "" and bool(figures))
        return ("passed", "") if done else ("open", "")
    figure = _figure(check, figures)
    if figure is None:
        return ("passed", "") if said else ("open", "")
    holds = figure >= check.wanted if check.at_least else figure <= check.wanted
    if not holds:
        return "failed", _change(check)
    if check.by_word and not said:
        return "open", "The levels are as asked; hold a call while walking, and say whether it held."
    if is_speed(check):
        days = len({one.at.date() for one in after if one.at and one.value is not None and not one.over_air})
        if days < SPEED_DAYS:
            return "open", f"Measured on {counted(days, 'day')}; {SPEED_DAYS} are asked."
    return "passed", ""


def _change(check: Check) -> str:
    """What would change a check that failed."""
    kind = check.key.partition("/")[0]
    if kind == "goal" and check.unit == "dBm":
        return "An access point nearer to the spot, or a channel that fewer share: Cover places them."
    return {
        "Mbit/s": "Measure at the provider’s box: if it is slow there, the line is; else port, cord or router.",
        "days": "More disk, fewer pictures a second, or recording by motion: Cover, Footage.",
        "min": "A larger or newer battery, or less on it: Stack, Power cut.",
        "px/m": "A longer lens, or a camera nearer to the spot: Cover.",
        "°C": "Fans, an open door, or less in the closet: Stack, Warmth.",
        "dB(A)": "Slower fans, or the closet elsewhere: Stack.",
        "s": "The router’s settings: how it notices that a line is gone.",
    }.get(check.unit, "The router’s rules: compare them with the settings of Patch, Networks." if kind == "cell"
          else "See what was agreed.")  # fmt: skip


PARTS_OF_DAY = ((0, 6), (6, 12), (12, 18), (18, 24))


def _series(project: Project, checks: Sequence[Check]) -> Iterator[SpeedSeries]:
    for check in checks:
        if not is_speed(check):
            continue
        for over_air in (False, True):
            some = sorted(
                (one.at, one.value) for one in project.acceptance
                if one.key == check.key and one.over_air == over_air and not one.before
                and one.at is not None and one.value is not None
            )  # fmt: skip
            if not some:
                continue
            mbit = [value for _, value in some]
            by_hour = []
            for first, last in PARTS_OF_DAY:
                part = [value for at, value in some if first <= at.hour < last]
                if part:
                    by_hour.append(SpeedHour(hours=f"{first}–{last} h", tests=len(part), middle=median(part)))
            yield SpeedSeries(
                key=check.key, over_air=over_air, at=tuple(at for at, _ in some), mbit=tuple(mbit), low=min(mbit),
                middle=median(mbit), high=max(mbit), by_hour=tuple(by_hour),
            )  # fmt: skip
