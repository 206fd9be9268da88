"""What the boxes of one closet draw is what the whole site's load says of them."""

from dataclasses import replace

import pytest

from baugrund.core.answers.picker import Picker, standing_boxes
from baugrund.core.standing.ground import grounds_of
from baugrund.core.standing.loads import box_loads, load_of


@pytest.fixture(scope="module", params=["dye_works", "orchard_school"])
def stands(request, catalogue):
    project = request.getfixturevalue(request.param)
    followed = Picker(project, catalogue).answer("least_price").standing()
    return project, grounds_of(project, catalogue, standing_boxes(project, catalogue, followed))


def test_closet_by_closet_the_boxes_are_those_of_the_site(stands):
    project, grounds = stands
    assert tuple(box for ground in grounds for box in box_loads(project, ground)) == load_of(project, grounds).boxes


def test_every_drop_is_fed_by_a_box_of_its_own_closet(stands):
    project, grounds = stands
    load, first = load_of(project, grounds), 0
    for ground in grounds:
        mine = range(first, first + len(ground.boxes))
        here = {drop.id for drop in project.drops_by_closet[ground.closet.id]}
        assert {number for number, at in load.box_of.items() if at in mine} <= here
        first += len(ground.boxes) if ground.seating else 0


def test_drops_by_closet_are_all_drops_once_in_their_order(stands):
    project, _ = stands
    for closet in project.closets:
        assert project.drops_by_closet[closet.id] == tuple(d for d in project.drops if d.closet_id == closet.id)
    assert sum(map(len, project.drops_by_closet.values())) == len(project.drops)
    for number, behind in project.behind.items():
        assert behind == tuple(drop for drop in project.drops if drop.behind_id == number)


def test_boxes_that_do_not_bear_their_drops_tell_no_load(stands):
    """Watts are those of a seating; without one nobody knows which box feeds what."""
    project, grounds = stands
    unseated = [replace(ground, seating=None, places=()) for ground in grounds]
    assert [box_loads(project, ground) for ground in unseated] == [[] for _ in grounds]
    assert load_of(project, unseated).boxes == () and load_of(project, unseated).box_of == {}


def test_a_closet_without_boxes_has_none(stands):
    project, grounds = stands
    bare = replace(grounds[0], boxes=(), seating=None, places=())
    assert box_loads(project, bare) == []
