"""Made-up catalogues and demands of any size, from a seed: what the figures of speed are measured on."""

from __future__ import annotations

import random
from collections import Counter
from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from baugrund.core.demand.needs import Need
from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.facts.lines.box import PortGroup, SlotGroup
from baugrund.core.facts.lines.injector import Injector
from baugrund.core.facts.lines.line import Line, Speed
from baugrund.core.facts.lines.module import Module
from baugrund.core.facts.lines.router import Router
from baugrund.core.facts.lines.switch import Switch
from baugrund.core.facts.project import empty_project
from baugrund.core.physics.poe import half_watts_up_mw
from baugrund.core.pick.model.links import Trunk
from baugrund.core.pick.model.problem import Problem, build
from baugrund.core.pick.site import Site

SPEED_PRICE = {1000: 1.0, 2500: 1.9, 5000: 2.6, 10000: 4.5}
POE_W = {3: 15.4, 4: 30.0, 6: 60.0, 8: 90.0}


def made_up_catalogue(models: int, seed: int) -> Catalogue:
    """A price list of so many models: a tenth routers, some injectors and modules, the rest switches."""
    rng = random.Random(seed)
    listed: list[Line] = [_router(rng, number) for number in range(max(3, models // 10))]
    for number, (poe_class, price) in enumerate(((3, 1500), (4, 2600), (6, 5200), (8, 8900))):
        listed.append(Injector(key=f"injector-{number}", name=f"Injector {number}", price_minor=price, own_draw_w=1.5,
                               poe_class=poe_class, speed_mbit=2500))  # fmt: skip
    for medium, speed, price, reach_m in (
        ("copper", 10000, 3900, 30), ("fibre-multimode", 1000, 1400, 550), ("fibre-multimode", 10000, 3200, 300),
        ("fibre-singlemode", 1000, 1900, 10_000), ("fibre-singlemode", 10000, 4400, 10_000),
    ):  # fmt: skip
        key = f"module-{medium}-{speed}"
        given: dict[str, Any] = {"medium": medium, "speed_mbit": speed, "reach_m": reach_m}
        listed.append(Module(key=key, name=key, price_minor=price, **given))
    listed += [_switch(rng, number) for number in range(models - len(listed))]
    return Catalogue(name=f"Made up {seed}", currency="EUR", priced_on="2026-01-01", models=tuple(listed))


def _price(rng: random.Random, ports: Sequence[PortGroup], slots: int, budget_w: float, base: float) -> int:
    worth = base + 900 * slots + 45 * budget_w
    for group in ports:
        worth += group.count * 320 * SPEED_PRICE[group.speed_mbit] * (1.5 if group.poe_class else 1.0)
    return round(worth * rng.uniform(0.8, 1.3) / 100) * 100


def _housing(rng: random.Random, ports: int, price_minor: int, budget_w: float) -> dict[str, Any]:
    return {
        "price_minor": price_minor, "own_draw_w": round(2 + ports * rng.uniform(0.3, 0.7), 1),
        "efficiency_percent": rng.choice([85, 87, 88, 90, 92]), "form": "rack" if ports > 10 else "shelf",
        "depth_mm": rng.choice([120, 180, 220, 260]), "mass_kg": round(0.3 + ports * 0.07, 1), "managed": True,
        "fanless": budget_w < 130, "large_frames": rng.random() < 0.8, "sockets": 1 if ports > 10 else 2,
        "poe_budget_w": budget_w,
    }  # fmt: skip


def _router(rng: random.Random, number: int) -> Router:
    speed: Speed = rng.choice((1000, 1000, 2500))
    ports = (PortGroup(count=rng.choice([4, 8]), speed_mbit=speed),)
    slots = rng.choice([0, 1, 2])
    wan: Speed = rng.choice((1000, 2500, 10000))
    return Router(
        key=f"router-{number}", name=f"Router {number}", ports=ports, wan_mbit=(wan, 1000), throughput_mbit=wan,
        slots=(SlotGroup(count=slots, speed_mbit=10000),) if slots else (),
        **_housing(rng, ports[0].count, _price(rng, ports, slots, 0, 6000), 0),
    )  # fmt: skip


def _switch(rng: random.Random, number: int) -> Switch:
    speed: Speed = rng.choice((1000, 1000, 1000, 2500))
    bare, powered = rng.choice([(8, 0), (16, 0), (24, 0), (48, 0), (1, 4), (4, 4), (2, 8), (8, 8), (0, 16), (8, 16),
                                (0, 24), (24, 24), (0, 48)])  # fmt: skip
    poe_class = rng.choice([3, 4, 4, 6, 6, 8])
    share = rng.choice([0.4, 0.6, 0.8, 1.0])
    budget_w = float(round(powered * POE_W[poe_class] * share / 5) * 5) if powered else 0.0
    ports = [PortGroup(count=bare, speed_mbit=speed)] if bare else []
    if powered:
        ports.append(PortGroup(count=powered, speed_mbit=speed, poe_class=poe_class))
    slots = 0 if bare + powered < 10 else rng.choice([0, 2, 4])
    return Switch(
        key=f"switch-{number}", name=f"Switch {number}", ports=tuple(ports),
        slots=(SlotGroup(count=slots, speed_mbit=rng.choice([1000, 10000, 10000])),) if slots else (),
        **_housing(rng, bare + powered, _price(rng, ports, slots, budget_w, 1500), budget_w),
    )  # fmt: skip


def made_up_needs(drops: int, seed: int) -> Counter[Need]:
    """What so many drops of a small business ask: desks, phones, cameras, access points, a few machines."""
    rng = random.Random(seed)
    needs: Counter[Need] = Counter()
    for _ in range(drops):
        what = rng.choices(("desk", "phone", "camera", "access point", "strong camera", "machine"),
                           (45, 12, 18, 14, 4, 7))[0]  # fmt: skip
        needs[_need(rng, what)] += 1
    return needs


def _need(rng: random.Random, what: str) -> Need:
    def mw(low: float, high: float) -> int:
        return half_watts_up_mw(rng.uniform(low, high))

    if what == "phone":
        return Need(2, 1000, mw(3, 5), 1_000)
    if what == "camera":
        return Need(3, 100, mw(6, 11), 6_000)
    if what == "access point":
        return Need(4, rng.choice([1000, 2500]), mw(13, 20), 150_000)
    if what == "strong camera":
        return Need(6, 1000, mw(30, 45), 12_000)
    if what == "machine":
        return Need(0, 2500, 0, 200_000)
    return Need(0, 1000, 0, 12_500)


def made_up_closet(
    needs: Counter[Need],
    catalogue: Catalogue,
    trunks: Sequence[Trunk] = (),
    uplink: Trunk | None = None,
    number: int = 1,
) -> Problem:
    """A rack with room enough, for these needs."""
    project = empty_project("Made up", 2026)
    rack = {"id": number, "housing": "rack", "units": 24, "depth_mm": 600, "load_kg": 200.0, "sockets": 16}
    closet = project.head_end.model_copy(update=rack)
    return build(project, closet, needs.elements(), catalogue, tuple(trunks), uplink)


def made_up_site(drops: int, closets: int, catalogue: Catalogue, seed: int) -> Site:
    """So many drops, evenly over closets that hang off the first one by fibre at 10 Gbit/s.

    So many are never busy at once: their traffic is a twentieth, or no router's link would carry it.
    """
    needs = [
        Counter({replace(n, traffic_kbit=n.traffic_kbit // 20): many for n, many in some.items()})
        for some in (made_up_needs(drops // closets, seed * 100 + number) for number in range(closets))
    ]
    traffic = [sum(need.traffic_kbit * count for need, count in some.items()) for some in needs]
    trunks = [Trunk(n + 1, "fibre-multimode", 10_000, 1, traffic[n]) for n in range(1, closets)]
    further = [made_up_closet(needs[n], catalogue, (), trunks[n - 1], n + 1) for n in range(1, closets)]
    return Site((made_up_closet(needs[0], catalogue, trunks), *further), {})
