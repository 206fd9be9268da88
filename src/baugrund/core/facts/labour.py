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
from typing import Annotated, Literal, get_args

from pydantic import Field

from .fact import Fact, Id

Task = Literal[
    "fit_way", "dig_duct", "hole_stud", "hole_masonry", "hole_outer", "hole_floor", "fish_wall", "set_up_pull",
    "pull_open", "pull_conduit", "pull_loft", "pull_finished", "pull_further", "pull_further_finished", "fibre_end",
    "terminate", "punch_down", "test", "plate", "plate_finished", "access_point", "camera", "camera_eaves",
    "door_station", "rack", "box", "set_up_router", "set_up_switch", "set_up_access_point", "set_up_camera",
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
}
"""Name and usual hours of every task."""
TASKS: tuple[Task, ...] = get_args(Task)
UNCOUNTED: tuple[Task, ...] = (
    "rack", "box", "set_up_router", "set_up_switch", "set_up_access_point", "set_up_camera",
)  # fmt: skip
"""Tasks of the table that no verb counts yet; no screen offers their hours."""
LOW_TIMES, HIGH_TIMES = 0.7, 1.6
"""Low and high figure over the usual one."""


class TaskRate(Fact):
    """What a task takes in this project, in place of the usual hours."""

    id: Id
    task: Task
    hours: Annotated[float, Field(ge=0, le=100)]


def hours_by_task(own: Iterable[TaskRate]) -> Mapping[Task, float]:
    """Hours of every task: the project's own, else the usual ones [h]."""
    return {task: hours for task, (_, hours) in USUAL.items()} | {rate.task: rate.hours for rate in own}


def further_task(pull: Pull) -> Task:
    """The task of a further cable of a pull."""
    return "pull_further_finished" if pull == "finished" else "pull_further"


def first_task(pull: Pull) -> Task:
    """The task of the first cable of a pull."""
    tasks: dict[Pull, Task] = {
        "open": "pull_open", "conduit": "pull_conduit", "loft": "pull_loft", "finished": "pull_finished",
    }  # fmt: skip
    return tasks[pull]
