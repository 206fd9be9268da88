"""What goes in beside the cable: conduit, trunking and tray by length, fixings, draw strings, spare conduits, plates,
jacks, cords by length, and what links between closets take.

Spacings and spares are *defaults* of practice.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from ..demand.growth import reserve_count
from ..facts.catalogue import Catalogue
from ..facts.paths import Path
from ..facts.project import Project
from ..places.mounting import small_parts
from ..reach.runs import runs
from ..standards.cabling import fill_share
from .fill import Filled, cable_of, filled
from .links import links

INNER_MM = (13.4, 16.9, 21.4, 27.8, 35.4, 44.3, 56.5, 67.4, 83.0, 103.6)
"""Inner diameters that conduit is bought in [mm], the outer ones being 16 to 110 (IEC 61386 sizes, usual walls)."""
EVERY_M = {
    "conduit": ("conduit clip", 0.75), "trunking": ("screw and plug", 0.5),
    "outside": ("screw and plug, stainless", 0.5),
    "skirting": ("cable clip", 0.5), "tray": ("hook-and-loop tie", 1.2), "open_stud": ("hook-and-loop tie", 1.2),
    "loft": ("hook-and-loop tie", 1.2), "riser": ("hook-and-loop tie", 0.6), "chase": ("hook-and-loop tie", 1.2),
    "joist_bay": ("cable clip", 1.2), "panelling": ("cable clip", 1.2),
}  # fmt: skip
"""What holds a path or the cable on it, and how far apart [m], *default*."""
TRAY_BRACKET_M = 1.5
STRING_OVER = 1.1
"""A draw string is so much longer than its path."""
SPARE_FROM = 0.5
"""A new conduit fuller than this gets a spare one beside it, *default*."""
CLOSET_CORD = "cord 0.5 m, panel to switch"

Group = Literal["ways", "fixings", "strings", "ends", "links"]


@dataclass(frozen=True)
class PartLine:
    """A part: how many, or metres of it, and what for."""

    group: Group
    name: str
    count: float
    unit: str
    why: str


def part_list(project: Project, catalogue: Catalogue) -> tuple[PartLine, ...]:
    """Everything beside the cable, group by group; equal parts are told once."""
    added: dict[tuple[Group, str, str], tuple[float, list[str]]] = {}
    for line in (*_ways(project), *_ends(project), *_links(project, catalogue)):
        count, whys = added.get((line.group, line.name, line.unit), (0.0, []))
        added[line.group, line.name, line.unit] = (count + line.count, [*whys, line.why])
    return tuple(
        PartLine(group, name, math.ceil(count - 1e-9) if unit == "m" else count, unit, _one_of(whys))
        for (group, name, unit), (count, whys) in added.items()
    )


def _one_of(whys: list[str]) -> str:
    several = list(dict.fromkeys(why for why in whys if why))
    return ", ".join(several[:3]) + (f" and {len(several) - 3} more" if len(several) > 3 else "")


def _ways(project: Project) -> Iterator[PartLine]:
    held = filled(project)
    for path in project.paths:
        metres = held[path.id].length_m
        if not metres:
            continue
        if path.row.is_closed:
            yield PartLine("strings", "draw string", metres * STRING_OVER, "m", path.name)
        if path.existing:
            continue
        name = _bought(project, path, held[path.id])
        if name:
            metres *= _side_by_side(project, path, held[path.id])
            yield PartLine("ways", name, metres, "m", path.name)
            if path.row.is_closed and (held[path.id].used or 0) > SPARE_FROM:
                yield PartLine("ways", f"spare {name}", metres, "m", f"{path.name} is {held[path.id].used:.0%} full")
        if path.kind in EVERY_M:
            fixing, every = EVERY_M[path.kind]
            yield PartLine("fixings", fixing, math.ceil(metres / every), "", path.name)
        if path.kind == "tray" and path.width_mm is not None:
            yield PartLine("fixings", "tray bracket", math.ceil(metres / TRAY_BRACKET_M) + 1, "", path.name)


def _bought(project: Project, path: Path, held: Filled) -> str:
    """What a path is made of, by name and size; empty: a way through what is there."""
    if path.kind in ("conduit", "buried"):
        what = "duct" if path.kind == "buried" else "conduit"
        return f"{what}, {path.inner_mm or _inner_for(project, held) or INNER_MM[-1]:g} mm inside"
    if path.kind in ("trunking", "outside", "tray") and path.width_mm is not None:
        what = "tray" if path.kind == "tray" else "trunking"
        return f"{what}, {path.width_mm:g} by {path.depth_mm:g} mm"
    return {"trunking": "trunking", "outside": "trunking for outside"}.get(path.kind, "")


def wanted_mm(project: Project, held: Filled) -> float:
    """Inner diameter that what lies in a path wants, today and grown to the horizon by whole cables [mm]
    (ANSI/TIA-568.0 fill)."""
    terms = project.settings
    squares = sum(cable_of(project, project.drops_by_id[number]).diameter_mm ** 2 for number in held.drop_ids)
    now = len(held.drop_ids)
    then = now + reserve_count(now, terms.growth_percent, terms.horizon_years)
    return max((math.sqrt(squares * many / now / fill_share(many)) for many in (now, then) if now), default=0.0)


def _side_by_side(project: Project, path: Path, held: Filled) -> int:
    """How many conduits of the widest usual size a path of no typed size wants; one where a usual size does."""
    if path.kind not in ("conduit", "buried") or path.inner_mm is not None:
        return 1
    return max(1, math.ceil((wanted_mm(project, held) / INNER_MM[-1]) ** 2 - 1e-9))


def _inner_for(project: Project, held: Filled) -> float | None:
    """The smallest conduit of a usual size that holds what is in it, grown to the horizon; None: none does."""
    wanted = wanted_mm(project, held)
    return next((inner for inner in INNER_MM if inner >= wanted), None)


def _ends(project: Project) -> Iterator[PartLine]:
    new = [project.drops_by_id[number] for number in runs(project) if not project.drops_by_id[number].existing]
    for name, count in small_parts(project.drops).items():
        yield PartLine("ends", name, count, "", "at the places")
    if new:
        closets = Counter(project.closets_by_id[drop.closet_id].name for drop in new)
        where = ", ".join(f"{count} in {name}" for name, count in closets.items())
        if project.settings.termination == "panel":
            yield PartLine("ends", "panel jack", len(new), "", where)
            yield PartLine("ends", CLOSET_CORD, len(new), "", where)
        else:
            yield PartLine("ends", "field plug", len(new), "", where)


def _links(project: Project, catalogue: Catalogue) -> Iterator[PartLine]:
    for link in links(project, catalogue):
        if link.chosen is not None:
            why = f"{project.closets_by_id[link.closet_id].name} to {project.closets_by_id[link.to_id].name}"
            for part in link.options[link.chosen].parts:
                yield PartLine("links", part.name, part.count, part.unit, why)
