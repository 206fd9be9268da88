"""Everything that stands in a closet, as one list: the boxes of the pick, what somebody put there, what drops and lines
bring, and patch panels by count."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from typing import Literal

from ..facts.building import Closet
from ..facts.catalogue import Catalogue
from ..facts.drop_kinds import CLOSET_KINDS
from ..facts.fact import Fact
from ..facts.kept import kept
from ..facts.lines.box import Airflow
from ..facts.lines.router import Router
from ..facts.lines.switch import Switch
from ..facts.project import Project
from ..facts.stack import Gear, Placing
from ..gear.sizes import Sized, sized, units_of
from ..power.feeds import running_w
from ..power.load import fed
from ..standards.stack import (
    BEARS_C,
    HUNG_ON_RAILS,
    PANEL_PORTS,
    SHUTDOWN_MIN,
    SOCKETS,
    UNIT_MM,
    USUAL,
    GearKind,
    Plug,
)
from ..standing.ground import Ground
from ..standing.loads import box_loads

ThingKind = GearKind | Literal["router", "switch", "injector"]
Source = Literal["pick", "typed", "drop", "line", "counted"]


class Thing(Fact):
    """A thing in a closet: sizes, what it draws at its plug, where it stands and how it is plugged."""

    key: str
    closet_id: int
    kind: ThingKind
    source: Source
    name: str
    drop_id: int | None = None
    box: int | None = None
    """Of the pick: its place among the closet's boxes."""
    width_mm: int
    units: int
    """It takes of the rack; 0: it stands on a shelf, or hangs."""
    height_mm: int
    depth_mm: int
    mass_kg: float
    mains_w: float
    """At its plug, with what its ports give."""
    own_w: float
    """Of that what stays where no port gives anything."""
    away_w: float = 0.0
    """What its ports give to devices outside this closet."""
    noise_dba: float
    plug: Plug
    sockets: int
    fanless: bool
    airflow: Airflow | None = None
    bears_c: float = BEARS_C
    corded: int = 0
    """Cords to router, switches and panels."""
    hangs: bool = False
    """On rails without a plug behind: it asks for no depth but its own."""
    carries_kg: float | None = None
    clear_mm: int | None = None
    positions: int = 0
    volts: float | None = None
    ah: float | None = None
    efficiency: float = 0.85
    ups_own_w: float = 0.0
    watts_most: float | None = None
    va_most: float | None = None
    outlets: int = 0
    surge_outlets: int = 0
    """Of a UPS its battery, inverter and outlets; of a strip its outlets."""
    free_m3_h: float = 0.0
    """Of fans."""
    by_sensor: bool = False
    spacing_mm: float | None = None
    """Of a panel: from the middle of a position to the next."""
    module_mm: float | None = None
    assumed: tuple[str, ...] = ()
    """What of it is usual, and nobody has said."""
    unit: int | None = None
    face: Literal["front", "rear"] = "front"
    on: str = ""
    x_mm: int | None = None
    y_mm: int | None = None
    turned: bool = False
    fixed: bool = False
    outlet: Literal["battery", "surge", "mains"] = "mains"
    strip: str = ""
    """The strip that it is plugged into; empty: nobody has said."""
    shed_percent: float | None = None
    shutdown_min: float = 0.0

    @property
    def brick(self) -> bool:
        return self.plug in ("brick", "wide_brick")


def things_of(project: Project, catalogue: Catalogue, grounds: Sequence[Ground], closet: Closet) -> tuple[Thing, ...]:
    """What stands in a closet, the boxes of the pick first."""
    ground = next((one for one in grounds if one.closet.id == closet.id), None)
    placings = {one.thing: one for one in project.placings if one.closet_id == closet.id}
    gear = [one for one in project.gear if one.closet_id == closet.id]
    bare = [
        *(_boxes(project, ground) if ground else ()),
        *(_typed(project, catalogue, one) for one in gear),
        *_of_drops(project, catalogue, closet, gear),
        *_of_lines(project, closet, gear),
        *_panels(project, closet, gear, ground),
    ]
    has_ups = any(one.kind == "ups" for one in bare)
    placed = [_placed(one, placings.get(one.key), closet, has_ups) for one in bare]
    strips = {one.key: one for one in placed if one.kind == "strip"}
    return tuple(_on_its_strip(one, strips) for one in placed)


def _on_its_strip(thing: Thing, strips: Mapping[str, Thing]) -> Thing:
    """A thing that is plugged where its strip is; no strip hangs on another."""
    strip = strips.get(thing.strip)
    if strip is None or thing.kind in ("strip", "ups"):
        return thing.model_copy(update={"strip": ""}) if thing.strip else thing
    return thing.model_copy(update={"outlet": strip.outlet})


