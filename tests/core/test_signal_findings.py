"""What is said of access points and clients, each check from both sides of its limit."""

import math

import pytest

from baugrund.core.facts.brief import Goal
from baugrund.core.facts.building import Floor, Room
from baugrund.core.facts.signal import Radio
from baugrund.core.findings import SiteState
from baugrund.core.findings import signal as checks
from tests.core.test_signal import HALL, LIST, PLAIN, ap, clients, site, wall

OFF_2 = Radio(id=59, drop_id=10, band="2.4", on=False)
FIVE = Radio(id=50, drop_id=10, band="5", channel=36, width_mhz=20)
FASTEST_20_MHZ = 234 * 25 / 3 * 2 / 13.6 * 0.55
"""What two streams of 802.11ax carry over 20 MHz at MCS 11, 55 % of it [Mbit/s]."""


def said(check, project, catalogue=LIST):
    return list(check(SiteState(project, {}, {}, catalogue)))


def keys(check, project, catalogue=LIST):
    return [one.key for one in said(check, project, catalogue)]


@pytest.fixture
def asked():
    """A goal that has what Wi-Fi reaches looked at."""
    return {"goals": [Goal(id=40, kind="coverage", room_ids=(5,))]}


def test_nothing_is_told_where_no_access_point_is_and_none_is_asked_for(asked):
    bare = site().changed(drops=())
    for check in (checks.goals, checks.places, checks.clients, checks.settings):
        assert keys(check, bare) == []
    (finding,) = said(checks.goals, bare.changed(goals=tuple(asked["goals"])))
    assert (finding.subject, finding.weight, finding.drop_ids) == ("Hall", "breaks", ())
    assert finding.text.endswith("95 % is wanted. No access point sends there.")


def test_an_access_point_in_a_room_that_nobody_drew_is_told():
    rooms = (Room(id=5, name="Hall", floor_id=3, outline=HALL), Room(id=6, name="Shed", floor_id=3))
    assert keys(checks.places, site(ap(), ap(11, x=None, y=None, room=6), rooms=rooms)) == ["ap-nowhere-11"]


def test_an_access_point_with_every_band_off_is_told():
    radios = [Radio(id=50, drop_id=10, band="5", on=False)]
    assert keys(checks.places, site(radios=radios)) == []
    assert keys(checks.places, site(radios=[*radios, OFF_2])) == ["ap-silent-10"]


def test_one_that_others_drown_everywhere_is_needless():
    def weak(power):
        radios = [Radio(id=50 + n, drop_id=11, band=band, power_dbm=power) for n, band in enumerate(("2.4", "5"))]
        return keys(checks.places, site(ap(), ap(11), radios=radios))

    assert "ap-needless-11" in weak(10.0)
    assert "ap-needless-11" not in weak(20.0)


def test_one_behind_metal_is_told_from_half_of_its_surroundings_on():
    # of 24 columns of cells 11 lie beyond a wall at 6.5 m, and 12 before one at 5.9 m
    assert keys(checks.places, site(walls=[wall(6.5, material="metal")])) == []
    (finding,) = said(checks.places, site(walls=[wall(5.9, material="metal")]))
    assert finding.key == "ap-metal-10" and "to 50% of what is within 12 m" in finding.text
    assert keys(checks.places, site(walls=[wall(5.9, material="concrete")])) == []


def test_one_heard_well_where_the_other_answers_is_told_once_for_a_pair():
    both = site(ap(10, x=3.0), ap(11, x=9.0))
    assert keys(checks.places, both) == ["ap-over-10-11"], "a hall of 12 m is heard at -50 dBm throughout"
    quiet = [Radio(id=50 + n, drop_id=11, band=band, power_dbm=8.0) for n, band in enumerate(("2.4", "5"))]
    (finding,) = said(checks.places, both.changed(radios=tuple(quiet)))
    assert finding.key == "ap-over-11-10" and finding.drop_ids == (11, 10)
    # at 5 GHz a wall of concrete takes it below -50 dBm, and a pair is over another only in every band of both
    apart = site(ap(10, x=1.0), ap(11, x=11.0), walls=[wall(6.0, material="concrete")])
    assert keys(checks.places, apart) == []


def test_clients_without_a_drawn_room_are_told():
    rooms = (Room(id=5, name="Hall", floor_id=3, outline=HALL), Room(id=6, name="Shed", floor_id=3))
    assert keys(checks.clients, site(rooms=rooms, clients=[clients(room_ids=(5,))])) == []
    assert keys(checks.clients, site(rooms=rooms, clients=[clients(room_ids=(6,))])) == ["clients-nowhere-40"]


