"""Ports and positions: the fewest moves and the best rest against enumeration, and what each cord does when all changes."""

import itertools
import random
from dataclasses import replace

import pytest

from baugrund.core.answers.picker import standing_boxes
from baugrund.core.demand.needs import Need
from baugrund.core.edits import AddDrops, AddEntry, Held, Hold, PatchCords, PinCord, RemoveDrops, apply_edits
from baugrund.core.errors import InvalidInput
from baugrund.core.patch.assignment import Asking, Case, Crossing, Limit, Ports, assign, cost_of
from baugrund.core.patch.patching import position_x
from baugrund.core.patch.ports import numbers_of, ports_of
from baugrund.core.patch.positions import Cable, positions_for
from baugrund.core.patch.told import patch_of
from baugrund.core.places.labels import letters
from baugrund.core.stack.told import stack_of
from baugrund.core.standing.ground import grounds_of

from .small import ports, router, some_of, switch


def made_up(seed):
    """Three boxes, seven that ask; some plugged, of which one may be pinned."""
    chance = random.Random(seed)
    groups = []
    for box in range(3):
        groups.append(Ports((box, 0), chance.randrange(1, 4), 1000, 0))
        groups.append(Ports((box, 1), chance.randrange(1, 3), chance.choice((1000, 2500)), 4))
    free = {one.at: one.count for one in groups}
    asking = []
    for _ in range(7):
        need = chance.choice((Need(0, 1000, 0, 12_500), Need(3, 100, 7_000, 6_000), Need(4, 1000, 16_000, 150_000)))
        fits = [one for one in groups if free[one.at] and one.poe_rank >= need.poe_rank]
        if not fits:
            continue
        seat = chance.choice(fits).at
        free[seat] -= 1
        now = chance.choice([None, *(one.at for one in groups)])
        hops = {box: chance.randrange(3) * 6 for box in range(3)} if need.poe_rank == 3 else None
        cord = {box: chance.choice((25, 50, 100)) for box in range(3)} if chance.random() < 0.7 else None
        weight = 0 if now is None else chance.choice((1, 1, 9))
        asking.append(Asking(need, chance.random() < 0.1, seat, now, weight, None, hops, cord))
    fed = [sum(a.need.power_mw for a in asking if a.seat[0] == box and not a.injector) for box in range(3)]
    limits = {box: Limit(9, 9, fed[box] + chance.choice((0, 9_000))) for box in range(3)}
    behind = sum(a.need.traffic_kbit for a in asking if a.seat[0] == 2)
    return Case(tuple(asking), tuple(groups), limits, (Crossing(frozenset({2}), behind + 20_000),))


def best_of_all(case):
    """Least weight of moves, then the least cost, over every way to sit."""
    by_at = {one.at: one for one in case.ports}
    ways = [[p.at for p in case.ports if one.fits(p)] for one in case.asking]
    best = None
    for groups in itertools.product(*ways):
        if any(groups.count(at) > by_at[at].count for at in by_at):
            continue
        fed = [(a, at) for a, at in zip(case.asking, groups, strict=True) if a.need.poe_rank and not a.injector]
        if any(sum(a.need.power_mw for a, at in fed if at[0] == box) > limit.power_mw
               or sum(at[0] == box for _, at in fed) > limit.powered for box, limit in case.limits.items()):  # fmt: skip
            continue
        crossed = sum(a.need.traffic_kbit for a, at in zip(case.asking, groups, strict=True) if at[0] == 2)
        if crossed > case.crossings[0].carries_kbit:
            continue
        moves = sum(a.weight for a, at in zip(case.asking, groups, strict=True) if a.now is not None and a.now != at)
        best = min(filter(None, (best, (moves, cost_of(case, groups)))))
    return best


@some_of(range(36))
def test_the_fewest_moves_and_the_best_rest_are_those_of_enumeration(seed):
    case = made_up(seed)
    found = assign(case)
    assert found.proven and (found.moves, found.cost) == best_of_all(case)
    assert found.bound == found.moves and cost_of(case, found.groups) == found.cost


def test_what_is_plugged_stays_whatever_would_be_nicer_and_a_pin_weighs_more_than_others():
    bare, fed = Ports((0, 0), 1, 1000, 0), Ports((0, 1), 1, 1000, 4)
    desk = Asking(Need(0, 1000, 0, 1), False, (0, 0), now=(0, 1), weight=1)
    other = Asking(Need(0, 1000, 0, 1), False, (0, 1))
    found = assign(Case((desk, other), (bare, fed), {0: Limit(2, 2, 10)}))
    assert found.groups == ((0, 1), (0, 0)) and found.moves == 0, (
        "a desk keeps the powered port that it is plugged into"
    )
    both = (desk, replace(other, now=(0, 1), weight=5))
    assert assign(Case(both, (bare, fed), {0: Limit(2, 2, 10)})).groups == ((0, 0), (0, 1))


