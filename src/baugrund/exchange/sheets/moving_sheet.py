"""The steps from the old network to the new one, to be ticked on paper."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date
from html import escape
from pathlib import Path

from baugrund.core.facts.project import Project
from baugrund.core.price.moving import Down, Moving

from .pages import sentences, table, tick, write_pdf


def write_moving(project: Project, moving: Moving, fonts: Path | None, made: date) -> bytes:
    """What runs and for how long it may be down, then every step with its way back, phase by phase."""
    named = {one.key: one.name for one in moving.used}
    body: list[str] = []
    if not moving.steps:
        body.append(sentences(["Nothing runs here today, so there is nothing to move over."]))
    if moving.used:
        body += ["<h2>What runs today</h2>", table(
            ["", "Down at most", "Planned at once", "In all", "When", "Carried by"],
            [[escape(one.name) + (", must stay up" if one.must_stay else ""), _minutes(one.most_min),
              _minutes(one.longest_min), _minutes(one.total_min), escape(one.when), escape(one.meanwhile)]
             for one in moving.used], right=frozenset({1, 2, 3}),
        )]  # fmt: skip
    numbers = {step.key: number for number, step in enumerate(moving.steps, 1)}
    for phase in moving.by_phase:
        body += [f"<h2>{escape(phase.phase) or 'Steps'}</h2>", table(
            ["", "", "Step", "Interrupts", "Way back"],
            [[tick(False), str(numbers[step.key]), f"<b>{escape(step.name)}</b><br>{escape(step.told)}",
              "<br>".join(_downs(step.down, named)), escape(step.way_back)]
             for step in moving.steps if step.phase == phase.phase], right=frozenset({1}),
        )]  # fmt: skip
    return write_pdf(f"{project.name}: moving over", f"{project.site} ·", body, fonts, made)


def _downs(downs: tuple[Down, ...], named: dict[str, str]) -> Iterator[str]:
    for down in downs:
        times = f"{down.times} × " if down.times > 1 else ""
        yield f"{escape(named[down.key])} {times}{_minutes(down.each_min)}"


def _minutes(minutes: float | None) -> str:
    return "" if minutes is None else f"{minutes:g} min"
