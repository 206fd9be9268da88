"""Checks of runs and paths: length and heat, speed, fill, mains beside them, and what goes outside."""

from __future__ import annotations

from collections.abc import Collection, Iterator

from ..cabling.fill import Filled, cable_of, filled
from ..cabling.links import links
from ..cabling.parts import INNER_MM, wanted_mm
from ..edits import ChangeDrops, ChangeEntry, DropChanges
from ..facts.drop import Drop
from ..facts.lines.line import SPEEDS
from ..facts.paths import Path
from ..facts.project import Project
from ..reach.cable_types import CableType
from ..reach.runs import Run, heat_counted_m, router, runs
from ..standards.cabling import (
    DENSE_MAX_M,
    FIXED_LINK_MAX_M,
    MOST_BENDS,
    PULL_MAX_M,
    conduit_holds,
    fastest_mbit,
    longest_cords_m,
    sure_mbit,
)
from ..words import counted, speed
from .finding import Finding, Settle, SiteState, Weight

FOUR_PAIR_CLASS = 5
"""From this class on all four pairs carry power (IEEE 802.3 clause 145)."""
WARMEST_RISE_K = 15.0
"""A bundle that gets warmer than this by its own power is told (TIA TSB-184-A)."""


def _of_drop(site: SiteState, run: Run, key: str, weight: Weight, text: str, settle: Settle | None = None) -> Finding:
    subject = site.project.name_of(site.project.drops_by_id[run.drop_id])
    return Finding(
        key=f"{key}-{run.drop_id}", weight=weight, subject=subject, text=text, verb="reach", drop_ids=(run.drop_id,),
        settle=settle,
    )  # fmt: skip


def _of_path(path: Path, key: str, weight: Weight, text: str, drop_ids: tuple[int, ...] = ()) -> Finding:
    return Finding(
        key=f"{key}-{path.id}", weight=weight, subject=path.name, text=text, verb="reach", drop_ids=drop_ids,
        path_id=path.id,
    )  # fmt: skip


def too_long(site: SiteState) -> Iterator[Finding]:
    """A fixed link over 90 m at 20 °C, or over what the warmth on its way leaves of it."""
    for run in runs(site.project).values():
        counted_m = heat_counted_m(run, screened=site.project.drops_by_id[run.drop_id].screened)
        if run.length_m > FIXED_LINK_MAX_M:
            yield _of_drop(
                site, run, "long", "breaks",
                f"has a run of {run.length_m:g} m; a fixed link is {FIXED_LINK_MAX_M:g} m at most. "
                "A closet nearer to it, or fibre, would do.",
            )  # fmt: skip
        elif counted_m > FIXED_LINK_MAX_M:
            yield _of_drop(
                site, run, "warm-link", "breaks",
                f"has a run of {run.length_m:g} m, up to {run.temperature_c:g} °C on its way: it counts as "
                f"{counted_m:.1f} m of {FIXED_LINK_MAX_M:g} m.",
            )  # fmt: skip


def too_slow(site: SiteState) -> Iterator[Finding]:
    """A category that does not carry the speed over the channel (ANSI/TIA-568.2, TSB-155, TSB-5021)."""
    held = filled(site.project)
    for run in runs(site.project).values():
        drop = site.project.drops_by_id[run.drop_id]
        channel = run.length_m + site.project.settings.cords_m
        dense = any(held[path_id].is_dense for path_id in run.path_ids)
        fastest = fastest_mbit(drop.category, channel, dense=dense)
        if run.length_m > FIXED_LINK_MAX_M or not fastest:
            continue
        if fastest >= drop.speed_mbit:
            sure = sure_mbit(drop.category, channel, dense=dense)
            if sure < drop.speed_mbit:
                yield _of_drop(
                    site, run, "unsure", "strains",
                    f"asks {speed(drop.speed_mbit)}; category {drop.category} surely carries {speed(sure)} over "
                    f"{channel:g} m, and more only where it is measured.",
                    Settle(label="Take category 6A", edit=_take_6a(drop)),
                )  # fmt: skip
            continue
        said = f"asks {speed(drop.speed_mbit)}; category {drop.category} carries {speed(fastest)} over {channel:g} m."
        if dense and fastest_mbit(drop.category, channel) >= drop.speed_mbit:
            said = (
                f"asks {speed(drop.speed_mbit)} over {channel:g} m; in a dense bundle category 6 carries it to "
                f"{DENSE_MAX_M:g} m."
            )
        settle = Settle(label="Take category 6A", edit=_take_6a(drop))
        if drop.existing:
            said += " The cable is there already: it carries that much still."
            slower = max(rate for rate in SPEEDS if rate <= fastest)
            asked = ChangeDrops(ids=(drop.id,), changes=DropChanges(speed_mbit=slower))
            settle = Settle(label=f"Be content with {speed(slower)}", edit=asked)
        yield _of_drop(site, run, "slow", "breaks", said, settle)