def test_nothing_moves_for_a_drop_that_comes_and_one_that_loses_its_port_moves_alone(dye_works, catalogue):
    def told(project):
        grounds = grounds_of(project, catalogue, standing_boxes(project, catalogue, None))
        return patch_of(project, grounds, stack_of(project, catalogue, grounds)).closets[0]

    held = apply_edits(dye_works.changed(patches=()), [hold(*HELD)])
    first = told(held)
    assert first.proven and first.moves == 0 and not first.unseated
    plugged = apply_edits(held, [first.edit])
    again = told(plugged)
    assert again.moves == 0 and places(again) == places(first)
    more = apply_edits(plugged, [AddDrops(room=plugged.rooms[3].id, kind="camera")])
    grown = told(more)
    assert grown.moves == 0 and grown.proven
    assert places(first).items() <= places(grown).items(), "a camera more moves nobody"
    # whoever is pinned to the port of another takes it, and only the other one moves
    camera, desk = (next(one for one in first.lines if one.kind == kind and one.port) for kind in ("camera", "desk"))
    pinned = apply_edits(plugged, [PinCord(drop_id=desk.drop_id, box=camera.box, port=camera.port)])
    after = told(pinned)
    assert after.moves == 0, "whoever made way is not plugged anywhere"
    assert places(after)[f"drop/{desk.drop_id}"][2:] == (camera.box, camera.port)
    taken = [line.at_port for line in after.lines if line.at_port]
    assert len(taken) == len(set(taken))
    assert {line.drop_id for line in after.lines if line.fixed} == {desk.drop_id}
    gone = apply_edits(plugged, [RemoveDrops(ids=[camera.drop_id])])
    assert all(one.drop_id != camera.drop_id for one in gone.patches) and told(gone).moves == 0


HELD = ("router-2wan-8-sfp", "switch-48m-24at", "switch-8m-25at", "switch-8m-25at")


def hold(*models):
    return Hold(models=[Held(closet_id=1, model=key, count=models.count(key)) for key in dict.fromkeys(models)])


def places(told):
    return {line.key: (line.panel, line.position, line.box, line.port) for line in told.lines if line.use != "reserve"}


def test_every_drop_sits_on_a_port_that_serves_it_and_no_port_has_two(dye_works, catalogue):
    held = apply_edits(dye_works.changed(patches=()), [hold(*HELD)])
    grounds = grounds_of(held, catalogue, standing_boxes(held, catalogue, None))
    for here in patch_of(held, grounds, stack_of(held, catalogue, grounds)).closets:
        assert sum(line.port is not None for line in here.lines) > 50
        taken = [line.at_port for line in here.lines if line.at_port]
        assert len(taken) == len(set(taken))
        for line in here.lines:
            if line.drop_id is not None and line.port is not None:
                drop = dye_works.drops_by_id[line.drop_id]
                assert line.speed_mbit >= drop.speed_mbit
                assert line.injector or (line.poe_class or 0) >= (drop.poe_class or 0) or not line.watts


def test_cables_of_a_room_lie_side_by_side_and_none_leaves_its_position():
    panels = [("A", 4), ("B", 4)]
    rooms = [Cable(f"drop/{n}", room) for n, room in enumerate((1, 1, 2, 2, 2))]
    feed = Cable("line/9", None)
    first = positions_for([*rooms, feed], panels)
    assert [first[f"drop/{n}"] for n in range(5)] == [("A", 1), ("A", 2), ("A", 3), ("A", 4), ("B", 1)]
    assert first["line/9"] == ("B", 4), "feeds come from the end"
    plugged = [replace(cable, now=first[cable.key]) for cable in (*rooms, feed)]
    more = positions_for([*plugged, Cable("drop/7", 1), Cable("drop/8", 5)], panels)
    assert {key: more[key] for key in first} == dict(first)
    assert {more["drop/7"], more["drop/8"]} == {("B", 2), ("B", 3)}
    # a panel that is gone lets its cables go, and more cables than positions leave the last without one
    fewer = positions_for(plugged, [("A", 4)])
    assert len(fewer) == 4 and "drop/4" not in fewer
    assert positions_for([], panels) == {}


