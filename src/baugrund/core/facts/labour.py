"""Labour: hours of one person a task; a project sets its own.

All are *defaults* of ours, from practice and not of a standard.  Each is the usual figure of three: the low one is 0.7
and the high one 1.6 times that, the ends of a PERT distribution whose mode is the usual figure, so that its mean is
1.05 times the usual [1]_.

References
----------
.. [1] D. G. Malcolm et al., *Application of a technique for research and development program evaluation*, Operations
   Research 7, 1959: (low + 4·usual + high) / 6.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from graphlib import CycleError, TopologicalSorter
from typing import Annotated, Literal, get_args

from pydantic import Field

from .fact import Fact, Id

Task = Literal[
    "fit_way", "dig_duct", "hole_stud", "hole_masonry", "hole_outer", "hole_floor", "fish_wall", "set_up_pull",
    "pull_open", "pull_conduit", "pull_loft", "pull_finished", "pull_further", "pull_further_finished", "fibre_end",
    "terminate", "punch_down", "test", "plate", "plate_finished", "access_point", "camera", "camera_eaves",
    "door_station", "rack", "box", "set_up_router", "set_up_switch", "set_up_access_point", "set_up_camera",
    "survey", "bench", "take_down", "move_plate", "close_hole", "paint_hole", "patch_cord", "trace", "write_down",
    "clear_away",
]  # fmt: skip
Pull = Literal["open", "conduit", "loft", "finished"]
"""How cable goes through a way: openly, through a duct that is there, under a roof, or fished."""

USUAL: dict[Task, tuple[str, float]] = {
    "fit_way": ("fit conduit, trunking or tray, a metre", 0.12),
    "dig_duct": ("dig and lay a duct, a metre", 0.8),
    "hole_stud": ("hole in a stud wall", 0.15),
    "hole_masonry": ("hole in masonry", 0.4),
    "hole_outer": ("hole in an outer wall", 0.75),
    "hole_floor": ("hole through a floor, fire-stopped", 0.75),
    "fish_wall": ("open a finished wall's end and fish it", 0.75),
    "set_up_pull": ("set up one pull", 0.3),
    "pull_open": ("pull the first cable openly, a metre", 0.02),
    "pull_conduit": ("pull the first cable through a duct or conduit that is there, a metre", 0.03),
    "pull_loft": ("pull the first cable through a loft, a metre", 0.04),
    "pull_finished": ("pull the first cable through what is finished, a metre", 0.10),
    "pull_further": ("each further cable of the same pull, a metre", 0.005),
    "pull_further_finished": ("each further cable through what is finished, a metre", 0.02),
    "fibre_end": ("splice or fit a fibre end", 0.4),
    "terminate": ("terminate a jack or plug", 0.15),
    "punch_down": ("punch down a panel position", 0.08),
    "test": ("label and test a run", 0.15),
    "plate": ("wall plate with its box", 0.2),
    "plate_finished": ("wall plate with its box in a finished wall", 0.5),
    "access_point": ("mount an access point", 0.6),
    "camera": ("mount a camera on a wall", 1.0),
    "camera_eaves": ("mount a camera at the eaves from a ladder", 1.5),
    "door_station": ("mount a door station", 1.5),
    "rack": ("hang a rack on a wall", 2.0),
    "box": ("put a box into a rack", 0.3),
    "set_up_router": ("set up the router", 1.5),
    "set_up_switch": ("set up a switch", 0.5),
    "set_up_access_point": ("set up an access point", 0.2),
    "set_up_camera": ("set up a camera", 0.3),
    "survey": ("look at a room and measure it", 0.1),
    "bench": ("switch a device on at the bench, name it, bring it up to date", 0.1),
    "take_down": ("take down a thing that goes", 0.3),
    "move_plate": ("move a plate", 0.5),
    "close_hole": ("close a hole in a finished wall", 0.2),
    "paint_hole": ("paint over a closed hole", 0.15),
    "patch_cord": ("plug a cord and dress it", 0.03),
    "trace": ("trace a cable that is there", 0.2),
    "write_down": ("write down a run as built", 0.03),
    "clear_away": ("clear a room away", 0.1),
}
"""Name and usual hours of every task."""
TASKS: tuple[Task, ...] = get_args(Task)
Stage = Literal[
    "survey", "bench", "take_down", "ways", "pull", "terminate", "punch_down", "mount", "close", "stack", "patch",
    "set_up", "test", "write_down", "clear_away", "other",
]  # fmt: skip
STAGES: dict[Task, Stage] = {
    "fit_way": "ways", "dig_duct": "ways", "hole_stud": "ways", "hole_masonry": "ways", "hole_outer": "ways",
    "hole_floor": "ways", "fish_wall": "pull", "set_up_pull": "pull", "pull_open": "pull", "pull_conduit": "pull",
    "pull_loft": "pull", "pull_finished": "pull", "pull_further": "pull", "pull_further_finished": "pull",
    "fibre_end": "terminate", "terminate": "terminate", "punch_down": "punch_down", "test": "test", "plate": "mount",
    "plate_finished": "mount", "access_point": "mount", "camera": "mount", "camera_eaves": "mount",
    "door_station": "mount", "rack": "stack", "box": "stack", "set_up_router": "set_up", "set_up_switch": "set_up",
    "set_up_access_point": "set_up", "set_up_camera": "set_up", "survey": "survey", "bench": "bench",
    "take_down": "take_down", "move_plate": "mount", "close_hole": "close", "paint_hole": "close",
    "patch_cord": "patch", "trace": "test", "write_down": "write_down", "clear_away": "clear_away",
}  # fmt: skip
"""The stage of the job that a task belongs to."""
STAGE_NAMES: dict[Stage, str] = {
    "survey": "Survey", "bench": "Bench", "take_down": "Taking down", "ways": "Ways for cable", "pull": "Pulling",
    "terminate": "Terminating", "punch_down": "Punching down", "mount": "Mounting", "close": "Closing and painting",
    "stack": "Closets", "patch": "Patching", "set_up": "Setting up", "test": "Testing and tracing",
    "write_down": "Writing down", "clear_away": "Clearing away", "other": "Other work",
}  # fmt: skip
Scope = Literal["drops", "closet", "room", "site"]
USUAL_ORDER: tuple[tuple[Stage, Stage, Scope], ...] = (
    ("survey", "ways", "site"), ("survey", "pull", "drops"), ("survey", "take_down", "site"), ("ways", "pull", "site"),
    ("pull", "terminate", "drops"), ("pull", "punch_down", "drops"), ("pull", "close", "drops"),
    ("pull", "mount", "drops"), ("bench", "mount", "drops"), ("bench", "stack", "site"), ("terminate", "test", "drops"),
    ("punch_down", "test", "drops"), ("test", "patch", "drops"), ("stack", "patch", "closet"),
    ("patch", "set_up", "closet"), ("mount", "set_up", "drops"), ("test", "write_down", "drops"),
    ("mount", "clear_away", "room"), ("close", "clear_away", "room"), ("terminate", "clear_away", "room"),
)  # fmt: skip
"""A stage that comes before another, where both touch the same drops, closet or room, or anywhere on the site."""
PULLING: tuple[Task, ...] = TASKS[: TASKS.index("rack")]
"""Tasks of runs and ways: Reach counts their hours."""
LOW_TIMES, HIGH_TIMES = 0.7, 1.6
"""Low and high figure over the usual one."""


class TaskRate(Fact):
    """What a task takes in this project, in place of the usual hours."""

    id: Id
    task: Task
    hours: Annotated[float, Field(ge=0, le=100)]


def hours_by_task(own: Iterable[TaskRate], difficulty_percent: float = 100.0) -> Mapping[Task, float]:
    """Hours of every task: the project's own, else the usual ones times the difficulty of the site [h]."""
    factor = difficulty_percent / 100
    return {task: hours * factor for task, (_, hours) in USUAL.items()} | {rate.task: rate.hours for rate in own}


def further_task(pull: Pull) -> Task:
    """The task of a further cable of a pull."""
    return "pull_further_finished" if pull == "finished" else "pull_further"


def first_task(pull: Pull) -> Task:
    """The task of the first cable of a pull."""
    tasks: dict[Pull, Task] = {
        "open": "pull_open", "conduit": "pull_conduit", "loft": "pull_loft", "finished": "pull_finished",
    }  # fmt: skip
    return tasks[pull]


def circle_in(orders: Iterable[tuple[Stage, Stage]]) -> tuple[Stage, ...]:
    """Stages that come before one another in a circle, by the usual order and these; empty: there is none."""
    graph: dict[Stage, set[Stage]] = {}
    for first, then in (*((first, then) for first, then, _ in USUAL_ORDER), *orders):
        graph.setdefault(then, set()).add(first)
    try:
        TopologicalSorter(graph).prepare()
    except CycleError as error:
        found: list[Stage] = error.args[1]
        return tuple(found)
    return ()
