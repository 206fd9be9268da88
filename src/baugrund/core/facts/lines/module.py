"""Pluggable ends of links."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ...standards.fibre import FibreGrade, standard_reach_m
from .line import Column, Kind, Piecewise, Speed


class Module(Piecewise):
    """A pluggable end of a link: copper (8P8C) or fibre."""

    of_kind = Kind(
        4, "module", "modules", ("transceiver", "optic", "optics", "sfp", "sfp+", "sfp module"), in_picks=True
    )

    kind: Literal["module"] = "module"
    medium: Annotated[Literal["copper", "fibre-multimode", "fibre-singlemode"], Column("Medium")]
    speed_mbit: Annotated[Speed, Column("Speed Mbit/s")]
    reach_m: Annotated[int, Field(ge=1, le=100_000), Column("Reach m")]
    """Over its own medium; a multimode one over OM3 [m]."""
    reach_om4_m: Annotated[Annotated[int, Field(ge=1, le=100_000)] | None, Column("Reach over OM4 m")] = None
    """Of a multimode one over OM4 [m]; None: that of the standard, where its reach over OM3 is the standard's too."""
    draw_w: Annotated[Annotated[float, Field(ge=0, le=20)] | None, Column("Draw W")] = None
    """What it draws from its slot [W]; None: not told."""

    def reach_on(self, grade: FibreGrade) -> float:
        """How far it reaches over a grade of fibre [m] (IEEE Std 802.3, clauses 38 and 52)."""
        if grade != "OM4":
            return self.reach_m
        if self.reach_om4_m is not None:
            return self.reach_om4_m
        usual, better = (standard_reach_m(self.speed_mbit, one) for one in ("OM3", "OM4"))
        standard = usual is not None and better is not None and self.reach_m >= usual
        return max(self.reach_m, better or 0.0) if standard else self.reach_m
