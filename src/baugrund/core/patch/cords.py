"""Cords to buy or make: lengths from where things stand, colours by use, in bundles of a colour."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from typing import Literal

from ..facts.fact import Fact
from ..facts.project import Project
from ..standards.cabling import Category
from ..standards.stack import CORDS_M
from .lines import PortLine

PLUGS = 2


class CordsToBuy(Fact):
    """Cords of one length and colour."""

    length_m: float | None
    """Stock length, of a longer one the length itself; None: nobody has said where its ends stand."""
    colour: str
    """Empty: no colour is said for their use."""
    count: int
    uses: tuple[str, ...]
    stock: bool
    """Whether it is a stock length."""


class CordList(Fact):
    """All cords inside the closets."""

    category: Category
    source: Literal["bought", "home_made"]
    lines: tuple[CordsToBuy, ...]
    count: int
    unknown: int
    """Cords whose length nobody knows."""
    cable_m: float
    """Cable of home-made ones, those of unknown length at the longest stock."""
    plugs: int


def cord_list(project: Project, lines: Iterable[PortLine]) -> CordList:
    """Cords from panels to ports, between boxes, and from lines; cable that ends in a port itself needs none."""
    colours: dict[str, str] = {one.use: one.colour for one in project.cord_colours}
    direct = project.settings.termination == "direct"
    found: Counter[tuple[float | None, str]] = Counter()
    uses: dict[tuple[float | None, str], set[str]] = {}
    for line in lines:
        if not line.at_port or line.use in ("reserve", "uplink"):
            # one cord joins both boxes of a link: it is counted at its upper end
            continue
        if line.use == "drop" and not line.panel and line.cord_m is None and direct:
            continue
        if line.at_port.partition("/")[2].startswith("S"):
            # a module's fibre or direct cable is no patch cord
            continue
        use = line.kind if line.use == "drop" else line.use
        key = line.cord_m, colours.get(use, "")
        found[key] += 1
        uses.setdefault(key, set()).add(use)
    order = sorted(found, key=lambda key: (key[1], key[0] is None, key[0] or 0.0))
    unknown = sum(count for (length, _), count in found.items() if length is None)
    total = sum(found.values())
    return CordList(
        category=project.settings.cord_category, source=project.settings.cords_from,
        lines=tuple(
            CordsToBuy(length_m=length, colour=colour, count=found[length, colour],
                       uses=tuple(sorted(uses[length, colour])), stock=length in CORDS_M)
            for length, colour in order
        ),
        count=total, unknown=unknown,
        cable_m=round(sum((CORDS_M[-1] if length is None else length) * n for (length, _), n in found.items()), 2),
        plugs=PLUGS * total,
    )  # fmt: skip
