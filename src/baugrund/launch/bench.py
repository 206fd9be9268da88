"""Figures of speed: medians in one run on this machine."""

from __future__ import annotations

import gzip
import os
import re
import statistics
import time
import uuid
from collections.abc import Callable
from contextlib import nullcontext
from pathlib import Path
from typing import Any

import psycopg
from pydantic import JsonValue

from baugrund.api.context import Context
from baugrund.api.edits import outcome
from baugrund.api.notices import Notices
from baugrund.core.answers.picker import AIMS, pick
from baugrund.core.cabling.packing import pack
from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    AddRooms,
    ChangeDrops,
    ChangeEntry,
    DropChanges,
    NewRoom,
    Placed,
    PlaceDrops,
    SetTally,
    apply_edits,
)
from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.facts.project import Project, empty_project
from baugrund.core.facts.settings import Aim
from baugrund.core.places.layout import layout
from baugrund.core.reach.runs import router
from baugrund.core.reach.runs import runs as runs_of
from baugrund.core.siting.answers import siting
from baugrund.demo import CATALOGUE, PROJECTS
from baugrund.exchange.catalogue_file import read_catalogue
from baugrund.exchange.project_file import read_project
from baugrund.store.catalogues import Catalogues
from baugrund.store.database import open_database
from baugrund.store.meanings import RememberedMeanings
from baugrund.store.pictures import Pictures
from baugrund.store.projects import Projects
from baugrund.tasks.queue import Queue

from .bench_large import bring, list_of, measure_large, measure_workers
from .bench_patch import measure_patch
from .bench_picks import measure_picks
from .bench_price import measure_price
from .bench_prove import measure_prove
from .bench_sight import measure_sight
from .bench_signal import measure_signal
from .bench_stack import measure_stack
from .collector import collect_seldom
from .postgres import running

HUNDRED = 100
THOUSAND = 1_000
CASES = 20
"""Seeded sites of 40 drops; of those that are larger there are fewer."""


def median_ms(runs: int, work: Callable[[int], object]) -> float:
    """Median time of a piece of work [ms]; the first run warms up and does not count."""
    times = []
    for run in range(runs + 1):
        start = time.perf_counter()
        work(run)
        times.append((time.perf_counter() - start) * 1000)
    return statistics.median(times[1:])


def measure(root: Path, runs: int) -> None:
    """Print every figure with what is asked of it."""
    collect_seldom()
    catalogue = read_catalogue(CATALOGUE)
    dye_works, row_house = (read_project(file.read_bytes()) for file in PROJECTS[:2])
    print(f"medians of {runs} runs, {os.cpu_count()} cores, {len(catalogue.models)} models\n")
    _picks("row house", row_house, catalogue, runs, asked_ms=200)
    _picks("cooperative", dye_works, catalogue, runs, asked_ms=1000)
    measure_picks(catalogue, CASES, _line)
    existing = os.environ.get("DATABASE_URL")
    with nullcontext(existing) if existing else running(root / "data" / "bench-postgres") as url:
        assert url is not None
        _edit(url, dye_works, catalogue, runs)
    _reach(runs)
    _siting(catalogue, runs)
    measure_sight(runs, _line)
    measure_signal(runs, _line)
    measure_stack(runs, _line)
    measure_patch(runs, median_ms, _line)
    measure_price(runs, catalogue, median_ms, _line)
    measure_prove(runs, median_ms, _line)
    _front_end(root / "web" / "dist" / "assets")


def _line(what: str, figure: str, asked: str = "") -> None:
    print(f"{what:<74}{figure:>12}   {asked}", flush=True)


def _picks(name: str, project: Project, catalogue: Catalogue, runs: int, asked_ms: int) -> None:
    live = sum(project.is_live(drop) for drop in project.drops)
    proven = set[bool]()

    def find(aims: tuple[Aim, ...]) -> Callable[[int], object]:
        return lambda _: proven.update(answer.proven for answer in pick(project, catalogue, aims).answers)

    least = median_ms(runs, find(("least_price",)))
    _line(f"pick of the {name}, {live} drops: least price", f"{least:.0f} ms", f"asked: {asked_ms} ms")
    _line(f"pick of the {name}: all four answers", f"{median_ms(min(runs, 3), find(AIMS)):.0f} ms")
    _line(f"pick of the {name}: proven", "all" if proven == {True} else "not all", "asked: all")


