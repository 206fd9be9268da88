"""A pick as it is told: boxes with the fill of every limit, links, places of the drops, first year of trouble."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping
from typing import Literal, NamedTuple

from ..demand.needs import Demand, Demands
from ..facts.fact import Fact
from ..facts.lines.line import Line, Piecewise
from ..facts.lines.spare import Spare
from ..facts.project import Project
from ..facts.settings import Aim
from ..pick.model.links import Trunk
from ..pick.model.places import Before, LinkEnds, Place, TrunkEnds, places_of
from ..pick.model.problem import Problem
from ..pick.model.seating import Seating
from ..pick.model.supply import BoxType, LinkEnd
from ..pick.packs import closets_minor, owned_of, sold_by_the_pack
from ..pick.site import Site, SiteFound
from ..pick.standing import Boxes, Standing
from ..power.feeds import running_w
from ..prices.costs import Costs
from ..words import speed


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
    """One box, the closet that it stands in, and the fill of each of its limits.  Watts carry the margin."""

    closet_id: int
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
    """A link between two boxes: ends in words, rate, and traffic that crosses it at the busy hour.

    Boxes are named by their place in the answer.  A link to another closet has so many cables or pairs side by side.
    """

    closet_id: int | None = None
    """The closet that it feeds; None: it stays inside one."""
    ends: int = 1
    upper_end: str
    lower_end: str
    rate_mbit: int
    traffic_mbit: float
    fill_percent: float


class Part(Fact):
    """A line of the parts list."""

    model: str
    name: str
    kind: str
    quantity: int
    pack: int = 1
    """How many pieces the price is for."""
    packs: int = 0
    """How many packs are bought; 0: it is sold piece by piece."""
    price_minor: int
    """Of one, or of one pack."""
    total_minor: int
    yearly_minor: int = 0
    """Licence or rent of all of them a year."""
    yearly_for: Literal["licence", "rent"] = "licence"
    owned: bool


class ClosetFill(Fact):
    """One closet of an answer: its boxes together, and what of each model is there."""

    closet_id: int
    name: str
    price_minor: int
    units: int
    sockets: int
    own_draw_w: float
    """Mains draw without port watts [W]."""
    mains_w: float
    """Mains draw with port watts [W]."""
    models: dict[str, int]


class Answer(Fact):
    """One kind of best, complete."""

    aim: Aim
    price_minor: int
    proven: bool
    bound: int
    """What no pick can be under: price [minor], boxes, or mains draw [mW], by the aim."""
    closets: tuple[ClosetFill, ...]
    boxes: tuple[BoxFill, ...]
    """Closet by closet, the root of each first."""
    links: tuple[LinkFill, ...]
    parts: tuple[Part, ...]
    places: tuple[Place, ...]
    units: int
    sockets: int
    own_draw_w: float
    """Mains draw without port watts [W]."""
    mains_w: float
    """Mains draw with port watts [W], all ports at what they are counted with."""
    running_w: float
    """Mains draw as it runs [W]: live drops alone, at measured or rated watts, whatever the school reserves."""
    room_percent: float
    """Least head-room over every box and limit [%]."""
    full_year: int | None = None
    """First calendar year in which the boxes no longer bear the drops; None: not within ten years."""
    full_of: str = ""
    costs: Costs | None = None
    """What it costs to have it for the horizon."""

    def standing(self) -> Standing:
        """The boxes, injectors and modules of every closet by key, and where everything is in them."""
        return {closet.closet_id: self._stands(closet) for closet in self.closets}

    def _stands(self, closet: ClosetFill) -> Boxes:
        mine = [number for number, box in enumerate(self.boxes) if box.closet_id == closet.closet_id]
        first = mine[0]
        keys = tuple(self.boxes[number].model for number in mine)
        extras = tuple((key, count) for key, count in closet.models.items() if key not in keys)
        inside, trunks, uplink = [], [], None
        for link in self.links:
            if link.closet_id is None and link.upper in mine:
                inside.append(
                    LinkEnds.model_validate(
                        {name: getattr(link, name) for name in LinkEnds.model_fields}
                        | {"upper": link.upper - first, "lower": link.lower - first}
                    )
                )
            elif link.closet_id is not None and link.upper in mine:
                trunks.append(TrunkEnds(link.closet_id, link.upper - first, link.upper_port, link.upper_module))
            elif link.closet_id == closet.closet_id:
                uplink = TrunkEnds(link.closet_id, 0, link.lower_port, link.lower_module)
        places = tuple(
            place.model_copy(update={"box": place.box - first}) for place in self.places if place.box in mine
        )
        return Boxes(keys, extras, Before(tuple(inside), places, tuple(trunks)), uplink)


def tell(aim: Aim, found: SiteFound, site: Site, project: Project, demands: Demands) -> Answer:
    """A found pick as an answer, each drop of the demands with its place."""
    boxes: list[BoxFill] = []
    places: list[Place] = []
    first: dict[int, int] = {}
    closets = []
    prices = iter(closets_minor(site, found))
    each = tuple(zip(site.closets, found.seatings, strict=True))
    for problem, seating in each:
        here = places_of(seating, demands[problem.closet_id])
        first[problem.closet_id] = len(boxes)
        places += [place.model_copy(update={"box": place.box + len(boxes)}) for place in here]
        boxes += [_box_fill(problem, seating, number, here) for number in range(len(seating.boxes))]
        name, price = project.closets_by_id[problem.closet_id].name, next(prices)
        closets.append(_closet_fill(problem, seating, name, price))
    margin = site.head_end.margin_percent
    return Answer(
        aim=aim,
        price_minor=found.price_minor,
        proven=found.proven,
        bound=found.bound,
        closets=tuple(closets),
        boxes=tuple(boxes),
        links=tuple(_links(site, found, first)),
        parts=_parts(site, found),
        places=tuple(places),
        units=sum(closet.units for closet in closets),
        sockets=sum(closet.sockets for closet in closets),
        own_draw_w=sum(seating.own_mains_mw for seating in found.seatings) / 1000,
        mains_w=sum(seating.mains_mw for seating in found.seatings) / 1000,
        running_w=round(sum(_running_w(project, s, demands[p.closet_id]) for p, s in each), 3),
        room_percent=round(float(found.room(margin)) * 100, 1),
    )


def _running_w(project: Project, seating: Seating, demand: Demand) -> float:
    """Mains draw of a closet's boxes and injectors with its live drops as they run [W]."""
    injectors = {injector.model.key: injector for injector in seating.injectors}
    drawn = seating.own_mains_mw / 1000
    for place in places_of(seating, demand):
        drop = project.drops_by_id.get(place.drop_id or 0)
        if drop is not None and drop.poe_class is not None:
            supply = injectors[place.injector] if place.injector else seating.boxes[place.box]
            drawn += running_w(project, drop) / (supply.model.efficiency_percent / 100)
    return drawn


