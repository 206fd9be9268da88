"""Parts of the whole job, verb by verb: how many of each, and which drops and closets ask for them."""

from __future__ import annotations

import math
from collections import Counter, defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from ..cabling.cables import cable_list
from ..cabling.links import links
from ..cabling.parts import CLOSET_CORD, part_list
from ..facts.catalogue import Catalogue
from ..facts.drop import Drop
from ..facts.lines.bracket import Bracket
from ..facts.lines.module import Module
from ..facts.lines.router import Router
from ..facts.lines.switch import Switch
from ..facts.project import Project
from ..patch.labelling import labelling
from ..pick.model.filters import lacking
from ..places.mounting import JACKS, PER_PLATE, parts_of
from ..reach.runs import runs
from ..stack.told import Stack
from ..standards.spares import CONSUMABLES, GROUPS, PartGroup
from ..standards.stack import GearKind
from ..standing.ground import Ground
from ..words import small
from .work_items import WorkItem

UNCHOSEN = ("access_point", "camera", "door_station", "reader", "recorder", "room_switch")
"""Kinds whose device belongs to the job, whether a line of the price lists is chosen for it or not."""
BOUGHT_GEAR: tuple[GearKind, ...] = ("panel", "shelf", "manager", "strip", "ups", "fan")
"""Things in closets that belong to the job."""


@dataclass(frozen=True)
class PartItem:
    """So much of a part, and what asks for it."""

    key: str
    group: PartGroup
    name: str
    count: float
    unit: str = ""
    drop_ids: tuple[int, ...] = ()
    closet_ids: tuple[int, ...] = ()
    model: str = ""
    """The line of the price lists that it is; empty: a material found by its name."""
    usual_minor: float | None = None
    """Price of one where no list has it, *default* of the program or the project's own cable [minor]."""
    per: int = 0
    """So many drops share one of it, and the last takes a whole one; 0: it is not shared."""
    holds: float | None = None
    """Of cable what a box holds: lines of the price lists with as much are the same part [m]."""


def part_items(
    project: Project,
    catalogue: Catalogue,
    grounds: Sequence[Ground],
    stack: Stack,
    work: Sequence[WorkItem],
    *,
    merged: bool = True,
) -> list[PartItem]:
    """All parts of a project on the boxes that stand; equal ones once where ``merged``."""
    found = [
        *_boxes(grounds), *_devices(project, catalogue), *_closets(project, stack), *_cable(project),
        *_beside_cable(project, catalogue), *_ends(project), *_links(project, catalogue), *_cords(grounds, stack),
        *_labels(project), *_used_up(work),
    ]  # fmt: skip
    if not merged:
        return found
    order = {group: place for place, group in enumerate(GROUPS)}
    by_key: dict[str, list[PartItem]] = defaultdict(list)
    for item in found:
        by_key[item.key].append(item)
    return sorted((_together(some) for some in by_key.values()), key=lambda one: order[one.group])


def _together(some: Sequence[PartItem]) -> PartItem:
    first = some[0]
    return PartItem(
        first.key, first.group, first.name, sum(item.count for item in some), first.unit,
        tuple(dict.fromkeys(number for item in some for number in item.drop_ids)),
        tuple(dict.fromkeys(number for item in some for number in item.closet_ids)),
        first.model, first.usual_minor, holds=first.holds,
    )  # fmt: skip


def _named(
    group: PartGroup, name: str, count: float, unit: str = "", *, drop_ids: tuple[int, ...] = (),
    closet_ids: tuple[int, ...] = (), usual_minor: float | None = None, per: int = 0,
) -> PartItem:  # fmt: skip
    return PartItem(f"part/{name}", group, name, count, unit, drop_ids, closet_ids, "", usual_minor, per)


def _model(
    group: PartGroup, key: str, count: float, catalogue: Catalogue, *, drop_ids: tuple[int, ...] = (),
    closet_ids: tuple[int, ...] = (), per: int = 0,
) -> PartItem:  # fmt: skip
    line = catalogue.get(key)
    name = line.name if line else f"{key}, which no price list has any more"
    return PartItem(f"model/{key}", group, name, count, "", drop_ids, closet_ids, key, None, per)