def _edit(url: str, project: Project, catalogue: Catalogue, runs: int) -> None:
    """An edit through the one door, to the balance as the screen gets it, at a hundred drops."""
    name = f"baugrund_bench_{uuid.uuid4().hex[:10]}"
    with psycopg.connect(url, autocommit=True) as connection:
        connection.execute(f"CREATE DATABASE {name}".encode())
    try:
        database = open_database(url.rsplit("/", 1)[0] + f"/{name}")
        projects = Projects(database)
        works = Context(
            projects,
            Catalogues(database, catalogue),
            Notices(url),
            Pictures(database),
            Queue(database),
            RememberedMeanings(database),
        )
        hundred = _at_a_hundred(project)
        number = projects.create(hundred)
        answer = pick(hundred, catalogue, ("least_price",)).answers[0]
        projects.keep_pick(number, 0, answer)
        drops = hundred.drops

        def edit(run: int) -> object:
            change = ChangeDrops(ids=(drops[run % len(drops)].id,), changes=DropChanges(run_m=10.0 + run))
            return outcome(works, projects.edit(number, [change], run, "bench"), "bench")

        figure = median_ms(max(runs, 21), edit)
        _line(f"edit to the balance, {len(drops)} drops", f"{figure:.0f} ms", "asked: 50 ms")
        _list(works, runs)
        measure_large(works, median_ms, _line)
        measure_workers(url.rsplit("/", 1)[0] + f"/{name}", works, project, _line)
        database.close()
    finally:
        with psycopg.connect(url, autocommit=True) as connection:
            connection.execute(f"DROP DATABASE {name} WITH (FORCE)".encode())


def _list(works: Context, runs: int) -> None:
    """A list of a thousand lines from CSV into a project, to the balance as the screen gets it; its layout."""
    content, numbers = list_of(THOUSAND), list[int]()
    figure = median_ms(min(runs, 5), lambda _: numbers.append(bring(works, content)))
    _line(f"import of {THOUSAND:,} lines", f"{figure:.0f} ms", "asked: 2,000 ms")
    project = works.projects.load(numbers[-1]).project
    _line(
        f"layout of {THOUSAND:,} drops in 100 rooms", f"{median_ms(runs, lambda _: layout(project.changed())):.0f} ms"
    )