def _closet_fill(problem: Problem, seating: Seating, name: str, price_minor: int) -> ClosetFill:
    models: Counter[str] = Counter()
    for kind, count in seating.taken.items():
        models[kind.model.key] += count
    return ClosetFill(
        closet_id=problem.closet_id,
        name=name,
        price_minor=price_minor,
        units=sum(box.model.units for box in seating.boxes),
        sockets=sum(box.model.sockets for box in seating.boxes) + sum(seating.injectors.values()),
        own_draw_w=seating.own_mains_mw / 1000,
        mains_w=seating.mains_mw / 1000,
        models=dict(models),
    )


def _links(site: Site, found: SiteFound, first: Mapping[int, int]) -> Iterator[LinkFill]:
    """Links inside each closet, then that to each closet that it feeds; places of boxes are those in the answer."""
    by_closet = dict(zip((problem.closet_id for problem in site.closets), found.seatings, strict=True))
    for closet_id, seating in by_closet.items():
        at = first[closet_id]
        for link in seating.links:
            upper = _End(seating.boxes[link.upper], link.option.upper, at + link.upper)
            lower = _End(seating.boxes[link.lower], link.option.lower, at + link.lower)
            yield _link_fill(upper, lower, link.option.rate_mbit, link.traffic_kbit)
        for seat in seating.trunks:
            trunk = seat.trunk
            root = by_closet[trunk.closet_id].boxes[0]
            assert root.uplink is not None
            rate = min(seat.end.speed_mbit, root.uplink.speed_mbit)
            upper = _End(seating.boxes[seat.box], seat.end, at + seat.box)
            lower = _End(root, root.uplink, first[trunk.closet_id])
            yield _link_fill(upper, lower, rate, trunk.traffic_kbit, trunk)


class _End(NamedTuple):
    """Where a link ends: at which box, in which way, and the box's place in the answer."""

    box: BoxType
    end: LinkEnd
    place: int


