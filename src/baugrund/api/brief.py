"""Brief: what a goal can be, and how it will be tested."""

from __future__ import annotations

from fastapi import APIRouter

from baugrund.core.facts.brief import GOALS
from baugrund.core.facts.fact import Fact

from .uploads import JsonRoute

router = APIRouter(prefix="/api", tags=["brief"], route_class=JsonRoute)


class GoalLine(Fact):
    """A kind of goal: its unit, usual pass level, and the way of testing."""

    key: str
    name: str
    unit: str
    level: float | None
    test: str


@router.get("/goal-kinds")
def goal_kinds() -> list[GoalLine]:
    return [
        GoalLine(key=key, name=name, unit=unit, level=level, test=test)
        for key, (name, unit, level, test) in GOALS.items()
    ]
