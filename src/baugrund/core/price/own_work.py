"""The owner's own work, with the tools that it takes, beside having it done.

A tool is needed on the days of the owner's hours of its stages: their mean by the hours of a working day, rounded up
(the owner has no way to go).  It is there, or it is bought or hired for these days, whichever costs less; bought where
both cost the same.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from typing import Literal

from ..facts.fact import Fact
from ..facts.labour import STAGE_NAMES, Stage
from ..facts.price import OwnTool
from ..facts.project import Project
from ..standards.tools import TOOLS, Tool
from .labour import Labour, WorkLine, rate_minor, slowness


class ToolLine(Fact):
    """A tool of the owner's work.  Money in minor units."""

    name: str
    days: int
    buy_minor: int
    hire_minor: int | None
    """Of a day; None: nobody hires it."""
    how: Literal["there", "bought", "hired"]
    cost_minor: int


class OwnSide(Fact):
    """Work of the owner: mean hours, what they are reckoned at, and tools."""

    hours: float
    work_minor: int
    tools: tuple[ToolLine, ...]
    tools_minor: int
    total_minor: int


class StageChoice(Fact):
    """A stage that the installer does, and what it would be if the owner did it."""

    stage: Stage
    name: str
    tasks: tuple[str, ...]
    done_minor: int
    """What it costs to have it done."""
    own_hours: float
    own_minor: int
    more_tools_minor: int
    """Tools that it takes beside those of what the owner does already."""
    saved_minor: int
    """What the owner saves; negative: it costs more."""


class OwnWork(Fact):
    """What the owner does, and what else could be."""

    given: OwnSide
    """What the owner does now: its tools are part of what is paid once."""
    all: OwnSide
    """The same with all that the installer does now."""
    done_minor: int
    """What it costs to have the installer do what the installer does now."""
    stages: tuple[StageChoice, ...]


def own_work(project: Project, labour: Labour) -> OwnWork:
    """The owner's work as it is given, and beside it the tasks of the installer."""
    theirs = [line for line in labour.lines if line.who == "installer" and line.key.startswith("task/")]
    mine = [line for line in labour.lines if line.who == "owner"]
    given = _hours(mine)
    side = _side(project, given, sum(line.cost_minor for line in mine))
    slower, rate = slowness(project, "owner"), rate_minor(project, "owner")
    stages, whole = [], dict(given)
    for stage in STAGE_NAMES:
        some = [line for line in theirs if line.stage == stage]
        if not some:
            continue
        own_h = slower * sum(line.hours.mean_h for line in some)
        own = sum(round(slower * line.hours.mean_h * rate) for line in some)
        done, whole[stage] = sum(line.cost_minor for line in some), given.get(stage, 0.0) + own_h
        tools = _side(project, {**given, stage: whole[stage]}, 0).tools_minor - side.tools_minor
        stages.append(StageChoice(
            stage=stage, name=STAGE_NAMES[stage], tasks=tuple(line.task for line in some if line.task), done_minor=done,
            own_hours=round(own_h, 2), own_minor=own, more_tools_minor=tools, saved_minor=done - own - tools,
        ))  # fmt: skip
    return OwnWork(
        given=side, all=_side(project, whole, side.work_minor + sum(one.own_minor for one in stages)),
        done_minor=sum(one.done_minor for one in stages), stages=tuple(stages),
    )  # fmt: skip


def _hours(lines: Iterable[WorkLine]) -> dict[Stage, float]:
    """Mean hours by stage [h]."""
    found: dict[Stage, float] = {}
    for line in lines:
        found[line.stage] = found.get(line.stage, 0.0) + line.hours.mean_h
    return found


def _side(project: Project, hours: Mapping[Stage, float], work_minor: int) -> OwnSide:
    said, day_h = {row.tool: row for row in project.own_tools}, project.settings.day_h
    tools = tuple(_tool(tool, said.get(tool.name), days) for tool in TOOLS if (days := _days(tool, hours, day_h)))
    cost = sum(one.cost_minor for one in tools)
    return OwnSide(hours=round(sum(hours.values()), 2), work_minor=work_minor, tools=tools, tools_minor=cost,
                   total_minor=work_minor + cost)  # fmt: skip


def _days(tool: Tool, by_stage: Mapping[Stage, float], day_h: float) -> int:
    return math.ceil(sum(hours for stage, hours in by_stage.items() if stage in tool.stages) / day_h - 1e-9)


def _tool(tool: Tool, said: OwnTool | None, days: int) -> ToolLine:
    buy = tool.buy_minor if said is None or said.buy_minor is None else said.buy_minor
    hire = tool.hire_minor if said is None or said.hire_minor is None else said.hire_minor
    how: Literal["there", "bought", "hired"] = "bought"
    if said and said.there:
        how = "there"
    elif hire is not None and hire * days < buy:
        how = "hired"
    cost = {"there": 0, "bought": buy, "hired": (hire or 0) * days}[how]
    return ToolLine(name=tool.name, days=days, buy_minor=buy, hire_minor=hire, how=how, cost_minor=cost)
