"""Checks of the stack: what does not fit, what is too warm or loud, mains and batteries, services that die in a cut."""

from __future__ import annotations

from collections.abc import Iterator

from ..facts.building import Closet
from ..facts.project import Project
from ..physics.battery import life_share
from ..stack.power_cut import over_filled
from ..stack.told import ClosetStack, Stack
from ..standards.stack import BEHIND_MM, FILL_MOST, PERSON_MM, UPS_WARM_C
from ..words import counted, joined
from .finding import Finding, Settle, SiteState, Weight


def _on(closet: Closet, key: str, weight: Weight, text: str, settle: Settle | None = None) -> Finding:
    return Finding(key=f"{key}-{closet.id}", weight=weight, subject=closet.name, text=text, verb="stack",
                   settle=settle)  # fmt: skip


def standing(site: SiteState) -> Iterator[Finding]:
    """What somebody has put where it does not stand; what is nowhere yet is told once."""
    for closet, here in _closets(site):
        if not _touched(site.project, closet.id):
            continue
        for number, one in enumerate(one for one in here.broken if one.rule != "place"):
            yield _on(closet, f"stack-{one.rule}-{number}", "breaks", one.text)
        nowhere = [one for one in here.broken if one.rule == "place"]
        if nowhere:
            yield _on(
                closet, "stack-place", "note",
                f"{counted(len(nowhere), 'thing')} without a place yet. Let Stack arrange them.",
                Settle(label="See the closet", verb="stack"),
            )  # fmt: skip


def fixings(site: SiteState) -> Iterator[Finding]:
    """Racks on plasterboard alone, and panels whose modules cover their neighbours."""
    for closet, here in _closets(site):
        if closet.fixing == "plasterboard" and closet.housing == "rack":
            yield _on(
                closet, "fixing", "breaks",
                f"{here.mass_kg:g} kg and the rack hang on plasterboard alone. Fix it into studs or masonry, or on a "
                "backboard across studs.",
            )  # fmt: skip
        for thing in here.things:
            if thing.spacing_mm and thing.module_mm and thing.module_mm > thing.spacing_mm + 1e-9:
                yield _on(
                    closet, f"modules-{thing.key}", "strains",
                    f"modules of {thing.module_mm:g} mm on a spacing of {thing.spacing_mm:g} mm cover their "
                    f"neighbours: {counted(thing.positions, 'position')} of {thing.name} can be used.",
                )  # fmt: skip


def _touched(project: Project, closet_id: int) -> bool:
    """Whether somebody has begun with the stack of a closet."""
    numbers = {one.closet_id for one in project.gear} | {one.closet_id for one in project.placings}
    return closet_id in numbers


def _closets(site: SiteState) -> Iterator[tuple[Closet, ClosetStack]]:
    for here in site.stack.closets if site.stack else ():
        yield site.project.closets_by_id[here.closet_id], here


def air(site: SiteState) -> Iterator[Finding]:
    """Closets that get too warm, or are heard where people are."""
    for closet, here in _closets(site):
        warmth, noise = here.warmth, here.noise
        if not warmth.holds and warmth.heat_w and _is_sized(closet):
            assumed = ", 28 °C being taken for its room" if warmth.room_assumed else ""
            needed = f" Fans of {warmth.air_needed_m3_h:.0f} m³/h would do." if warmth.air_needed_m3_h else ""
            yield _on(
                closet, "too-warm", "strains",
                f"{warmth.heat_w:.0f} W make it {warmth.top_c:.0f} °C at its top in summer{assumed}; {warmth.weakest} "
                f"bears {warmth.bears_c:g} °C.{needed}",
            )  # fmt: skip
        if not noise.holds and noise.heard_dba is not None:
            yield _on(
                closet, "too-loud", "strains",
                f"{noise.heard_dba:.0f} dB(A) are heard at {closet.near_m:g} m; {noise.limit_dba:g} are the most "
                f"there. {noise.parts[0].name} is loudest.",
            )  # fmt: skip
        ups = next((one for one in here.things if one.kind == "ups"), None)
        if ups and warmth.top_c > UPS_WARM_C + 5:
            yield _on(
                closet, "warm-battery", "strains",
                f"at {warmth.top_c:.0f} °C the battery of {ups.name} lives {life_share(warmth.top_c):.0%} of its "
                "years; it wants 25 °C or less.",
            )  # fmt: skip


def _is_sized(closet: Closet) -> bool:
    return closet.housing in ("rack", "panel")


