"""What is kept of what cameras film: the worked figures, and the least price against enumeration."""

import itertools
import random

import pytest

from baugrund.core.answers.picker import Picker, balance
from baugrund.core.edits import ChangeDrops, DropChanges, apply_edits
from baugrund.core.facts.brief import Addition, Goal
from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.facts.drop import Drop, camera_mbit
from baugrund.core.facts.lines.disk import Disk
from baugrund.core.facts.lines.recorder import Recorder
from baugrund.core.facts.lines.router import Router
from baugrund.core.facts.project import empty_project
from baugrund.core.footage.apart import chosen_apart
from baugrund.core.footage.kept import Stream, footage_of
from baugrund.core.footage.recorders import Box, boxes_in, boxes_of, cheapest, least_recorders
from baugrund.core.reach.runs import runs
from baugrund.core.standards.disks import fits_level, stored_tb, usable_tb
from baugrund.exchange.bill_of_materials import write_bill

from .priced import priced
from .small import ports, router


def camera(number, **more):
    return Drop(
        id=number, room_id=2, closet_id=1, kind="camera", speed_mbit=100, poe_class=3, **{"megapixels": 4} | more
    )


def recorder(**more):
    return Drop(id=5, room_id=2, closet_id=1, kind="recorder", speed_mbit=1000, **more)


def site(*drops, goals=(), additions=(), **changed):
    project = empty_project("Yard", 2026)
    settings = project.settings.model_copy(update={"growth_percent": 0.0, **changed})
    return project.changed(drops=drops, goals=tuple(goals), additions=tuple(additions), settings=settings, next_id=1000)


def enclosure(key="recorder", price=20_000, channels=16, in_mbit=160.0, bays=2, raid=("none", "1"), **more):
    return Recorder(key=key, name=key, price_minor=price, channels=channels, in_mbit=in_mbit, bays=bays, raid=raid,
                    own_draw_w=10, **more)  # fmt: skip


def disk(key="disk", price=10_000, tb=4.0, **more):
    return Disk(key=key, name=key, price_minor=price, tb=tb, **more)


def prices(*models):
    return Catalogue(name="List", currency="EUR", priced_on="2026-01-01", models=models)


def test_nine_cameras_for_thirty_days_are_those_of_the_reference():
    nine = sum(stored_tb(6, 1.0, 30) for _ in range(9))
    assert nine == pytest.approx(17.496)
    assert nine / 0.9 == pytest.approx(19.44)
    cameras = footage_of(site(*(camera(10 + n) for n in range(9)), recorder())).cameras
    assert sum(one.tb for one in cameras) == pytest.approx(17.496)


@pytest.mark.parametrize(("raid", "disks", "usable"), [
    ("none", 1, 4), ("none", 2, 0), ("1", 2, 4), ("1", 3, 0), ("5", 3, 8), ("5", 2, 0), ("6", 4, 8), ("6", 3, 0),
    ("10", 4, 8), ("10", 5, 0), ("10", 6, 12), ("10", 2, 0),
])  # fmt: skip
def test_a_volume_holds_what_its_level_leaves(raid, disks, usable):
    assert usable_tb(raid, disks, 4.0) == usable
    assert fits_level(raid, disks) == (usable > 0)


def test_share_recorded_shrinks_the_disk_and_not_what_goes_in():
    half = camera(10, record_day_percent=80.0, record_night_percent=20.0)
    (one,) = footage_of(site(half, recorder())).cameras
    assert (one.mbit, one.duty) == (6.0, 0.5)
    assert one.tb == pytest.approx(stored_tb(6, 0.5, 30))
    assert footage_of(site(half, recorder())).recorders[0].mbit == 6.0


def test_quality_codec_and_frames_make_the_bit_rate():
    assert camera_mbit(4.0, 15.0, "h265", "fine") == pytest.approx(6 * 0.6 * 1.4)
    assert camera_mbit(4.0, 15.0, "h264", "plain") == pytest.approx(4.2)


