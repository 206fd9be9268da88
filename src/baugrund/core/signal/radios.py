"""Access points as they send: what nobody has typed filled in from their model, or as usual for their form."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from ..facts.catalogue import Catalogue
from ..facts.drop import Drop
from ..facts.lines.access_point import AccessPoint, AccessPointForm
from ..facts.project import Project
from ..facts.signal import Radio
from ..physics.radio import Pattern, modulation_of
from ..places.layout import elevations, layout
from ..standards.radio import (
    BANDS,
    BANDS_OF,
    BEFORE_A_CHANNEL_MHZ,
    Band,
    Block,
    Generation,
    Region,
    Width,
    block_of,
    channel_mhz,
)

USUAL_WIDTH: dict[Band, Width] = {"2.4": 20, "5": 40, "6": 80}
"""Width of a channel of which nobody has said one, *default* [MHz]."""
SPOKEN = {
    "wi-fi 4": "802.11n", "wi-fi 5": "802.11ac", "wi-fi 6": "802.11ax", "wi-fi 6e": "802.11ax",
    "wi-fi 7": "802.11be",
}  # fmt: skip
"""Generation by the purpose of a drop."""


def _usual(form: AccessPointForm, **more: object) -> AccessPoint:
    fields = {"key": f"usual-{form.replace('_', '-')}", "name": "usual", "price_minor": 0, "draw_w": 15.8, **more}
    return AccessPoint.model_validate({"kind": "access point", "ap_form": form, **fields})


USUAL_MODELS: dict[str, AccessPoint] = {
    "ceiling": _usual("ceiling"),
    "wall": _usual("wall"),
    "in_wall": _usual("in_wall", power_2_dbm=15.0, power_5_dbm=18.0, power_6_dbm=18.0),
    "outdoor": _usual("outdoor", power_2_dbm=16.0, power_5_dbm=22.0, gain_2_dbi=4.0, gain_5_dbi=5.0),
}
"""An access point of which nobody has said the model, by its form, *default*: 802.11ax, two streams, 2.4 and 5 GHz."""


@dataclass(frozen=True)
class Sender:
    """One band of an access point that is switched on, where it hangs, and what it sends."""

    drop_id: int
    band: Band
    spot: tuple[float, float, float]
    """x, y and elevation above the ground [m]."""
    floor_id: int
    bearing_deg: float
    generation: Generation
    streams: int
    power_dbm: float
    usual_power_dbm: float
    """As its model has it."""
    gain_dbi: float
    plan: Pattern
    elevation: Pattern
    width_mhz: Width
    channel: int | None
    kept: bool
    """Its channel was chosen by hand: a plan leaves it."""
    block: Block | None
    """The channel as wide as it is used; None: not set, or the region has it not."""

    @property
    def eirp_dbm(self) -> float:
        """At the peak of its antenna."""
        return self.power_dbm + self.gain_dbi

    @property
    def mhz(self) -> float:
        """What it is predicted at: the centre of its first 20 MHz channel."""
        return BEFORE_A_CHANNEL_MHZ[self.band] if self.channel is None else channel_mhz(self.band, self.channel)


@dataclass(frozen=True)
class Station:
    """An access point: its model, its place, and each band that is on."""

    drop: Drop
    model: AccessPoint
    listed: bool
    """Whether a line of the price lists names it; else it is usual for its form."""
    floor_id: int
    spot: tuple[float, float, float]
    height_m: float
    """Above its floor."""
    placed: bool
    """Whether somebody has put it there; else it is laid out in its room."""
    senders: tuple[Sender, ...]


def model_of(drop: Drop, catalogue: Catalogue | None) -> tuple[AccessPoint, bool]:
    """What an access point is, and whether the price lists say so."""
    line = catalogue.get(drop.model) if catalogue and drop.model else None
    if isinstance(line, AccessPoint):
        return line, True
    usual = USUAL_MODELS[drop.variant or "ceiling"]
    generation = SPOKEN.get(drop.purpose.casefold().replace("wifi", "wi-fi"))
    if generation is None:
        return usual, False
    has_6 = generation == "802.11be" or drop.purpose.casefold().endswith("6e")
    return usual.model_copy(update={"generation": generation, "streams_6": 2 if has_6 else 0}), False


def stations(project: Project, catalogue: Catalogue | None) -> tuple[Station, ...]:
    """Every access point that is somewhere, in the order of the list: put on the plan, or in a room that is drawn."""
    placed = {one.id: one for one in layout(project).drops}
    raised = elevations(project.floors)
    set_to = {(radio.drop_id, radio.band): radio for radio in project.radios}
    found = []
    for drop in project.drops:
        at = placed[drop.id]
        is_there = at.placed or project.rooms_by_id[drop.room_id].outline is not None
        if drop.kind != "access_point" or not drop.in_use or not is_there:
            continue
        model, listed = model_of(drop, catalogue)
        spot = (at.x_m, at.y_m, raised[at.floor_id] + at.height_m)
        bare = Station(drop, model, listed, at.floor_id, spot, at.height_m, at.placed, ())
        senders = senders_of(bare, set_to, project.settings.region)
        found.append(replace(bare, senders=senders))
    return tuple(found)


def senders_of(of: Station, set_to: Mapping[tuple[int, Band], Radio], region: Region) -> tuple[Sender, ...]:
    """The bands of an access point that are on, as they are set."""
    return tuple(
        _sender(of, band, set_to.get((of.drop.id, band)), region)
        for band in bands_of(of.model)
        if (of.drop.id, band) not in set_to or set_to[of.drop.id, band].on
    )


def bands_of(model: AccessPoint) -> tuple[Band, ...]:
    """The bands that a model has."""
    has: Mapping[Band, int] = {"2.4": model.streams_2, "5": model.streams_5, "6": model.streams_6}
    known = ("2.4", *BANDS_OF[model.generation])
    return tuple(band for band in BANDS if has[band] and band in known)


def _sender(of: Station, band: Band, radio: Radio | None, region: Region) -> Sender:
    model, number = of.model, BANDS.index(band)
    width = (radio and radio.width_mhz) or USUAL_WIDTH[band]
    width = min(width, model.widest_mhz, modulation_of(model.generation, band).widest)
    power = (model.power_2_dbm, model.power_5_dbm, model.power_6_dbm)[number]
    channel = radio.channel if radio else None
    plan, elevation = model.patterns
    return Sender(
        drop_id=of.drop.id, band=band, spot=of.spot, floor_id=of.floor_id, bearing_deg=of.drop.bearing_deg or 0.0,
        generation=model.generation, streams=(model.streams_2, model.streams_5, model.streams_6)[number],
        power_dbm=radio.power_dbm if radio and radio.power_dbm is not None else power,
        usual_power_dbm=power,
        gain_dbi=(model.gain_2_dbi, model.gain_5_dbi, model.gain_6_dbi)[number], plan=plan, elevation=elevation,
        width_mhz=width, channel=channel, kept=bool(radio and radio.kept and channel is not None),
        block=None if channel is None else block_of(region, band, channel, width),
    )  # fmt: skip
