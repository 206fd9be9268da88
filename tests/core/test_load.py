"""Load: worked figures of powered runs over their real way, warmth piece by piece, and sums per closet and box."""

from __future__ import annotations

import pytest

from baugrund.core.edits import AddEntry, ChangeDrops, ChangeSettings, DropChanges, apply_edits
from baugrund.core.physics.poe import feed, loop_resistance_ohm
from baugrund.core.power.load import box_load, closet_loads, fed
from baugrund.core.reach.runs import runs

from .small import ports, switch
from .test_reach import drop, hall, path


def powered(length_m, draw_w, poe_class, **changes):
    """One powered drop with a run of a measured length."""
    values = {"run_m": length_m, "draw_w": draw_w, "poe_class": poe_class, **changes}
    return drop(hall(), 11, 6, **values)


def only(project):
    (one,) = fed(project).values()
    return one


@pytest.mark.parametrize(
    ("length", "draw", "poe_class", "port", "volts"),
    [(38, 13.2, 4, 13.520, 51.74), (90, 25.5, 4, 28.293, 47.77)],
)
def test_worked_runs_with_cords_and_contacts_at_20_degrees(length, draw, poe_class, port, volts):
    """The first is the reference's own figure; the second 90 m with 4 m of cords: R = 9.802 Ω, I = 0.5338 A."""
    one = only(powered(length, draw, poe_class))
    assert one.rated_w == pytest.approx(port, abs=0.002)
    assert one.device_v == pytest.approx(volts, abs=0.01)
    assert one.lost_w == pytest.approx(one.rated_w - draw)
    assert one.faults == ()


def test_warmth_is_counted_piece_by_piece():
    """30 m of a path at 50 °C and the rest at 20 °C: resistance of the sum of both."""
    project = path(hall(), (1, 1), (31, 1), height_m=2.6, temperature_c=50)
    project = drop(project, 31, 1, height_m=2.6, draw_w=20.0, poe_class=4)
    one, run = only(project), next(iter(runs(project).values()))
    rest = run.length_m - 30
    ohm = loop_resistance_ohm(30, cords_m=0, contacts=0, temperature_c=50) + loop_resistance_ohm(rest)
    # the length told is rounded to 0.1 m
    assert one.loop_ohm == pytest.approx(ohm, rel=2e-3)
    assert one.rated_w == pytest.approx(feed(20.0, ohm).port_w, rel=1e-4)
    cold = apply_edits(project, [ChangeDrops(ids=(project.drops[0].id,), changes=DropChanges(run_m=run.length_m))])
    assert one.warmth_w == pytest.approx(one.rated_w - feed(20.0, loop_resistance_ohm(run.length_m)).port_w, abs=1e-6)
    assert only(cold).warm_c == one.warm_c, "a measured length lies on the same way"


def test_the_three_schools_stand_side_by_side_and_the_projects_own_is_counted():
    project = powered(38, 13.2, 4, measured_w=11.0)
    one = only(project)
    assert (one.class_w, one.measured_w) == (30.0, 11.0)
    for school, counted in (("class", 30.0), ("rated", one.rated_w), ("measured", 11.0)):
        asked = apply_edits(project, [ChangeSettings(changes={"school": school})])
        assert only(asked).counted_w == pytest.approx(counted)


@pytest.mark.parametrize(("draw", "ok"), [(12.95, True), (30.0, False)])
def test_volts_and_amperes_of_the_class_are_held_from_both_sides(draw, ok):
    one = only(powered(90, draw, 3))
    assert (one.faults == ()) == ok
    assert (one.pair_set_a <= one.most_a) == ok
    assert one.spare_v == pytest.approx(one.device_v - 37.0)


def test_a_run_that_cannot_deliver_says_so_and_counts_its_class():
    one = only(powered(90, 80.0, 4))
    assert (one.device_v, one.lost_w, one.spare_v, one.warmth_w) == (None, None, None, None)
    assert one.rated_w == one.class_w == 30.0
    assert "cannot get through" in one.faults[0]


def test_what_hangs_behind_counts_at_the_port_of_what_feeds_it():
    project = powered(20, 8.0, 6)
    first = project.drops[0]
    project = apply_edits(project, [
        ChangeDrops(ids=(first.id,), changes=DropChanges(kind="room_switch", poe_class=6, draw_w=8.0)),
    ])  # fmt: skip
    project = drop(project, 12, 6, draw_w=7.0, poe_class=3, behind_id=first.id)
    one = only(project)
    assert (one.drop_id, one.draw_w, one.passed_on_w) == (first.id, 15.0, 7.0)


def test_sums_are_per_closet_and_never_over_closets():
    project = drop(powered(20, 8.0, 4), 12, 6, run_m=20.0, draw_w=8.0, poe_class=4)
    project = apply_edits(project, [AddEntry(list="closets", values={"name": "Second"})])
    far = ChangeDrops(ids=(project.drops[1].id,), changes=DropChanges(closet_id=project.closets[1].id))
    loads = closet_loads(apply_edits(project, [far]))
    assert [one.powered.drops for one in loads] == [1, 1]
    assert loads[0].powered.rated_w == pytest.approx(closet_loads(project)[0].powered.rated_w / 2, rel=1e-6)


def test_a_box_draws_its_own_and_its_ports_through_its_supply():
    project = powered(38, 13.2, 4)
    box = switch("s", ports(8, poe=4), watts=100.0, own_draw_w=30.0)
    load = box_load(project, 1, box, [project.drops[0].id, 999])
    port = only(project).counted_w
    assert load.mains_w == pytest.approx((30.0 + port) / 0.88)
    assert load.counted_w == pytest.approx(port * 1.2)
    assert (load.powered.drops, load.budget_w) == (1, 100.0)
    # the reference's closet: own 30 W and 150 W of PoE at 0.88 draw 204.5 W
    assert pytest.approx(204.5, abs=0.05) == (30 + 150) / 0.88


def test_only_live_drops_powered_from_the_closet_are_there():
    project = powered(20, 8.0, 4)
    unused = ChangeDrops(ids=(project.drops[0].id,), changes=DropChanges(in_use=False))
    assert fed(apply_edits(project, [unused])), "every jack is live"
    in_use = ChangeSettings(changes={"jacks_live": "in_use"})
    assert not fed(apply_edits(project, [unused, in_use]))
    assert not fed(drop(hall(), 5, 5))
