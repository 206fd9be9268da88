"""Growth and demand against hand-computed figures."""

import pytest

from baugrund.core.demand.growth import reserve_count, reserves
from baugrund.core.demand.needs import Need, demands, need_of
from baugrund.core.edits import AddDrops, AddRooms, ChangeSettings, DropChanges, NewRoom, SetGrowth, apply_edits
from baugrund.core.facts.project import empty_project

from .small import planned


def site(*edits):
    return apply_edits(empty_project("S", 2026), [AddRooms(rooms=(NewRoom(name="R"),)), *edits])


def here(project, years):
    return demands(project, years)[project.head_end.id]


@pytest.mark.parametrize(
    ("live", "percent", "years", "reserve"),
    [
        (10, 5, 5, 2),  # 2.76: whole devices only
        (20, 5, 0, 0),
        (1, 5, 1, 0),  # no second NAS in year one
        (1, 5, 14, 0),  # 0.98
        (1, 5, 15, 1),  # 1.08
        (10, 10, 1, 1),
        (100, 15, 2, 32),  # 32.25
        (3, 100, 1, 3),
        (100, 10, 2, 21),
        (0, 50, 10, 0),
    ],
)
def test_growth_is_more_drops(live, percent, years, reserve):
    assert reserve_count(live, percent, years) == reserve


def test_named_additions_count_from_their_year_on():
    project = site(planned(kind="access_point", count=3, years=2))
    assert [reserves(project, year)[1].get("access_point", 0) for year in (1, 2, 10)] == [0, 3, 3]


def test_a_kind_may_grow_at_its_own_rate():
    project = site(AddDrops(room="R", kind="camera", count=10), SetGrowth(kind="camera", percent=20))
    assert reserves(project, 1) == {1: {"camera": 2}}


def test_only_live_drops_ask_for_a_port():
    spare = AddDrops(room="R", kind="jack", count=2, changes=DropChanges(in_use=False))
    project = site(AddDrops(room="R", kind="desk"), spare)
    assert len(here(project, 0).live) == 3
    only_used = apply_edits(project, [ChangeSettings(changes={"jacks_live": "in_use"})])
    assert [asked.kind for asked in here(only_used, 0).live] == ["desk"]


def test_a_reserve_drop_has_the_typical_need_of_its_kind():
    def camera(**changes):
        return AddDrops(room="R", kind="camera", changes=DropChanges(run_m=38, **changes))

    project = site(
        camera(draw_w=4.0),
        camera(draw_w=13.2, poe_class=4),
        camera(draw_w=6.0, speed_mbit=1000),
        camera(poe_class=None),
    )
    reserve = here(project, 5).reserve
    # four, 5 % a year for 5 years: 1.1.  At the port 4.04, 13.52 and 6.10 W: 4.5, 14 and 6.5 in half watts; the median is 6.5
    assert [asked.need for asked in reserve] == [Need(4, 1000, 6_500, 6_000)]


def test_the_school_decides_the_watts():
    project = site(AddDrops(room="R", kind="camera", changes=DropChanges(draw_w=7.4, run_m=38, measured_w=5.2)))
    watts = {}
    for school in ("class", "rated", "measured"):
        changed = apply_edits(project, [ChangeSettings(changes={"school": school})])
        watts[school] = need_of(changed, changed.drops[0]).power_mw
        assert changed.settings.margin == (0 if school == "class" else 20)
    assert watts == {"class": 15_500, "rated": 7_500, "measured": 5_500}


def test_a_drop_without_class_is_not_powered_from_here():
    project = site(AddDrops(room="R", kind="camera", changes=DropChanges(poe_class=None, draw_w=24)))
    assert need_of(project, project.drops[0]) == Need(0, 100, 0, 6_000)
