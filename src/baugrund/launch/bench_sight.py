"""Figures of speed of Cover: views among walls, one camera moved, and best places for cameras."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable

from baugrund.core.edits import Placed, PlaceDrops, apply_edits
from baugrund.core.facts.building import Building, Closet, Floor, Room
from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.facts.drop import Drop
from baugrund.core.facts.lines.camera import Camera
from baugrund.core.facts.project import Project, empty_project
from baugrund.core.facts.sight import Target, View
from baugrund.core.sight import cut, targets, views
from baugrund.core.sight.mounts import mounts_of
from baugrund.core.sight.scene import scene
from baugrund.core.sight.targets import targets_of
from baugrund.core.sight.views import views_of
from baugrund.core.siting.cameras import best_views
from baugrund.core.watch import to_the_end

Line = Callable[[str, str, str], None]
ROOM_M = 6.0


def hall(across: int, down: int, cameras: int, goals: int) -> Project:
    """A storey of so many rooms side by side, with cameras spread over it and targets in its rooms."""
    corners = ((0.0, 0.0), (ROOM_M, 0.0), (ROOM_M, ROOM_M), (0.0, ROOM_M))
    rooms = tuple(
        Room(id=100 + n, name=f"Room {n + 1}", floor_id=3,
             outline=tuple((x * ROOM_M + dx, y * ROOM_M + dy) for dx, dy in corners))
        for n, (x, y) in enumerate((x, y) for y in range(down) for x in range(across))
    )  # fmt: skip
    drops = tuple(
        Drop(id=1000 + n, room_id=rooms[n % len(rooms)].id, closet_id=1, kind="camera", speed_mbit=100, poe_class=3,
             place="wall", x_m=(n * 7 % across) * ROOM_M + 0.3 + n % 5, y_m=(n * 3 % down) * ROOM_M + 0.1, height_m=2.4)
        for n in range(cameras)
    )  # fmt: skip
    aims = tuple(View(id=3000 + n, drop_id=drop.id, bearing_deg=(n * 37) % 360) for n, drop in enumerate(drops))
    spots = [(((n * 5 % across) + 0.5) * ROOM_M, ((n * 2 % down) + 0.5) * ROOM_M) for n in range(goals)]
    wanted = tuple(
        Target(id=5000 + n, name=f"Target {n + 1}", floor_id=3, points=(spot,)) for n, spot in enumerate(spots)
    )
    return empty_project("Hall", 2026).changed(
        buildings=(Building(id=2, name="Hall"),), floors=(Floor(id=3, building_id=2, name="Ground", height_m=3.0),),
        rooms=rooms, closets=(Closet(id=1, name="Closet", room_id=100),), drops=drops, views=aims, targets=wanted,
        next_id=10_000,
    )  # fmt: skip


def measure_sight(runs: int, line: Line) -> None:
    """Views and bands of 40 cameras among 400 wall pieces; then with one moved; then best places."""
    project = hall(14, 13, 40, 10)
    pieces = len(scene(project).pieces)
    from_nothing, moved = [], []
    for run in range(runs + 1):
        for kept in (cut.seen_at, views._bands, views.near_share, targets.look):
            kept.cache_clear()
        fresh = project.changed()
        start = time.perf_counter()
        views_of(fresh)
        targets_of(fresh)
        from_nothing.append((time.perf_counter() - start) * 1000)
        drop = fresh.drops[run % len(fresh.drops)]
        place = Placed(id=drop.id, room_id=drop.room_id, x_m=(drop.x_m or 0) + 0.2, y_m=(drop.y_m or 0) + 0.05)
        after = apply_edits(fresh, [PlaceDrops(places=(place,))])
        start = time.perf_counter()
        views_of(after)
        targets_of(after)
        moved.append((time.perf_counter() - start) * 1000)
    line(
        f"views of 40 cameras among {pieces} wall pieces, from nothing",
        f"{_median(from_nothing):.0f} ms",
        "asked: 500 ms",
    )
    line("the same after one camera moved", f"{_median(moved):.0f} ms", "asked: 40 ms")
    catalogue = Catalogue(name="Four", currency="EUR", priced_on="2026-01-01", models=tuple(
        Camera(key=f"camera-{n}", name=f"Camera {n}", price_minor=9_000 + 4_000 * n, camera_form="turret", across_px=px,
               down_px=px * 9 // 16, field_deg=field, draw_w=6.0, outdoor=True)
        for n, (px, field) in enumerate(((1920, 100.0), (2688, 90.0), (3840, 80.0), (3840, 100.0)))
    ))  # fmt: skip
    start = time.perf_counter()
    found = to_the_end(best_views(project, catalogue))
    took = time.perf_counter() - start
    proven = "proven" if found.answers and all(answer.proven for answer in found.answers) else "not proven"
    line(
        f"best places: 10 targets, {len(mounts_of(project))} mounts, 4 cameras, {proven}", f"{took:.1f} s", "asked: 5 s"
    )


def _median(times: list[float]) -> float:
    return statistics.median(times[1:])
