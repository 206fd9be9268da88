"""Checks of how access points hang and are fed: walls in the way, ceilings that would serve better, halls, the air."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray
from shapely import Polygon

from ..demand.traffic import busy_mbit
from ..edits import ChangeDrops, DropChanges
from ..facts.brief import WIFI_GOALS, Goal
from ..facts.project import Project
from ..signal.field import Field, Grid, Losses, Prediction, in_the_way_db, predicted, received_dbm
from ..signal.goals import cells_of, level_of, rooms_inside, rooms_of
from ..signal.obstructions import Obstructions, crossings, obstructions
from ..signal.radios import USUAL_MODELS, Sender, Station, senders_of
from ..signal.told import Signal, signal_of
from ..standards.radio import BANDS, Band
from ..standards.walls import MATERIALS
from ..words import counted, joined
from .finding import Finding, Settle, SiteState, Weight

CALLS_DBM = -67.0
BETTER_BY = 0.1
"""A ceiling serves better where it reaches a tenth more of the floor, *default*."""
MOST_BEHIND = 0.5
"""Share of what misses a goal that lies behind outer walls or coated glass, from which it is told, *default*."""
TRAFFIC_OFF = 1.1
"""Traffic in Load is told from so many times over what it counts, *default*."""


def _on(project: Project, drop_id: int, key: str, weight: Weight, text: str, settle: Settle | None = None) -> Finding:
    return Finding(
        key=f"{key}-{drop_id}", weight=weight, subject=project.name_of(project.drops_by_id[drop_id]), text=text,
        verb="cover", drop_ids=(drop_id,), settle=settle,
    )  # fmt: skip


def hanging(site: SiteState) -> Iterator[Finding]:
    """Access points on walls where a ceiling would serve better, halls, goals behind outer walls and coated glass."""
    project = site.project
    if not any(drop.kind == "access_point" for drop in project.drops):
        return
    prediction = predicted(project, site.catalogue)
    for station in prediction.stations:
        yield from _under_ceiling(project, prediction, station)
    for goal in project.goals:
        if goal.kind in WIFI_GOALS:
            yield from _behind(project, prediction, goal)
    told = signal_of(project, site.catalogue)
    for hall in told.halls:
        if hall.serves_wrong:
            yield Finding(
                key=f"hall-{hall.room_id}", weight="strains", subject=project.rooms_by_id[hall.room_id].name,
                verb="cover", drop_ids=hall.station_ids,
                text=f"it is {hall.to_next_m:.1f} m from one access point to the next, and {hall.to_client_m:.1f} m to "
                     "the furthest client on the floor: automatic power serves the wrong one. Set the power by hand, "
                     "or take antennas that send down.",
            )  # fmt: skip
    yield from _over_the_air(project, told)
    yield from _traffic(project, told)
    yield from _kinds(project, prediction)


def _under_ceiling(project: Project, prediction: Prediction, station: Station) -> Iterator[Finding]:
    room = project.rooms_by_id[station.drop.room_id]
    if station.model.ap_form not in ("wall", "in_wall") or room.outside or room.outline is None or not station.senders:
        return
    floor = project.floors_by_id[room.floor_id]
    sender = station.senders[-1]
    field = prediction.fields.get((station.floor_id, sender.band))
    if field is None or not len(field.cells.points):
        return
    middle = Polygon(room.outline).representative_point()
    model = USUAL_MODELS["ceiling"].model_copy(
        update={name: getattr(station.model, name) for name in type(station.model).model_fields if "_dbm" in name}
        | {"generation": station.model.generation, "streams_6": station.model.streams_6}
    )
    up = (middle.x, middle.y, station.spot[2] - station.height_m + floor.height_m)
    hung = Station(station.drop, model, False, station.floor_id, up, floor.height_m, True, ())
    other = next(
        one for one in senders_of(hung, {}, project.settings.region) if one.band == sender.band
    )  # fmt: skip
    of = obstructions(project)
    now, then = (_reached(of, field.cells, one, prediction.losses) for one in (sender, other))
    if then >= now + BETTER_BY:
        yield _on(
            project, station.drop.id, "ap-ceiling", "note",
            f"reaches {now:.0%} of its floor at {CALLS_DBM:g} dBm or better from its wall; under the ceiling of "
            f"{room.name} one of the same power would reach {then:.0%}.",
        )  # fmt: skip


@lru_cache(maxsize=256)
def _reached(of: Obstructions, cells: Grid, sender: Sender, losses: Losses) -> float:
    """Share of the cells of a floor that hear a sender well enough for calls."""
    way = in_the_way_db(of, crossings(of, sender.spot, cells.points), losses, sender.band)
    return float((received_dbm(sender, cells.points, way) >= CALLS_DBM).mean())


def _behind(project: Project, prediction: Prediction, goal: Goal) -> Iterator[Finding]:
    """What most of the cells that miss a goal lie behind, as the access point that is strongest there sends."""
    bands: tuple[Band, ...] = (goal.band,) if goal.band else BANDS
    missing = outer = coated = 0
    answering: set[int] = set()
    for floor_id in dict.fromkeys(floor for floor, _ in prediction.fields):
        fields = [prediction.fields[floor_id, band] for band in bands if prediction.fields[floor_id, band].senders]
        if not fields:
            continue
        chosen = cells_of(goal, rooms_of(goal, rooms_inside(project)), fields[0])
        levels = np.array([field.strongest for field in fields])
        short = chosen & (levels.max(axis=0) < level_of(goal))
        missing += int(short.sum())
        best = levels.argmax(axis=0)
        for number, field in enumerate(fields):
            here = short & (best == number)
            for index in np.unique(field.answers[here]).tolist():
                walls, glass = _walls_before(obstructions(project), field, index)
                cells = here & (field.answers == index)
                outer, coated = outer + int(walls[cells].sum()), coated + int(glass[cells].sum())
                answering.add(field.senders[index].drop_id)
    for count, what in ((outer, "an outer wall"), (coated, "coated glass")):
        if missing and count >= MOST_BEHIND * missing:
            names = joined([project.rooms_by_id[number].name for number in goal.room_ids][:3]) or "All rooms"
            yield Finding(
                key=f"wifi-behind-{goal.id}-{what.split()[-1]}", weight="note", subject=names, verb="cover",
                drop_ids=tuple(sorted(answering)),
                text=f"{count / missing:.0%} of what misses the goal of {level_of(goal):g} dBm lies behind {what}, as "
                     "the strongest access point sends. Hang one on that side.",
            )  # fmt: skip


@lru_cache(maxsize=128)
def _walls_before(of: Obstructions, field: Field, index: int) -> tuple[NDArray[np.bool_], NDArray[np.bool_]]:
    """For every cell whether an outer wall, and whether coated glass, is between it and a sender."""
    hit = crossings(of, field.senders[index].spot, field.cells.points).stretches
    outer = np.array([len(of.pieces[one.piece].room_ids) == 1 for one in of.stretches], dtype=np.bool_)
    coated = of.of_material[:, MATERIALS.index("coated_glass")] > 0
    return np.asarray(hit[:, outer].any(axis=1)), np.asarray(hit[:, coated].any(axis=1))


def _over_the_air(project: Project, told: Signal) -> Iterator[Finding]:
    asked = {(radio.drop_id, radio.band): radio.demand_mbit for one in told.stations for radio in one.radios}
    seen: set[int] = set()
    for line in told.mesh:
        if not line.hops and line.drop_id not in seen:
            seen.add(line.drop_id)
            yield _on(
                project, line.drop_id, "ap-cut-off", "breaks",
                "is fed over the air, and hears no access point that is wired or leads to one.",
            )  # fmt: skip
        demand = asked.get((line.drop_id, line.band), 0.0)
        if line.hops and demand > line.throughput_mbit:
            yield _on(
                project, line.drop_id, f"ap-air-{line.band}", "strains",
                f"its clients ask {demand:.0f} Mbit/s at {line.band} GHz; over the air "
                f"{line.throughput_mbit:.0f} Mbit/s are left after {counted(len(line.hops), 'hop')}. Wire it.",
            )  # fmt: skip


def _traffic(project: Project, told: Signal) -> Iterator[Finding]:
    """What clients ask of an access point, where Load counts less."""
    for station in told.stations:
        drop = project.drops_by_id[station.drop_id]
        asked, counts = station.asked_mbit, busy_mbit(project, drop)
        if not drop.over_wifi and asked > TRAFFIC_OFF * counts:
            mbit = float(np.ceil(asked))
            yield _on(
                project, drop.id, "ap-traffic", "strains",
                f"its clients ask {asked:.0f} Mbit/s at the busy hour; Load counts {counts:g}.",
                Settle(
                    label=f"Count {mbit:g} Mbit/s",
                    edit=ChangeDrops(ids=(drop.id,), changes=DropChanges(traffic_mbit=mbit)),
                ),
            )  # fmt: skip


def _kinds(project: Project, prediction: Prediction) -> Iterator[Finding]:
    models = {station.model.name: station.drop.id for station in prediction.stations if station.listed}
    if project.settings.ap_models == "one" and len(models) > 1:
        yield Finding(
            key="ap-models", weight="note", subject="Access points", verb="cover", drop_ids=tuple(models.values()),
            text=f"{joined(list(models)[:4])} hang beside each other; this project wants one kind: phones move over "
                 "alike, and one spare does for all.",
        )  # fmt: skip
