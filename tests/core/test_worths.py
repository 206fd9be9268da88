"""What drops are worth bounds every set of boxes from below, whatever the worths are; duals make it sharp."""

import random
from itertools import product

import numpy as np
import pytest

from baugrund.core.pick import worths as told
from baugrund.core.pick.bounds import link_classes
from baugrund.core.pick.dives import rounded
from baugrund.core.pick.linear import LinearProgram, Rows
from baugrund.core.pick.packing import Packing, merged_packing
from baugrund.core.pick.serving import most_served
from baugrund.core.pick.sets import Sets, pinned
from baugrund.core.pick.worths import Pool, Worths
from baugrund.launch.cases import made_up_catalogue, made_up_closet, made_up_needs

from .small import CAMERA, DESK, in_blocks, injector, ports, problem, router
from .test_making import around_hubs, counts_of

KINDS = ((1000, 0), (1000, 3), (2500, 4), (10000, 6))


def whole(*rows):
    return np.array(rows, dtype=np.int32)


class Served:
    """One box of up to three port groups, and up to six sorts of things to serve."""

    def __init__(self, seed: int) -> None:
        rng = random.Random(seed)
        self.groups = rng.sample(KINDS, rng.randint(1, 3))
        self.ports = [rng.randint(0, 4) for _ in self.groups]
        self.most = max(0, sum(self.ports) - rng.choice([0, 0, 1]))
        self.watts_most, self.traffic_most = float(rng.choice([5, 20, 60])), float(rng.choice([3, 10, 1000]))
        self.link = rng.choice([0, 1000, 2500])
        count = rng.randint(1, 6)
        self.asked = [rng.choice(KINDS) for _ in range(count)]
        self.worth = [float(rng.randint(-2, 30)) for _ in range(count)]
        self.watts = [rng.choice([0.0, 3.5, 9.0]) for _ in range(count)]
        self.traffic = [rng.choice([0.0, 1.0, 4.0]) for _ in range(count)]
        self.counts = [rng.randint(1, 4) for _ in range(count)]

    def told(self) -> float:
        none = np.zeros(len(self.asked), dtype=np.bool_)
        return float(most_served(
            whole(self.ports), whole([speed for speed, _ in self.groups]), whole([rank for _, rank in self.groups]),
            whole(self.most), np.array([self.watts_most]), np.array([self.traffic_most]), np.array([True]),
            whole(self.link), np.array(self.worth), np.array(self.watts), np.array(self.traffic), whole(*self.counts),
            whole(*(speed for speed, _ in self.asked)), whole(*(rank for _, rank in self.asked)), none,
        )[0])  # fmt: skip

    def in_parts(self) -> float:
        """By linear programs: the best over all port groups that the box's own link may end on."""
        able = [g for g, (speed, _) in enumerate(self.groups) if speed >= self.link and self.ports[g]]
        return max((self._in_parts(taken) for taken in (able if self.link else [None])), default=0.0)

    def _in_parts(self, taken: int | None) -> float:
        seats = [
            (one, group)
            for one, group in product(range(len(self.asked)), range(len(self.groups)))
            if self.groups[group][0] >= self.asked[one][0] and self.groups[group][1] >= self.asked[one][1]
        ]
        rows = Rows(len(seats))
        for one, count in enumerate(self.counts):
            rows.add({k: 1.0 for k, seat in enumerate(seats) if seat[0] == one}, 0.0, count)
        for group, count in enumerate(self.ports):
            rows.add({k: 1.0 for k, seat in enumerate(seats) if seat[1] == group}, 0.0, count - (group == taken))
        rows.add({k: 1.0 for k in range(len(seats))}, 0.0, self.most - (taken is not None))
        rows.add({k: self.watts[one] for k, (one, _) in enumerate(seats)}, 0.0, self.watts_most)
        rows.add({k: self.traffic[one] for k, (one, _) in enumerate(seats)}, 0.0, self.traffic_most)
        costs = np.array([-self.worth[one] for one, _ in seats])
        solved = LinearProgram(costs, np.full(len(seats), 9.0), rows).solve()
        return 0.0 if solved is None else -solved.bound


def test_a_box_serves_no_more_than_told_and_nearly_as_much_as_that():
    over, exact = 0.0, 0
    for seed in range(400):
        case = Served(seed)
        most, least = case.told(), case.in_parts()
        assert most >= least - 1e-6, seed
        over += most - least
        exact += most <= least + 1e-6
    # prices of limits are found by halving: never under, and seldom far over
    assert exact > 250 and over / 400 < 0.5