def _take_6a(drop: Drop) -> ChangeDrops:
    return ChangeDrops(ids=(drop.id,), changes=DropChanges(category="6A"))


def long_cords(site: SiteState) -> Iterator[Finding]:
    """Cords longer than the fixed part of the channel leaves for their gauge (ANSI/TIA-568.2)."""
    terms = site.project.settings
    over = [
        run
        for run in runs(site.project).values()
        if run.length_m <= FIXED_LINK_MAX_M and terms.cords_m > longest_cords_m(run.length_m, terms.cords) + 1e-9
    ]
    if over:
        longest = max(over, key=lambda run: run.length_m)
        yield Finding(
            key="cords", weight="breaks", subject="Cords", verb="reach", drop_ids=tuple(run.drop_id for run in over),
            text=f"of {terms.cords_m:g} m together are too long for {counted(len(over), 'run')}: beside "
                 f"{longest.length_m:g} m of fixed cable they may be "
                 f"{longest_cords_m(longest.length_m, terms.cords):.1f} m.",
        )  # fmt: skip


def no_size(site: SiteState) -> Iterator[Finding]:
    """Conduits of no typed size that no usual one would do for (ANSI/TIA-568.0 fill)."""
    for path, held in _filled_paths(site):
        if path.kind not in ("conduit", "buried") or path.inner_mm is not None or path.existing:
            continue
        wanted = wanted_mm(site.project, held)
        if wanted > INNER_MM[-1]:
            yield _of_path(
                path, "size", "breaks",
                f"is to hold {counted(len(held.drop_ids), 'cable')} and growth, which want about {wanted:.0f} mm "
                f"inside; the widest usual conduit has {INNER_MM[-1]:g} mm. Several side by side would do.",
                held.drop_ids,
            )  # fmt: skip


def warm_and_closed(site: SiteState) -> Iterator[Finding]:
    """Closed paths with powered cables in them: no estimate of their warmth is made (TIA TSB-184-A)."""
    for path, held in _filled_paths(site):
        if path.row.is_closed and held.powered:
            yield _of_path(
                path, "closed", "note",
                f"is closed and holds {counted(held.powered, 'powered cable')}: no estimate of how warm they get. Ask "
                "what the local code allows.", held.drop_ids,
            )  # fmt: skip


def lost(site: SiteState) -> Iterator[Finding]:
    """Drops that no drawn path leads to, though paths are drawn on their floor."""
    ids = tuple(run.drop_id for run in runs(site.project).values() if run.state == "lost")
    if ids:
        name = site.project.name_of(site.project.drops_by_id[ids[0]])
        yield Finding(
            key="lost", weight="strains", subject=name, verb="reach", drop_ids=ids,
            text=("has no drawn way" if len(ids) == 1 else f"and {len(ids) - 1} more have no drawn way")
                 + " to the closet: paths on the floor lead nowhere. Join them, or draw a riser; until then the way "
                   "is taken at right angles.",
        )  # fmt: skip


def faults(site: SiteState) -> Iterator[Finding]:
    """Paths that join nothing or have no length."""
    paths = {path.id: path for path in site.project.paths}
    if paths:
        for fault in router(site.project).network.faults:
            weight: Weight = "note" if fault.is_harmless else "strains"
            yield _of_path(paths[fault.path_id], "path", weight, f"{fault.text}.")


def no_way_in(site: SiteState) -> Iterator[Finding]:
    """Buildings that no path leads into from the closet of their drops: the runs are measured through the air."""
    project = site.project
    at = {closet.id: _building_of(project, closet.room_id) for closet in project.closets}
    ids: dict[int, list[int]] = {}
    for run in runs(project).values():
        here = _building_of(project, project.drops_by_id[run.drop_id].room_id)
        if run.state in ("loose", "lost") and here is not None and at[run.closet_id] not in (None, here):
            ids.setdefault(here, []).append(run.drop_id)
    for building in project.buildings:
        if building.id in ids:
            yield Finding(
                key=f"way-in-{building.id}", weight="strains", subject=building.name, verb="reach",
                drop_ids=tuple(ids[building.id]),
                text=f"has no way in: {counted(len(ids[building.id]), 'run')} to it can only be measured at right "
                     "angles through the air. Draw the duct or trunking that leads there.",
            )  # fmt: skip


