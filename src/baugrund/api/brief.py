"""Brief: what a goal can be, and how it will be tested."""

from __future__ import annotations

from fastapi import APIRouter

from baugrund.core.facts.brief import AREA_SHARE_PERCENT, GOALS, WIFI_GOALS
from baugrund.core.facts.fact import Fact

from .uploads import JsonRoute

router = APIRouter(prefix="/api", tags=["brief"], route_class=JsonRoute)


class GoalKindLine(Fact):
    """A kind of goal: its unit, usual pass level, and the way of testing."""

    key: str
    name: str
    unit: str
    level: float | None
    share_percent: float | None
    """Share of the area that is usually wanted; None: it is no goal of Wi-Fi."""
    test: str


@router.get("/goal-kinds")
def goal_kinds() -> list[GoalKindLine]:
    return [
        GoalKindLine(
            key=key,
            name=name,
            unit=unit,
            level=level,
            test=test,
            share_percent=AREA_SHARE_PERCENT if key in WIFI_GOALS else None,
        )
        for key, (name, unit, level, test) in GOALS.items()
    ]
