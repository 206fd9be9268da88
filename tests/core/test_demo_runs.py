"""Runs of the demo projects against a sheet worked by hand from their plans, piece by piece.

Heights: a tray or riser hangs 0.1 m under the ceiling, skirting lies 0.1 m over the floor, joists lie in the middle of what
is over the ceiling, a duct 0.6 m under the ground; runs leave the closet at 1 m.
"""

from __future__ import annotations

import pytest

from baugrund.core.cabling.fill import filled
from baugrund.core.reach.runs import runs

# dye works: cellar floor at -2.75 m, 2.4 high; ground floor 0, 4.0 high; first floor 4.35, 3.2 high; shed 2.5, yard 3.0
UP_TO_TRAY = -0.45 - -1.75
CELLAR_TRAY = 5.7 - 0.6
MAIN_RISER = 3.9 - -0.45
FOOT = 7.7 - 5.7
GALLERY_RISER = (4.35 + 3.1) - 3.9
INTO_JOISTS = 4.35 + 3.35 - (4.35 + 3.1)
LOOPS, DEVICE_LOOPS = 3.0 + 0.5, 3.0 + 1.5
STEM = UP_TO_TRAY + CELLAR_TRAY + MAIN_RISER

DYE_WORKS = {
    # desk in the west workshop at (0.2, 3.64), 0.3 high: west end of the tray at (1, 7.7)
    22: STEM + FOOT + (9 - 1) + (1 - 0.2) + (7.7 - 3.64) + (3.9 - 0.3) + LOOPS,
    # access point under its ceiling at (5, 4): from the riser's head at (9, 5.7) loose, for that is nearest
    26: STEM + (9 - 5) + (5.7 - 4) + (4.0 - 3.9) + DEVICE_LOOPS,
    # jack in the east workshop at (10.2, 4.5)
    28: STEM + (10.2 - 9) + (5.7 - 4.5) + (3.9 - 0.3) + LOOPS,
    # heat camera in the kiln room at (22.2, 8.8), 3.7 high: along the east tray
    33: STEM + FOOT + (22.2 - 9) + (8.8 - 7.7) + (3.9 - 3.7) + LOOPS,
    # screen in the classroom at (17.8, 8.2), 1.2 high: up the gallery riser into the joists
    55: STEM + FOOT + GALLERY_RISER + INTO_JOISTS + (17.8 - 9) + 0.15 + (8.2 - 7.7) + (3.2 - 1.2) + LOOPS,
    # door station at the gate at (37.6, 16.2), 1.4 high: through the wall (1.0 m down to the yard's 2.9), into the duct
    61: STEM + FOOT + (27.7 - 9) + 1.0 + (2.9 + 0.6) + (40 - 27.7) + (16.2 - 7.7) + (40 - 37.6) + (1.4 + 0.6) + LOOPS,
}
SHED_COMPUTED = (
    STEM + FOOT + (27.7 - 9) + 1.0 + 3.5 + (12.3 + 16.3 + 20) + 3.5 + 0.5 + (64 - 60) + (25 - 24) + 0.1 + DEVICE_LOOPS
)

# row house: ground floor 2.5 high, first floor at 2.8, 2.4 high; the closet at (3.6, 4.7), the chase at (5.3, 6)
TO_SKIRTING = 1.0 - 0.1
TO_CHASE = (2.4 - 1.0) + (5.3 - 3.6) + (6 - 4.7)
CHASE = (2.8 + 2.3) - 2.4
ROW_HOUSE = {
    # jack in the living room at (2.525, 0.2), 0.3 high: along both skirtings, joined to the hall's at (5.3, 4.7)
    14: TO_SKIRTING + (5.3 - 3.6) + (4.7 - 0.2) + (5.3 - 2.525) + 0.2 + LOOPS,
    # desk in the child's room at (3.2, 8.8): up the chase, along the joists to (3.2, 6)
    25: TO_CHASE + CHASE + 0.225 + (5.3 - 3.2) + 0.125 + (8.8 - 6) + (2.4 - 0.3) + LOOPS,
    # camera in the garden at (0.2, -1.9), 2.7 high: hall skirting, up and through the back wall at (5.3, 0.2)
    27: TO_SKIRTING + 1.7 + (4.7 - 0.2) + (2.4 - 0.1) + 0.5 + (5.3 - 0.2) + (0.2 + 1.9) + (2.9 - 2.7) + LOOPS,
}  # fmt: skip


@pytest.mark.parametrize("number", DYE_WORKS)
def test_runs_of_the_cooperative_are_those_of_the_sheet(dye_works, number):
    assert runs(dye_works)[number].length_m == pytest.approx(DYE_WORKS[number], abs=0.051)


@pytest.mark.parametrize("number", ROW_HOUSE)
def test_runs_of_the_row_house_are_those_of_the_sheet(row_house, number):
    assert runs(row_house)[number].length_m == pytest.approx(ROW_HOUSE[number], abs=0.051)


def test_the_run_to_the_shed_stands_as_measured_and_is_computed_beside_it(dye_works):
    run = runs(dye_works)[57]
    assert (run.state, run.length_m) == ("typed", 96)
    assert run.computed_m == pytest.approx(SHED_COMPUTED, abs=0.051)
    assert run.outside_m > 50


def test_the_yard_duct_holds_what_goes_to_the_shed_and_part_of_the_gate(dye_works):
    duct = next(path for path in dye_works.paths if path.name == "Yard duct")
    held = filled(dye_works)[duct.id]
    kinds = [dye_works.drops_by_id[number].kind for number in held.drop_ids]
    assert sorted(kinds) == ["access_point", "camera", "door_station", "jack"]
    outdoor, indoor = 6.8**2, 6.0**2
    squares = sum(outdoor if dye_works.drops_by_id[n].outdoor_jacket else indoor for n in held.drop_ids)
    assert held.used == pytest.approx(squares / (0.4 * 25**2))
    assert (held.bends, held.pull_bends, held.pull_m) == (2, 0.67, pytest.approx(48.6 / 3))
