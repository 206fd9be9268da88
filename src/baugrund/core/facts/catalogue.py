"""The catalogue: what can be bought.  Watts and kilograms as the data sheets state them, money in minor units."""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping
from functools import cached_property
from typing import Annotated, Literal, TypeVar, cast, get_args

from pydantic import Field, model_validator

from ..standards.fibre import FibreGrade, standard_reach_m
from .fact import Computed, Fact, ModelKey, Name, mark_of

LINES_MOST = 5_000
Made = TypeVar("Made")
Speed = Literal[100, 1000, 2500, 5000, 10000]
"""Line rate of a port [Mbit/s]."""
SPEEDS: tuple[Speed, ...] = get_args(Speed)
PoeCap = Annotated[int, Field(ge=0, le=8)]


Tax = Literal["", "included", "excluded"]
"""Whether prices hold value-added tax; empty: not told."""
Allocation = Literal["class", "draw"]
"""How a box sets watts aside as a device comes up: what its class reserves, or what it draws."""
Airflow = Literal["front_to_rear", "rear_to_front", "left_to_right", "right_to_left"]

Accessory = Literal["ears", "rails", "supply", "disk"]
"""What a box may lack in its packing: ears and rails for a rack, a power supply, disks for its recorder."""


class PortGroup(Fact):
    """``count`` equal 8P8C ports: speed [Mbit/s] and the highest PoE class they give, or none."""

    count: Annotated[int, Field(ge=1, le=64)]
    speed_mbit: Speed
    poe_class: PoeCap | None = None
    port_w: Annotated[float, Field(gt=0, le=100)] | None = None
    """Most that one of its ports gives [W]; None: what its class reserves."""


class SlotGroup(Fact):
    """``count`` equal slots for a pluggable module, and their speed [Mbit/s]."""

    count: Annotated[int, Field(ge=1, le=16)]
    speed_mbit: Speed


class Priced(Computed):
    """What every catalogue line has."""

    key: ModelKey
    name: Name
    price_minor: Annotated[int, Field(ge=0, le=100_000_000)]
    in_stock: bool = True
    yearly_minor: Annotated[int, Field(ge=0, le=100_000_000)] = 0
    """Licence or rent of one a year."""
    yearly_for: Literal["licence", "rent"] = "licence"
    warranty_years: Annotated[int, Field(ge=0, le=50)] | None = None

    @cached_property
    def mark(self) -> str:
        """What stands for all that is known of it."""
        return mark_of(self)

    def price_of(self, pieces: int) -> int:
        """What so many of it cost [minor]."""
        return pieces * self.price_minor


class Electric(Priced):
    """A line that takes mains power.

    ``own_draw_w`` stands on the output side of its supply [W]: from the mains it draws that and what its ports give,
    divided by the supply's efficiency.
    """

    own_draw_w: Annotated[float, Field(ge=0, le=2000)]
    efficiency_percent: Annotated[int, Field(ge=50, le=100)] = 88
    power_factor: Annotated[float, Field(ge=0.3, le=1)] | None = None
    """Watts over volt-amperes at the mains; None: not told."""

    @property
    def own_draw_mw(self) -> int:
        """Own draw in whole milliwatts."""
        return round(self.own_draw_w * 1000)


