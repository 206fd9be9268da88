"""Figures of large projects (an edit and a list of thousands of drops), and of picks by one worker, two and four."""

from __future__ import annotations

import time
from collections.abc import Callable

from baugrund.api.context import Context
from baugrund.api.edits import outcome
from baugrund.core.edits import ChangeDrops, DropChanges, apply_edits
from baugrund.core.facts.project import Project, empty_project
from baugrund.core.words import counted
from baugrund.exchange.drop_list import read_list
from baugrund.exchange.tables import read_table
from baugrund.store.questions import About
from baugrund.store.states import Stored
from baugrund.tasks.questions import BestOf, name_of

from .workers import workers

SIZES = (2_000, 9_500)
LISTED = ("desk", "camera", "access point", "wall jack", "phone")
WORKERS = (1, 2, 4)
PICKS, FIRST = 40, 8
"""Projects that each want a pick, for every number of workers; the first ones warm up."""

Line = Callable[[str, str, str], None]
Median = Callable[[int, Callable[[int], object]], float]


def list_of(lines: int) -> bytes:
    """A list of so many drops as CSV: ten to a room, twenty-five rooms to a floor."""
    rows = [f"Floor {n // 250},Room {n // 10},{LISTED[n % len(LISTED)]},{10 + n % 60}" for n in range(lines)]
    return "\n".join(["Floor,Room,What,Run m", *rows]).encode()


def bring(works: Context, content: bytes) -> int:
    """A list into a new project, to the balance as the screen gets it; returns the project's number."""
    number = works.projects.create(empty_project("Large", 2026))
    listed = read_list(read_table(content), works.projects.load(number).project)
    assert listed.edit is not None
    outcome(works, works.projects.edit(number, [listed.edit], 0, "bench"), "bench")
    return number


def measure_large(works: Context, median_ms: Median, line: Line) -> None:
    """A list through the one door into an empty project, and then edits of single drops, to the balance as the screen
    gets it."""
    for size in SIZES:
        content, numbers = list_of(size), list[int]()
        took = median_ms(1, lambda _, text=content, kept=numbers: kept.append(bring(works, text)))  # type: ignore[misc]
        line(f"a list of {size:,} drops", f"{took:,.0f} ms", "asked: 3,000 ms")
        number = numbers[-1]
        drops = works.projects.load(number).project.drops

        def edit(run: int, number: int = number, ids: tuple[int, ...] = tuple(drop.id for drop in drops)) -> object:
            change = ChangeDrops(ids=(ids[7 * run],), changes=DropChanges(run_m=10.0 + run))
            return outcome(works, works.projects.edit(number, [change], run + 1, "bench"), "bench")

        line(f"an edit at {size:,} drops", f"{median_ms(3, edit):,.0f} ms", "asked: 1,000 ms")


def measure_workers(url: str, works: Context, project: Project, line: Line) -> None:
    """Picks per minute of so many workers on this machine, each of a project of its own."""
    asked = BestOf(aim="least_price")
    for count in WORKERS:
        stored = [works.projects.load(works.projects.create(_alike(project, n, count))) for n in range(PICKS)]
        with workers(url, count):
            _wait_for_workers(works, count)
            _wait(works, [_ask(works, one, asked) for one in stored[:FIRST]], asked)
            began_at = time.monotonic()
            _wait(works, [_ask(works, one, asked) for one in stored[FIRST:]], asked)
            took_s = time.monotonic() - began_at
        line(f"picks by {counted(count, 'worker')}, a minute", f"{60 * (PICKS - FIRST) / took_s:,.0f}", "")


def _alike(project: Project, number: int, more: int) -> Project:
    """The project with a run of its own length, so that no two ask for the same and none is harder."""
    run_m = 10.0 + (PICKS * more + number) / 10
    return apply_edits(project, [ChangeDrops(ids=(project.drops[0].id,), changes=DropChanges(run_m=run_m))])


def _ask(works: Context, stored: Stored, asked: BestOf) -> int:
    works.queue.ask(stored, asked)
    return stored.id


def _wait_for_workers(works: Context, count: int) -> None:
    """Until so many of them are on the queue."""
    there = 0
    while there < count:
        time.sleep(0.2)
        with works.projects.database.connection() as connection:
            row = connection.execute(
                "SELECT count(*) AS there FROM procrastinate_workers WHERE last_heartbeat > now() - interval '5 s'"
            ).fetchone()
            there = int(row["there"]) if row else 0


def _wait(works: Context, numbers: list[int], asked: BestOf) -> None:
    waiting = set(numbers)
    while waiting:
        time.sleep(0.05)
        for number in tuple(waiting):
            found = works.queue.questions.find(About(project=number), name_of(asked))
            if found and found.state == "done":
                waiting.discard(number)
