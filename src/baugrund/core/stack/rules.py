"""What an arrangement of a rack must hold, checked thing by thing, and how well it meets the wishes."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from itertools import combinations, pairwise
from typing import NamedTuple

from ..facts.building import Closet
from ..facts.fact import Fact
from ..facts.project import Project
from ..standards.stack import CORD_MM, SHELF_WIDTH_MM, UNIT_MM
from ..words import joined
from .cords import Cords
from .things import Thing

REAR_KINDS = ("strip", "fan", "other", "shelf", "manager")
"""What may be screwed to the rear rails, where somebody can work there."""


class Broken(Fact):
    """A rule that things break where they stand."""

    rule: str
    things: tuple[str, ...]
    text: str


class Weights(NamedTuple):
    """What wishes weigh: a unit of a cord, a watt under a cooler, a kilogram over a lighter."""

    cords: float
    hot: float
    heavy: float


class Score(Fact):
    """How far an arrangement is from its wishes, each as it is counted, and weighed together."""

    cord_units: float
    hot_w: float
    heavy_kg: float
    total: float


def weights_of(project: Project) -> Weights:
    settings = project.settings
    return Weights(settings.cords_weight, settings.hot_weight, settings.heavy_weight)


def depth_asked(thing: Thing) -> int:
    """Depth with room for plug and bend behind it [mm]; what hangs on rails without plugs asks for its own."""
    return thing.depth_mm if thing.hangs else thing.depth_mm + CORD_MM


def middles(things: Sequence[Thing]) -> dict[str, float]:
    """Height of the middle of everything that stands, in units from the bottom; on a shelf that of the shelf."""
    on_rails = {one.key: one.unit - 1 + one.units / 2 for one in things if one.units and one.unit is not None}
    on_shelves = {one.key: on_rails[one.on] for one in things if not one.units and one.on in on_rails}
    return on_rails | on_shelves


def score(things: Sequence[Thing], cords: Sequence[Cords], weights: Weights) -> Score:
    """Σ count × units between middles; Σ W by which a hotter is under a cooler; Σ kg by which a heavier is over a
    lighter; over all pairs of what stands."""
    at = middles(things)
    standing = [one for one in things if one.key in at]
    cord = sum(c.many * abs(at[c.one] - at[c.other]) for c in cords if c.one in at and c.other in at)
    hot = heavy = 0.0
    for one, other in combinations(standing, 2):
        low, high = (one, other) if at[one.key] < at[other.key] else (other, one)
        if at[low.key] < at[high.key]:
            hot += _hotter_w(low, high)
            heavy += _heavier_kg(low, high)
    total = weights.cords * cord + weights.hot * hot + weights.heavy * heavy
    return Score(cord_units=round(cord, 3), hot_w=round(hot, 3), heavy_kg=round(heavy, 3), total=round(total, 4))


def _hotter_w(low: Thing, high: Thing) -> float:
    return max(0.0, heat_w(low) - heat_w(high))


def _heavier_kg(low: Thing, high: Thing) -> float:
    return max(0.0, high.mass_kg - low.mass_kg)


def under_weight(low: Thing, high: Thing, weights: Weights) -> float:
    """What it weighs that one stands under another."""
    return weights.hot * _hotter_w(low, high) + weights.heavy * _heavier_kg(low, high)


def heat_w(thing: Thing) -> float:
    """What a thing leaves in the closet as heat [W]."""
    return thing.mains_w - thing.away_w


def broken(closet: Closet, things: Sequence[Thing]) -> tuple[Broken, ...]:
    """Everything that an arrangement of a rack breaks."""
    taken = _taken(things)
    return (
        *_unplaced(things), *_outside(closet, things), *_slack(closet, things), *_overlaps(things, taken),
        *_depth(closet, things, taken),
        *_shelves(things), *_load(closet, things), *_ups(closet, things, taken), *_blows(closet, things),
        *_free(closet, things, taken),
    )  # fmt: skip


def _taken(things: Sequence[Thing]) -> Mapping[tuple[int, str], list[Thing]]:
    """What stands in every unit of each face."""
    found: dict[tuple[int, str], list[Thing]] = defaultdict(list)
    for thing in things:
        if thing.units and thing.unit is not None:
            for unit in range(thing.unit, thing.unit + thing.units):
                found[unit, thing.face].append(thing)
    return found


def _broken(rule: str, text: str, *things: Thing) -> Broken:
    return Broken(rule=rule, things=tuple(one.key for one in things), text=text)


def _unplaced(things: Sequence[Thing]) -> Iterator[Broken]:
    keys = {one.key for one in things}
    for thing in things:
        if thing.units and thing.unit is None:
            yield _broken("place", f"{thing.name} stands nowhere yet.", thing)
        elif not thing.units and thing.on not in keys:
            yield _broken("place", f"{thing.name} has no ears: it needs a shelf.", thing)


def _outside(closet: Closet, things: Sequence[Thing]) -> Iterator[Broken]:
    for thing in things:
        if thing.units and thing.unit is not None and thing.unit + thing.units - 1 > closet.units:
            yield _broken("height", f"{thing.name} ends over the {closet.units} units of the rack.", thing)


def _slack(closet: Closet, things: Sequence[Thing]) -> Iterator[Broken]:
    for thing in things:
        if thing.kind != "panel" or not thing.units or thing.unit is None:
            continue
        lowest, highest = starts(closet, thing)
        is_inside = thing.unit + thing.units - 1 <= closet.units
        if is_inside and not lowest <= thing.unit <= highest:
            middle = (thing.unit - 1 + thing.units / 2) * UNIT_MM
            away = middle if closet.entry == "bottom" else closet.units * UNIT_MM - middle
            yield _broken(
                "slack",
                f"{thing.name} is {away:.0f} mm from where cables come in; cable that is there reaches "
                f"{closet.slack_mm} mm.", thing,
            )  # fmt: skip


def _overlaps(things: Sequence[Thing], taken: Mapping[tuple[int, str], list[Thing]]) -> Iterator[Broken]:
    pairs = {(a.key, b.key): (a, b) for some in taken.values() for a, b in combinations(some, 2)}
    for one, other in pairs.values():
        yield _broken("overlap", f"{one.name} and {other.name} are in one another's place.", one, other)


def _depth(closet: Closet, things: Sequence[Thing], taken: Mapping[tuple[int, str], list[Thing]]) -> Iterator[Broken]:
    for thing in things:
        asked = depth_asked(thing)
        if asked > closet.depth_mm:
            yield _broken(
                "depth",
                f"{thing.name} asks for {asked} mm with plug and bend; there are {closet.depth_mm} mm from rail to "
                "rear.", thing,
            )  # fmt: skip
    pairs = {
        (front.key, rear.key): (front, rear)
        for (unit, face), some in taken.items() if face == "front"
        for front in some for rear in taken.get((unit, "rear"), ())
    }  # fmt: skip
    for front, rear in pairs.values():
        asked = front.depth_mm + rear.depth_mm + 2 * CORD_MM
        if asked > closet.depth_mm:
            yield _broken(
                "depth", f"{front.name} and {rear.name} share a unit and ask for {asked} mm of {closet.depth_mm} mm.",
                front, rear,
            )  # fmt: skip


def _shelves(things: Sequence[Thing]) -> Iterator[Broken]:
    for shelf in (one for one in things if one.kind == "shelf"):
        here = [one for one in things if one.on == shelf.key]
        width, mass = sum(one.width_mm for one in here), sum(one.mass_kg for one in here)
        if width > SHELF_WIDTH_MM:
            yield _broken("shelf", f"{shelf.name} is {SHELF_WIDTH_MM} mm wide; {width} mm stand on it.", shelf, *here)
        if shelf.carries_kg is not None and mass > shelf.carries_kg + 1e-9:
            yield _broken("shelf", f"{shelf.name} carries {shelf.carries_kg:g} kg; {mass:g} kg stand on it.", shelf,
                          *here)  # fmt: skip
        for one in here:
            if shelf.clear_mm is not None and one.height_mm > shelf.clear_mm:
                yield _broken("shelf", f"{one.name} is {one.height_mm} mm high; over {shelf.name} {shelf.clear_mm} mm "
                              "are clear.", shelf, one)  # fmt: skip


def _load(closet: Closet, things: Sequence[Thing]) -> Iterator[Broken]:
    mass = sum(one.mass_kg for one in things)
    if mass > closet.load_kg + 1e-9:
        yield _broken("load", f"{mass:g} kg stand in it; it carries {closet.load_kg:g} kg.")


def _ups(closet: Closet, things: Sequence[Thing], taken: Mapping[tuple[int, str], list[Thing]]) -> Iterator[Broken]:
    for ups in (one for one in things if one.kind == "ups" and one.units and one.unit is not None):
        assert ups.unit is not None
        others = [one for one in things if one.kind == "ups" and one is not ups and one.unit is not None]
        lowest = all(one.unit is not None and one.unit >= ups.unit for one in others)
        if ups.unit != 1 and (lowest or not others):
            yield _broken("ups", f"{ups.name} stands on rails: it belongs on the floor of the rack.", ups)
        above = ups.unit + ups.units
        if above > closet.units or taken.get((above, "front")) or taken.get((above, "rear")):
            yield _broken("ups", f"{ups.name} wants an empty unit of air over it, before and behind.", ups)


def stands_nowhere(closet: Closet, thing: Thing) -> bool:
    """Whether a thing can stand nowhere in a rack: too deep, too high, out of reach of cable that is there, or it blows
    out to where a wall is."""
    blows = [side for side, way in (("right", RIGHT), ("left", LEFT)) if way.get(thing.airflow or "") == "out"]
    walled = any(closet.blocked in (side, "both") for side in blows)
    lowest, highest = starts(closet, thing)
    return walled or (thing.units > 0 and lowest > highest) or depth_asked(thing) > closet.depth_mm


def starts(closet: Closet, thing: Thing) -> tuple[int, int]:
    """The lowest and the highest unit at which a thing may begin: a panel within reach of the cable that is there."""
    lowest, highest = 1, closet.units - thing.units + 1
    if thing.kind != "panel" or closet.slack_mm is None or not closet.entry:
        return lowest, highest
    # from where cables come in to its middle
    reach = math.floor(closet.slack_mm / UNIT_MM - thing.units / 2 + 1e-9)
    if closet.entry == "bottom":
        return lowest, min(highest, reach + 1)
    return max(lowest, highest - reach), highest


def rides(thing: Thing, shelf: Thing) -> bool:
    """Whether a thing has its place on a shelf at all."""
    clear = shelf.clear_mm is None or thing.height_mm <= shelf.clear_mm
    return clear and (not thing.fixed or not thing.on or thing.on == shelf.key)


def side_by_side(things: Sequence[Thing]) -> list[Thing] | None:
    """Things of a shelf from left to right, none blowing into its neighbour's intake; None: there is no such order.

    Two that blow the same way are never neighbours: of what is left most of one way comes first, and what blows
    neither way parts them.
    """
    ways: dict[str, list[Thing]] = {"right_to_left": [], "left_to_right": [], "": []}
    for thing in sorted(things, key=lambda one: one.key):
        ways[thing.airflow if thing.airflow in ways else ""].append(thing)
    row: list[Thing] = []
    last = ""
    while any(ways.values()):
        left = [way for way in ways if way and way != last and ways[way]]
        last = max(left, key=lambda way: len(ways[way]), default="")
        if not ways[last]:
            return None
        row.append(ways[last].pop(0))
    return row


BACKS = {"front_to_rear": "out", "rear_to_front": "in"}
RIGHT = {"left_to_right": "out", "right_to_left": "in"}
LEFT = {"left_to_right": "in", "right_to_left": "out"}


def _blows(closet: Closet, things: Sequence[Thing]) -> Iterator[Broken]:
    """What blows into another's intake, or against a wall."""
    for thing in things:
        if thing.airflow is None:
            continue
        for side, way in (("right", RIGHT), ("left", LEFT)):
            if way.get(thing.airflow) == "out" and closet.blocked in (side, "both"):
                yield _broken("air", f"{thing.name} blows out to the {side}, where a wall is.", thing)
    for shelf in (one for one in things if one.kind == "shelf"):
        row = sorted((one for one in things if one.on == shelf.key), key=lambda one: (one.x_mm or 0, one.key))
        for left, right in pairwise(row):
            ways = RIGHT.get(left.airflow or ""), LEFT.get(right.airflow or "")
            if set(ways) == {"in", "out"}:
                yield _broken("air", f"{left.name} and {right.name}: one blows into the other's intake.", left, right)
    rails = [one for one in things if one.units and one.unit is not None]
    for front, rear in combinations(rails, 2):
        if front.face == rear.face or not _share_unit(front, rear):
            continue
        ways = BACKS.get(front.airflow or ""), BACKS.get(rear.airflow or "")
        if set(ways) == {"in", "out"}:
            yield _broken("air", f"{front.name} and {rear.name}: one blows into the other's intake.", front, rear)


def _share_unit(one: Thing, other: Thing) -> bool:
    assert one.unit is not None and other.unit is not None
    return one.unit < other.unit + other.units and other.unit < one.unit + one.units


def _free(closet: Closet, things: Sequence[Thing], taken: Mapping[tuple[int, str], list[Thing]]) -> Iterator[Broken]:
    panels = [one for one in things if one.kind == "panel" and one.unit is not None]
    if not closet.keep_free or not panels:
        return
    air = {ups.unit + ups.units for ups in things if ups.kind == "ups" and ups.unit is not None}
    empty = {
        unit for unit in range(1, closet.units + 1)
        if not taken.get((unit, "front")) and not taken.get((unit, "rear")) and unit not in air
    }  # fmt: skip
    beside = {unit for panel in panels for unit in ((panel.unit or 1) - 1, (panel.unit or 1) + panel.units)}
    if not empty & beside:
        yield _broken("free", f"No unit is free beside {joined([one.name for one in panels])} for the next one.",
                      *panels)  # fmt: skip
