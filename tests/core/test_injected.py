"""Drops that injectors feed: no capacity of the boxes is said to be over for them."""

import pytest

from baugrund.core.answers.picker import Picker
from baugrund.core.edits import AddDrops, AddRooms, NewRoom, apply_edits
from baugrund.core.facts.project import empty_project
from baugrund.core.standing.bearing import bearing
from baugrund.core.standing.ground import grounds_of


@pytest.fixture(scope="module")
def bakery(catalogue):
    """A project whose least pick feeds both access points by injectors, with the picker and the answer."""
    rooms = AddRooms(rooms=(NewRoom(name="Office"), NewRoom(name="Yard")))
    kinds = [("Office", "desk", 3), ("Office", "access_point", 2), ("Yard", "camera", 1)]
    drops = [AddDrops(room=room, kind=kind, count=count) for room, kind, count in kinds]
    project = apply_edits(empty_project("Corner bakery", 2026), [rooms, *drops])
    picker = Picker(project, catalogue)
    answer = picker.answer("least_price")
    assert any(part.kind == "injector" for part in answer.parts)
    return project, picker, answer


def test_the_best_port_or_injector_gives_the_highest_class(bakery, catalogue):
    project, _, answer = bakery
    (ground,) = grounds_of(project, catalogue, answer.standing())
    per_port = next(capacity for capacity in bearing(ground) if capacity.key == "per_port")
    assert (per_port.used, per_port.limit) == (30.0, 30.0)


def test_watts_of_a_year_are_set_against_boxes_and_injectors(bakery):
    _, picker, answer = bakery
    margin = 1.2
    given = sum(box.power_w for box in answer.boxes)
    count = sum(part.quantity for part in answer.parts if part.kind == "injector")
    for line in picker.ahead(answer).years:
        assert line.power_limit_w == pytest.approx(given + count * 30 * margin)
        assert line.power_w <= line.power_limit_w or line.lacks
