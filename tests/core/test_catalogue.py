"""The catalogue: what ships is spread as the market is; impossible lines are refused."""

import json
from fractions import Fraction

import pytest
from pydantic import ValidationError

from baugrund.core.errors import InvalidInput
from baugrund.core.facts.lines.spare import Spare
from baugrund.core.pick.model.supply import box_type
from baugrund.exchange.catalogue_file import read_catalogue

from .small import catalogue as small
from .small import ports, router, switch


def test_the_shipped_catalogue_is_spread_as_the_market_is(catalogue):
    assert 90 <= sum(model.kind != "material" for model in catalogue.models) <= 150
    switches = [s for s in catalogue.switches if "slot switch" not in s.name]
    assert {min(s.port_count for s in switches), max(s.port_count for s in switches)} == {5, 48}
    budgets = sorted(s.poe_budget_w for s in switches if s.poe_budget_w)
    assert (budgets[0], budgets[-1]) == (45, 1440)
    for chosen in (lambda s: not s.powered_count, lambda s: 0 < s.powered_count < s.port_count,
                   lambda s: s.powered_count == s.port_count, lambda s: s.managed, lambda s: not s.managed,
                   lambda s: s.fanless, lambda s: not s.fanless, lambda s: s.form == "shelf",
                   lambda s: s.form == "rack"):  # fmt: skip
        assert sum(map(chosen, switches)) >= 5
    speeds = {group.speed_mbit for s in switches for group in s.ports}
    assert {1000, 2500, 10_000} <= speeds
    caps = {group.poe_class for s in switches for group in s.ports}
    assert {None, 3, 4, 6, 8} <= caps
    routers = catalogue.routers
    assert any(r.powered_count for r in routers)
    assert any(r.recorder_cameras for r in routers)
    assert any(len(r.wan_mbit) > 1 for r in routers)
    assert len(catalogue.injectors) >= 4
    assert {m.medium for m in catalogue.modules} == {"copper", "fibre-multimode", "fibre-singlemode"}


def test_models_are_named_by_what_they_are(catalogue):
    for model in catalogue.switches:
        assert f"{model.port_count}-port" in model.name or "slot" in model.name
        if model.poe_budget_w:
            assert f"{model.poe_budget_w:,g} W" in model.name


@pytest.mark.parametrize(
    ("wrong", "said"),
    [
        (lambda: switch("s", ports(4, poe=4), watts=0), "4 powered ports but a PoE budget of 0 W"),
        (lambda: switch("s", ports(4), watts=30), "a PoE budget of 30 W but no powered port"),
        (lambda: switch("s", ports(4), price=-1), "price_minor"),
        (lambda: switch("s", ports(4, poe=9), watts=9), "poe_class"),
        (lambda: switch("s", ports(0)), "count"),
        (lambda: switch("s", ports(4, speed=300)), "speed_mbit"),
        (lambda: switch("s", ports(4), efficiency_percent=101), "efficiency_percent"),
        (lambda: router("r", ports(4), wan_mbit=()), "wan_mbit"),
        (lambda: small(switch("s", ports(4)), switch("s", ports(5))), "two models have the key 's'"),
        (lambda: switch("S s", ports(4)), "key"),
    ],
)
def test_impossible_lines_are_refused(wrong, said):
    with pytest.raises(ValidationError, match=said):
        wrong()


def test_a_bad_catalogue_file_names_file_and_place(tmp_path, catalogue):
    data = json.loads(catalogue.model_dump_json())
    data["models"][3]["price_minor"] = -5
    file = tmp_path / "prices.json"
    file.write_text(json.dumps(data))
    with pytest.raises(InvalidInput, match=r"prices.json: models\[3\].router.price_minor"):
        read_catalogue(file)


@pytest.mark.parametrize(
    ("headroom", "strict", "limits"),
    [(Fraction(0), False, (10, 8, 50_000)), (Fraction(1, 4), False, (7, 6, 37_500)), (Fraction(1, 4), True, (7, 5, 37_499)),
     (Fraction(1), False, (0, 0, 0))],
)  # fmt: skip
def test_head_room_lowers_every_limit(headroom, strict, limits):
    box = box_type(switch("s", ports(2), ports(8, poe=4), watts=60), 0, 1, None, 20.0, headroom, strict)
    assert (box.ports_most, box.powered_most, box.power_most_mw) == limits


def test_a_part_of_a_catalogue_has_the_lines_asked_for_and_all_that_no_pick_chooses_among(catalogue):
    part = catalogue.part({"switch-24", "no-such-line"})
    beside = [model.key for model in catalogue.models if not model.of_kind.in_picks]
    assert {"spare", "recorder"} <= {model.kind for model in part.models}
    assert [model.key for model in part.models if model.of_kind.in_picks] == ["switch-24"]
    assert [model.key for model in part.models if not model.of_kind.in_picks] == beside
    assert part.get("switch-24") == catalogue.get("switch-24") and part.get("switch-8") is None
    assert (part.name, part.currency) == (catalogue.name, catalogue.currency)


def test_the_cheapest_spare_in_stock_completes_a_box_the_first_of_equals(catalogue):
    def spare(key, price, in_stock=True):
        return Spare(key=key, name=key, price_minor=price, completes="ears", in_stock=in_stock)

    lines = (spare("dear", 900), spare("gone", 100, False), spare("first", 500), spare("second", 500))
    assert catalogue.model_copy(update={"models": lines}).spare_for("ears").key == "first"
    assert catalogue.model_copy(update={"models": lines}).spare_for("rails") is None


def test_what_stands_for_a_line_tells_it_from_every_other_a_changed_copy_too():
    line = switch("s", ports(8), price=100)
    assert line.mark == switch("s", ports(8), price=100).mark
    others = [
        line.model_copy(update={"price_minor": 101}),
        line.model_copy(update={"name": "another"}),
        switch("s", ports(9), price=100),
    ]
    assert len({one.mark for one in (line, *others)}) == 4