def _placed(thing: Thing, placing: Placing | None, closet: Closet, has_ups: bool) -> Thing:
    """A thing with what is said of where it stands; in a closet with a UPS everything is on it unless it says other."""
    usual = "battery" if has_ups and closet.battery_for == "all" and thing.kind not in ("ups", "fan") else "mains"
    told: dict[str, object] = {"outlet": usual, "shutdown_min": SHUTDOWN_MIN.get(thing.kind, 0.0)}
    if placing:
        told |= {
            name: getattr(placing, name) for name in ("unit", "face", "on", "x_mm", "y_mm", "turned", "fixed",
                                                      "strip", "shed_percent")
        }  # fmt: skip
        if placing.outlet:
            told["outlet"] = placing.outlet
        if placing.shutdown_min is not None:
            told["shutdown_min"] = placing.shutdown_min
    return thing.model_copy(update=told)


def _boxes(project: Project, ground: Ground) -> Iterator[Thing]:
    """The boxes and injectors of the pick; without a seating they draw what they draw themselves."""
    loads = box_loads(project, ground)
    count: dict[str, int] = {}
    for number, box in enumerate(ground.boxes):
        count[box.key] = count.get(box.key, 0) + 1
        efficiency = box.efficiency_percent / 100
        mains = loads[number].mains_w if loads else box.own_draw_w / efficiency
        away = mains * efficiency - box.own_draw_w
        yield Thing(
            key=f"box/{box.key}/{count[box.key]}", closet_id=ground.closet.id, source="pick", name=box.name, box=number,
            kind="router" if isinstance(box, Router) else "switch", width_mm=_width(box, ground.closet),
            units=box.units if _on_rails(box, ground.closet) else 0, height_mm=round(box.units * UNIT_MM),
            depth_mm=box.depth_mm, mass_kg=box.mass_kg, mains_w=round(mains, 3),
            own_w=round(box.own_draw_w / efficiency, 3), away_w=round(away, 3), noise_dba=box.noise_dba or 0.0,
            plug="cord" if box.sockets == 1 else "wide_brick", sockets=box.sockets, fanless=box.fanless,
            airflow=box.airflow, bears_c=box.ambient_max_c or BEARS_C, corded=_corded(ground, number),
        )  # fmt: skip
    for injector, many in ground.injectors:
        fed_by = [place.drop_id for place in ground.places if place.injector == injector.key and place.drop_id]
        for number in range(many):
            given = _running(project, fed_by[number : number + 1])
            mains = (injector.own_draw_w + given) / (injector.efficiency_percent / 100)
            yield Thing(
                key=f"box/{injector.key}/{number + 1}", closet_id=ground.closet.id, source="pick", name=injector.name,
                kind="injector", width_mm=70, units=0, height_mm=40, depth_mm=140, mass_kg=0.25,
                mains_w=round(mains, 3), own_w=round(injector.own_draw_w / (injector.efficiency_percent / 100), 3),
                away_w=round(given, 3), noise_dba=0.0, plug="brick", sockets=1, fanless=True, corded=2,
                assumed=("width_mm", "height_mm", "depth_mm", "mass_kg"),
            )  # fmt: skip


def _running(project: Project, drop_ids: Sequence[int]) -> float:
    return sum(running_w(project, project.drops_by_id[number]) for number in drop_ids if number in fed(project))


def _on_rails(box: Router | Switch, closet: Closet) -> bool:
    """Whether a box is screwed to the rails: one for racks, in a rack."""
    return closet.housing == "rack" and box.form == "rack"


def _width(box: Router | Switch, closet: Closet) -> int:
    if box.width_mm is not None:
        return box.width_mm
    return 440 if box.form == "rack" else 240


def _corded(ground: Ground, number: int) -> int:
    """Cords that leave a box: its drops and its links."""
    live = sum(place.box == number and place.drop_id is not None for place in ground.places)
    links = 0
    if ground.seating:
        links = sum(number in (link.upper, link.lower) for link in ground.seating.links)
    return live + links


def _typed(project: Project, catalogue: Catalogue, gear: Gear) -> Thing:
    size = sized(gear, catalogue)
    housing = project.closets_by_id[gear.closet_id].housing
    return _of_size(f"gear/{gear.id}", gear.closet_id, gear.kind, "typed", size, housing, gear)


