"""Kinds of path and cable: the tables hold together, and a project's own figures stand over them."""

from __future__ import annotations

import pytest

from baugrund.core.answers.picker import balance
from baugrund.core.cabling.fill import currents, filled
from baugrund.core.edits import AddEntry, ChangeDrops, ChangeEntry, DropChanges, RemoveEntry, apply_edits
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.drop_kinds import DROP_KINDS
from baugrund.core.facts.path_kinds import PATH_KINDS
from baugrund.core.reach.cable_types import cable_type
from baugrund.core.reach.network import height_of
from tests.core.test_reach import drop, hall, path, run_of

CAREFUL = ("loft", "chase", "panelling", "outside", "drilled", "joist_bay", "riser", "buried")
"""Kinds at which somebody can be hurt or something be hit."""


@pytest.mark.parametrize("kind", PATH_KINDS)
def test_every_kind_of_path_has_sensible_figures_and_tools(kind):
    row = PATH_KINDS[kind]
    assert 1 <= row.difficulty <= 5
    assert 0 < row.hours_per_m <= 1
    assert 0 < row.temperature_c <= 60
    assert row.tools
    assert bool(row.caution) or kind not in CAREFUL


def test_no_caution_says_that_something_is_permitted():
    for row in PATH_KINDS.values():
        assert "permitted" not in row.caution
        assert "allowed" not in row.caution


@pytest.mark.parametrize(
    ("kind", "height"), [("tray", 2.5), ("skirting", 0.1), ("loft", 2.75), ("joist_bay", 2.75), ("buried", -0.6)]
)
def test_a_path_lies_where_its_kind_usually_does_unless_its_height_is_typed(kind, height):
    project = path(path(hall(), (1, 1), (9, 1), kind=kind), (1, 2), (9, 2), kind=kind, height_m=1.7)
    usual, typed = project.paths
    assert height_of(usual, project.floors[0]) == pytest.approx(height)
    assert height_of(typed, project.floors[0]) == 1.7


def test_better_cable_is_thicker_and_dearer_and_a_jacket_or_screen_adds_to_it():
    project = hall()
    made = [cable_type(project, category) for category in ("5", "5e", "6", "6A")]
    assert [one.diameter_mm for one in made] == sorted(one.diameter_mm for one in made)
    assert [one.price_minor for one in made] == sorted(one.price_minor for one in made)
    plain, outdoor = cable_type(project, "6"), cable_type(project, "6", outdoor=True)
    both = cable_type(project, "6", outdoor=True, screened=True)
    assert plain.diameter_mm < outdoor.diameter_mm < both.diameter_mm
    assert (plain.name, both.name) == ("category 6", "category 6, screened, outdoor jacket")


def test_the_project_s_own_cable_stands_over_the_usual_one_and_for_its_make_alone():
    own = AddEntry(list="cables", values={"category": "6", "outdoor": True, "price_minor": 1234, "diameter_mm": 8})
    project = apply_edits(hall(), [own])
    outdoor = cable_type(project, "6", outdoor=True)
    assert (outdoor.price_minor, outdoor.diameter_mm) == (1234, 8)
    assert cable_type(project, "6") == cable_type(hall(), "6")
    with pytest.raises(InvalidInput, match="cables holds"):
        apply_edits(project, [own])


def test_the_fill_of_a_path_follows_the_cable_that_goes_in():
    project = drop(path(hall(), (1, 1), (21, 1), kind="conduit", inner_mm=10), 21, 1)
    (thin,) = filled(project).values()
    better = ChangeDrops(ids=(project.drops[0].id,), changes=DropChanges(category="6A"))
    (thick,) = filled(apply_edits(project, [better])).values()
    # one cable may take 53 % of the section: 36 and 54.76 of 100 mm²
    assert (thin.used, thick.used) == (pytest.approx(0.36 / 0.53), pytest.approx(0.5476 / 0.53))


def test_only_powered_runs_carry_a_current():
    project = drop(drop(hall(), 11, 6), 12, 6, poe_class=4, draw_w=21, run_m=72)
    ((number, (amperes, pairs)),) = currents(project).items()
    assert (number, pairs) == (project.drops[1].id, 2)
    assert amperes == pytest.approx(0.43, abs=0.01)


def test_a_path_that_goes_leaves_runs_that_were_forced_onto_it_to_themselves():
    project = path(hall(), (1, 1), (30, 1))
    project = drop(project, 30, 1, via_id=project.paths[0].id)
    rest = apply_edits(project, [RemoveEntry(list="paths", id=project.paths[0].id)])
    assert rest.drops[0].via_id is None
    assert run_of(rest).state == "loose"


def test_the_balance_tells_the_length_of_every_cable(catalogue):
    project = drop(drop(hall(), 11, 6), 12, 6, run_m=17)
    told = balance(project, catalogue, None).run_m
    assert told == {project.drops[0].id: pytest.approx(22.4), project.drops[1].id: 17}
    nowhere = ChangeEntry(list="closets", id=1, changes={"room_id": None, "x_m": None, "y_m": None})
    guessed = balance(apply_edits(project, [nowhere]), catalogue, None).run_m
    assert guessed[project.drops[0].id] == DROP_KINDS["desk"].run_m


@pytest.mark.parametrize("more", [0, 1])
def test_all_paths_together_have_so_many_corners_and_no_more(more):
    project = hall()
    line = [[x / 2, 1] for x in range(50)]
    floor = project.floors[0].id
    adds = [AddEntry(list="paths", values={"name": "P", "floor_id": floor, "points": line}) for _ in range(100)]
    full = apply_edits(project, adds)
    if more:
        with pytest.raises(InvalidInput, match="5,002 corners; a project holds 5,000 at most"):
            path(full, (1, 1), (2, 1))
    else:
        assert len(full.paths) == 100
