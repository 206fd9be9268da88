"""The port list of a closet: jack – panel position – cord – port, for every drop, link, feed and spare."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from scipy.optimize import linear_sum_assignment

from ..demand.needs import Need
from ..demand.traffic import busy_mbit, keeper
from ..facts.building import Closet
from ..facts.drop import Drop
from ..facts.patch import Patch
from ..facts.project import Project
from ..pick.model.places import Place, seats_in_order
from ..pick.model.seating import Seating
from ..places.labels import panel_letter
from ..stack.cords import length_m
from ..stack.rules import middles
from ..stack.things import Thing
from ..standing.ground import Ground
from .assignment import Asking, Assigned, Case, Crossing, Group, Limit, Ports, assign
from .ends import EndOf, ends_of
from .ports import Port, numbers_of, ports_of
from .positions import Cable, Position, positions_for

FACE_MM = 440.0
"""Width of the face of a panel or box that things are compared by, left to right."""


@dataclass(frozen=True)
class Cord:
    """Where a drop sits: its box by place, and its port."""

    box: int
    port: int


class Patching:
    """The patching of one closet on the boxes that stand there.

    ``steady``: what is plugged stays, where it can; else only what is pinned, to see what would be better.
    """

    def __init__(
        self, project: Project, ground: Ground | None, closet: Closet, things: Sequence[Thing], *, steady: bool = True
    ) -> None:
        self.project, self.ground, self.closet, self.things = project, ground, closet, things
        rows = [one for one in project.patches if one.closet_id == closet.id and (steady or one.fixed)]
        self.by_drop = {one.drop_id: one for one in rows if one.drop_id is not None}
        self.by_end = {(one.box, one.end): one for one in rows if one.end}
        self.seating: Seating | None = ground.stand.seated if ground else None
        self.boxes = [thing for thing in things if thing.box is not None] if self.seating else []
        self.keys = [thing.key for thing in self.boxes]
        self.at_box = {key: place for place, key in enumerate(self.keys)}
        self.own = {thing.drop_id: thing.key for thing in things if thing.drop_id is not None}
        self.ends: list[EndOf] = ends_of(project, ground, self.keys, self.by_end) if ground else []

    def end_row(self, box: str, end: str) -> Patch | None:
        """What is said of an end at a box; what takes no port of it (feeds, slots) is said of the closet alone."""
        return self.by_end.get((box, end)) or self.by_end.get(("", end))

    @cached_property
    def panels(self) -> list[tuple[str, int]]:
        return [(thing.key, thing.positions) for thing in self.things if thing.kind == "panel" and thing.positions]

    @cached_property
    def short(self) -> Mapping[str, str]:
        """What panels and boxes are called on labels: panels A, B, C, boxes 1, 2, 3, the root first."""
        panels = {key: panel_letter(self.project, self.closet.id, key) for key, _ in self.panels}
        return panels | {key: str(place) for place, key in enumerate(self.keys, 1)}

    @cached_property
    def drops(self) -> list[Drop]:
        """Drops whose cable ends here, in the order of floors, rooms and labels."""
        project = self.project
        rooms = {room.id: place for place, room in enumerate(project.rooms)}
        level = {floor.id: floor.level for floor in project.floors}
        here = [drop for drop in project.drops_by_closet[self.closet.id] if drop.has_run]
        floor = {room.id: room.floor_id for room in project.rooms}
        return sorted(here, key=lambda d: (level[floor[d.room_id]], rooms[d.room_id], d.id))

    @cached_property
    def positions(self) -> Mapping[str, Position]:
        """Position by what ends there: ``drop/7`` or the end of a link or feed."""
        cables = [
            Cable(f"drop/{drop.id}", drop.room_id, _position(self.by_drop.get(drop.id)))
            for drop in self.drops
            if drop.id not in self.own
        ]
        feeds = [
            Cable(one.end, None, _position(self.end_row(self.keys[one.box], one.end)))
            for one in self.ends
            if one.on_panel
        ]
        return positions_for(cables + feeds, self.panels)

    @cached_property
    def places(self) -> list[tuple[Place, Need]]:
        """Where the pick seats every drop and every reserve, with its need."""
        if self.seating is None or self.ground is None:
            return []
        return [
            (place, seat.need)
            for place, seat in zip(self.ground.stand.places, seats_in_order(self.seating), strict=True)
        ]

    @cached_property
    def assigned(self) -> Assigned:
        return assign(self.case)

    @cached_property
    def case(self) -> Case:
        """The assignment as a case of its own."""
        assert self.seating is not None and self.ground is not None
        ports, limits = [], {}
        for place, box in enumerate(self.seating.boxes):
            numbers = numbers_of(box.model)
            at_ends = [one.port for one in self.ends if one.box == place and one.port is not None]
            for group, kind in enumerate(box.ports):
                of_kind = numbers.get((kind.speed_mbit, kind.poe_rank), ())
                left = len(of_kind) - sum(number in of_kind for number in at_ends)
                ports.append(Ports((place, group), left, kind.speed_mbit, kind.poe_rank))
            own_ends = len(at_ends) - (box.uplink_ends if box.uplink and box.uplink.port is not None else 0)
            limits[place] = Limit(box.ports_most - own_ends, box.powered_most, box.power_most_mw)
        asking = tuple(self._asking(place, need) for place, need in self.places)
        return Case(asking, tuple(ports), limits, tuple(self._crossings()))

    def _asking(self, place: Place, need: Need) -> Asking:
        drop = self.project.drops_by_id[place.drop_id] if place.drop_id is not None else None
        now, weight = None, 0
        patch = self.by_drop.get(drop.id) if drop else None
        if patch is not None and patch.box:
            now = self._group(patch)
            weight = len(self.places) + 1 if patch.fixed else 1
        return Asking(
            need=need, injector=place.injector is not None, seat=(place.box, place.port), now=now, weight=weight,
            boxes=self._large_boxes if need.large_frames else None,
            hops_mbit=self._hops_mbit(drop) if drop else None, cord_cm=self._cord_cm(drop) if drop else None,
        )  # fmt: skip

    def _group(self, patch: Patch) -> Group:
        """The group of the port that something is plugged into; one that is no more is group −1."""
        box = self.at_box.get(patch.box)
        if box is None or self.seating is None:
            return (-1, -1)
        if any(one.box == box and one.port == patch.port for one in self.ends):
            return (box, -1)
        kinds = numbers_of(self.seating.boxes[box].model)
        for group, kind in enumerate(self.seating.boxes[box].ports):
            if patch.port in kinds.get((kind.speed_mbit, kind.poe_rank), ()):
                return (box, group)
        return (box, -1)

    @cached_property
    def _above(self) -> dict[int, int]:
        """The box that each box hangs from."""
        return {link.lower: link.upper for link in self.seating.links} if self.seating else {}

    def _way(self, box: int) -> list[int]:
        """Boxes from one to the root, itself first."""
        way = [box]
        while way[-1] in self._above:
            way.append(self._above[way[-1]])
        return way

    @cached_property
    def _large_boxes(self) -> frozenset[int]:
        """Boxes whose whole way to the root carries large frames."""
        assert self.seating is not None
        large = [box.model.large_frames for box in self.seating.boxes]
        return frozenset(b for b in range(len(large)) if all(large[one] for one in self._way(b)))

    def _hops(self, one: int, other: int) -> int:
        """Links between two boxes."""
        mine, theirs = self._way(one), self._way(other)
        shared = len(set(mine) & set(theirs))
        return len(mine) + len(theirs) - 2 * shared

    def _hops_mbit(self, drop: Drop) -> Mapping[int, int] | None:
        """By box: whole Mbit/s of a drop that links carry to what keeps them, times the links; of a NAS to the root."""
        assert self.seating is not None
        if drop.kind == "camera":
            at, target = keeper(self.project, drop), 0
            if at is not None and at in self._keepers:
                target = self._keepers[at]
            elif at is None:
                return None
        elif drop.kind in ("nas", "server"):
            target = 0
        else:
            return None
        mbit = -(-busy_mbit(self.project, drop) // 1)
        return {box: round(mbit) * self._hops(box, target) for box in range(len(self.seating.boxes))}

    @cached_property
    def _keepers(self) -> dict[int, int]:
        """Box of every recorder and NAS here: where it is plugged, else where the pick seats it; elsewhere in the site
        the box that leads there."""
        found = {place.drop_id: place.box for place, _ in self.places if place.drop_id is not None}
        for drop_id, patch in self.by_drop.items():
            if drop_id in found and patch.box in self.at_box:
                found[drop_id] = self.at_box[patch.box]
        leads = {seat.trunk.closet_id: seat.box for seat in self.seating.trunks} if self.seating else {}
        for drop in self.project.drops:
            closet: Closet | None = self.project.closets_by_id[drop.closet_id]
            if drop.id in found or drop.kind not in ("recorder", "nas"):
                continue
            while closet is not None and closet.id not in leads:
                closet = self.project.closets_by_id.get(closet.fed_by_id) if closet.fed_by_id else None
            if closet is not None:
                found[drop.id] = leads[closet.id]
        return found

    @cached_property
    def _at(self) -> Mapping[str, float]:
        return middles(self.things)

    def cord_m(self, one: str, box: str) -> float | None:
        """Stock length of a cord between two things; None: nobody has said where they stand."""
        if one in self._at and box in self._at:
            return length_m(abs(self._at[one] - self._at[box]))
        return None

    def start_of(self, drop: Drop) -> str:
        """What a drop's cord comes from: its own box here, else its panel; empty: its cable ends in the port."""
        if drop.id in self.own:
            return self.own[drop.id]
        position = self.positions.get(f"drop/{drop.id}")
        return position[0] if position else ""

    def _cord_cm(self, drop: Drop) -> Mapping[int, int] | None:
        start = self.start_of(drop)
        lengths = {place: self.cord_m(start, key) for place, key in enumerate(self.keys)} if start else {}
        return {place: round(100 * m) for place, m in lengths.items() if m is not None} or None

    def _crossings(self) -> Iterator[Crossing]:
        """Links, and what traffic of drops each carries beside that of closets behind it."""
        assert self.seating is not None
        for link in self.seating.links:
            below = frozenset(box for box in range(len(self.keys)) if link.lower in self._way(box))
            drops = sum(need.traffic_kbit for place, need in self.places if place.box in below)
            yield Crossing(below, link.option.carries_kbit - link.traffic_kbit + drops)

    @cached_property
    def cords(self) -> Mapping[int, Cord]:
        """The port of every drop by its number; in reserve those under 0, in order."""
        if not self.places:
            return {}
        by_group: dict[Group, list[tuple[int, int | None, float | None]]] = {}
        for number, ((place, _), group) in enumerate(zip(self.places, self.assigned.groups, strict=True)):
            key = place.drop_id if place.drop_id is not None else -1 - number
            patch = self.by_drop.get(key)
            stays = patch is not None and self._group(patch) == group
            by_group.setdefault(group, []).append((key, patch.port if patch and stays else None, self._x_of(key)))
        found = {}
        for group, here in by_group.items():
            for key, number in self._numbered(group, here):
                found[key] = Cord(group[0], number)
        return found

    def _x_of(self, key: int) -> float | None:
        """How far from the left a drop's position is [mm]; None: it has none."""
        position = self.positions.get(f"drop/{key}")
        return None if position is None else position_x(position[1], dict(self.panels)[position[0]])

    def _numbered(
        self, group: Group, here: Sequence[tuple[int, int | None, float | None]]
    ) -> Iterator[tuple[int, int]]:
        """Numbers in a group: who is plugged stays, others stand as nearly under their position as can be (an
        assignment of least distance), those in reserve take what is left."""
        assert self.seating is not None
        box = self.seating.boxes[group[0]]
        kind = box.ports[group[1]]
        at_ends = {one.port for one in self.ends if one.box == group[0]}
        stay = {number for _, number, _ in here if number is not None}
        x = {port.number: x_of(port, ports_of(box.model)) for port in ports_of(box.model)}
        free = [
            number
            for number in numbers_of(box.model)[kind.speed_mbit, kind.poe_rank]
            if number not in at_ends and number not in stay
        ]
        yield from ((key, number) for key, number, _ in here if number is not None)
        coming = [(key, at) for key, number, at in here if number is None and key > 0]
        if coming:
            distance = np.array([[0.0 if at is None else abs(at - x[n]) for n in free] for _, at in coming])
            _, columns = linear_sum_assignment(distance)
            chosen = [free[column] for column in columns.tolist()]
            yield from _uncrossed([key for key, _ in coming], [at for _, at in coming], chosen, x)
            free = [number for number in free if number not in chosen]
        yield from zip((key for key, _, _ in here if key < 0), free, strict=False)


def _uncrossed(
    keys: Sequence[int], at: Sequence[float | None], chosen: Sequence[int], x: Mapping[int, float]
) -> Iterator[tuple[int, int]]:
    """The same numbers from the left as the positions are: no distance grows by it, and none of these cords cross."""
    order = sorted((place, row) for row, place in enumerate(at) if place is not None)
    numbers = sorted((chosen[row] for _, row in order), key=lambda number: (x[number], number))
    yield from ((keys[row], number) for (_, row), number in zip(order, numbers, strict=True))
    yield from ((key, number) for key, place, number in zip(keys, at, chosen, strict=True) if place is None)


def _position(patch: Patch | None) -> Position | None:
    return (patch.panel, patch.position) if patch and patch.position is not None else None


def position_x(position: int, count: int) -> float:
    """Middle of a panel's position from the left [mm]; over 24 stand in two rows."""
    columns = count if count <= 24 else -(-count // 2)
    return (((position - 1) % columns) + 0.5) * FACE_MM / columns


def x_of(port: Port, ports: Sequence[Port]) -> float:
    """Middle of a port from the left [mm]."""
    columns = max(one.column for one in ports) + 1
    return (port.column + 0.5) * FACE_MM / columns