def _of_size(
    key: str, closet_id: int, kind: GearKind, source: Source, size: Sized, housing: str, gear: Gear | None = None
) -> Thing:
    rack = size.rack and housing == "rack"
    return Thing(
        key=key, closet_id=closet_id, kind=kind, source=source, name=size.name, width_mm=size.width_mm,
        units=size.units if rack else 0, height_mm=size.height_mm, depth_mm=size.depth_mm, mass_kg=size.mass_kg,
        mains_w=size.draw_w, own_w=size.draw_w, noise_dba=size.noise_dba, plug=size.plug, sockets=SOCKETS[size.plug],
        fanless=size.noise_dba == 0.0 if gear is None or gear.fanless is None else gear.fanless,
        airflow=gear.airflow if gear else None, corded=size.corded, hangs=kind in HUNG_ON_RAILS,
        carries_kg=size.carries_kg, clear_mm=size.clear_mm, positions=size.positions, assumed=size.assumed,
        drop_id=gear.drop_id if gear else None, volts=size.volts, ah=size.ah, efficiency=size.efficiency,
        ups_own_w=size.own_w, watts_most=size.watts_most, va_most=size.va_most, outlets=size.outlets,
        surge_outlets=size.surge_outlets, free_m3_h=size.free_m3_h, by_sensor=size.by_sensor,
        spacing_mm=size.spacing_mm, module_mm=gear.module_mm if gear else None,
    )  # fmt: skip


def _of_drops(project: Project, catalogue: Catalogue, closet: Closet, gear: Sequence[Gear]) -> Iterator[Thing]:
    """Hubs, NAS, recorders, controllers, servers that stand in the closet's own room, and recorders that end there."""
    typed = {one.drop_id for one in gear}
    for drop in project.drops_by_closet[closet.id]:
        stands = drop.kind in CLOSET_KINDS and drop.room_id == closet.room_id
        if not stands or drop.id in typed:
            continue
        kind: GearKind = drop.kind  # type: ignore[assignment]
        size = sized(
            Gear(id=1, closet_id=closet.id, kind=kind, model=drop.model, name=project.name_of(drop)), catalogue
        )
        thing = _of_size(f"drop/{drop.id}", closet.id, kind, "drop", size, closet.housing)
        if drop.poe_class is not None and not drop.supply:
            # fed over its cable: no plug, and its watts are those of the port
            thing = thing.model_copy(update={"plug": "none", "sockets": 0, "mains_w": 0.0, "own_w": 0.0})
        yield thing.model_copy(update={"drop_id": drop.id})


def _of_lines(project: Project, closet: Closet, gear: Sequence[Gear]) -> Iterator[Thing]:
    """The provider's boxes of the lines, at the head end; where some are typed, only those."""
    if closet is not project.head_end or any(one.kind in ("provider_box", "terminal") for one in gear):
        return
    for line in project.lines:
        if line.box != "none":
            usual = sized(Gear(id=1, closet_id=closet.id, kind="provider_box", name=f"Box of {line.name}"), None)
            yield _of_size(f"line/{line.id}", closet.id, "provider_box", "line", usual, closet.housing)


def _panels(project: Project, closet: Closet, gear: Sequence[Gear], ground: Ground | None) -> Iterator[Thing]:
    """Patch panels by count, in a rack, where cable ends on them; where some are typed, only those."""
    if closet.housing != "rack" or project.settings.termination != "panel" or any(one.kind == "panel" for one in gear):
        return
    needed = positions_needed(project, closet, ground)
    for number in range(math.ceil(needed / PANEL_PORTS)):
        usual = USUAL["panel"]
        yield Thing(
            key=f"panel/{number + 1}", closet_id=closet.id, kind="panel", source="counted",
            name=f"{usual.name} ({number + 1})" if needed > PANEL_PORTS else usual.name,
            width_mm=usual.width_mm, units=1, height_mm=usual.height_mm, depth_mm=usual.depth_mm, mass_kg=usual.mass_kg,
            mains_w=0.0, own_w=0.0, noise_dba=0.0, plug="none", sockets=0, fanless=True, hangs=True,
            positions=PANEL_PORTS, assumed=("units", "depth_mm", "mass_kg"),
        )  # fmt: skip


def positions_needed(project: Project, closet: Closet, ground: Ground | None) -> int:
    """Positions of panels: runs that end there, in use or spare, those in reserve by the horizon, and the feeds of
    provider's boxes and links."""
    runs = _runs_by_closet(project)[closet.id]
    reserve = len(ground.then.reserve) if ground else 0
    feeds = sum(line.box != "none" for line in project.lines) if closet is project.head_end else 0
    links = len(ground.links[project.settings.horizon_years]) if ground else 0
    return runs + reserve + feeds + links


@kept
def _runs_by_closet(project: Project) -> Mapping[int, int]:
    """How many runs end in every closet."""
    return Counter(drop.closet_id for drop in project.drops if drop.has_run)


def units_on_rails(thing: Thing) -> int:
    """Units that a thing takes of a rack, or would."""
    return thing.units or units_of(thing.height_mm)