def test_days_are_typed_else_the_goals_else_thirty():
    goal = Goal(id=20, kind="footage", level=14.0)
    by_days = lambda *goals, **more: footage_of(site(camera(10, **more), recorder(), goals=goals)).cameras[0]  # noqa: E731
    assert (by_days().days, by_days().days_from) == (30.0, "usual")
    assert (by_days(goal).days, by_days(goal).days_from) == (14.0, "goal")
    assert (by_days(goal, keep_days=7.0).days, by_days(goal, keep_days=7.0).days_from) == (7.0, "typed")
    other_room = Goal(id=21, kind="footage", level=60.0, room_ids=(3,))
    assert by_days(goal, other_room).days == 14.0


def test_a_goal_is_met_at_its_days_and_counts_planned_cameras():
    goal = Goal(id=20, kind="footage", level=30.0)
    # one camera for 30 days is 1.944 TB; 2.16 TB filled to 0.9 hold exactly that
    exact = footage_of(site(camera(10), recorder(disks=1, disk_tb=2.16), goals=[goal])).goals[0]
    assert exact.met and exact.least_days == pytest.approx(30.0)
    short = footage_of(site(camera(10), recorder(disks=1, disk_tb=2.15), goals=[goal])).goals[0]
    assert short.met is False
    planned = Addition(id=30, kind="camera", count=1, years=2)
    then = footage_of(site(camera(10), recorder(disks=1, disk_tb=2.16), goals=[goal], additions=[planned])).goals[0]
    assert then.met is False and then.least_days == pytest.approx(15.0)
    unknown = footage_of(site(camera(10), recorder(), goals=[goal])).goals[0]
    assert unknown.met is None and "which disks" in unknown.text
    assert footage_of(site(camera(10), goals=[goal])).goals[0].met is False


def test_an_outside_service_takes_no_disk():
    footage = footage_of(site(camera(10, by_service=True), camera(11), recorder()))
    assert footage.service_mbit == 6.0
    assert footage.recorders[0].camera_ids == (11,)


def brute_force(wanted, boxes, most):
    """The least price over every multiset of boxes and every way to put the streams in."""
    best = None
    for count in range(1, most + 1):
        for some in itertools.combinations_with_replacement(boxes, count):
            price = sum(box.price_minor for box in some)
            if best is not None and price >= best:
                continue
            for put in itertools.product(range(count), repeat=len(wanted)):
                if all(
                    sum(at == n for at in put) <= box.channels
                    and sum(w.mbit for w, at in zip(wanted, put, strict=True) if at == n) <= box.in_bit / 1e6 + 1e-9
                    and sum(w.tb for w, at in zip(wanted, put, strict=True) if at == n) <= box.holds_mb / 1e6 + 1e-9
                    for n, box in enumerate(some)
                ):
                    best = price
                    break
    return best


@pytest.mark.parametrize("seed", range(12))
def test_the_least_price_of_recorders_is_that_of_enumeration(seed):
    drawn = random.Random(seed)
    wanted = [
        Stream(n, drawn.choice([4.0, 6.0, 12.0]), drawn.choice([0.5, 1.2, 2.0])) for n in range(drawn.randint(1, 4))
    ]
    boxes = [
        Box(f"r{n}", "d", 4.0, 1, "none", drawn.randint(1, 3), drawn.choice([10, 14, 30]) * 10**6,
            drawn.choice([1, 2, 4]) * 10**6, drawn.randint(50, 200))
        for n in range(3)
    ]  # fmt: skip
    found = cheapest(wanted, boxes)
    best = brute_force(wanted, boxes, len(wanted))
    assert found.proven
    if best is None:
        assert found.boxes == () and found.why_not
    else:
        assert found.price_minor == best
        assert sorted(number for box in found.boxes for number in box.camera_ids) == [one.drop_id for one in wanted]


