"""The orchard school, a demo of two closets with a fibre between them, worked by hand."""

import pytest

from baugrund.core.answers.picker import Picker, balance
from baugrund.core.demand.needs import demands
from baugrund.demo import PROJECTS
from baugrund.exchange.project_file import read_project


@pytest.fixture(scope="module")
def school():
    return read_project(PROJECTS[2].read_bytes())


@pytest.fixture(scope="module")
def answer(school, catalogue):
    return Picker(school, catalogue).answer("least_price")


def test_drops_of_barn_and_orchard_end_in_the_barn(school):
    house, barn = (demands(school, 0)[closet.id] for closet in school.closets)
    # hall 3, office 5, classrooms 4 each, book room 3; barn: workshop 7, weighing room 3, seed room 1, orchard 3
    assert (len(house.live), len(barn.live)) == (19, 14)


def test_each_closet_gets_boxes_of_its_own_and_the_link_is_fibre(school, answer):
    house, barn = answer.closets
    assert answer.proven and (house.name, barn.name) == ("Book room rack", "Barn rack")
    assert answer.price_minor == house.price_minor + barn.price_minor == 135_000
    (link,) = [link for link in answer.links if link.closet_id is not None]
    # 78 m between two buildings, 592 Mbit/s of 700: multimode with a module at both ends
    assert (link.upper_module, link.lower_module, link.rate_mbit) == ("module-sx", "module-sx", 1_000)


def test_planned_growth_goes_to_the_closet_that_it_names(school):
    barn = demands(school, 2)[school.closets[1].id]
    kinds = [asked.kind for asked in barn.reserve]
    assert kinds.count("camera") >= 2


def test_its_honest_mistake_is_found(school, catalogue, answer):
    found = {finding.key: finding.text for finding in balance(school, catalogue, answer.standing()).findings}
    (over,) = [text for key, text in found.items() if key.startswith("class-")]
    assert over == "draws 26 W; class 4 gives a device 25.5 W at most."
