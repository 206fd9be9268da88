"""A survey laid beside the prediction, by a simulated handset that walks through houses whose losses nobody knows."""

import os

import numpy as np
import pytest

from baugrund.core.edits import AddEntry, apply_edits
from baugrund.core.facts.signal import DeviceOffset, Loss, Reading
from baugrund.core.signal.spot import heard_at
from baugrund.core.signal.survey import ERRORS_95, survey_of
from baugrund.demo.handset import hidden, walked

from .test_signal import LIST, ap, level_at, site, storeys, wall


def taken(project, rows, first=2000):
    """The project with readings that came in through the door of edits."""
    return apply_edits(project, [AddEntry(list="readings", values=row) for row in rows])


SEEDS = range(50) if os.environ.get("SOAK") else range(0, 50, 3)


@pytest.fixture(scope="module")
def told(dye_works, catalogue):
    """What walks tell, 50 in the long form: hidden value, told value, standard error."""
    bare = dye_works.changed(readings=())
    found = []
    for seed in SEEDS:
        rows = walked(bare, catalogue, seed, spots=60)
        rows += walked(bare, catalogue, seed, device="tablet", reads_more_db=-4.0, spots=60)
        readings = tuple(Reading(id=bare.next_id + n, **row) for n, row in enumerate(rows))
        walk = bare.changed(readings=readings, next_id=bare.next_id + len(rows))
        truth = {(loss.make, loss.band): loss.db for loss in hidden(bare, seed).losses}
        for one in survey_of(walk, catalogue).correction.losses:
            found.append((-4.0 if one.kind == "device" else truth[one.what, one.band], one.db, one.error_db))
    return found


def test_intervals_hold_what_is_hidden_in_nine_of_ten(told):
    known = [one for one in told if one[1] is not None]
    held = [abs(true - db) <= ERRORS_95 * error for true, db, error in known]
    assert len(known) > 8 * len(SEEDS) and np.mean(held) >= 0.9


def test_what_is_told_has_a_standard_error_of_three_decibels_at_the_most(told, dye_works, catalogue):
    assert all(error <= 3 for _, db, error in told if db is not None)
    few = taken(dye_works.changed(readings=()), walked(dye_works, catalogue, 4, spots=5))
    assert any(one.db is None and one.error_db is None for one in survey_of(few, catalogue).correction.losses)


def test_the_correction_brings_the_prediction_nearer_at_spots_that_were_left_out(dye_works, catalogue):
    rows = walked(dye_works, catalogue, 3, spots=80)
    walk = taken(dye_works.changed(readings=()), rows)
    before = survey_of(walk, catalogue).correction
    assert before.after_db < before.apart_after_db < before.before_db
    losses = tuple(Loss(id=5000 + n, make=one.what, band=one.band, db=one.db)
                   for n, one in enumerate(before.losses) if one.db is not None)  # fmt: skip
    after = survey_of(walk.changed(losses=losses, next_id=6000), catalogue)
    assert after.correction.before_db == pytest.approx(before.after_db, abs=0.1)


def house(*readings, **more):
    return site(ap(10, x=2.0), walls=[wall(6.0, material="brick")], readings=readings, **more)


def reading(number, x, dbm, **more):
    return Reading(id=number, floor_id=3, x_m=x, y_m=4.0, **{"band": "5", "dbm": dbm, "drop_id": 10} | more)


def test_a_reading_stands_beside_what_is_predicted_there():
    project = house(reading(100, 9.0, -60.0), reading(101, 9.0, -50.0, drop_id=None),
                    reading(102, 9.0, -55.0, band="6"), offsets=[DeviceOffset(id=90, device="phone", db=2.0)])  # fmt: skip
    first, guessed, nowhere = survey_of(project, LIST).readings
    level = level_at(project, 9.0, 4.0)
    assert first.predicted_dbm == pytest.approx(level, abs=0.01)
    assert first.error_db == pytest.approx(-60.0 - level - 2.0, abs=0.01)
    assert (guessed.drop_id, guessed.is_guessed, first.is_guessed) == (10, True, False)
    assert nowhere.predicted_dbm is None and "no access point" in nowhere.repeat


def test_without_noise_the_loss_of_a_wall_and_the_offset_of_a_device_come_out():
    truth = house(losses=[Loss(id=90, make="brick", band="5", db=12.5)])
    rows = [reading(100 + n, x, level_at(truth, x, 4.0)) for n, x in enumerate((3.0, 4.0, 5.0, 7.0, 8.0, 9.0, 10.0))]
    rows += [reading(200 + n, x, level_at(truth, x, 4.0) + 3.5, device="tablet") for n, x in enumerate((3.0, 8.0, 9.0))]
    brick, tablet = survey_of(house(*rows), LIST).correction.losses
    assert (brick.what, brick.band, brick.was_db) == ("brick", "5", 8.0)
    assert brick.db == pytest.approx(12.5, abs=0.05) and tablet.db == pytest.approx(3.5, abs=0.05)


def test_what_no_reading_tells_apart_is_left_as_it_was():
    """Two materials that are only ever crossed together."""
    both = {"walls": [wall(6.0, material="brick"), wall(7.0, number=51, material="block")]}
    rows = [reading(100 + n, x, -60.0 - n % 3) for n, x in enumerate((8.0, 8.5, 9.0, 9.5, 10.0, 10.5))]
    project = site(ap(10, x=2.0), readings=rows, **both)
    told = {one.what: one.db for one in survey_of(project, LIST).correction.losses}
    assert sorted(db is None for db in told.values()) == [False, True]


def test_losses_stay_between_their_bounds_and_floors_are_linear_in_their_lf():
    project = site(ap(10, room=22), **storeys("concrete", "concrete", "concrete"))
    floor = next(f for f in project.floors if f.level == 0)
    rows = [Reading(id=100 + n, floor_id=floor.id, x_m=1.0 + n, y_m=3.0, band="5", dbm=-100.0 - 4 * (n % 2), drop_id=10)
            for n in range(8)]  # fmt: skip
    (told,) = survey_of(project.changed(readings=tuple(rows)), LIST).correction.losses
    assert told.what == "floor-concrete" and 0 <= told.db <= 60
    bare = project.changed(losses=(Loss(id=90, make="floor-concrete", band="5", db=0.0),))
    loud = []
    for row in rows:
        heard = heard_at(bare, LIST, floor.id, (row.x_m, row.y_m))
        level = next(one.dbm for one in heard if one.band == "5")
        loud.append(row.model_copy(update={"dbm": level + 2 + row.id % 2}))
    (least,) = survey_of(project.changed(readings=tuple(loud)), LIST).correction.losses
    assert least.db == 0.0


def test_a_reading_by_an_older_generation_than_both_ends_can_is_marked():
    rows = [reading(100, 3.0, -40.0, generation="802.11ax"), reading(101, 4.0, -50.0, generation="802.11n"),
            reading(102, 4.0, -50.0, generation="802.11n", device="scanner")]  # fmt: skip
    new, old, only_old = survey_of(house(*rows), LIST).readings
    assert (new.repeat, only_old.repeat) == ("", "")
    assert old.repeat == "it was joined by 802.11n; both ends can do 802.11ax"