def _reach(runs: int) -> None:
    """A thousand runs over a network of 500 nodes after one closet, then one drop has moved; boxes of cable."""
    side, across = 10.0, 20
    corners = [(n % across * side, n // across * side) for n in range(100)]
    rooms = [
        NewRoom(name=f"Room {n}", outline=((x, y), (x + side, y), (x + side, y + side), (x, y + side)))
        for n, (x, y) in enumerate(corners)
    ]
    site = apply_edits(empty_project("Hall", 2026), [AddRooms(rooms=tuple(rooms))])
    floor = site.floors[0].id
    lines = [[[x, 5 + 10 * n] for x in range(1, 200, 4)] for n in range(5)]
    lines += [[[5 + 10 * n, y] for y in range(1, 50, 4)] for n in range(20)]
    named: list[dict[str, Any]] = [{"name": "Tray", "floor_id": floor, "points": line} for line in lines]
    paths = [AddEntry(list="paths", values=values) for values in named]
    desks = [AddDrops(room=room.id, kind="desk", count=10) for room in site.rooms]
    site = apply_edits(site, [*paths, *desks, _closet_at(site, 1.0)])
    nodes = len(router(site).network.spots)
    closets = [apply_edits(site, [_closet_at(site, 2.0 + n / 10)]) for n in range(runs + 1)]
    drops = []
    for n in range(runs + 1):
        drop, (x, y) = site.drops[n * 7], corners[n * 7 // 10]
        place = Placed(id=drop.id, room_id=drop.room_id, x_m=x + 3 + n / 10, y_m=y + 3)
        drops.append(apply_edits(site, [PlaceDrops(places=(place,))]))
    runs_of(site)
    for moved in (*closets, *drops):
        layout(moved)
    what = f"runs of {THOUSAND:,} drops, {nodes} nodes"
    _line(f"{what}: a closet moved", f"{median_ms(runs, lambda n: runs_of(closets[n])):.0f} ms", "asked: 300 ms")
    runs_of(site.changed())
    _line(f"{what}: a drop moved", f"{median_ms(runs, lambda n: runs_of(drops[n])):.0f} ms", "asked: 50 ms")
    lengths = [8 + (n * 37 % 83) + n % 10 / 10 for n in range(120)]
    _line("120 runs on boxes of 305 m", f"{median_ms(runs, lambda _: pack(lengths, 305.0)):.0f} ms", "asked: 1,000 ms")
    _line("120 runs on boxes of 305 m: proven", "yes" if pack(lengths, 305.0).proven else "no", "asked: yes")


def _siting(catalogue: Catalogue, runs: int) -> None:
    """Where up to three closets stand best among forty places, for three hundred drops over a network of trays."""
    side, across = 20.0, 8
    corners = [(n % across * side, n // across * side) for n in range(40)]
    rooms = [
        NewRoom(name=f"Room {n}", outline=((x, y), (x + side, y), (x + side, y + side), (x, y + side)))
        for n, (x, y) in enumerate(corners)
    ]
    site = apply_edits(empty_project("Hall", 2026), [AddRooms(rooms=tuple(rooms))])
    lines = [[[x, 10 + side * n] for x in range(2, 160, 4)] for n in range(5)]
    lines += [[[10 + side * n, y] for y in range(2, 100, 4)] for n in range(across)]
    named: list[dict[str, Any]] = [{"name": "Tray", "floor_id": site.floors[0].id, "points": line} for line in lines]
    desks = [AddDrops(room=room.id, kind="desk", count=7 + n % 2) for n, room in enumerate(site.rooms)]
    site = apply_edits(site, [*(AddEntry(list="paths", values=values) for values in named), *desks])
    proven = set[bool]()

    def find(_: int) -> None:
        work = siting(site.changed(), catalogue)
        try:
            while True:
                next(work)
        except StopIteration as done:
            proven.update(sites.proven for sites in done.value.best)

    figure = median_ms(min(runs, 3), find)
    what = f"{len(site.drops)} drops, {len(corners)} places, up to 3 closets"
    _line(f"{what}: siting", f"{figure:,.0f} ms", "asked: 5,000 ms")
    _line(f"{what}: proven", "all" if proven == {True} else "not all", "asked: all")


def _closet_at(project: Project, x_m: float) -> ChangeEntry:
    values: dict[str, JsonValue] = {"room_id": project.rooms[0].id, "x_m": x_m, "y_m": 1.0}
    return ChangeEntry(list="closets", id=project.head_end.id, changes=values)


def _at_a_hundred(project: Project) -> Project:
    """A project grown to a hundred drops, with room for the boxes that they want."""
    room = project.rooms[0]
    more = HUNDRED - len(project.drops)
    here = sum((drop.room_id, drop.kind) == (room.id, "jack") for drop in project.drops)
    grown = apply_edits(project, [SetTally(room_id=room.id, kind="jack", count=here + more)])
    closet = project.head_end.model_copy(update={"sockets": 6})
    return grown.changed(closets=(closet, *project.closets[1:]))


def _front_end(assets: Path) -> None:
    if not assets.is_dir():
        _line("front end on first load, gzip", "not built", "run ./baugrund demo first")
        return
    size = sum(len(gzip.compress(file.read_bytes())) for file in _first_load(assets))
    _line("front end on first load of Walk, gzip", f"{size / 1000:.0f} kB", "asked: 300 kB")


def _first_load(assets: Path) -> set[Path]:
    """What a browser loads before Walk is there: what the page names, the verb, and all that these import."""
    page = (assets.parent / "index.html").read_text("utf-8")
    names = {*re.findall(r"/assets/([\w.-]+\.(?:js|css))", page), *(file.name for file in assets.glob("Walk-*.js"))}
    found: set[Path] = set()
    while names:
        file = assets / names.pop()
        if file not in found:
            found.add(file)
            if file.suffix == ".js":
                names |= {*re.findall(r'(?:from|import)"\./([\w.-]+\.js)"', file.read_text("utf-8"))}
    return found