def random_worths(asked, rng):
    drops = np.array([float(rng.randint(0, 120)) for _ in asked.needs])
    ends = tuple((speed, float(rng.randint(0, 30))) for speed in (1000, 2500, 10000))
    return Worths(drops, ends, tuple(float(rng.randint(0, 20)) for _ in asked.limited))


@in_blocks(3)
def test_no_set_that_can_be_packed_costs_less_than_any_worths_tell(block):
    looked_at, rng = 0, random.Random(block)
    for seed, asked, boxes, hub, relaxation in around_hubs(range(500 + block * 40, 540 + block * 40), "price"):
        packed = None if hub is None else Packing(asked, boxes, hub, "price").pack().seating
        if packed is None:
            continue
        pool = Pool(relaxation.group)
        own = merged_packing(asked, boxes, hub, "price", may_leave=True).worths(asked)
        for worths in (own, *(random_worths(asked, rng) for _ in range(3))):
            pool.add(worths)
        counts = counts_of(relaxation, boxes)[None, :].astype(np.int16)
        assert pool.bound(relaxation, boxes[hub], counts)[0] <= packed.price_minor + 1e-6, seed
        least = relaxation.ranged(counts[0].astype(float))
        most = np.concatenate([least[: len(relaxation.boxes)], relaxation.most[len(relaxation.boxes) :]])
        before = relaxation.bound(least, most).least
        relaxation.cut(pool)
        after = relaxation.bound(least, most).least
        assert before - 1e-6 <= after <= packed.price_minor + 1e-6, seed
        looked_at += 1
    assert looked_at > 60


def test_as_rows_worths_make_a_relaxation_sharper():
    """By sums a box uses up its watts and its ports whatever the drops on it are; by worths the same drops use both."""
    asked = made_up_closet(made_up_needs(100, 2), made_up_catalogue(100, 1))
    sets = Sets(asked, "price", pinned(asked), frozenset(asked.switches), None, None)
    group = link_classes(asked)[0]
    star = min(sets.stars(group), key=lambda star: star.least)
    relaxation, pool = sets.relaxation(group, star.hub), Pool(group)
    (node,) = sets.starts(relaxation, {})
    boxes = relaxation.set_of(rounded(node))
    before = relaxation.bound(node.least, node.most).least
    pool.add(merged_packing(asked, boxes, boxes.index(star.hub), "price", may_leave=True).worths(asked))
    relaxation.cut(pool)
    after = relaxation.bound(node.least, node.most).least
    assert after > 1.01 * before
    relaxation.cut(pool)
    assert relaxation.bound(node.least, node.most).least == pytest.approx(after)


@in_blocks(2)
def test_worths_of_a_set_tell_of_it_what_its_seats_in_parts_do(block):
    near, looked_at = 0, 0
    for _, asked, boxes, hub, relaxation in around_hubs(range(300 + block * 40, 340 + block * 40), "price"):
        packing = None if hub is None else Packing(asked, boxes, hub, "price")
        if packing is None or packing.least is None:
            continue
        pool = Pool(relaxation.group)
        pool.add(packing.worths(asked))
        counts = counts_of(relaxation, boxes)[None, :].astype(np.int16)
        looked_at += 1
        near += pool.bound(relaxation, boxes[hub], counts)[0] >= 0.97 * packing.least
    assert looked_at > 40 and near > 0.9 * looked_at


def test_a_drop_is_worth_what_it_costs_to_seat_one_more():
    """Beside ports to spare a desk is worth nothing, and a camera the injector that feeds it."""
    asked = problem([router("r", ports(5)), injector("i", 3, price=50)], {DESK: 2, CAMERA: 1})
    worths = Packing(asked, (asked.roots[0],), 0, "price").worths(asked)
    told = dict(zip([need for need, _ in asked.needs], worths.drops.tolist(), strict=True))
    assert told == {DESK: 0.0, CAMERA: 50.0}
    assert worths.ends(whole(0, 1000, 99_000)).tolist() == [0.0, 0.0, 0.0]


def test_the_end_of_a_link_is_worth_the_cheapest_port_that_is_fast_enough():
    worths = Worths(np.zeros(0), ((1000, 3.0), (2500, 7.0), (10000, 5.0)), (0.0,))
    assert worths.ends(whole(0, 1000, 2500, 10000, 25000)).tolist() == [0.0, 3.0, 5.0, 5.0, 0.0]


def test_worths_kept_are_the_latest(monkeypatch):
    monkeypatch.setattr(told, "KEPT_MOST", 2)
    asked = problem([router("r", ports(4))], {DESK: 2})
    pool, three = Pool(link_classes(asked)[0]), [random_worths(asked, random.Random(n)) for n in range(3)]
    for worths in three:
        pool.add(worths)
    assert pool.kept == [three[2], three[1]] and pool.added == 3