def room_around(site: SiteState) -> Iterator[Finding]:
    """No room for a person before a rack, or behind it where it is worked on from there."""
    for closet, _ in _closets(site):
        if closet.front_mm is not None and closet.front_mm < PERSON_MM:
            yield _on(closet, "no-room-before", "strains",
                      f"{closet.front_mm} mm are clear before it; a person needs {PERSON_MM}.")  # fmt: skip
        if closet.both_sides and closet.behind_mm is not None and closet.behind_mm < BEHIND_MM:
            yield _on(closet, "no-room-behind", "strains",
                      f"{closet.behind_mm} mm are clear behind it; a person needs {BEHIND_MM}.")  # fmt: skip


def mains(site: SiteState) -> Iterator[Finding]:
    """Sockets, battery outlets and amperes that run short, once somebody has begun with the stack."""
    for closet, here in _closets(site):
        told = here.mains
        if not _touched(site.project, closet.id):
            continue
        if told.sockets > told.there:
            yield _on(closet, "stack-sockets", "strains",
                      f"plugs cover {told.sockets} sockets, bricks as wide as they are; there are {told.there}. A new "
                      "socket is work for a licensed electrician.")  # fmt: skip
        if told.battery_outlets is not None and told.battery_plugs > told.battery_outlets:
            yield _on(closet, "battery-outlets", "strains",
                      f"{counted(told.battery_plugs, 'plug')} for {counted(told.battery_outlets, 'battery outlet')}: "
                      "choose what stays on, or take another UPS.")  # fmt: skip
        for strip in told.strips:
            if strip.sockets > strip.there:
                yield _on(closet, f"strip-plugs-{strip.key}", "strains",
                          f"{strip.name} has {counted(strip.there, 'outlet')}; the plugs on it cover {strip.sockets}: "
                          "a brick lies over its neighbour.")  # fmt: skip
            if strip.amperes > told.amperes_most and told.amperes <= told.amperes_most:
                yield _on(closet, f"strip-amperes-{strip.key}", "breaks",
                          f"{strip.va:.0f} VA on {strip.name} are {strip.amperes:.1f} A; {told.amperes_most:g} A are "
                          "the most.")  # fmt: skip
        if told.amperes > told.amperes_most:
            yield _on(closet, "amperes", "breaks",
                      f"{told.va:.0f} VA are {told.amperes:.1f} A; {told.amperes_most:g} A are the most of its "
                      "circuit. The local code and a licensed electrician decide.")  # fmt: skip


def power_cut(site: SiteState) -> Iterator[Finding]:
    """UPS that are loaded over 80 %, and services that do not live as long as is wanted."""
    if site.stack is None:
        return
    project, cut = site.project, site.stack.power_cut
    for cell in cut.cells:
        if over_filled(cell):
            yield _on(
                project.closets_by_id[cell.closet_id], "ups-full", "strains",
                f"{joined(list(cell.ups))} is loaded to {cell.fill_percent:.0f} % of its W or VA "
                f"({cell.load_w:.0f} W, {cell.va:.0f} VA); {FILL_MOST:.0%} is the most.",
            )  # fmt: skip
    for life in cut.lives:
        line = next(one for one in project.lifelines if one.id == life.lifeline_id)
        if life.cut:
            text = life.cut
        elif life.met is False and life.minutes == 0:
            text = f"{life.dies_first} is on no battery, and it must outlive a cut for {life.wanted:g} min."
        elif life.met is False:
            text = f"{life.dies_first} goes off after {life.minutes:.0f} min; {life.wanted:g} are wanted."
        else:
            continue
        yield Finding(key=f"life-{life.lifeline_id}", weight="breaks", subject=line.name, text=text, verb="stack",
                      drop_ids=(line.drop_id,))  # fmt: skip
    yield from _goal(project, site.stack)


def _goal(project: Project, stack: Stack) -> Iterator[Finding]:
    cut = stack.power_cut
    begun = project.lifelines or any(one.kind == "ups" for one in project.gear)
    if cut.wanted_min is None or cut.lives or not begun or cut.least_min is None:
        return
    if cut.least_min < cut.wanted_min - 1e-9:
        yield Finding(
            key="goal-battery", weight="breaks", subject="Runs on battery", verb="stack",
            text=f"the first closet goes off after {cut.least_min:.0f} min; {cut.wanted_min:g} are wanted.",
        )  # fmt: skip
