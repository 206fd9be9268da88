"""A pick as it is told: boxes with the fill of every limit, links, places of the drops, first year of trouble."""

from __future__ import annotations

from collections import Counter
from typing import Literal

from ..demand import Asked, Demand
from ..facts import Fact
from ..project import Aim
from ..words import speed
from .places import Before, LinkEnds, Place
from .problem import BoxType, InjectorType, LinkEnd, ModuleType, Problem
from .search import Found
from .seating import Seating
from .standing import Boxes


class PortFill(Fact):
    """One group of equal ports and what takes them.  ``poe_rank`` 0: bare."""

    count: int
    speed_mbit: int
    poe_rank: int
    live: int
    live_powered: int
    reserve: int
    reserve_powered: int
    links: int


class BoxFill(Fact):
    """One box and the fill of each of its limits.  Watts carry the margin."""

    model: str
    name: str
    price_minor: int
    owned: bool
    units: int
    ports_used: int
    ports: int
    powered_used: int
    powered: int
    power_used_w: float
    power_w: float
    groups: tuple[PortFill, ...]


class LinkFill(LinkEnds):
    """A link between two boxes: ends in words, rate, and traffic that crosses it at the busy hour."""

    upper_end: str
    lower_end: str
    rate_mbit: int
    traffic_mbit: float
    fill_percent: float


class Part(Fact):
    """A line of the parts list."""

    model: str
    name: str
    kind: Literal["router", "switch", "injector", "module"]
    quantity: int
    price_minor: int
    """Of one."""
    total_minor: int
    owned: bool


class Answer(Fact):
    """One kind of best, complete."""

    aim: Aim
    price_minor: int
    proven: bool
    bound: int
    """What no pick can be under: price [minor], boxes, or mains draw [mW], by the aim."""
    boxes: tuple[BoxFill, ...]
    links: tuple[LinkFill, ...]
    parts: tuple[Part, ...]
    places: tuple[Place, ...]
    units: int
    sockets: int
    own_draw_w: float
    """Mains draw without port watts [W]."""
    mains_w: float
    """Mains draw with port watts [W]."""
    room_percent: float
    """Least head-room over every box and limit [%]."""
    full_year: int | None = None
    """First calendar year in which the boxes no longer bear the drops; None: not within ten years."""
    full_of: str = ""

    def standing(self) -> Boxes:
        """The boxes, injectors and modules of the answer by key, and where everything is in them."""
        return Boxes(
            tuple(box.model for box in self.boxes),
            tuple((part.model, part.quantity) for part in self.parts if part.kind in ("injector", "module")),
            Before(self.links, self.places),
        )


def tell(aim: Aim, found: Found, problem: Problem, demand: Demand) -> Answer:
    """A found pick as an answer, each drop of the demand with its place."""
    seating = found.seating
    places = places_of(seating, demand)
    return Answer(
        aim=aim,
        price_minor=seating.price_minor,
        proven=found.proven,
        bound=found.bound,
        boxes=tuple(_box_fill(seating, number, places, problem.margin_percent) for number in range(len(seating.boxes))),
        links=tuple(
            LinkFill(
                upper=link.upper,
                lower=link.lower,
                upper_port=link.option.upper.port,
                lower_port=link.option.lower.port,
                upper_module=link.option.upper.module.model.key if link.option.upper.module else None,
                lower_module=link.option.lower.module.model.key if link.option.lower.module else None,
                upper_end=_end_words(seating.boxes[link.upper], link.option.upper),
                lower_end=_end_words(seating.boxes[link.lower], link.option.lower),
                rate_mbit=link.option.rate_mbit,
                traffic_mbit=link.traffic_kbit / 1000,
                fill_percent=round(link.traffic_kbit / link.option.rate_mbit / 10, 1),
            )
            for link in seating.links
        ),
        parts=_parts(seating),
        places=places,
        units=sum(box.model.units for box in seating.boxes),
        sockets=sum(box.model.sockets for box in seating.boxes) + sum(seating.injectors.values()),
        own_draw_w=seating.own_mains_mw / 1000,
        mains_w=seating.mains_mw / 1000,
        room_percent=round(float(seating.room(problem.margin_percent)) * 100, 1),
    )


def places_of(seating: Seating, demand: Demand) -> tuple[Place, ...]:
    """Equal needs are filled in the order of the list, those live first."""
    waiting: dict[object, list[Asked]] = {}
    for asked in reversed(demand.all):
        waiting.setdefault(asked.need, []).append(asked)
    places = []
    for seat in sorted(seating.seats, key=lambda s: (s.injector is not None, s.box, s.port)):
        for _ in range(seat.count):
            asked = waiting[seat.need].pop()
            injector = seat.injector.model.key if seat.injector else None
            powered = bool(seat.need.poe_rank) and injector is None
            places.append(
                Place(drop_id=asked.drop_id, closet_id=asked.closet_id, kind=asked.kind, box=seat.box, port=seat.port,
                      powered=powered, injector=injector)
            )  # fmt: skip
    return tuple(places)


def _box_fill(seating: Seating, number: int, places: tuple[Place, ...], margin_percent: float) -> BoxFill:
    box = seating.boxes[number]
    groups = []
    for group, port in enumerate(box.ports):
        here = [place for place in places if (place.box, place.port) == (number, group)]
        live = [place for place in here if not place.in_reserve]
        reserve = [place for place in here if place.in_reserve]
        groups.append(
            PortFill(
                count=port.count,
                speed_mbit=port.speed_mbit,
                poe_rank=port.poe_rank,
                live=len(live),
                live_powered=sum(place.powered for place in live),
                reserve=len(reserve),
                reserve_powered=sum(place.powered for place in reserve),
                links=sum(end.port == group for end in _ends(seating, number)),
            )
        )
    return BoxFill(
        model=box.model.key,
        name=box.model.name,
        price_minor=box.price_minor,
        owned=box.most is not None,
        units=box.model.units,
        ports_used=seating.ports_used(number),
        ports=box.model.port_count,
        powered_used=seating.powered_used(number),
        powered=box.model.powered_count,
        power_used_w=round(seating.power_used_mw(number) * (1 + margin_percent / 100) / 1000, 1),
        power_w=box.model.poe_budget_w,
        groups=tuple(groups),
    )


def _ends(seating: Seating, number: int) -> list[LinkEnd]:
    ends = [link.option.upper for link in seating.links if link.upper == number]
    return ends + [link.option.lower for link in seating.links if link.lower == number]


def _end_words(box: BoxType, end: LinkEnd) -> str:
    if end.module is not None:
        name = end.module.model.name
        return f"slot, {name[0].lower()}{name[1:]}"
    port = box.ports[end.port or 0]
    return f"port {speed(end.speed_mbit)}" + (f", class {port.poe_rank}" if port.poe_rank else "")


def _parts(seating: Seating) -> tuple[Part, ...]:
    lines: Counter[BoxType | InjectorType | ModuleType] = Counter(seating.boxes)
    lines.update(seating.injectors)
    lines.update(seating.modules)
    return tuple(
        Part(
            model=line.model.key,
            name=line.model.name,
            kind=line.model.kind,
            quantity=quantity,
            price_minor=line.price_minor,
            total_minor=line.price_minor * quantity,
            owned=line.most is not None,
        )
        for line, quantity in sorted(lines.items(), key=lambda item: (item[0].index, item[0].price_minor))
    )
