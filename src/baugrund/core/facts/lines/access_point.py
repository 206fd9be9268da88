"""Access points: what they send and how, band by band."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from ...physics.radio import Pattern
from ...standards.radio import Generation, Width
from .line import Column, Kind, Line, PoeCap, Speed

AccessPointForm = Literal["ceiling", "wall", "in_wall", "outdoor"]
Antenna = Literal["all_round", "downward", "sector"]
Streams = Annotated[int, Field(ge=0, le=8)]
Power = Annotated[float, Field(ge=-10, le=36)]
Gain = Annotated[float, Field(ge=-10, le=30)]
PATTERN_MOST = 80

USUAL_PATTERNS: dict[Antenna, tuple[str, str]] = {
    "all_round": ("", ""),
    "downward": ("", "0 0, 30 1, 60 5, 75 9, 90 14, 120 20, 180 25"),
    "sector": ("0 0, 30 1, 60 5, 90 11, 120 18, 180 25", "0 12, 45 6, 75 0.5, 90 0, 105 1, 135 8, 180 14"),
}
"""Plan and elevation of an antenna of which the data sheet gives none, *default*."""


def pattern_of(text: str, most_deg: float) -> Pattern:
    """A pattern as it is written: an angle and the dB under the peak there, pairs with commas between.

    Raises:
        ValueError: it is not written so; the sentence says where.
    """
    found: list[tuple[float, float]] = []
    for part in filter(None, (piece.strip() for piece in text.split(","))):
        try:
            angle, drop = (float(number) for number in part.split())
        except ValueError:
            raise ValueError(f"{part!r} is no angle with its dB under the peak, like '30 1.5'") from None
        if not 0 <= angle <= most_deg or not 0 <= drop <= 60:
            raise ValueError(f"{part!r}: angles go from 0 to {most_deg:g}°, dB under the peak from 0 to 60")
        if found and angle <= found[-1][0]:
            raise ValueError(f"{part!r}: angles must grow from one to the next")
        found.append((angle, drop))
    if len(found) > PATTERN_MOST:
        raise ValueError(f"a pattern has {PATTERN_MOST} angles at most")
    return tuple(found)


class AccessPoint(Line):
    """An access point with its antennas."""

    of_kind = Kind(9, "access point", "access points", ("ap", "wireless access point", "wifi access point"))

    kind: Literal["access point"] = "access point"
    ap_form: Annotated[AccessPointForm, Column("Access point form")] = "ceiling"
    generation: Annotated[Generation, Column("Generation", ("wifi", "standard"))] = "802.11ax"
    streams_2: Annotated[Streams, Column("Streams 2.4 GHz")] = 2
    streams_5: Annotated[Streams, Column("Streams 5 GHz")] = 2
    streams_6: Annotated[Streams, Column("Streams 6 GHz")] = 0
    """Spatial streams; 0: it has not this band."""
    power_2_dbm: Annotated[Power, Column("Power 2.4 GHz dBm")] = 17.0
    power_5_dbm: Annotated[Power, Column("Power 5 GHz dBm")] = 19.0
    power_6_dbm: Annotated[Power, Column("Power 6 GHz dBm")] = 19.0
    """Conducted power, all chains together."""
    gain_2_dbi: Annotated[Gain, Column("Gain 2.4 GHz dBi")] = 3.0
    gain_5_dbi: Annotated[Gain, Column("Gain 5 GHz dBi")] = 4.0
    gain_6_dbi: Annotated[Gain, Column("Gain 6 GHz dBi")] = 4.0
    """Of the antenna at its peak."""
    widest_mhz: Annotated[Width, Column("Widest channel MHz")] = 80
    antenna: Annotated[Antenna, Column("Antenna")] = "all_round"
    plan_pattern: Annotated[str, Field(max_length=1000), Column("Plan pattern")] = ""
    """Degrees from where it points with the dB under the peak; up to 180° it is the same on both sides."""
    elevation_pattern: Annotated[str, Field(max_length=1000), Column("Elevation pattern")] = ""
    """Degrees from straight down with the dB under the peak.  Empty: usual for the antenna."""
    poe_class: Annotated[PoeCap, Column("PoE class")] = 4
    draw_w: Annotated[float, Field(gt=0, le=100), Column("Draw W")]
    port_mbit: Annotated[Speed, Column("Port Mbit/s")] = 1000
    lan_ports: Annotated[int, Field(ge=0, le=16), Column("LAN ports")] = 0
    """Ports that it gives on."""

    @model_validator(mode="after")
    def _sends(self) -> AccessPoint:
        if not (self.streams_2 or self.streams_5 or self.streams_6):
            raise ValueError("it has no band: streams are 0 at 2.4, 5 and 6 GHz")
        for name, text, most in (("plan", self.plan_pattern, 360), ("elevation", self.elevation_pattern, 180)):
            try:
                pattern_of(text, most)
            except ValueError as error:
                raise ValueError(f"the {name} pattern: {error}") from None
        return self

    @property
    def patterns(self) -> tuple[Pattern, Pattern]:
        """In plan and in elevation, those usual for its antenna where it has none."""
        plan, elevation = USUAL_PATTERNS[self.antenna]
        return pattern_of(self.plan_pattern or plan, 360), pattern_of(self.elevation_pattern or elevation, 180)
