"""Ways to link boxes: found once for all problems of one catalogue, and the same as when they are found anew."""

from baugrund.core.pick.model.supply import link_ends
from baugrund.launch.cases import made_up_closet, made_up_needs


def test_ways_to_link_are_found_once_for_all_problems_of_one_catalogue(catalogue):
    few, many = (made_up_closet(made_up_needs(drops, 1), catalogue) for drops in (10, 20))
    assert few.modules == many.modules and few.table is many.table
    for upper, lower in ((0, 1), (2, 0)):
        pairs = [(problem.switches[upper], problem.switches[lower]) for problem in (few, many)]
        assert few.ways(*pairs[0]) is many.ways(*pairs[1])
    other = made_up_closet(made_up_needs(10, 1), catalogue.model_copy(update={"name": "Other"}))
    assert other.table is not few.table


def test_ends_follow_from_sorts_of_ports_not_from_how_many_there_are(catalogue):
    problem = made_up_closet(made_up_needs(10, 1), catalogue)
    by_sort = {}
    for box in problem.boxes:
        ends = by_sort.setdefault(box.sorts_of_ends, problem.ends(box))
        assert problem.ends(box) is ends
        assert [(end.port, end.slot, end.speed_mbit) for end in ends] == [
            (end.port, end.slot, end.speed_mbit) for end in link_ends(problem.modules, box)
        ]
