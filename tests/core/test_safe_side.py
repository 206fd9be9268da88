"""What is not known counts on the safe side, and what would fail in practice is a finding: limits from both sides."""

import pytest

from baugrund.core.answers.picker import balance, pick
from baugrund.core.demand.growth import reserves, shared_out
from baugrund.core.edits import AddDrops, AddRooms, ChangeSettings, DropChanges, NewRoom, apply_edits
from baugrund.core.facts.project import empty_project
from baugrund.core.findings import SiteState, findings
from baugrund.core.findings import reach as reach_checks
from baugrund.core.physics.poe import feed
from baugrund.core.pick.standing import Boxes
from baugrund.core.power.load import fed
from baugrund.core.standing.bearing import bearing
from baugrund.core.standing.ground import grounds_of

from .small import catalogue as small
from .small import ports, router, switch
from .test_reach import drop, hall, path

NO_GROWTH = ChangeSettings(changes={"horizon_years": 0, "growth_percent": 0})


def room_of(kind, count=1, *edits, **changes):
    given = {"run_m": 20.0, **changes}
    adds = [AddRooms(rooms=(NewRoom(name="Hall"),)), NO_GROWTH, *edits]
    adds.append(AddDrops(room="Hall", kind=kind, count=count, changes=DropChanges(**given)))
    return apply_edits(empty_project("S", 2026), adds)


def found(project, key):
    return next((f for f in findings(SiteState(project, {}, {})) if f.key.startswith(key)), None)


def test_eight_desks_of_class_6_without_a_typed_draw_are_not_fed_by_240_watts(catalogue):
    project = room_of("desk", 8, poe_class=6, draw_w=0)
    # the most that class 6 gives a device, over its run: 51 W and the loss, times 8
    told = balance(project, catalogue, None)
    assert told.watts >= 8 * 51
    answer = pick(project, catalogue, ("least_price",)).answers[0]
    by_name = {model.name: model for model in (*catalogue.routers, *catalogue.switches)}
    budget = sum(by_name[box.name].poe_budget_w for box in answer.boxes)
    injectors = sum(part.quantity for part in answer.parts if "njector" in part.name)
    assert budget >= told.watts * 1.2 or injectors >= 1


def test_a_draw_that_nobody_typed_is_told_with_the_figure_that_counts():
    note = found(room_of("camera", 2, poe_class=3, draw_w=0), "unknown-draws")
    assert note.weight == "note" and "12.95 W" in note.text and len(note.drop_ids) == 2
    assert found(room_of("camera", 2, poe_class=3, draw_w=7), "unknown-draws") is None


@pytest.mark.parametrize(("measured", "shown"), [(15.4, False), (15.5, True)])
def test_a_measured_draw_over_what_its_class_reserves_breaks(measured, shown):
    finding = found(room_of("camera", poe_class=3, measured_w=measured), "measured-")
    assert (finding is not None) is shown
    assert not shown or finding.weight == "breaks"


def test_copper_clad_cable_carries_no_power_and_is_told_even_without():
    assert found(room_of("camera", copper_clad=True), "clad-powered").weight == "breaks"
    assert found(room_of("desk", copper_clad=True), "clad").weight == "strains"
    assert found(room_of("camera"), "clad") is None


@pytest.mark.parametrize(
    ("cameras", "speed_mbit", "weight"),
    [(58, 1000, None), (59, 1000, "strains"), (78, 1000, "strains"), (79, 1000, "breaks"), (90, 1000, "breaks"),
     (90, 2500, None)],
)  # fmt: skip
def test_cameras_are_held_against_the_port_of_what_records_them(cameras, speed_mbit, weight):
    """8 MP are 12 Mbit/s: 58 of them 696 of 700 Mbit/s, 78 of them 936 of 941."""
    recorder = AddDrops(room="Hall", kind="recorder", changes=DropChanges(speed_mbit=speed_mbit, run_m=5))
    project = apply_edits(room_of("camera", cameras, megapixels=8.0), [recorder])
    finding = found(project, "recording-")
    assert (finding and finding.weight) == weight
    if finding:
        assert found(apply_edits(project, [finding.settle.edit]), "recording-") is None


