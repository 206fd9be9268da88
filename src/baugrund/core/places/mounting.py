"""Small parts: what follows from the surface that a device or jack is mounted on, and from its surroundings."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping
from functools import cache

from ..facts.drop import Drop

ON_FURNITURE = ("hub", "nas", "recorder", "controller", "server", "phone")
"""Kinds that stand somewhere and need nothing to hang on."""
JACKS = ("desk", "jack", "screen", "printer", "console", "spare", "room_switch")
"""Kinds whose cable ends in a jack on the wall."""
DEVICES = ("access_point", "camera", "door_station", "reader")
"""Kinds that are fixed themselves."""

FIXINGS = {
    "plasterboard": ("hollow-wall anchors, pair", 1),
    "masonry": ("plugs and screws, pair", 1),
    "concrete": ("plugs and screws, pair", 1),
    "timber": ("wood screws, pair", 1),
    "tile": ("tile-drilled plugs and screws, pair", 1),
    "suspended": ("ceiling-grid clip", 1),
    "eaves": ("wood screws, pair", 1),
    "mast": ("mast clamp", 1),
    "furniture": ("adhesive pads, pair", 1),
}
PER_PLATE = {"single": 1, "double": 2, "quad": 4}


def parts_of(drop: Drop) -> Mapping[str, int] | None:
    """Small parts of one drop by name; None: nobody has said what it is fixed to, so they cannot be told."""
    return _parts(drop.kind, drop.existing, drop.surface, drop.variant, drop.environment, drop.supply)


@cache
def _parts(
    kind: str, existing: bool, surface: str, variant: str, environment: str, supply: str
) -> Mapping[str, int] | None:
    parts = Counter[str]()
    if existing or kind in ON_FURNITURE:
        parts["cord 1 m"] += 1
        return parts
    if kind in DEVICES:
        if not surface:
            return None
        fixing, count = FIXINGS[surface]
        parts[fixing] += count
        if variant == "in_wall":
            parts["deep back box"] += 1
        elif kind == "camera" and surface in ("masonry", "concrete", "eaves", "mast", "timber"):
            parts["junction box for a camera"] += 1
        elif kind in ("door_station", "reader"):
            parts["back box"] += 1
        parts["field plug"] += 1
        if surface in ("tile", "mast", "eaves") or environment in ("damp", "outdoor"):
            parts["gasket"] += 1
    else:
        parts["jack"] += 1
        parts["cord 2 m"] += 1
    if supply == "passive":
        parts["passive injector, as the device asks"] += 1
    if supply == "transformer":
        parts["converter from bell transformer"] += 1
    return parts


def small_parts(drops: Iterable[Drop]) -> dict[str, int]:
    """Small parts of all drops together: plates are shared by the jacks of a room that go on one, rounded up."""
    total = Counter[str]()
    plates: Counter[tuple[int, str]] = Counter()
    for drop in drops:
        total.update(parts_of(drop) or {})
        if drop.kind in JACKS and not drop.existing:
            plates[drop.room_id, drop.variant if drop.variant in PER_PLATE else "single"] += 1
    for (_, variant), count in plates.items():
        per = PER_PLATE[variant]
        total[f"plate, {per} {'jack' if per == 1 else 'jacks'}, with back box"] += -(-count // per)
    return dict(sorted(total.items()))
