"""What is heard at a spot, and where the loss comes from, piece by piece."""

from __future__ import annotations

from collections import Counter

import numpy as np

from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.project import Project
from ..physics.radio import floors_db, free_space_db
from ..places.layout import elevations
from ..standards.radio import BANDS, CLIENT_EIRP_DBM, CLIENT_HEIGHT_M, FLOOR_MAKES, HEARD_DBM, Band
from ..standards.walls import MATERIALS
from .field import Losses, antenna_db, losses_of, received_dbm
from .obstructions import Obstructions, crossings, obstructions
from .radios import Sender, stations

FLOOR_WORDS = {"timber": "timber floor", "hollow_block": "hollow-block floor", "concrete": "concrete floor"}


class LossPart(Fact):
    """A part of a loss: what takes it, how often, and how much all of it takes [dB]."""

    what: str
    count: int
    db: float


class Heard(Fact):
    """An access point as a spot hears it in a band, and as it hears a client there."""

    drop_id: int
    band: Band
    dbm: float
    distance_m: float
    eirp_dbm: float
    parts: tuple[LossPart, ...]
    """All that is between: their sum is EIRP − level."""
    uplink_dbm: float
    """What the access point hears of a client of 14 dBm."""
    is_heard: bool
    """Whether it hears enough of it."""


def heard_at(
    project: Project,
    catalogue: Catalogue | None,
    floor_id: int,
    spot: tuple[float, float],
    height_m: float = CLIENT_HEIGHT_M,
) -> tuple[Heard, ...]:
    """Every access point in every band at a spot, the strongest first."""
    of, losses = obstructions(project), losses_of(project)
    point = np.array([[*spot, elevations(project.floors)[floor_id] + height_m]])
    found = [
        _heard(of, losses, sender, point)
        for station in stations(project, catalogue)
        for sender in station.senders
    ]  # fmt: skip
    return tuple(sorted(found, key=lambda one: -one.dbm))


def uplink_dbm(sender: Sender, received: float) -> float:
    """What an access point hears of a client that hears it at a level: the same loss, and its gain once."""
    return CLIENT_EIRP_DBM + received - sender.power_dbm


def _heard(of: Obstructions, losses: Losses, sender: Sender, point: np.ndarray) -> Heard:
    parts = tuple(parts_of(of, losses, sender, point))
    in_the_way = sum(part.db for part in parts[1:] if part.what != "antenna")
    dbm = float(received_dbm(sender, point, np.array([in_the_way]))[0])
    up = uplink_dbm(sender, dbm)
    return Heard(
        drop_id=sender.drop_id, band=sender.band, dbm=round(dbm, 2), eirp_dbm=sender.eirp_dbm,
        distance_m=round(float(np.linalg.norm(point[0] - np.array(sender.spot))), 3),
        parts=tuple(part.model_copy(update={"db": round(part.db, 2)}) for part in parts),
        uplink_dbm=round(up, 2), is_heard=up >= HEARD_DBM,
    )  # fmt: skip


def parts_of(of: Obstructions, losses: Losses, sender: Sender, point: np.ndarray) -> list[LossPart]:
    """Free space first, then all that a ray to a point meets, each material once with its count."""
    crossed = crossings(of, sender.spot, point)
    number = BANDS.index(sender.band)
    away = float(np.linalg.norm(point[0] - np.array(sender.spot)))
    found = [LossPart(what="free space", count=1, db=float(free_space_db(away, sender.mhz)))]
    antenna = float(antenna_db(sender, point)[0])
    if antenna > 0:
        found.append(LossPart(what="antenna", count=1, db=antenna))
    walls = np.array(losses.walls[number])
    gone = crossed.twice(of, walls)
    meets = [of.stretches[n] for n in np.nonzero(crossed.stretches[0])[0] if (0, int(n)) not in gone]
    kinds = Counter((one.material, one.opening_id is not None) for one in meets)
    for (material, is_opening), count in sorted(kinds.items()):
        what = f"{material.replace('_', ' ')} {'opening' if is_opening else 'wall'}"
        found.append(LossPart(what=what, count=count, db=count * float(walls[MATERIALS.index(material)])))
    floors = crossed.floors(of)[0]
    if floors.sum():
        mean = float(floors @ np.array(losses.floors[number]) / floors.sum())
        makes = [make for make, count in zip(FLOOR_MAKES, floors, strict=True) if count]
        what = FLOOR_WORDS[makes[0]] if len(makes) == 1 else "floors"
        found.append(LossPart(what=what, count=int(floors.sum()), db=float(floors_db(mean, floors.sum()))))
    for n in np.nonzero(crossed.obstacles[0])[0]:
        found.append(LossPart(what=of.obstacles[n].name, count=1, db=of.obstacles[n].losses_db[number]))
    return found


def hiding(parts: tuple[LossPart, ...] | list[LossPart]) -> str:
    """What takes most on a way, beside its length: empty where nothing does."""
    most = max((part for part in parts if part.what not in ("free space", "antenna")), key=lambda p: p.db, default=None)
    if most is None or most.db <= 0:
        return ""
    return f"{most.count} × {most.what}" if most.count > 1 else most.what
