"""Every part and task of both demo projects, traced by hand in a sheet: its count there and here, its price by a second
computation over the price list's own file.
"""

import csv
import json
import math
from pathlib import Path

import pytest

from baugrund.demo import CATALOGUE

from .priced import priced

SHEET = Path(__file__).with_name("worked_sheet.csv")
SPARE = {"ways": 5, "ends": 5, "cords": 5, "fixings": 10, "labels": 10}
PULLED = ("task/pull_",)
"""Metres are Reach's, and traced there."""


@pytest.fixture(scope="module", params=["dye_works", "row_house"])
def traced(request, catalogue):
    with SHEET.open(encoding="utf-8") as file:
        rows = [row for row in csv.DictReader(file) if row["project"] == request.param]
    project = request.getfixturevalue(request.param)
    return project, priced(project, catalogue), {row["key"]: float(row["count"]) for row in rows}


def test_every_part_and_task_stands_in_the_sheet_and_none_beside(traced):
    _, costs, sheet = traced
    told = {part.key: part.needed for part in costs.parts}
    told |= {line.key: line.count for line in costs.labour.lines if not line.key.startswith(PULLED)}
    assert told == pytest.approx(sheet, abs=1e-6)


def test_packs_and_prices_are_those_of_the_sheet_and_the_price_list(traced):
    """Spare by its group, whole packs, the cheapest line that serves the part."""
    project, costs, sheet = traced
    models = json.loads(CATALOGUE.read_text(encoding="utf-8"))["models"]
    own = {term.part: term for term in project.part_terms}
    total = 0
    for part in costs.parts:
        count = sheet[part.key]
        spare = math.ceil(count * SPARE.get(part.group, 0) / 100 - 1e-9)
        buy = count + spare - (own[part.key].there if part.key in own else 0)
        if part.key in own and own[part.key].price_minor is not None:
            total += round(math.ceil(buy) * own[part.key].price_minor)
            continue
        if part.key.startswith("model/"):
            (line,) = (one for one in models if one["key"] == part.key.removeprefix("model/"))
            total += math.ceil(buy / line.get("pack", 1)) * line["price_minor"]
        elif part.key.startswith("part/") and not part.name.startswith("patch panel"):
            serving = [one for one in models if one.get("serves") == part.name]
            prices = [math.ceil(buy / one.get("holds", 1) - 1e-9) * one["price_minor"] for one in serving]
            assert prices, part.key
            total += min(prices)
        else:
            total += math.ceil(buy) * part.each_minor
    assert costs.parts_minor == total


def test_every_task_costs_its_usual_hours_a_twentieth_more_at_its_rate(traced):
    """The mean of 0.7, 1 and 1.6 times is 1.05; what the owner does takes half as long again and costs nothing."""
    from baugrund.core.facts.labour import USUAL

    project, costs, sheet = traced
    own = {rate.task: rate.hours for rate in project.task_rates}
    for line in costs.labour.lines:
        if line.key not in sheet:
            continue
        usual = sheet[line.key] * (own.get(line.task, USUAL[line.task][1]) if line.task else 1.0)
        slower = 1.5 if line.who == "owner" else 1.0
        assert line.hours.mean_h == pytest.approx(1.05 * slower * usual, abs=1e-6), line.key
        assert line.cost_minor == (0 if line.who == "owner" else round(line.hours.mean_h * 7500))
