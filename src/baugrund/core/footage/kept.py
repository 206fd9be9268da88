"""What every camera leaves behind, what each recorder keeps of it, and for how long.

Days are those that the cameras of a recorder are wanted for, each its own; a recorder's days are the share of them
that its volume holds, so that every camera is short by the same share.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

from ..demand.growth import reserves
from ..demand.traffic import first_recorder, keeper
from ..facts.brief import Goal
from ..facts.drop import Drop
from ..facts.drop_kinds import DROP_KINDS
from ..facts.fact import Fact
from ..facts.kept import kept
from ..facts.project import Project
from ..standards.disks import DAYS_DEFAULT, FILLED_SHARE, Raid, fits_level, stored_tb, usable_tb


class CameraKept(Fact):
    """What a camera leaves behind."""

    drop_id: int
    mbit: float
    """Its stream while it is recorded."""
    duty: float
    """Share of the time that is recorded: the mean of day and night."""
    days: float
    """Wanted."""
    days_from: str
    """Where the days are from: typed, a goal, or usual."""
    tb: float
    """What so many days come to."""
    recorder_id: int | None
    """None: nothing here keeps it."""
    by_service: bool


class RecorderKept(Fact):
    """What a recorder or NAS keeps: today, and with the cameras planned by the horizon."""

    drop_id: int
    camera_ids: tuple[int, ...]
    planned: int
    """Cameras that are planned by the horizon, which it keeps too."""
    mbit: float
    mbit_then: float
    tb: float
    """What the days wanted come to."""
    tb_then: float
    disks: int | None
    disk_tb: float | None
    raid: Raid
    fits: bool
    """Whether its level takes so many disks; false where nobody has said which stand in it."""
    holds_tb: float | None
    """What is filled of its volume; None: nobody has said which disks stand in it."""
    share: float | None
    """Share of the days wanted that it holds today, 1 being all."""
    share_then: float | None
    least_days: float | None
    """Days that the camera is kept for that is kept shortest, by the horizon."""


class FootageGoal(Fact):
    """A goal of footage kept: met or not; None: not known."""

    goal_id: int
    days: float
    met: bool | None
    least_days: float | None
    text: str


class Footage(Fact):
    """All that is kept."""

    cameras: tuple[CameraKept, ...]
    recorders: tuple[RecorderKept, ...]
    service_mbit: float
    """What goes to an outside service, over the line's upstream."""
    goals: tuple[FootageGoal, ...]


@dataclass(frozen=True)
class Stream:
    """A camera to be recorded: its full rate [Mbit/s] and what its days come to [TB]."""

    drop_id: int | None
    """None: it is planned."""
    mbit: float
    tb: float


@kept
def footage_of(project: Project) -> Footage:
    """What is kept of a project's cameras."""
    cameras = tuple(_camera(project, drop) for drop in project.drops if _films(project, drop))
    recorders = tuple(_recorder(project, number, cameras) for number in _keepers(cameras))
    return Footage(
        cameras=cameras,
        recorders=recorders,
        service_mbit=round(sum(one.mbit for one in cameras if one.by_service), 3),
        goals=tuple(_goal(project, goal, cameras, recorders) for goal in project.goals if goal.kind == "footage"),
    )


def _films(project: Project, drop: Drop) -> bool:
    return drop.kind == "camera" and not drop.power_only and project.is_counted(drop)


def _camera(project: Project, drop: Drop) -> CameraKept:
    days, days_from = _days(project, drop)
    duty = (drop.record_day_percent + drop.record_night_percent) / 200
    return CameraKept(
        drop_id=drop.id, mbit=round(drop.busy_mbit, 4), duty=duty, days=days, days_from=days_from,
        tb=stored_tb(drop.busy_mbit, duty, days), recorder_id=keeper(project, drop), by_service=drop.by_service,
    )  # fmt: skip


def _days(project: Project, drop: Drop) -> tuple[float, str]:
    """Days that a camera is kept for: as typed, else the most that a goal asks for its room, else the usual."""
    if drop.keep_days is not None:
        return drop.keep_days, "typed"
    asked = [
        DAYS_DEFAULT if goal.level is None else goal.level
        for goal in project.goals
        if goal.kind == "footage" and (not goal.room_ids or drop.room_id in goal.room_ids)
    ]
    return (max(asked), "goal") if asked else (DAYS_DEFAULT, "usual")