def _building_of(project: Project, room_id: int | None) -> int | None:
    room = project.rooms_by_id.get(room_id or 0)
    return None if room is None else project.floors_by_id[room.floor_id].building_id


def _filled_paths(site: SiteState) -> Iterator[tuple[Path, Filled]]:
    held = filled(site.project)
    for path in site.project.paths:
        if held[path.id].drop_ids:
            yield path, held[path.id]


def filled_over(site: SiteState) -> Iterator[Finding]:
    """Conduits and trays with more in them than they may hold, or with no room for growth (ANSI/TIA-568.0)."""
    for path, held in _filled_paths(site):
        if held.used is None:
            continue
        cables = counted(len(held.drop_ids), "cable")
        if held.used > 1 + 1e-9:
            text = f"holds {cables}: {held.used:.0%} of what it may."
            if path.inner_mm is not None:
                text += f" {path.inner_mm:g} mm take {conduit_holds(path.inner_mm, held.widest_mm)} of the widest."
            yield _of_path(path, "fill", "breaks", text, held.drop_ids)
        elif held.used > 0.8:
            left = f"holds {cables}, {held.used:.0%} of what it may: little is left for growth."
            yield _of_path(path, "fill", "strains", left, held.drop_ids)


def pulled(site: SiteState) -> Iterator[Finding]:
    """Closed paths with too many bends or metres between two pull points (ANSI/TIA-568.0)."""
    for path, held in _filled_paths(site):
        if path.row.is_closed and held.pulls_hard:
            yield _of_path(
                path, "pull", "strains",
                f"has {held.pull_bends:g} right angles and {held.pull_m:g} m between pull points; {MOST_BENDS} and "
                f"{PULL_MAX_M:g} m are the most that pull well. A pull box would do.", held.drop_ids,
            )  # fmt: skip


def warm(site: SiteState) -> Iterator[Finding]:
    """Bundles of powered cables that get warm, and closed paths for which no estimate is made (TIA TSB-184-A)."""
    for path, held in _filled_paths(site):
        if held.rise_k is None:
            continue
        hottest = held.warmest_c + held.rise_k
        if held.rise_k > WARMEST_RISE_K or hottest > held.rated_c:
            yield _of_path(
                path, "warm", "strains",
                f"holds {counted(len(held.drop_ids), 'cable')} in one bundle: about {held.rise_k:.1f} K warmer inside, "
                f"{hottest:.0f} °C against {held.rated_c:g} °C of the jacket. An estimate; the local code may set a "
                "lower limit. Smaller bundles would do.", held.drop_ids,
            )  # fmt: skip


def beside_mains(site: SiteState) -> Iterator[Finding]:
    """Ways that mains cables share."""
    for path, held in _filled_paths(site):
        if path.with_mains:
            yield _of_path(
                path, "mains", "strains",
                "is shared with mains cables: keep data and mains apart, or a divider between them, as the local code "
                "says.", held.drop_ids,
            )  # fmt: skip


def between_buildings(site: SiteState) -> Iterator[Finding]:
    """Copper from one building to another: lightning and a difference of potential come along."""
    project = site.project
    at = {closet.id: _building_of(project, closet.room_id) for closet in project.closets}
    ids = [
        run.drop_id
        for run in runs(project).values()
        if (there := at[run.closet_id]) is not None
        and (here := _building_of(project, project.drops_by_id[run.drop_id].room_id)) is not None
        and here != there
    ]
    if ids:
        yield Finding(
            key="buildings", weight="strains", subject=project.name_of(project.drops_by_id[ids[0]]), verb="reach",
            drop_ids=tuple(ids),
            text=("is" if len(ids) == 1 else f"and {len(ids) - 1} more are") + " wired in copper from another building."
                 " Fibre to a closet there would do; where copper stays, surge protection and earthing are work for a "
                 "licensed person.",
        )  # fmt: skip


