"""What is told of the stack: every closet's things, rules broken, warmth, noise, mains, cords; and the power cut."""

from __future__ import annotations

from collections import Counter
from collections.abc import Container, Iterable, Sequence

from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.project import Project
from ..standing.ground import Ground
from .cords import CordLine, Cords, Medium, cords_of, length_m, past_the_panels
from .flat import flat_broken
from .mains import Mains, mains_of
from .power_cut import PowerCut, power_cut
from .rules import Broken, Score, broken, middles, score, weights_of
from .things import Thing, positions_needed, things_of
from .warmth import Help, Noise, Warmth, helps_of, noise_of, warmth_of


class ClosetStack(Fact):
    """A closet with all that stands in it."""

    closet_id: int
    things: tuple[Thing, ...]
    broken: tuple[Broken, ...]
    score: Score
    cords: tuple[CordLine, ...]
    loose_cords: dict[Medium, int]
    """By medium: cords to or from things that stand nowhere, or to no panel: nobody knows how long they are."""
    positions_needed: int
    positions: int
    units_taken: int
    mass_kg: float
    warmth: Warmth
    helps: tuple[Help, ...]
    """What would change its warmth."""
    noise: Noise
    mains: Mains


class Stack(Fact):
    """What stands in every closet, and what happens when mains goes off."""

    closets: tuple[ClosetStack, ...]
    power_cut: PowerCut


def stack_of(project: Project, catalogue: Catalogue, grounds: Sequence[Ground]) -> Stack:
    """The stack of a project on the boxes that stand."""
    things = {closet.id: things_of(project, catalogue, grounds, closet) for closet in project.closets}
    cut = power_cut(project, grounds, things)
    cells = {cell.closet_id: cell for cell in cut.cells}
    told = []
    for closet in project.closets:
        here = things[closet.id]
        ground = next((one for one in grounds if one.closet.id == closet.id), None)
        cords = cords_of(project, ground, here)
        at = middles(here)
        lines = [
            CordLine(one=c.one, other=c.other, count=c.many, units=abs(at[c.one] - at[c.other]),
                     length_m=length_m(abs(at[c.one] - at[c.other])), medium=c.medium)
            for c in cords
            if c.one in at and c.other in at
        ]  # fmt: skip
        cell = cells.get(closet.id)
        loss = 0.0
        if cell is not None:
            # a UPS on mains takes its own draw, and passes the rest on
            loss = sum(one.ups_own_w for one in here if one.kind == "ups")
        told.append(
            ClosetStack(
                closet_id=closet.id, things=here,
                broken=broken(closet, here) if closet.housing == "rack" else flat_broken(project, closet, here),
                score=score(here, cords, weights_of(project)), cords=tuple(lines),
                loose_cords=_loose(cords, at, past_the_panels(project, ground, here)),
                positions_needed=positions_needed(project, closet, ground),
                positions=sum(one.positions for one in here),
                units_taken=sum(one.units for one in here), mass_kg=round(sum(one.mass_kg for one in here), 3),
                warmth=warmth_of(closet, here, loss), noise=noise_of(closet, here),
                helps=helps_of(closet, here, loss, catalogue),
                mains=mains_of(project, closet, here),
            )
        )  # fmt: skip
    return Stack(closets=tuple(told), power_cut=cut)


def _loose(cords: Iterable[Cords], at: Container[str], past: int) -> dict[Medium, int]:
    """Cords of which an end stands nowhere, and those past the panels."""
    found: Counter[Medium] = Counter({"copper": past})
    for cord in cords:
        if cord.one not in at or cord.other not in at:
            found[cord.medium] += cord.many
    return {medium: count for medium, count in found.items() if count}