def _link_fill(
    upper: _End, lower: _End, rate_mbit: int, traffic_kbit: int, trunk: Trunk | None = None
) -> LinkFill:  # fmt: skip
    ends = trunk.ends if trunk else 1
    return LinkFill(
        upper=upper.place,
        lower=lower.place,
        closet_id=trunk.closet_id if trunk else None,
        ends=ends,
        upper_port=upper.end.port,
        lower_port=lower.end.port,
        upper_module=upper.end.module.model.key if upper.end.module else None,
        lower_module=lower.end.module.model.key if lower.end.module else None,
        upper_end=_end_words(upper.box, upper.end),
        lower_end=_end_words(lower.box, lower.end),
        rate_mbit=rate_mbit,
        traffic_mbit=traffic_kbit / 1000,
        fill_percent=round(traffic_kbit / (rate_mbit * ends) / 10, 1),
    )


def _box_fill(problem: Problem, seating: Seating, number: int, places: tuple[Place, ...]) -> BoxFill:
    box = seating.boxes[number]
    groups = []
    for group, port in enumerate(box.ports):
        here = [place for place in places if (place.box, place.port) == (number, group)]
        live = [place for place in here if not place.in_reserve]
        reserve = [place for place in here if place.in_reserve]
        own = box.uplink_ends if box.uplink and box.uplink.port == group else 0
        groups.append(
            PortFill(
                count=port.count + own,
                speed_mbit=port.speed_mbit,
                poe_rank=port.poe_rank,
                live=len(live),
                live_powered=sum(place.powered for place in live),
                reserve=len(reserve),
                reserve_powered=sum(place.powered for place in reserve),
                links=seating.ends_on(number, group),
            )
        )
    return BoxFill(
        closet_id=problem.closet_id,
        model=box.model.key,
        name=box.model.name,
        price_minor=box.price_minor,
        owned=box.most is not None,
        units=box.model.units,
        ports_used=seating.ports_used(number),
        ports=box.model.port_count,
        powered_used=seating.powered_used(number),
        powered=box.model.powered_count,
        power_used_w=round(seating.power_used_mw(number) * (1 + problem.margin_percent / 100) / 1000, 1),
        power_w=box.model.poe_budget_w,
        groups=tuple(groups),
    )


def _end_words(box: BoxType, end: LinkEnd) -> str:
    if end.module is not None:
        name = end.module.model.name
        return f"slot, {name[0].lower()}{name[1:]}"
    port = box.ports[end.port or 0]
    return f"port {speed(end.speed_mbit)}" + (f", class {port.poe_rank}" if port.poe_rank else "")


def _parts(site: Site, found: SiteFound) -> tuple[Part, ...]:
    """Every line that is taken, in the order of the catalogue, then the spares that complete boxes."""
    lines: Counter[tuple[int, int, bool]] = Counter()
    spares: Counter[Spare] = Counter()
    models: dict[tuple[int, int, bool], Line] = {}
    pieces: Counter[int] = Counter()
    sold = sold_by_the_pack(site)
    for seating in found.seatings:
        for line, quantity in seating.taken.items():
            if line.index in sold:
                pieces[line.index] += quantity
                continue
            beside = line.spares if isinstance(line, BoxType) else ()
            key = (line.index, line.price_minor - sum(spare.price_minor for spare in beside), line.most is not None)
            lines[key] += quantity
            models[key] = line.model
            spares.update(dict.fromkeys(beside, quantity))
    owned = owned_of(site, sold)
    for index, quantity in pieces.items():
        model, own = sold[index], min(quantity, owned[index])
        for count, price, is_owned in ((own, 0, True), (quantity - own, model.price_minor, False)):
            if count:
                lines[index, price, is_owned], models[index, price, is_owned] = count, model
    taken = [
        _part(models[key], quantity, key[1], key[2], found.packs.get(key[0], 0))
        for key, quantity in sorted(lines.items())
    ]
    return (*taken, *(_part(spare, quantity, spare.price_minor, False) for spare, quantity in spares.items()))


def _part(model: Line, quantity: int, price_minor: int, owned: bool, packs: int = 0) -> Part:
    pack = model.pack if isinstance(model, Piecewise) and packs and not owned else 1
    return Part(
        model=model.key,
        name=model.name,
        kind=model.kind,
        quantity=quantity,
        pack=pack,
        packs=packs if pack > 1 else 0,
        price_minor=price_minor,
        total_minor=price_minor * (packs if pack > 1 else quantity),
        yearly_minor=model.yearly_minor * quantity,
        yearly_for=model.yearly_for,
        owned=owned,
    )