def outside_runs(site: SiteState) -> Iterator[Finding]:
    """Runs that go outside on their way: jacket, drip loop, sealing."""
    project = site.project
    out = [run for run in runs(project).values() if run.outside_m > 0]
    bare: list[Drop] = [
        drop
        for run in out
        if not (drop := project.drops_by_id[run.drop_id]).outdoor_jacket
        and not project.rooms_by_id[drop.room_id].outside
    ]
    if bare:
        ids = tuple(drop.id for drop in bare)
        edit = ChangeDrops(ids=ids, changes=DropChanges(outdoor_jacket=True))
        yield Finding(
            key="jacket-run", weight="breaks", subject=project.name_of(bare[0]), verb="reach", drop_ids=ids,
            text=("goes" if len(ids) == 1 else f"and {len(ids) - 1} more go") + " outside on the way, in indoor cable.",
            settle=Settle(label="Take outdoor jacket", edit=edit),
        )  # fmt: skip
    if out:
        yield Finding(
            key="drip", weight="note", subject="Outside", verb="reach", drop_ids=tuple(run.drop_id for run in out),
            text=f"{counted(len(out), 'run')} outside: a drip loop before every hole, holes fall outwards and are "
                 "sealed; two people for ladders, nothing beside an overhead line.",
        )  # fmt: skip


def closet_links(site: SiteState) -> Iterator[Finding]:
    """Links between closets that nothing can carry, and copper asked for between buildings."""
    if site.catalogue is None:
        return
    project, made = site.project, links(site.project, site.catalogue)
    yield from _unmeasured_links(project, {link.closet_id for link in made})
    for link in made:
        name = project.closets_by_id[link.closet_id].name
        if link.chosen is None:
            yield Finding(key=f"link-{link.closet_id}", weight="breaks", subject=name, verb="reach",
                          text=f"cannot be linked over {link.length_m:g} m: {link.why}.")  # fmt: skip
        elif (asked := project.closets_by_id[link.closet_id].link) and link.options[link.chosen].medium != asked:
            yield Finding(
                key=f"link-{link.closet_id}", weight="strains", subject=name, verb="reach",
                text=f"is linked in {link.options[link.chosen].medium}: {link.why}.",
            )  # fmt: skip
        elif link.between_buildings and link.options[link.chosen].medium == "copper":
            edit = ChangeEntry(list="closets", id=link.closet_id, changes={"link": "fibre"})
            yield Finding(
                key=f"link-{link.closet_id}", weight="strains", subject=name, verb="reach",
                text="is linked in copper from another building: lightning and a difference of earth potential come "
                     "along. Surge protection and earthing are work for a licensed person.",
                settle=Settle(label="Link it in fibre", edit=edit),
            )  # fmt: skip


def _unmeasured_links(project: Project, measured: Collection[int]) -> Iterator[Finding]:
    """Links whose length nobody knows, to closets in which something ends."""
    used = {drop.closet_id for drop in project.drops if drop.has_run}
    for closet in project.closets[1:]:
        if closet.id in used and closet.id not in measured:
            fibre = (closet.link or project.settings.link_by) == "fibre"
            what = "fibre of OM3 at the full reach of its standard" if fibre else "copper within 90 m"
            yield Finding(
                key=f"link-length-{closet.id}", weight="note", subject=closet.name, verb="reach",
                text=f"the length of its link is not known: {what} is taken. Choose both rooms, or type the length.",
            )  # fmt: skip


def grades(site: SiteState) -> Iterator[Finding]:
    """New powered cable of category 5e: category 6 is the usual minimum, for it runs cooler and loses less."""
    ids = tuple(
        drop.id
        for drop in site.project.drops
        if drop.poe_class is not None and drop.category == "5e" and not drop.existing and drop.has_run
    )
    if ids:
        strong = any((site.project.drops_by_id[number].poe_class or 0) >= FOUR_PAIR_CLASS for number in ids)
        edit = ChangeDrops(ids=ids, changes=DropChanges(category="6"))
        yield Finding(
            key="grade", weight="strains" if strong else "note", subject="New cable", verb="reach", drop_ids=ids,
            text=f"{counted(len(ids), 'powered run')} in category 5e; category 6 is the usual minimum for power, and "
                 "runs cooler in bundles.",
            settle=Settle(label="Take category 6", edit=edit),
        )  # fmt: skip


def screens(site: SiteState) -> Iterator[Finding]:
    """Screened cable wants its screen earthed, and the earthing is not ours to do."""
    screened = [drop for drop in site.project.drops if drop.screened]
    if screened:
        kinds: set[CableType] = {cable_of(site.project, drop) for drop in screened}
        yield Finding(
            key="screens", weight="note", subject="Screens", verb="reach", drop_ids=tuple(d.id for d in screened),
            text=f"{counted(len(screened), 'run')} in {counted(len(kinds), 'screened cable')}: screened jacks and "
                 "panel, earthed at the closet's end by a licensed electrician.",
        )  # fmt: skip