def _boxes(grounds: Sequence[Ground]) -> Iterator[PartItem]:
    """Boxes with what completes them, injectors, modules; those that are owned are complete."""
    owned = Counter(grounds[0].project.owned) if grounds else Counter[str]()
    for ground in grounds:
        at = (ground.closet.id,)
        catalogue = ground.catalogue
        for number, box in enumerate(ground.boxes):
            fed = tuple(p.drop_id for p in ground.places if p.box == number and p.drop_id is not None)
            yield _model("boxes", box.key, 1, catalogue, drop_ids=fed, closet_ids=at)
            if owned[box.key] > 0:
                owned[box.key] -= 1
            elif isinstance(box, Router | Switch):
                for lack in lacking(box, ground.closet):
                    spare = catalogue.spare_for(lack)
                    if spare:
                        yield _model("boxes", spare.key, 1, catalogue, closet_ids=at)
                    else:
                        yield _named("boxes", f"{lack} of {box.name}", 1, closet_ids=at)
        for injector, many in ground.injectors:
            fed = tuple(p.drop_id for p in ground.places if p.injector == injector.key and p.drop_id is not None)
            yield _model("boxes", injector.key, many, catalogue, drop_ids=fed, closet_ids=at)
        for key, many in ground.standing.extras:
            if isinstance(catalogue.get(key), Module):
                yield _model("boxes", key, many, catalogue, closet_ids=at)


def _devices(project: Project, catalogue: Catalogue) -> Iterator[PartItem]:
    """Devices that are chosen, with lens, disks and bracket; those of the job of which none is chosen."""
    hung: dict[tuple[object, ...], list[Drop]] = defaultdict(list)
    for drop in project.drops:
        at = (drop.id,)
        if drop.model:
            yield _model("devices", drop.model, 1, catalogue, drop_ids=at)
        elif drop.kind in UNCHOSEN and drop.in_use:
            name = small(drop.kind_row.name)
            form = f", {drop.form.name}" if drop.form and drop.form.name != name else ""
            yield _named("devices", f"{name}{form}, not chosen", 1, drop_ids=at)
        if drop.lens_model:
            yield _model("devices", drop.lens_model, 1, catalogue, drop_ids=at)
        if drop.disk_model and drop.disks:
            yield _model("devices", drop.disk_model, drop.disks, catalogue, drop_ids=at)
        if drop.bracket_model:
            spot = (drop.x_m, drop.y_m, drop.height_m) if drop.x_m is not None else (drop.id,)
            hung[drop.bracket_model, drop.room_id, *spot].append(drop)
    for (key, *_), cameras in hung.items():
        line = catalogue.get(str(key))
        many = math.ceil(len(cameras) / line.holds) if isinstance(line, Bracket) else len(cameras)
        yield _model("devices", str(key), many, catalogue, drop_ids=tuple(drop.id for drop in cameras),
                     per=line.holds if isinstance(line, Bracket) else 1)  # fmt: skip


def _closets(project: Project, stack: Stack) -> Iterator[PartItem]:
    """Housings, and what stands in closets beside the boxes of the pick."""
    gear = {f"gear/{one.id}": one for one in project.gear}
    for here in stack.closets:
        closet, at = project.closets_by_id[here.closet_id], (here.closet_id,)
        if closet.housing_model:
            yield PartItem(f"model/{closet.housing_model}", "closets", closet.housing_model, 1,
                           model=closet.housing_model, closet_ids=at)  # fmt: skip
        elif here.things and closet.housing == "rack" and not closet.is_there:
            yield _named("closets", f"rack of {closet.units} units", 1, closet_ids=at)
        for thing in here.things:
            row = gear.get(thing.key)
            if row is not None and row.drop_id is None and row.model:
                yield PartItem(f"model/{row.model}", "closets", thing.name, 1, model=row.model, closet_ids=at)
            elif thing.kind == "panel":
                yield _named("closets", f"patch panel of {thing.positions} positions", 1, closet_ids=at)
            elif row is not None and row.drop_id is None and row.kind in BOUGHT_GEAR:
                yield _named("closets", small(thing.name), 1, closet_ids=at)