@pytest.mark.parametrize(
    ("category", "speed_mbit", "run_m", "key", "weight"),
    [("5", 100, 80, None, None), ("5", 1000, 80, "unsure", "strains"), ("5e", 5000, 46, None, None),
     ("5e", 5000, 46.1, "unsure", "strains"), ("5e", 2500, 90, None, None), ("6", 10000, 51, None, None),
     ("6", 10000, 51.1, "slow", "breaks")],
)  # fmt: skip
def test_a_category_that_has_to_be_measured_first_strains(category, speed_mbit, run_m, key, weight):
    project = room_of("desk", category=category, speed_mbit=speed_mbit, run_m=run_m)
    told = [finding for finding in reach_checks.too_slow(SiteState(project, {}, {}))]
    assert [(finding.key.split("-")[0], finding.weight) for finding in told] == ([(key, weight)] if key else [])


@pytest.mark.parametrize(("cables", "dense"), [(6, False), (7, True)])
def test_category_6_carries_ten_gigabit_to_37_m_in_a_dense_bundle(cables, dense):
    project = path(hall(), (1, 1), (31, 1), height_m=2.5)
    for number in range(cables):
        project = drop(project, 31, 1 + number / 10, category="6", speed_mbit=10000)
    told = [finding.text for finding in reach_checks.too_slow(SiteState(project, {}, {}))]
    assert [("dense bundle" in text) for text in told] == [True] * (cables if dense else 0)


@pytest.mark.parametrize(("cords_m", "shown"), [(10.0, False), (10.1, True)])
def test_cords_have_what_the_channel_leaves_them(cords_m, shown):
    project = apply_edits(room_of("desk", run_m=90.0), [ChangeSettings(changes={"cords_m": cords_m})])
    assert (found(project, "cords") is not None) is shown


def test_two_hundred_cables_fit_no_usual_conduit():
    project = path(hall(), (1, 1), (31, 1), kind="conduit", height_m=2.5)
    room = project.rooms[0].id
    many = AddDrops(room=room, kind="desk", count=200, changes=DropChanges(x_m=31, y_m=1, height_m=0.3))
    told = {
        finding.key.split("-")[0]: finding
        for finding in reach_checks.no_size(SiteState(apply_edits(project, [many]), {}, {}))
    }
    assert [finding.weight for finding in told.values()] == ["breaks"]
    few = AddDrops(room=room, kind="desk", count=2, changes=DropChanges(x_m=31, y_m=1, height_m=0.3))
    assert not list(reach_checks.no_size(SiteState(apply_edits(project, [few]), {}, {})))


def test_the_watts_pit_tells_the_box_that_fails_first():
    """A box of 45 W with two devices of 25 W cannot feed both, however much another box has left."""
    models = small(
        router("home", ports(4)), switch("forty-five", ports(1), ports(4, poe=4), watts=45),
        switch("plenty", ports(1), ports(1, poe=4), watts=200),
    )  # fmt: skip
    project = room_of("camera", 3, ChangeSettings(changes={"margin_percent": 0}), poe_class=4, draw_w=22.0)
    (ground,) = grounds_of(project, models, {1: Boxes(("home", "forty-five", "plenty"))})
    watts = next(capacity for capacity in bearing(ground) if capacity.key == "watts")
    assert (watts.verdict, watts.sentence) == ("over", "the drops cannot be shared among these boxes")


def test_growth_is_whole_devices_of_the_site_shared_by_largest_remainder():
    assert shared_out(3, [5, 3, 2]) == [1, 1, 1]  # 1.5, 0.9, 0.6: the whole one, then the largest remainders
    assert sum(shared_out(7, [1, 1, 1])) == 7
    project = apply_edits(
        room_of("nas"), [ChangeSettings(changes={"horizon_years": 1, "growth_percent": 5})]
    )  # fmt: skip
    assert reserves(project, 1)[project.head_end.id].get("nas", 0) == 0


def test_energy_follows_what_runs_whatever_is_reserved():
    rated = room_of("camera", 4, draw_w=7.4)
    by_class = apply_edits(rated, [ChangeSettings(changes={"school": "class"})])
    running = [sum(run.running_w for run in fed(project).values()) for project in (rated, by_class)]
    assert running[0] == running[1] == pytest.approx(4 * 7.4, rel=0.02)
    assert sum(run.counted_w for run in fed(by_class).values()) == pytest.approx(4 * 15.4)


def test_thin_and_clad_conductors_lose_more():
    watts = [feed(12.0, ohm, 53.0) for ohm in (5.0, 8.0)]
    assert watts[0].port_w < watts[1].port_w
    plain, clad = (room_of("camera", draw_w=12.0, run_m=80.0, copper_clad=is_clad) for is_clad in (False, True))
    assert balance(clad, small(), None).watts > balance(plain, small(), None).watts
