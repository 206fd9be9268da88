"""Checks of sight: targets that no camera meets, views that walls take, and where a camera ought not to look."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterator

import shapely
from shapely import Polygon
from shapely.geometry.base import BaseGeometry

from ..facts.lines.bracket import Bracket
from ..facts.lines.camera import Camera
from ..facts.project import Project
from ..places.layout import layout
from ..sight.cut import seen_at
from ..sight.lenses import Placed, lenses
from ..sight.scene import Scene, scene
from ..sight.targets import Sighting, TargetLine, targets_of
from ..sight.views import near_share, view_name
from ..standards.detail import (
    DETAILS,
    GLARE_M,
    HANDLED_FORMS,
    HANDS_REACH_M,
    HEIGHTS_LOOKED_AT_M,
    NEAR_WALL_M,
    NEAR_WALL_SHARE,
    PX_PER_M,
    STEEP_DEG,
)
from ..words import counted, joined
from .finding import Finding, Settle, SiteState, Weight

LEAST_SEEN_M2 = 0.5
"""A view that reaches over a boundary or into a room by less than this is not told of [m²]."""
TOUCHING_M = 0.05
TURNS_WITHIN_DEG = 0.5
BEYOND_TO_M = 30.0
"""How far a view is followed over the boundary [m]."""


def _of(project: Project, placed: Placed, key: str, weight: Weight, text: str) -> Finding:
    return Finding(
        key=f"{key}-{placed.drop.id}-{placed.key[1]}", weight=weight, subject=view_name(project, placed), text=text,
        verb="cover", drop_ids=(placed.drop.id,),
    )  # fmt: skip


def targets(site: SiteState) -> Iterator[Finding]:
    """Targets that no camera meets (IEC 62676-4:2014, 6.7), or only from too steep."""
    project = site.project
    asked = _asked_for(project)
    for target in targets_of(project):
        if not target.met:
            yield Finding(
                key=f"target-{target.id}", weight="breaks" if target.id in asked else "strains", subject=target.name,
                text=_unmet(project, target), verb="cover", drop_ids=tuple({s.drop_id: 0 for s in target.sightings}),
                settle=Settle(label="Aim a camera", verb="cover"),
            )  # fmt: skip
            continue
        here = [one for one in target.sightings if one.drop_id in target.met_by]
        is_face = target.height_m == HEIGHTS_LOOKED_AT_M["face"] and DETAILS.index(target.wanted) >= 2
        if is_face and here and all(one.steep_deg > STEEP_DEG for one in here):
            yield Finding(
                key=f"steep-{target.id}", weight="strains", subject=target.name, verb="cover",
                text=f"faces there are seen from {min(one.steep_deg for one in here):.0f}° above, over {STEEP_DEG:g}°: "
                     "a cap or a bent head hides them. Hang the camera lower, or further away.",
                drop_ids=target.met_by,
            )  # fmt: skip


def _asked_for(project: Project) -> set[int]:
    """Targets that a goal of the camera image asks for."""
    everything = {target.id for target in project.targets}
    found: set[int] = set()
    for goal in project.goals:
        if goal.kind == "image":
            found |= set(goal.target_ids) or everything
    return found


def _unmet(project: Project, target: TargetLine) -> str:
    wanted = f"{target.wanted}, {target.wanted_px_m:g} px/m"
    best = max(target.sightings, key=lambda one: (one.seen, one.px_m), default=None)
    if best is None:
        return f"no camera has it in its frame; {wanted}, is wanted."
    name = project.name_of(project.drops_by_id[best.drop_id])
    if best.aside and best.with_detail == 1:
        return f"{name} sees it only when it turns away from its first aim; {wanted}, is wanted."
    if best.seen == 0:
        return f"no camera sees it; {name} has it in its frame, and {best.blocked_by} hides it. {wanted}, is wanted."
    if best.seen < 1:
        return f"{name} sees {best.seen:.0%} of its points{_by(best)}; {wanted}, is wanted of all of it."
    got = best.detail or "less than detect"
    return f"{name} gives {best.px_m:.0f} px/m there, {got}; {wanted}, is wanted."


def _by(sighting: Sighting) -> str:
    return f", {sighting.blocked_by} hides the rest" if sighting.blocked_by else ", the rest is beside its frame"


def near_walls(site: SiteState) -> Iterator[Finding]:
    """A near wall or corner that takes over a quarter of a view, and what throws its own light back."""
    stands = scene(site.project)
    for placed in _placed(site.project):
        share = near_share(placed.lens, placed.fixed_to, stands)
        if share > NEAR_WALL_SHARE:
            yield _of(
                site.project, placed, "near-wall", "strains",
                f"{share:.0%} of its view ends at a wall nearer than {NEAR_WALL_M:g} m. Turn it, or move it away from "
                "the corner.",
            )  # fmt: skip
        if placed.light_m > 0 and _glares(placed, stands):
            yield _of(
                site.project, placed, "glare", "strains",
                f"a wall or eave nearer than {GLARE_M:g} m in its frame throws its own light back: at night the "
                "picture is grey. Move it out, or switch its light off and put a lamp elsewhere.",
            )  # fmt: skip


def _glares(placed: Placed, stands: Scene) -> bool:
    lens = placed.lens
    if near_share(lens, placed.fixed_to, stands, GLARE_M) > 0:
        return True
    # what is overhead comes into the frame where its upper edge meets it
    over_level = math.radians(lens.frame.down_deg / 2 - lens.tilt_deg)
    return over_level > 0 and any(
        0 < slab.z_m - lens.z_m < GLARE_M * math.sin(min(over_level, math.pi / 2))
        and shapely.intersects_xy(slab.shape, lens.x_m, lens.y_m)
        for slab in stands.slabs
    )


def mounts(site: SiteState) -> Iterator[Finding]:
    """Forms with a handle where hands reach, lenses over their ceiling, and cameras that nobody has placed."""
    project = site.project
    seen: set[int] = set()
    for placed in lenses(project):
        if placed.drop.id in seen or not placed.placed:
            continue
        seen.add(placed.drop.id)
        form = placed.drop.form
        if form and form.key in HANDLED_FORMS and placed.height_m < HANDS_REACH_M:
            yield _of(
                project, placed, "handle", "strains",
                f"hangs at {placed.height_m:g} m, where hands reach (under {HANDS_REACH_M:g} m), and a {form.name} can "
                "be turned away by hand. A dome cannot.",
            )  # fmt: skip
        room, floor = project.rooms_by_id[placed.drop.room_id], project.floors_by_id[placed.floor_id]
        if not room.outside and placed.height_m > floor.height_m + 1e-9:
            yield _of(
                project, placed, "over-ceiling", "breaks",
                f"hangs at {placed.height_m:g} m; the ceiling of {floor.name} is at {floor.height_m:g} m.",
            )  # fmt: skip
    loose = tuple(dict.fromkeys(p.drop.id for p in lenses(project) if not p.placed and p.drop.kind == "camera"))
    if loose and project.targets:
        yield Finding(
            key="unplaced-views", weight="note", subject="Cameras", verb="cover", drop_ids=loose,
            text=f"{counted(len(loose), 'camera')} not placed on the plan yet: what {_they(len(loose))} is not told.",
        )  # fmt: skip


def turns(site: SiteState) -> Iterator[Finding]:
    """Aims of one lens that its motor does not reach, and brackets that are not for their camera."""
    project, aims = site.project, defaultdict[int, list[Placed]](list)
    for placed in _placed(project):
        aims[placed.drop.id].append(placed)
    if site.catalogue is None:
        return
    for placed, *others in aims.values():
        line, bracket = (site.catalogue.get(key or "") for key in (placed.drop.model, placed.drop.bracket_model))
        if others and placed.drop.form and placed.drop.form.key == "pan_tilt" and isinstance(line, Camera):
            ways = [one.lens for one in (placed, *others)]
            across = _apart_deg([way.bearing_deg for way in ways])
            up = max(way.tilt_deg for way in ways) - min(way.tilt_deg for way in ways)
            for apart, turn, how in ((across, line.pan_deg, "turns"), (up, line.tilt_turn_deg, "tilts")):
                if apart > turn + TURNS_WITHIN_DEG:
                    yield _of(
                        project, placed, f"aims-{how}", "breaks",
                        f"its aims are {apart:.0f}° apart, and {line.name} {how} {turn:g}°.",
                    )  # fmt: skip
        if isinstance(bracket, Bracket) and placed.drop.form and placed.drop.form.key not in bracket.camera_forms:
            yield _of(
                project, placed, "bracket", "breaks", f"{bracket.name} does not hold a {placed.drop.form.name} camera."
            )


def _apart_deg(bearings: list[float]) -> float:
    """The least turn that passes all of some bearings: the circle less the widest gap between two of them [deg]."""
    some = sorted(bearings)
    return 360.0 - max(((b - a) % 360 or 360.0) for a, b in zip(some, [*some[1:], some[0]], strict=True))


def _they(count: int) -> str:
    return "it sees" if count == 1 else "they see"


def _placed(project: Project) -> list[Placed]:
    return [placed for placed in lenses(project) if placed.placed]


def privacy(site: SiteState) -> Iterator[Finding]:
    """Views over the own boundary, or into rooms where people sleep."""
    project = site.project
    stands = scene(project)
    plot = shapely.union_all([Polygon(one.outline) for one in project.plots])
    asleep = [room for room in project.rooms if room.use == "sleeping" and room.outline]
    raised = {storey.id: storey.elevation_m for storey in layout(project).storeys}
    face = HEIGHTS_LOOKED_AT_M["face"]
    for placed in _placed(project):
        if project.plots:
            beyond = _unmasked(placed, placed.lens.z_m - placed.height_m + face, stands).difference(plot)
            if beyond.area > LEAST_SEEN_M2:
                yield _of(
                    project, placed, "boundary", "strains",
                    f"sees {beyond.area:.0f} m² beyond the boundary, as far as {BEYOND_TO_M:g} m. Mask it, or turn it; "
                    "local privacy law limits filming neighbours and public ways, and asks for notice.",
                )  # fmt: skip
        names = [
            room.name
            for room in asleep
            if _unmasked(placed, raised[room.floor_id] + face, stands).intersection(Polygon(room.outline or ())).area
            > LEAST_SEEN_M2
        ]
        if names:
            yield _of(
                project, placed, "asleep", "strains",
                f"looks into {joined(names)}, where people sleep. Mask it, or turn it; local law on privacy decides.",
            )  # fmt: skip


def _unmasked(placed: Placed, z_m: float, stands: Scene) -> BaseGeometry:
    """What a view sees at an elevation, less what its masks black out."""
    reach = min(placed.lens.frame.reach_m(PX_PER_M["detect"]), BEYOND_TO_M)
    seen = seen_at(placed.lens, placed.fixed_to, z_m, reach, stands)
    masks = [Polygon(mask) for mask in placed.view.masks] if placed.view else []
    return seen.difference(shapely.union_all(masks)) if masks else seen


def drawn(site: SiteState) -> Iterator[Finding]:
    """Openings that are in no wall or wider than theirs, and targets outside every room."""
    project = site.project
    placed = {one.id: one for one in layout(project).openings}
    for opening in project.openings:
        name = opening.name or opening.kind.capitalize()
        if opening.id not in placed:
            yield Finding(
                key=f"opening-{opening.id}", weight="strains", subject=name, verb="cover",
                text=f"at {opening.x_m:g}, {opening.y_m:g} m on {project.floors_by_id[opening.floor_id].name} is in no "
                     "wall, so it opens nothing.",
            )  # fmt: skip
        elif not placed[opening.id].fits:
            yield Finding(
                key=f"opening-{opening.id}", weight="strains", subject=name, verb="cover",
                text=f"at {opening.x_m:g}, {opening.y_m:g} m is {opening.width_m:g} m wide, wider than its wall, and "
                     "counts as far as the wall goes.",
            )  # fmt: skip
    outlines = {
        floor.id: shapely.union_all([Polygon(r.outline) for r in layout(project).rooms if r.floor_id == floor.id])
        for floor in project.floors
    }
    for target in project.targets:
        inside = outlines[target.floor_id].buffer(TOUCHING_M)
        if not all(shapely.intersects_xy(inside, x, y) for x, y in target.points):
            yield Finding(
                key=f"target-outside-{target.id}", weight="note", subject=target.name, verb="cover",
                text=f"lies outside every room of {project.floors_by_id[target.floor_id].name}; it is looked at where "
                     "it was put.",
            )  # fmt: skip