class Box(Electric):
    """A router or switch: ports, slots and what it asks of the housing."""

    form: Literal["shelf", "rack"]
    """*rack*: 19-inch with ears; *shelf*: narrow, stands or hangs."""
    units: Annotated[int, Field(ge=1, le=20)] = 1
    width_mm: Annotated[int, Field(ge=20, le=600)] | None = None
    depth_mm: Annotated[int, Field(ge=20, le=1200)]
    mass_kg: Annotated[float, Field(ge=0, le=100)]
    fanless: bool
    noise_dba: Annotated[float, Field(ge=0, le=100)] | None = None
    """Sound pressure at 1 m [dB(A)]; None: not told."""
    airflow: Airflow | None = None
    """Which way its fans blow; None: it has none, or it is not told."""
    ambient_max_c: Annotated[float, Field(ge=20, le=90)] | None = None
    """Warmest air that it may stand in [°C]."""
    managed: bool
    large_frames: bool
    sockets: Annotated[int, Field(ge=1, le=2)] = 1
    """Mains sockets taken: 2 for a plug brick wider than one."""
    ports: Annotated[tuple[PortGroup, ...], Field(max_length=8)]
    slots: Annotated[tuple[SlotGroup, ...], Field(max_length=4)] = ()
    poe_budget_w: Annotated[float, Field(ge=0, le=5000)] = 0.0
    poe_allocation: Allocation | None = None
    """How it sets watts aside as devices come up; None: not told."""
    lacks: Annotated[tuple[Accessory, ...], Field(max_length=4)] = ()
    """What it needs and does not come with."""
    supplies_w: Annotated[tuple[Annotated[float, Field(gt=0, le=5000)], ...], Field(max_length=4)] = ()
    """What each of several supplies gives [W]; empty: one, of which only the budget is told."""

    @property
    def poe_budget_mw(self) -> int:
        """Total PoE budget in whole milliwatts."""
        return round(self.poe_budget_w * 1000)

    @property
    def port_count(self) -> int:
        return sum(group.count for group in self.ports)

    @property
    def is_for_rooms(self) -> bool:
        """Whether it stands in rooms alone, fed over its cable: no closet takes it."""
        return False

    @property
    def powered_count(self) -> int:
        return sum(group.count for group in self.ports if group.poe_class is not None)

    @model_validator(mode="after")
    def _watts_and_powered_ports_belong_together(self) -> Box:
        if self.powered_count and not self.poe_budget_w:
            raise ValueError(f"{self.name}: {self.powered_count} powered ports but a PoE budget of 0 W")
        if self.poe_budget_w and not self.powered_count:
            raise ValueError(f"{self.name}: a PoE budget of {self.poe_budget_w:g} W but no powered port")
        if len(set(self.lacks)) < len(self.lacks):
            raise ValueError(f"{self.name}: lacks the same thing twice")
        left = sum(self.supplies_w) - self.own_draw_w
        if self.supplies_w and self.poe_budget_w > left:
            raise ValueError(
                f"{self.name}: a PoE budget of {self.poe_budget_w:g} W, but its supplies leave {left:g} W for it"
            )
        return self

    def budget_without_w(self, lost: int) -> float:
        """PoE budget with one supply lost [W]: what the others give less the own draw, and never over the budget."""
        left = sum(self.supplies_w) - self.supplies_w[lost] - self.own_draw_w
        return max(0.0, min(self.poe_budget_w, left))


class Router(Box):
    """The root of the tree: WAN port speeds [Mbit/s] and firewalled throughput [Mbit/s]."""

    kind: Literal["router"] = "router"
    wan_mbit: Annotated[tuple[Speed, ...], Field(min_length=1, max_length=4)]
    throughput_mbit: Annotated[int, Field(ge=1, le=1_000_000)]
    inspected_mbit: Annotated[int, Field(ge=1, le=1_000_000)] | None = None
    """Throughput with inspection of what passes [Mbit/s]; None: not told."""
    networks: Annotated[int, Field(ge=1, le=4094)] | None = None
    """How many separate networks it keeps apart; None: not told."""
    recorder_cameras: Annotated[int, Field(ge=0, le=256)] = 0
    """Cameras that a recorder built into the router takes; 0: none built in."""


class Switch(Box):
    """A box of ports."""

    kind: Literal["switch"] = "switch"
    fed_class: PoeCap | None = None
    """Class that feeds it over its first cable, in a room; None: it takes a mains socket."""

    @property
    def is_for_rooms(self) -> bool:
        return self.fed_class is not None


Pack = Annotated[int, Field(ge=1, le=100)]
"""How many pieces the price is for."""


