"""Which recorders, disks and RAID levels keep all that is wanted for the least price.

A recorder has one volume of equal disks that are made for continuous writing, and each camera records whole on one
recorder.  What goes in is the sum of full rates, at most its rated input and the project's share of its port's rate.
Proven by OR-Tools CP-SAT over all sets of recorders that cost no more than the first one found.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from itertools import pairwise
from math import ceil, floor
from typing import NamedTuple

from ortools.sat.python import cp_model

from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.lines.disk import Disk
from ..facts.lines.recorder import Recorder
from ..facts.lines.router import Router
from ..facts.project import Project
from ..standards.disks import FILLED_SHARE, LEVELS, Raid, fits_level, outlives_a_disk, usable_tb
from .kept import Stream, streams

MOST_BOXES = 12
"""Recorders of one answer at most; a site that may want more is not proven."""
SECONDS = 2.0
BUILT_IN = ""
"""Key of the recorder that is built into the router, of which there is one."""


class Box(NamedTuple):
    """A recorder with its disks: what it takes, and what it costs [minor]."""

    recorder: str
    disk: str
    disk_tb: float
    disks: int
    raid: Raid
    channels: int
    in_bit: int
    holds_mb: int
    price_minor: int


class RecorderChoice(Fact):
    """A recorder with its disks, and what it keeps."""

    recorder: str
    """Key of its line; empty: built into the router."""
    disk: str
    disk_tb: float
    disks: int
    raid: Raid
    cameras: int
    planned: int
    camera_ids: tuple[int, ...]
    mbit: float
    tb: float
    holds_tb: float
    price_minor: int


class RecorderPick(Fact):
    """The recorders and disks that keep everything for the least price."""

    boxes: tuple[RecorderChoice, ...]
    price_minor: int
    proven: bool
    why_not: str = ""
    """Why there is none, in a sentence; empty: there is one."""


def least_recorders(project: Project, catalogue: Catalogue, router: Router | None = None) -> RecorderPick:
    """The least price at which every camera that is recorded here, and those planned, is kept for its days.

    ``router``: one that stands, whose built-in recorder costs nothing more than its disks.
    """
    wanted = streams(project)
    if not wanted:
        return RecorderPick(boxes=(), price_minor=0, proven=True, why_not="no camera is recorded here")
    terms = project.settings
    fill, may_fail = terms.link_fill_percent, terms.disk_may_fail
    apart = undominated(boxes_of(catalogue, fill_percent=fill, may_fail=may_fail))
    inside = undominated(boxes_in(router, catalogue, may_fail=may_fail)) if router else []
    return cheapest(wanted, [*inside, *apart])


def boxes_of(catalogue: Catalogue, *, fill_percent: int, may_fail: bool) -> Iterator[Box]:
    """Every recorder in stock with every number of a disk and every level that it takes.

    ``fill_percent``: what of its port's rate goes into it at most; ``may_fail``: it outlives the loss of a disk.
    """
    for recorder in catalogue.models:
        if isinstance(recorder, Recorder) and recorder.in_stock:
            in_bit = floor(min(recorder.in_mbit, recorder.port_mbit * fill_percent / 100) * 1e6 + 1e-3)
            for disk, count, raid in _volumes(catalogue, recorder.bays, (*recorder.raid, "none"), may_fail):
                if recorder.disk_tb_most is None or disk.tb <= recorder.disk_tb_most:
                    price = recorder.price_minor + disk.price_of(count)
                    holds = _holds(disk, count, raid)
                    yield Box(recorder.key, disk.key, disk.tb, count, raid, recorder.channels, in_bit, holds, price)


def boxes_in(router: Router, catalogue: Catalogue, *, may_fail: bool) -> Iterator[Box]:
    """The recorder that is built into a router, with its disks; none where its bays or its input are not told."""
    if router.recorder_cameras and router.recorder_bays and router.recorder_mbit:
        in_bit = floor(router.recorder_mbit * 1e6 + 1e-3)
        for disk, count, raid in _volumes(catalogue, router.recorder_bays, LEVELS, may_fail):
            yield Box(
                BUILT_IN, disk.key, disk.tb, count, raid, router.recorder_cameras, in_bit, _holds(disk, count, raid),
                disk.price_of(count),
            )  # fmt: skip


def _volumes(
    catalogue: Catalogue, bays: int, levels: Sequence[Raid], may_fail: bool
) -> Iterator[tuple[Disk, int, Raid]]:
    """Every volume that so many bays take: equal disks in stock that are made for continuous writing."""
    for disk in catalogue.models:
        if isinstance(disk, Disk) and disk.in_stock and disk.continuous:
            for count in range(1, bays + 1):
                for raid in LEVELS:
                    if raid in levels and fits_level(raid, count) and (outlives_a_disk(raid) or not may_fail):
                        yield disk, count, raid


def _holds(disk: Disk, count: int, raid: Raid) -> int:
    return floor(FILLED_SHARE * usable_tb(raid, count, disk.tb) * 1e6 + 1e-3)


def undominated(boxes: Iterator[Box]) -> list[Box]:
    """Those that no other one replaces: as much of everything for no more money."""
    kept: list[Box] = []
    order = sorted(boxes, key=lambda box: (box.price_minor, -box.holds_mb, -box.channels, -box.in_bit, *map(str, box)))
    for box in order:
        if not any(
            one.channels >= box.channels and one.in_bit >= box.in_bit and one.holds_mb >= box.holds_mb for one in kept
        ):
            kept.append(box)
    return kept


class _Group(NamedTuple):
    """Cameras that are alike: their rate, rounded up [bit/s], and what their days come to, rounded up [MB]."""

    bit: int
    mb: int


def _group(stream: Stream) -> _Group:
    return _Group(ceil(stream.mbit * 1e6 - 1e-3), ceil(stream.tb * 1e6 - 1e-3))


def cheapest(wanted: Sequence[Stream], boxes: Sequence[Box]) -> RecorderPick:
    """The set of boxes of the least price that takes all streams; of those the one with the fewest boxes."""
    groups = Counter(map(_group, wanted))
    able = [box for box in boxes if any(one.bit <= box.in_bit and one.mb <= box.holds_mb for one in groups)]
    for one in groups:
        if not any(one.bit <= box.in_bit and one.mb <= box.holds_mb for box in able):
            return RecorderPick(
                boxes=(), price_minor=0, proven=True,
                why_not=f"no recorder on the price lists with its disks keeps a camera of {one.bit / 1e6:g} Mbit/s "
                        f"and {one.mb / 1e6:g} TB",
            )  # fmt: skip
    # what boxes of one sort cost bounds how many there may be of any
    limit, cheapest_box = _alike(groups, able), max(min(box.price_minor for box in able), 1)
    most = len(wanted) if limit is None else min(len(wanted), limit // cheapest_box)
    return _solved(wanted, groups, able, min(most, MOST_BOXES), most <= MOST_BOXES)


def _alike(groups: Counter[_Group], boxes: Sequence[Box]) -> int | None:
    """What boxes of one sort cost at the least where cameras go in one after the other, the largest first [minor]."""
    found = [len(filled) * box.price_minor for box in boxes if (filled := _filled(groups, box)) and box.recorder]
    return min(found, default=None)


def _filled(groups: Counter[_Group], box: Box) -> list[list[int]]:
    """What is left of each box of one sort when all cameras are in; empty: one does not go into it."""
    free: list[list[int]] = []
    for one in sorted(groups.elements(), reverse=True):
        if one.bit > box.in_bit or one.mb > box.holds_mb:
            return []
        room = next((r for r in free if r[0] >= 1 and r[1] >= one.bit and r[2] >= one.mb), None)
        if room is None:
            room = [box.channels, box.in_bit, box.holds_mb]
            free.append(room)
        room[0], room[1], room[2] = room[0] - 1, room[1] - one.bit, room[2] - one.mb
    return free


def _solved(
    wanted: Sequence[Stream], groups: Counter[_Group], boxes: Sequence[Box], most: int, whole: bool
) -> RecorderPick:
    model = cp_model.CpModel()
    kinds = list(groups)
    taken = [[model.new_bool_var("") for _ in boxes] for _ in range(most)]
    put = [[model.new_int_var(0, groups[kind], "") for kind in kinds] for _ in range(most)]
    for chosen, mine in zip(taken, put, strict=True):
        model.add_at_most_one(chosen)
        for amounts, limits in (
            ([1 for _ in kinds], [box.channels for box in boxes]),
            ([kind.bit for kind in kinds], [box.in_bit for box in boxes]),
            ([kind.mb for kind in kinds], [box.holds_mb for box in boxes]),
        ):
            model.add(
                cp_model.LinearExpr.weighted_sum(mine, amounts) <= cp_model.LinearExpr.weighted_sum(chosen, limits)
            )
    for number, kind in enumerate(kinds):
        model.add(sum(mine[number] for mine in put) == groups[kind])
    # boxes in order of price, so that the same set is looked at once
    prices = [box.price_minor for box in boxes]
    costs = [cp_model.LinearExpr.weighted_sum(chosen, prices) for chosen in taken]
    for one, following in pairwise(costs):
        model.add(one >= following)
    inside = [place for place, box in enumerate(boxes) if box.recorder == BUILT_IN]
    model.add(sum(chosen[place] for chosen in taken for place in inside) <= 1)
    count = sum(sum(chosen) for chosen in taken)
    model.minimize(sum(costs) * (most + 1) + count)
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = 1
    solver.parameters.max_deterministic_time = SECONDS
    state = solver.solve(model)
    if state not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return RecorderPick(
            boxes=(), price_minor=0, proven=state == cp_model.INFEASIBLE and whole,
            why_not=f"no {most} recorders of the price lists keep all {len(wanted)} cameras",
        )  # fmt: skip
    waiting = {kind: [one for one in wanted if _group(one) == kind] for kind in kinds}
    found: list[RecorderChoice] = []
    for chosen, mine in zip(taken, put, strict=True):
        box = next((box for box, flag in zip(boxes, chosen, strict=True) if solver.value(flag)), None)
        if box is not None:
            some = [waiting[kind].pop(0) for kind, n in zip(kinds, mine, strict=True) for _ in range(solver.value(n))]
            found.append(_choice(box, some))
    return RecorderPick(
        boxes=tuple(found),
        price_minor=sum(one.price_minor for one in found),
        proven=state == cp_model.OPTIMAL and whole,
    )


def _choice(box: Box, some: Sequence[Stream]) -> RecorderChoice:
    return RecorderChoice(
        recorder=box.recorder, disk=box.disk, disk_tb=box.disk_tb, disks=box.disks, raid=box.raid, cameras=len(some),
        planned=sum(one.drop_id is None for one in some),
        camera_ids=tuple(one.drop_id for one in some if one.drop_id is not None),
        mbit=round(sum(one.mbit for one in some), 3), tb=round(sum(one.tb for one in some), 3),
        holds_tb=box.holds_mb / 1e6, price_minor=box.price_minor,
    )  # fmt: skip
