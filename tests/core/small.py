"""Small things to build cases from: boxes, injectors, modules, problems."""

import os
from dataclasses import replace

import pytest

from baugrund.core.demand.needs import Need
from baugrund.core.edits import AddEntry, ChangeEntry
from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.facts.lines.box import PortGroup, SlotGroup
from baugrund.core.facts.lines.injector import Injector
from baugrund.core.facts.lines.module import Module
from baugrund.core.facts.lines.router import Router
from baugrund.core.facts.lines.switch import Switch
from baugrund.core.facts.project import empty_project
from baugrund.core.pick.best import least_price
from baugrund.core.pick.enumeration.nodes import Space, Task, pinned
from baugrund.core.pick.model import resources
from baugrund.core.pick.model.problem import Problem, roots_of
from baugrund.core.pick.model.supply import InjectorType, ModuleType, box_type, mains_mw
from baugrund.core.pick.site import Site
from baugrund.core.standards.poe_classes import rank
from baugrund.launch.cases import made_up_closet, made_up_needs

DESK = Need(0, 1000, 0, 12_500)
CAMERA = Need(3, 100, 8_000, 6_000)
ACCESS_POINT = Need(4, 1000, 17_000, 150_000)


def in_blocks(count):
    """A test of many seeded cases in so many blocks: one of them, and all in the long form."""
    return pytest.mark.parametrize("block", range(count if os.environ.get("SOAK") else 1))


def some_of(seeds):
    """A test of a seeded case a seed: a third of the seeds, and all in the long form."""
    return pytest.mark.parametrize("seed", seeds if os.environ.get("SOAK") else seeds[::3])


def ports(count, speed=1000, poe=None):
    return PortGroup(count=count, speed_mbit=speed, poe_class=poe)


def model(kind, key, *groups, price=100, watts=0.0, **more):
    shared = {
        "key": key,
        "name": key.replace("-", " "),
        "price_minor": price,
        "own_draw_w": 5,
        "form": "rack",
        "depth_mm": 200,
        "mass_kg": 1,
        "fanless": True,
        "managed": True,
        "large_frames": True,
        "ports": groups,
        "poe_budget_w": watts,
    } | more
    if kind == "router":
        return Router(**({"wan_mbit": (1000,), "throughput_mbit": 1000} | shared))
    return Switch(**shared)


def router(key, *groups, **more):
    return model("router", key, *groups, **more)


def switch(key, *groups, **more):
    return model("switch", key, *groups, **more)


def slots(count, speed=10_000):
    return (SlotGroup(count=count, speed_mbit=speed),)


def injector(key, poe_class, price=50, speed=1000, own=1.0):
    return Injector(
        key=key, name=key, price_minor=price, own_draw_w=own, poe_class=poe_class, speed_mbit=speed
    )  # fmt: skip


def module(key, medium="fibre-multimode", speed=10_000, price=30):
    return Module(key=key, name=key, price_minor=price, medium=medium, speed_mbit=speed, reach_m=100)


def catalogue(*models):
    return Catalogue(name="Small", currency="EUR", priced_on="2026-01-01", models=models)


ROOM = {"units": 20, "load_kg": 100.0, "sockets": 12, "ups_outlets": None}
"""Fields of a closet that its resources are told by, with room enough."""


def room(fields):
    """How much a closet with these fields, else room enough, has of each resource."""
    return resources.limits_of(empty_project("Small", 2026).head_end.model_copy(update=ROOM | fields))


def altered(asked, **changes):
    """The same problem with other terms; fields of a closet change its resources."""
    changed = {field: changes.pop(field) for field in ROOM if field in changes}
    now = dict(zip((resource.key for resource in resources.RESOURCES), asked.capacities, strict=True))
    fields = {
        "units": now["units"], "load_kg": now["load"] / 1000, "sockets": now["sockets"],
        "ups_outlets": None if now["battery outlets"] == resources.NO_LIMIT else now["battery outlets"],
    }  # fmt: skip
    return replace(asked, capacities=room(fields | changed), **changes)


def problem(models, needs, **terms):
    """A problem over these models, each to be had in any number; ``needs`` maps a need to how many drops ask for it."""
    margin = terms.pop("margin_percent", 0.0)
    owned = terms.pop("owned", {})
    uplink = terms.get("uplink")
    kinds = {Router: [], Switch: [], Injector: [], Module: []}
    for index, one in enumerate(models):
        offers = [(0, owned[one.key])] if one.key in owned else []
        for price, most in [*offers, (one.price_minor, None)]:
            if isinstance(one, Injector):
                own = mains_mw(one.own_draw_mw, one.efficiency_percent)
                made = InjectorType(index, one, price // one.pack, most, rank(one.poe_class), own)
            elif isinstance(one, Module):
                made = ModuleType(index, one, price // one.pack, most)
            else:
                made = box_type(one, index, price, most, margin)
            kinds[type(one)].append(made)
    terms["capacities"] = room({field: terms.pop(field) for field in ROOM if field in terms})
    given = {"pins": {}, "chain_allowed": False}
    return Problem(
        needs=tuple(sorted(needs.items(), reverse=True)),
        roots=tuple(kinds[Router]) if uplink is None else roots_of(kinds[Switch], kinds[Module], uplink),
        switches=tuple(kinds[Switch]),
        injectors=tuple(kinds[Injector]),
        modules=tuple(kinds[Module]),
        margin_percent=margin,
        **(given | terms),
    )


def is_within(problem, boxes, injectors=()):
    """Whether boxes, and models of injectors, take no more of any resource than the closet has."""
    return all(
        sum(resource.of_box(box.model) for box in boxes) + sum(map(resource.of_injector, injectors)) <= there
        for resource, there in zip(resources.RESOURCES, problem.capacities, strict=True)
    )


def alone(asked):
    """A site of one closet; the pins of the problem are the site's."""
    return Site((replace(asked, pins={}),), asked.pins)


def cheapest(asked):
    """The least price of one closet."""
    return least_price(alone(asked))


def names(found):
    """Keys of the boxes of a pick, router first."""
    return None if found is None else [box.model.key for seating in found.seatings for box in seating.boxes]


def line(name, down, up=1, **more):
    """The edit that adds an internet line."""
    return AddEntry(list="lines", values={"name": name, "down_mbit": down, "up_mbit": up, **more})


def planned(kind, count, years):
    """The edit that names growth."""
    return AddEntry(list="additions", values={"kind": kind, "count": count, "years": years})


def kept(model, count=1):
    """The edit that lists a box of the catalogue as there and kept."""
    return AddEntry(list="kit", values={"name": model, "model": model, "count": count})


def changed(name, number, /, **changes):
    """The edit that changes fields of an entry."""
    return ChangeEntry(list=name, id=number, changes=changes)


def made_up(catalogue, seed, drops=40):
    """A made-up closet of so many drops on a price list."""
    return made_up_closet(made_up_needs(drops, seed), catalogue)


def task_of(problem, first_will_do=False):
    """The search of a closet's least price."""
    sets = Space(problem, "price", pinned(problem), frozenset(problem.switches), None, None)
    return Task(sets, first_will_do, 20.0)
