"""The edit that puts all closets where a siting says, with the drops that end in each."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import Annotated, Literal

from pydantic import Field

from ..facts.building import Candidate, Closet, Metres, Sited
from ..facts.drop import Drop
from ..facts.fact import Fact, Id
from ..facts.project import MAX_CLOSETS, Project
from ..facts.settings import MAX_DROPS
from ..places.layout import layout
from ..words import counted
from .entries import unnamed
from .rows import found, replaced

ANSWERS = tuple(Sited.model_fields)
STAYS_M = 0.05
"""A closet that moves no further than this has not moved."""


class NewSite(Fact):
    """Where a closet stands, and which drops end there."""

    room_id: Id
    x_m: Metres
    y_m: Metres
    drop_ids: Annotated[tuple[Id, ...], Field(max_length=MAX_DROPS)] = ()


class PlaceClosets(Fact):
    """Put the closets here, the head end first: those there are move, more are added, others go.

    A drop that is not named stays where it ends, or goes to the head end with its closet; what hangs behind a drop goes
    along with it.
    """

    type: Literal["place_closets"] = "place_closets"
    sites: Annotated[tuple[NewSite, ...], Field(min_length=1, max_length=MAX_CLOSETS)]

    def apply(self, project: Project) -> Project:
        for site in self.sites:
            found(project.rooms, site.room_id, "room")
            for drop_id in site.drop_ids:
                found(project.drops, drop_id, "drop")
        next_id = project.next_id
        left = list(project.closets[1:])
        closets: list[Closet] = []
        for number, site in enumerate(self.sites):
            if number == 0:
                closet = project.head_end
            elif left:
                closet = next((one for one in left if one.room_id == site.room_id), left[0])
                left.remove(closet)
            else:
                name = f"{project.rooms_by_id[site.room_id].name} closet"
                closet = Closet(id=next_id, name=name, housing="shelf", units=4, sockets=2)
                next_id += 1
            closets.append(_moved(project, closet, site))
        ends = {drop_id: closets[number].id for number, site in enumerate(self.sites) for drop_id in site.drop_ids}
        known = _left_behind(project, closets, next_id)
        next_id += len(known)
        placed = replaced(
            project, closets=tuple(closets), candidates=(*project.candidates, *known)[:MAX_CLOSETS], next_id=next_id
        )
        placed = unnamed(placed, "closets", {closet.id for closet in left})
        stay = _staying(project, placed)
        drops = (_ending(project, placed, ends, stay, drop) for drop in project.drops)
        return replaced(placed, drops=tuple(drops))

    def summary(self, project: Project) -> str:
        return f"place {counted(len(self.sites), 'closet')}"


def _moved(project: Project, closet: Closet, site: NewSite) -> Closet:
    """A closet at a site; in another room, what was answered of that place stands, and nothing else."""
    moved: dict[str, object] = {"room_id": site.room_id, "x_m": site.x_m, "y_m": site.y_m}
    if closet.room_id != site.room_id:
        known: Iterable[Sited] = (one for one in project.candidates if one.room_id == site.room_id)
        answers = next(iter(known), Sited())
        moved |= {field: getattr(answers, field) for field in ANSWERS}
        moved |= {"link_m": None, "other_sockets": None}
        old, new = project.rooms_by_id.get(closet.room_id or 0), project.rooms_by_id[site.room_id]
        if old and closet.name == f"{old.name} closet":
            moved["name"] = f"{new.name} closet"
    return closet.model_copy(update=moved)


def _left_behind(project: Project, closets: Sequence[Closet], next_id: int) -> list[Candidate]:
    """What was answered of places that closets leave: it stays known, as candidates."""
    stay = {closet.room_id for closet in closets} | {candidate.room_id for candidate in project.candidates}
    left = [closet for closet in project.closets if closet.room_id is not None and closet.room_id not in stay]
    answered = [one for one in left if any(getattr(one, field) is not None for field in ANSWERS)]
    return [
        Candidate(
            id=next_id + n, room_id=one.room_id or 0, x_m=one.x_m, y_m=one.y_m, socket=True,
            **{field: getattr(one, field) for field in ANSWERS},
        )
        for n, one in enumerate(answered)
    ]  # fmt: skip


def _staying(project: Project, placed: Project) -> set[int]:
    """Closets that stand where they stood: what was measured to them still holds."""
    before = {point.id: point for point in layout(project).closets}
    return {
        closet.id
        for closet in placed.closets
        if (old := before.get(closet.id)) is not None
        and project.closets_by_id[closet.id].room_id == closet.room_id
        and math.dist((old.x_m, old.y_m), (closet.x_m or 0.0, closet.y_m or 0.0)) <= STAYS_M
    }


def _ending(project: Project, placed: Project, ends: dict[int, int], stay: set[int], drop: Drop) -> Drop:
    """A drop in the closet where it ends now: that of the drop that it hangs behind, else as named.  A length measured
    to another place does not hold any more."""
    first = drop
    while first.behind_id is not None:
        first = project.drops_by_id[first.behind_id]
    closet_id = ends.get(first.id, first.closet_id)
    if closet_id not in placed.closets_by_id:
        closet_id = placed.head_end.id
    if closet_id == drop.closet_id and (closet_id in stay or drop.run_m is None or drop.behind_id is not None):
        return drop
    return drop.model_copy(update={"closet_id": closet_id, "run_m": None if drop.behind_id is None else drop.run_m})