def test_recorders_take_what_goes_in_over_their_port_and_only_disks_for_continuous_writing():
    catalogue = prices(enclosure(in_mbit=1000, port_mbit=1000, bays=1), disk(), disk("desk", price=1, continuous=False))
    (box,) = boxes_of(catalogue, fill_percent=70, may_fail=False)
    assert (box.disk, box.in_bit, box.holds_mb) == ("disk", 700 * 10**6, 3_600_000)


def test_a_disk_that_may_fail_wants_a_level_that_outlives_it():
    catalogue = prices(enclosure(bays=3, raid=("none", "1", "5")), disk(tb=8.0))
    cheap = least_recorders(site(camera(10), recorder()), catalogue)
    safe = least_recorders(site(camera(10), recorder(), disk_may_fail=True), catalogue)
    assert (cheap.boxes[0].raid, cheap.price_minor) == ("none", 30_000)
    assert (safe.boxes[0].raid, safe.price_minor) == ("1", 40_000)


def test_the_recorder_of_the_router_costs_its_disks_and_is_one():
    built_in: Router = router("gate", ports(8)).model_copy(
        update={"recorder_cameras": 2, "recorder_mbit": 80.0, "recorder_bays": 1}
    )
    catalogue = prices(enclosure(), disk(tb=8.0))
    assert all(box.recorder == "" for box in boxes_in(built_in, catalogue, may_fail=False))
    two = least_recorders(site(camera(10), camera(11), recorder()), catalogue, built_in)
    assert (two.price_minor, [box.recorder for box in two.boxes]) == (10_000, [""])
    three = least_recorders(site(camera(10), camera(11), camera(12), recorder()), catalogue, built_in)
    assert three.price_minor == 30_000 and len(three.boxes) == 1


def test_where_no_recorder_takes_a_camera_it_says_so():
    found = least_recorders(site(camera(10), recorder()), prices(enclosure(bays=1), disk(tb=1.0)))
    assert found.boxes == () and "6 Mbit/s and 1.944 TB" in found.why_not


def test_a_recorder_chosen_apart_is_a_drop_and_a_box_that_is_paid_for(row_house, catalogue):
    box = Drop(id=900, room_id=row_house.rooms[0].id, closet_id=1, kind="recorder", speed_mbit=1000, disks=2, disk_tb=8.0,
               raid="1", model="recorder-16-2", disk_model="disk-8")  # fmt: skip
    with_box = row_house.changed(drops=(*row_house.drops, box), next_id=1000)
    lines = {line.model: line for line in chosen_apart(with_box, catalogue)}
    assert (lines["recorder-16-2"].quantity, lines["disk-8"].quantity) == (1, 2)
    paid = sum(line.total_minor for line in lines.values())
    assert paid == 28_900 + 2 * 18_900 + 2 * lines["ap-ceiling-ax"].price_minor
    answer = Picker(with_box, catalogue).answer("least_price")
    told = balance(with_box, catalogue, answer.standing())
    bought = {part.model: part for part in priced(with_box, catalogue, answer).parts}
    assert sum(bought[model].total_minor for model in lines) == paid
    bill = write_bill(answer, "EUR", apart=told.apart)
    assert '2,"Disk for recording, 8 TB",disk,disk-8,189.00,378.00,EUR' in bill


def test_a_camera_over_wifi_takes_no_run_and_no_port(row_house):
    camera_drop = next(drop for drop in row_house.drops if drop.kind == "camera")
    joined = apply_edits(row_house, [ChangeDrops(ids=(camera_drop.id,), changes=DropChanges(over_wifi=True))])
    assert camera_drop.id in runs(row_house) and camera_drop.id not in runs(joined)
    assert not joined.is_live(joined.drops_by_id[camera_drop.id])
    assert camera_drop.id in {one.drop_id for one in footage_of(joined).cameras}