def _keepers(cameras: Sequence[CameraKept]) -> tuple[int, ...]:
    return tuple(dict.fromkeys(one.recorder_id for one in cameras if one.recorder_id is not None))


def planned_streams(project: Project) -> tuple[Stream, ...]:
    """The cameras that are planned by the horizon: each usual, recorded all the time, for the most days wanted."""
    count = Counter[str]()
    for kinds in reserves(project, project.settings.horizon_years).values():
        count.update(kinds)
    asked = [_days(project, drop)[0] for drop in project.drops if _films(project, drop)]
    days = max(asked, default=DAYS_DEFAULT)
    mbit = DROP_KINDS["camera"].traffic_mbit
    return tuple(Stream(None, mbit, stored_tb(mbit, 1.0, days)) for _ in range(count["camera"]))


def streams(project: Project) -> tuple[Stream, ...]:
    """Every camera that is recorded here, and those planned."""
    mine = tuple(Stream(one.drop_id, one.mbit, one.tb) for one in footage_of(project).cameras if not one.by_service)
    return mine + planned_streams(project)


def _recorder(project: Project, number: int, cameras: Sequence[CameraKept]) -> RecorderKept:
    drop = project.drops_by_id[number]
    mine = [one for one in cameras if one.recorder_id == number]
    # planned cameras go to the recorder that keeps where nobody says otherwise
    planned = planned_streams(project) if number == (first_recorder(project) or number) else ()
    mbit, tb = sum(one.mbit for one in mine), sum(one.tb for one in mine)
    then = mbit + sum(one.mbit for one in planned), tb + sum(one.tb for one in planned)
    fits, holds = False, None
    if drop.disks is not None and drop.disk_tb is not None:
        fits = fits_level(drop.raid, drop.disks)
        holds = FILLED_SHARE * usable_tb(drop.raid, drop.disks, drop.disk_tb)
    share_then = None if holds is None or not then[1] else holds / then[1]
    return RecorderKept(
        drop_id=number, camera_ids=tuple(one.drop_id for one in mine), planned=len(planned), mbit=round(mbit, 3),
        mbit_then=round(then[0], 3), tb=tb, tb_then=then[1], disks=drop.disks, disk_tb=drop.disk_tb, raid=drop.raid,
        fits=fits, holds_tb=holds, share=None if holds is None or not tb else holds / tb, share_then=share_then,
        least_days=None if share_then is None else min(one.days for one in mine) * share_then,
    )  # fmt: skip


def _goal(
    project: Project, goal: Goal, cameras: Sequence[CameraKept], recorders: Sequence[RecorderKept]
) -> FootageGoal:
    """Whether every camera that a goal asks for is kept for so many days, by the horizon."""
    days = DAYS_DEFAULT if goal.level is None else goal.level
    by_id = {one.drop_id: one for one in recorders}
    asked = [
        one
        for one in cameras
        if not one.by_service and (not goal.room_ids or project.drops_by_id[one.drop_id].room_id in goal.room_ids)
    ]
    if not asked:
        return FootageGoal(goal_id=goal.id, days=days, met=None, least_days=None, text="no camera is recorded here")
    shares = [by_id[one.recorder_id].share_then if one.recorder_id is not None else 0.0 for one in asked]
    if any(one.recorder_id is None for one in asked):
        return FootageGoal(goal_id=goal.id, days=days, met=False, least_days=0.0, text="no recorder keeps some cameras")
    if any(share is None for share in shares):
        return FootageGoal(
            goal_id=goal.id,
            days=days,
            met=None,
            least_days=None,
            text="nobody has said which disks stand in a recorder",
        )
    least = min(one.days * (share or 0.0) for one, share in zip(asked, shares, strict=True))
    met = least >= days * (1 - 1e-9)
    text = f"the oldest recording is {least:.1f} days old by the horizon; {days:g} are wanted"
    return FootageGoal(goal_id=goal.id, days=days, met=met, least_days=round(least, 2), text=text)