@some_of(range(12))
def test_new_cables_take_the_free_positions_nearest_to_where_they_want_to_stand(seed):
    chance = random.Random(seed)
    panels = [("A", 6)]
    kept = [Cable(f"k{n}", chance.randrange(2), ("A", at)) for n, at in enumerate(chance.sample(range(1, 7), 2))]
    coming = [Cable(f"c{n}", chance.randrange(2)) for n in range(3)]
    found = positions_for([*kept, *coming], panels)
    assert sorted(found.values()) == sorted(set(found.values())) and len(found) == 5
    free = [n for n in range(1, 7) if ("A", n) not in {one.now for one in kept}]
    last = {one.room_id: max(k.now[1] for k in kept if k.room_id == one.room_id) for one in kept}
    others, wanted = list(free), []
    for cable in coming:
        if cable.room_id in last:
            last[cable.room_id] += 1
            wanted.append(last[cable.room_id])
        else:
            wanted.append(others.pop(0))
    apart = sum(abs(found[c.key][1] - w) for c, w in zip(coming, wanted, strict=True))
    least = min(sum(abs(a - w) for a, w in zip(way, wanted, strict=True)) for way in itertools.permutations(free, 3))
    assert apart == least


def test_ports_are_counted_through_their_groups_and_stand_in_rows_as_on_the_box():
    box = switch("s", ports(16), ports(8, poe=4), watts=100)
    told = ports_of(box)
    assert [one.number for one in told] == list(range(1, 25))
    assert [(one.column, one.row) for one in told[:4]] == [(0, 0), (0, 1), (1, 0), (1, 1)]
    assert [(one.column, one.row) for one in told[16:18]] == [(8, 0), (9, 0)], "eight ports stand in one row"
    assert [one.row for one in ports_of(switch("nine", ports(9)))][:2] == [0, 1]
    assert numbers_of(box)[1000, 4] == tuple(range(17, 25))
    assert ports_of(router("r", ports(4)))[-1].number == 4
    assert position_x(1, 24) == pytest.approx(440 / 48) and position_x(25, 48) == position_x(1, 48)
    assert [letters(n) for n in (0, 25, 26, 27, 51, 52)] == ["A", "Z", "AA", "AB", "AZ", "BA"]


def test_a_patch_names_a_drop_or_an_end_whole_and_once(dye_works):
    drop = dye_works.drops[0].id
    for values, why in (
        ({"drop_id": drop, "panel": "panel/1"}, "a position needs its panel"),
        ({"drop_id": drop, "port": 3}, "a port needs its box"),
        ({"panel": "panel/1", "position": 1}, "a drop or an end"),
    ):
        with pytest.raises(InvalidInput, match=why):
            apply_edits(dye_works, [AddEntry(list="patches", values={"closet_id": 1, **values})])
    twice = [{"drop_id": one.id, "box": "box/s/1", "port": 1} for one in dye_works.drops[:2]]
    with pytest.raises(InvalidInput, match=r"two cords are patched to the port 1 of box/s/1"):
        apply_edits(dye_works, [PatchCords(closet_id=1, cords=twice)])
    with pytest.raises(InvalidInput, match="There is no drop 9999"):
        apply_edits(dye_works, [PatchCords(closet_id=1, cords=[{"drop_id": 9999, "box": "b", "port": 1}])])


def test_letters_are_given_once_and_go_on_past_z():
    given = [letters(n) for n in range(1000)]
    assert len(set(given)) == 1000 and all(one.isalpha() and one.isupper() for one in given)
    assert [len(one) for one in given] == sorted(len(one) for one in given), "longer ones come later"


@some_of(range(12))
def test_every_port_of_a_box_has_a_place_of_its_own_and_is_found_by_what_it_gives(seed):
    chance = random.Random(seed)
    groups = [ports(chance.randrange(1, 25), chance.choice((1000, 2500)), chance.choice((None, 4))) for _ in range(3)]
    box = switch(f"s{seed}", *groups, watts=100.0 if any(group.poe_class for group in groups) else 0.0)
    told = ports_of(box)
    assert [one.number for one in told] == list(range(1, sum(group.count for group in groups) + 1))
    assert len({(one.column, one.row) for one in told}) == len(told)
    for place, group in enumerate(groups):
        mine = [one for one in told if one.group == place]
        assert len(mine) == group.count and {one.poe_class for one in mine} == {group.poe_class}
        assert {one.row for one in mine} == ({0, 1} if group.count >= 9 else {0})
    numbers = [number for some in numbers_of(box).values() for number in some]
    assert sorted(numbers) == [one.number for one in told]
