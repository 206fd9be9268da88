"""Figures of large projects: lists of any size, edits in them, and picks by several workers."""

import gc

import pytest

from baugrund.api.context import Context
from baugrund.api.notices import Notices
from baugrund.core.facts.project import empty_project
from baugrund.exchange.drop_list import read_list
from baugrund.exchange.tables import read_table
from baugrund.launch import bench_large
from baugrund.launch.bench import median_ms
from baugrund.launch.bench_large import bring, list_of, measure_large, measure_workers
from baugrund.launch.collector import THRESHOLDS, collect_seldom
from baugrund.store.catalogues import Catalogues
from baugrund.store.meanings import RememberedMeanings
from baugrund.store.pictures import Pictures
from baugrund.store.projects import Projects
from baugrund.tasks.queue import Queue


@pytest.fixture
def works(database, database_url, catalogue):
    return Context(
        Projects(database), Catalogues(database, catalogue), Notices(database_url), Pictures(database),
        Queue(database), RememberedMeanings(database),
    )  # fmt: skip


@pytest.mark.parametrize("lines", [1, 10, 251])
def test_a_list_is_read_whole_and_has_ten_drops_to_a_room(lines):
    listed = read_list(read_table(list_of(lines)), empty_project("P", 2026))
    assert sum(new.count for new in listed.edit.drops) == lines
    rooms = {new.room for new in listed.edit.drops}
    assert len(rooms) == -(-lines // 10)


def test_a_list_that_is_brought_stands_in_the_database_with_numbers_of_its_own(works):
    number = bring(works, list_of(60))
    project = works.projects.load(number).project
    assert len(project.drops) == 60 and len(project.rooms) == 6
    rows = [row for rows in (project.drops, project.rooms, project.floors, project.buildings) for row in rows]
    numbers = [row.id for row in (*rows, *project.closets)]
    assert len(set(numbers)) == len(numbers) and max(numbers) < project.next_id
    assert [drop.id for drop in project.drops] == sorted(drop.id for drop in project.drops)


def test_figures_of_large_projects_are_told_with_what_is_asked(works, monkeypatch):
    monkeypatch.setattr(bench_large, "SIZES", (30, 60))
    lines = []
    measure_large(works, median_ms, lambda *line: lines.append(line))
    assert [what for what, _, _ in lines] == [
        "a list of 30 drops", "an edit at 30 drops", "a list of 60 drops", "an edit at 60 drops",
    ]  # fmt: skip
    assert [asked for _, _, asked in lines[:2]] == ["asked: 3,000 ms", "asked: 1,000 ms"]


def test_picks_a_minute_are_those_of_so_many_workers(works, database_url, row_house, monkeypatch):
    for name, value in {"WORKERS": (1, 2), "PICKS": 4, "FIRST": 2}.items():
        monkeypatch.setattr(bench_large, name, value)
    lines = []
    measure_workers(database_url, works, row_house, lambda *line: lines.append(line))
    assert [what for what, _, _ in lines] == ["picks by 1 worker, a minute", "picks by 2 workers, a minute"]
    assert all(float(figure.replace(",", "")) > 0 for _, figure, _ in lines)


def test_the_collector_looks_seldom_and_leaves_alone_what_is_there():
    before, frozen = gc.get_threshold(), gc.get_freeze_count()
    try:
        collect_seldom()
        assert gc.get_threshold() == THRESHOLDS and gc.get_freeze_count() > frozen
    finally:
        gc.unfreeze()
        gc.set_threshold(*before)
