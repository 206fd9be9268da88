"""Work grows in step with the drops: twice as many take at most a little more than twice the calls."""

import sys

import pytest

from baugrund.core.answers.picker import balance, balance_on
from baugrund.core.cabling.packing import lower_bound, pack
from baugrund.core.edits import ChangeDrops, DropChanges, apply_edits
from baugrund.core.facts.project import empty_project
from baugrund.core.standing.ground import grounds_of
from baugrund.exchange.drop_list import read_list
from baugrund.exchange.tables import read_table
from baugrund.launch.bench_patch import site_of

KINDS = ("desk", "camera", "access point", "wall jack", "phone")
MOST = 2.3
"""Times the calls that twice the drops may take: what is computed once a project counts, too."""


def calls(work):
    """How many functions a piece of work calls, whatever machine does it."""
    count = 0

    def heard(frame, event, argument):
        nonlocal count
        count += event in ("call", "c_call")

    sys.setprofile(heard)
    try:
        work()
    finally:
        sys.setprofile(None)
    return count


def listed(lines):
    """A project of so many drops from a list, all on one closet, ten to a room."""
    rows = [f"Floor {n // 100},Room {n // 10},{KINDS[n % 5]},{10 + n % 60}" for n in range(lines)]
    table = read_table("\n".join(["Floor,Room,What,Run m", *rows]).encode())
    empty = empty_project("Many", 2026)
    return apply_edits(empty, [read_list(table, empty).edit])


def an_edit(project, catalogue):
    drop = project.drops[len(project.drops) // 2]
    return balance(
        apply_edits(project, [ChangeDrops(ids=(drop.id,), changes=DropChanges(run_m=33.0))]), catalogue, None
    )


def test_an_edit_of_a_list_without_boxes(catalogue):
    small, large = listed(150), listed(300)
    an_edit(small, catalogue), an_edit(large, catalogue)
    assert calls(lambda: an_edit(large, catalogue)) <= MOST * calls(lambda: an_edit(small, catalogue))


def test_a_list_that_is_read():
    assert calls(lambda: listed(400)) <= MOST * calls(lambda: listed(200))


@pytest.mark.parametrize("with_known", [False, True])
def test_an_edit_on_boxes_that_stand_in_many_closets(with_known):
    counted = []
    for closets in (4, 8):
        project, catalogue, standing = site_of(closets, closets * 45, 4)
        before = grounds_of(project, catalogue, standing)
        balance_on(project, catalogue, before)
        drop = project.drops[0]
        after = apply_edits(project, [ChangeDrops(ids=(drop.id,), changes=DropChanges(run_m=33.0))])

        def once(after=after, catalogue=catalogue, standing=standing, before=before):
            balance_on(after, catalogue, grounds_of(after, catalogue, standing, before if with_known else ()))

        counted.append(calls(once))
    assert counted[1] <= MOST * counted[0]


def test_boxes_of_cable():
    lengths = [8 + (n * 37 % 83) + n % 10 / 10 for n in range(2_000)]
    assert calls(lambda: pack(lengths, 305.0)) <= MOST * calls(lambda: pack(lengths[:1_000], 305.0))


def best_fit(items, size):
    """The plainest way to write it: the longest first, each into the fullest box that takes it."""
    boxes = []
    for item in sorted(items, reverse=True):
        able = [box for box in boxes if size - sum(box) >= item]
        if able:
            min(able, key=lambda box: size - sum(box)).append(item)
        else:
            boxes.append([item])
    return boxes


@pytest.mark.parametrize("seed", range(12))
def test_packing_is_no_worse_than_the_plainest_best_fit_and_cuts_every_run_once(seed):
    items = [4 + (n * (31 + seed) % 97) for n in range(60 + 20 * seed)]
    packed = pack([item / 2 for item in items], 152.5)
    assert len(packed.boxes) <= len(best_fit(items, 305))
    assert sorted(number for box in packed.boxes for number in box) == list(range(len(items)))
    assert all(sum(items[number] for number in box) <= 305 for box in packed.boxes)
    assert lower_bound(items, 305) <= packed.bound <= len(packed.boxes)


def test_a_list_that_was_packed_before_is_packed_the_same():
    lengths = [8 + (n * 37 % 83) for n in range(120)]
    first = pack(lengths, 305.0)
    pack([length + 1 for length in lengths], 305.0)
    assert pack(lengths, 305.0) == first and pack(list(reversed(lengths)), 305.0).proven == first.proven