class Piecewise(Priced):
    """A small line that may be sold by the pack of several: its price is that of a pack."""

    pack: Pack = 1

    def price_of(self, pieces: int) -> int:
        """What so many of it cost in whole packs [minor]."""
        return self.packs_of(pieces) * self.price_minor

    def packs_of(self, pieces: int) -> int:
        """How many packs so many pieces are."""
        return -(-pieces // self.pack)

    @property
    def share_minor(self) -> int:
        """What no piece costs less than [minor]: its share of a pack, rounded down."""
        return self.price_minor // self.pack

    @property
    def piece_minor(self) -> int:
        """What one piece costs where packs are used up, rounded up [minor]."""
        return -(-self.price_minor // self.pack)


class Injector(Electric, Piecewise):
    """Gives one port's drop power up to its class; one mains socket each."""

    kind: Literal["injector"] = "injector"
    poe_class: PoeCap
    speed_mbit: Speed


class Module(Piecewise):
    """A pluggable end of a link: copper (8P8C) or fibre."""

    kind: Literal["module"] = "module"
    medium: Literal["copper", "fibre-multimode", "fibre-singlemode"]
    speed_mbit: Speed
    reach_m: Annotated[int, Field(ge=1, le=100_000)]
    """Over its own medium; a multimode one over OM3 [m]."""
    reach_om4_m: Annotated[int, Field(ge=1, le=100_000)] | None = None
    """Of a multimode one over OM4 [m]; None: that of the standard, where its reach over OM3 is the standard's too."""
    draw_w: Annotated[float, Field(ge=0, le=20)] | None = None
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


class Spare(Priced):
    """What completes a box that lacks it."""

    kind: Literal["spare"] = "spare"
    completes: Accessory


AnyModel = Router | Switch | Injector | Module | Spare
Model = Annotated[AnyModel, Field(discriminator="kind")]


class Catalogue(Computed):
    """A price list: its order breaks the last ties."""

    version: Literal[1] = 1
    name: Name
    currency: Annotated[str, Field(pattern=r"^[A-Z]{3}$")]
    priced_on: Annotated[str, Field(pattern=r"^\d{4}-\d\d-\d\d$")]
    tax: Tax = ""
    """Whether prices hold value-added tax; empty: not told."""
    models: Annotated[tuple[Model, ...], Field(max_length=LINES_MOST)]

    @model_validator(mode="after")
    def _keys_and_names_are_unique(self) -> Catalogue:
        for what in ("key", "name"):
            seen: set[str] = set()
            for model in self.models:
                value = getattr(model, what)
                if value in seen:
                    raise ValueError(f"two models have the {what} {value!r}")
                seen.add(value)
        return self

    def get(self, key: str) -> AnyModel | None:
        """The model with this key, or None."""
        return self._by_key.get(key)

    def part(self, keys: Collection[str]) -> Catalogue:
        """The lines of these models, and the spares that may complete them."""
        models = tuple(model for model in self.models if model.key in keys or isinstance(model, Spare))
        return self.model_copy(update={"models": models})

    @cached_property
    def _by_key(self) -> Mapping[str, AnyModel]:
        return {model.key: model for model in self.models}

    def once(self, key: object, make: Callable[[], Made]) -> Made:
        """What follows from its lines alone, made when it is first asked for."""
        if key not in self._made:
            self._made[key] = make()
        return cast(Made, self._made[key])

    @cached_property
    def _made(self) -> dict[object, object]:
        return {}

    @cached_property
    def _cheapest_spares(self) -> Mapping[Accessory, Spare]:
        able = [model for model in self.models if isinstance(model, Spare) and model.in_stock]
        return {spare.completes: spare for spare in sorted(reversed(able), key=lambda spare: -spare.price_minor)}

    @property
    def routers(self) -> tuple[Router, ...]:
        return tuple(model for model in self.models if isinstance(model, Router))

    @property
    def switches(self) -> tuple[Switch, ...]:
        return tuple(model for model in self.models if isinstance(model, Switch))

    @property
    def injectors(self) -> tuple[Injector, ...]:
        return tuple(model for model in self.models if isinstance(model, Injector))

    def spare_for(self, lack: Accessory) -> Spare | None:
        """The cheapest line in stock that completes a box; None: the catalogue has none."""
        return self._cheapest_spares.get(lack)

    @property
    def modules(self) -> tuple[Module, ...]:
        return tuple(model for model in self.models if isinstance(model, Module))