def _cable(project: Project) -> Iterator[PartItem]:
    for line in cable_list(project):
        name = f"{line.name}, {line.colour}" if line.colour else line.name
        cut = tuple(one.drop_id for box in line.boxes for one in box.cuts)
        closets = tuple(dict.fromkeys(project.drops_by_id[number].closet_id for number in cut))
        yield PartItem(f"cable/{name}", "cable", name, len(line.boxes), "box", cut, closets,
                       usual_minor=line.price_minor, holds=line.box_m)  # fmt: skip
        if line.too_long:
            beyond = f"{name}, longer than a box of {line.box_m:g} m"
            yield PartItem(f"cable/{beyond}", "cable", beyond, len(line.too_long), "run", line.too_long)


def _beside_cable(project: Project, catalogue: Catalogue) -> Iterator[PartItem]:
    for part in part_list(project, catalogue):
        if part.group in ("ways", "fixings", "strings"):
            yield _named(part.group, part.name, part.count, part.unit)


def _ends(project: Project) -> Iterator[PartItem]:
    """Small parts at every place, plates by room, and the end of every new run in its closet."""
    plates: dict[tuple[int, str], list[int]] = defaultdict(list)
    at_panel = project.settings.termination == "panel"
    new = runs(project)
    for drop in project.drops:
        at, parts = (drop.id,), parts_of(drop)
        if parts is None:
            yield _named("fixings", "fixing on a surface that nobody has named", 1, drop_ids=at)
        for name, count in (parts or {}).items():
            yield _named("cords" if name.startswith("cord ") else "ends", name, count, drop_ids=at)
        if drop.kind in JACKS and not drop.existing:
            plates[drop.room_id, drop.variant if drop.variant in PER_PLATE else "single"].append(drop.id)
        if drop.id in new and not drop.existing:
            yield _named(
                "ends", "panel jack" if at_panel else "field plug", 1, closet_ids=(drop.closet_id,), drop_ids=at
            )
    for (_, variant), drop_ids in plates.items():
        per = PER_PLATE[variant]
        name = f"plate, {per} {'jack' if per == 1 else 'jacks'}, with back box"
        yield _named("ends", name, -(-len(drop_ids) // per), drop_ids=tuple(drop_ids), per=per)


def _links(project: Project, catalogue: Catalogue) -> Iterator[PartItem]:
    """What links between closets take; their modules are those of the pick."""
    modules = {module.name for module in catalogue.modules}
    for link in links(project, catalogue):
        if link.chosen is not None:
            for part in link.options[link.chosen].parts:
                if part.name not in modules:
                    yield _named("ends" if part.name == "jack" else "links", part.name, part.count, part.unit,
                                 closet_ids=(link.closet_id,), usual_minor=part.each_minor or None)  # fmt: skip


def _cords(grounds: Sequence[Ground], stack: Stack) -> Iterator[PartItem]:
    """Cords inside closets by the stock length that Stack measures, those of unknown length by the usual one; of links
    between closets one at each end."""
    usual = float(CLOSET_CORD.split()[1])

    def some(closet_id: int, medium: str, length_m: float, count: int) -> PartItem:
        kind = "" if medium == "copper" else f"{medium.removeprefix('fibre-')} fibre "
        return _named("cords", f"{kind}cord {length_m:g} m", count, closet_ids=(closet_id,))

    for here in stack.closets:
        for cord in here.cords:
            yield some(here.closet_id, cord.medium, cord.length_m, cord.count)
        for medium, count in here.loose_cords.items():
            yield some(here.closet_id, medium, usual, count)
    for ground in grounds:
        for seat in ground.seating.trunks if ground.seating else ():
            for closet_id in (ground.closet.id, seat.trunk.closet_id):
                yield some(closet_id, seat.trunk.medium, usual, seat.trunk.ends)


def _labels(project: Project) -> Iterator[PartItem]:
    told = labelling(project)
    if told.sheets:
        yield _named("labels", f"sheet of labels, {told.stock.name}", told.sheets)
    if told.tape_mm:
        yield _named("labels", f"label tape, {told.stock.name}", told.tape_mm / 1000, "m")


def _used_up(work: Sequence[WorkItem]) -> Iterator[PartItem]:
    done = Counter[str]()
    for item in work:
        if item.task:
            done[item.task] += item.count  # type: ignore[assignment]
    for one in CONSUMABLES:
        if done[one.driver]:
            yield _named("consumables", one.name, done[one.driver] * one.each, one.unit)
