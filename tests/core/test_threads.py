"""Values that are remembered between requests are the same for every thread that asks at once."""

from __future__ import annotations

import random
import sys
import threading
from collections.abc import Callable, Iterator
from typing import Any

import pytest

from baugrund.core.cabling import links, overview, pulls
from baugrund.core.facts.project import Project
from baugrund.core.places import layout
from baugrund.core.plan import plan
from baugrund.core.reach import router as routers
from baugrund.core.reach import runs
from baugrund.core.walk import quick_line
from baugrund.demo import CATALOGUE, PROJECTS
from baugrund.exchange.catalogue_file import read_catalogue
from baugrund.exchange.project_file import read_project

THREADS = 4


@pytest.fixture(autouse=True)
def switching_often() -> Iterator[None]:
    before = sys.getswitchinterval()
    sys.setswitchinterval(1e-5)
    yield
    sys.setswitchinterval(before)


def moved(project: Project, seed: int) -> Project:
    """The project with its drops at other places; it shares all drawn paths, and what is remembered of them."""
    rng = random.Random(seed)
    drops = tuple(
        drop.model_copy(update={"x_m": round(drop.x_m + 2 * rng.random() - 1, 3)}) if drop.x_m is not None else drop
        for drop in project.drops
    )
    return project.changed(drops=drops)


def forget() -> None:
    """Nothing is remembered of any project."""
    for module in (layout, links, overview, pulls, runs, quick_line):
        for value in vars(module).values():
            if hasattr(value, "cache_clear"):
                value.cache_clear()


def at_once(asked: list[Callable[[], Any]]) -> list[Any]:
    """What each comes to when all are asked by a thread of their own at the same moment."""
    barrier = threading.Barrier(len(asked))
    found: list[Any] = [None] * len(asked)

    def one(number: int) -> None:
        barrier.wait()
        try:
            found[number] = asked[number]()
        except Exception as error:
            found[number] = error

    threads = [threading.Thread(target=one, args=(number,)) for number in range(len(asked))]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return found


def lengths(project: Project) -> dict[int, float]:
    return {drop: run.length_m for drop, run in runs.runs(project).items()}


@pytest.mark.parametrize("file", PROJECTS, ids=lambda file: file.stem)
def test_runs_of_one_building_have_their_lengths_whoever_else_asks(file: Any) -> None:
    project = read_project(file.read_bytes())
    alone = []
    for seed in range(THREADS):
        forget()
        alone.append(lengths(moved(project, seed // 2)))
    for _ in range(10):
        forget()
        runs.router(project)
        asked = [moved(project, seed // 2) for seed in range(THREADS)]
        assert at_once([lambda one=one: lengths(one) for one in asked]) == alone  # type: ignore[misc]


def test_a_memory_that_is_emptied_meanwhile_loses_nothing(monkeypatch: pytest.MonkeyPatch) -> None:
    project = read_project(PROJECTS[0].read_bytes())
    alone = [lengths(moved(project, seed)) for seed in range(THREADS)]
    monkeypatch.setattr(routers, "REMEMBERED", 3)
    monkeypatch.setattr(routers, "TREES", 0)
    monkeypatch.setattr(runs, "REMEMBERED", 3)
    for _ in range(10):
        asked = [moved(project, seed) for seed in range(THREADS)]
        assert at_once([lambda one=one: lengths(one) for one in asked]) == alone  # type: ignore[misc]


def test_everything_that_is_told_of_a_project_is_the_same_for_threads_that_share_it() -> None:
    """All values that are kept beside a project, and all that are kept between projects, by way of the whole plan."""
    catalogue = read_catalogue(CATALOGUE)
    project = read_project(PROJECTS[0].read_bytes())
    alone = plan(project.changed(), catalogue).model_dump_json()
    forget()
    shared = project.changed()
    told = at_once([lambda: plan(shared, catalogue).model_dump_json()] * 2)
    assert told == [alone] * 2