@pytest.mark.parametrize(("share", "told"), [(0.699, []), (0.701, ["airtime-5-10"])])
def test_airtime_is_told_over_seventy_percent(share, told):
    one = clients(count=1, demand_mbit=share * FASTEST_20_MHZ)
    project = site(radios=[FIVE, OFF_2], clients=[one])
    if not told:
        # five years of 5 % make 0.892 of it
        assert (
            f"{share * 1.05**5:.1%} of its airtime at 5 GHz is asked by the horizon"
            in said(checks.clients, project)[0].text
        )
    settings = project.settings.model_copy(update={"growth_percent": 0.0})
    project = project.changed(settings=settings)
    assert keys(checks.clients, project) == told
    for finding in said(checks.clients, project):
        assert finding.text == f"{share:.1%} of its airtime at 5 GHz is asked; 70% is the most."
    unset = project.changed(radios=(FIVE.model_copy(update={"channel": None}), OFF_2))
    assert all("No channel is set" in finding.text for finding in said(checks.clients, unset))


def test_old_clients_before_new_ones_are_told_from_half_of_the_time_on():
    slow_rate = 52 * 5 / 3.6 * 0.55

    def told(slow_mbit, fast_mbit=0.1 * FASTEST_20_MHZ):
        rows = [clients(count=1, demand_mbit=slow_mbit, generation="802.11n", streams=1)]
        rows += [clients(id=41, name="New", count=1, demand_mbit=fast_mbit)] if fast_mbit else []
        return keys(checks.clients, site(radios=[FIVE, OFF_2], clients=rows))

    assert told(0.1 * slow_rate * 1.01) == ["slow-5-10"]
    assert told(0.1 * slow_rate * 0.99) == []
    assert told(0.2 * slow_rate, fast_mbit=None) == [], "where all are old none waits"
    assert told(0.02 * slow_rate, 0.01 * FASTEST_20_MHZ) == [], "there is time enough for all"


@pytest.mark.parametrize(
    ("outside", "channel", "told"),
    [(True, 36, ["indoor-5-10"]), (False, 36, []), (True, 100, [])],
)
def test_channels_for_inside_stay_inside(outside, channel, told):
    rooms = (Room(id=5, name="Yard", floor_id=3, outline=HALL, outside=outside),)
    radio = FIVE.model_copy(update={"channel": channel})
    floors = (Floor(id=3, building_id=2, name="Ground"),)
    assert keys(checks.settings, site(rooms=rooms, floors=floors, radios=[radio])) == told


@pytest.mark.parametrize(("speed", "streams", "told"), [(1000, 4, ["ap-port-10"]), (2500, 4, []), (1000, 1, [])])
def test_a_drop_that_is_slower_than_the_air_is_told_where_the_port_is_not(speed, streams, told):
    model = PLAIN.model_copy(update={"streams_5": streams, "streams_2": 0, "port_mbit": 2500})
    # at most over 80 MHz: 980 · 25/3 · streams / 13.6 with 55 % of it, 1,321 Mbit/s for four and 330 for one
    assert round(980 * 25 / 3 * streams / 13.6 * 0.55) == {4: 1321, 1: 330}[streams]
    catalogue = LIST.model_copy(update={"models": (model,)})
    project = site(ap().model_copy(update={"speed_mbit": speed}), radios=[FIVE.model_copy(update={"width_mhz": 80})])
    assert keys(checks.settings, project, catalogue) == told
    slow_port = LIST.model_copy(update={"models": (model.model_copy(update={"port_mbit": 1000}),)})
    assert keys(checks.settings, project, slow_port) == []


def test_a_radio_of_a_band_that_the_model_has_not_is_told():
    six = Radio(id=50, drop_id=10, band="6")
    (finding,) = said(checks.settings, site(radios=[six]))
    assert finding.key == "no-band-6-10" and finding.text.endswith("It has 2 bands.")
    assert keys(checks.settings, site(radios=[six.model_copy(update={"on": False})])) == []


def test_how_far_fifty_decibels_reach_is_more_than_the_hall():
    """What the pairs above stand on: 20 dBm EIRP at 5.5 GHz are heard at -50 dBm to 13.7 m in the open."""
    reach_m = 10 ** ((20 + 50 - 20 * math.log10(5500) + 27.55) / 20)
    assert reach_m == pytest.approx(13.7, abs=0.05)
