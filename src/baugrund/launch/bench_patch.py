"""Figures of the patching: ports of 120 drops, one drop more, networks over thirty boxes, a question at 1,000 drops."""

from __future__ import annotations

import random
from collections.abc import Callable, Mapping
from dataclasses import replace

from baugrund.core.answers.asked import Known, ask
from baugrund.core.answers.picker import balance
from baugrund.core.demand.needs import Need
from baugrund.core.edits import AddDrops, AddEntry, AddRooms, ChangeSettings, DropChanges, NewRoom, apply_edits
from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.facts.drop_kinds import KindKey
from baugrund.core.facts.lines.box import PortGroup
from baugrund.core.facts.lines.router import Router
from baugrund.core.facts.lines.switch import Switch
from baugrund.core.facts.project import Project, empty_project
from baugrund.core.patch.addresses import address_plan
from baugrund.core.patch.assignment import Asking, Case, Crossing, Limit, Ports, assign
from baugrund.core.patch.networks import matrix
from baugrund.core.patch.positions import Cable, positions_for
from baugrund.core.patch.told import closets_of, patch_of
from baugrund.core.patch.trunks import trunks_of
from baugrund.core.pick.standing import Boxes
from baugrund.core.stack.told import stack_of
from baugrund.core.standing.ground import grounds_of

Line = Callable[[str, str, str], None]
BOXES, PANELS, DROPS = 4, 6, 120


def measure_patch(runs: int, median_ms: Callable[[int, Callable[[int], object]], float], line: Line) -> None:
    """The figures of the patching."""
    case, cables = made_up_closet()
    panels = [(f"panel/{n}", 24) for n in range(1, PANELS + 1)]

    def first(_: int) -> object:
        return positions_for(cables, panels), assign(case)

    found = assign(case)
    told = "proven" if found.proven else "not proven"
    name = f"ports of {DROPS} drops over {BOXES} boxes and {PANELS} panels, {told}"
    line(name, f"{median_ms(runs, first):.0f} ms", "asked: 2,000 ms")
    plugged = [replace(one, now=at, weight=1) for one, at in zip(case.asking, found.groups, strict=True)]
    more = replace(case, asking=(*plugged, replace(case.asking[0], now=None)))
    again = assign(more)
    told = "proven" if again.proven else "not proven"
    name = f"one drop more, {again.moves} moves, {told}"
    line(name, f"{median_ms(runs, lambda _: assign(more)):.0f} ms", "asked: 300 ms")
    _networks(runs, median_ms, line)
    _question(runs, median_ms, line)


def made_up_closet() -> tuple[Case, list[Cable]]:
    """A closet of four boxes whose 120 drops fill two thirds of the ports, and the cables of its panels."""
    draw = random.Random(120)
    ports: list[Ports] = []
    for box in range(BOXES):
        ports += [Ports((box, 0), 24, 1000, 3 * (box % 2)), Ports((box, 1), 16, 1000, 4), Ports((box, 2), 8, 2500, 4)]
    free = {one.at: one.count - 1 for one in ports}
    needs = {
        "desk": Need(0, 1000, 0, 12_500), "camera": Need(3, 100, 7_500, 6_000), "ap": Need(4, 2500, 16_500, 150_000),
    }  # fmt: skip
    asking = []
    for number in range(DROPS):
        kind = ("desk", "desk", "desk", "camera", "camera", "ap", "desk", "camera")[number % 8]
        need = needs[kind]
        fits = [p for p in ports if p.poe_rank >= need.poe_rank and p.speed_mbit >= need.speed_mbit and free[p.at]]
        seat = draw.choice([p for p in fits if kind == "ap" or p.speed_mbit < 2500]).at
        free[seat] -= 1
        panel = number % PANELS
        cord = {box: (25, 50, 100, 100, 200, 200)[abs(panel - box)] for box in range(BOXES)}
        hops = {box: 6 * box for box in range(BOXES)} if kind == "camera" else None
        asking.append(Asking(need, False, seat, hops_mbit=hops, cord_cm=cord))
    limits = {box: Limit(48, 24, 300_000) for box in range(BOXES)}
    links = tuple(Crossing(frozenset({box}), 1_700_000) for box in range(1, BOXES))
    cables = [Cable(f"drop/{number}", number // 8) for number in range(DROPS)]
    return Case(tuple(asking), tuple(ports), limits, links), cables


def _catalogue() -> Catalogue:
    shared: Mapping[str, object] = {
        "price_minor": 100, "own_draw_w": 5.0, "form": "rack", "depth_mm": 200, "mass_kg": 1.0, "fanless": True,
        "managed": True, "large_frames": True,
    }  # fmt: skip
    ports = (PortGroup(count=48, speed_mbit=1000),)
    router = {**shared, "key": "router", "name": "Router", "wan_mbit": (1000,), "throughput_mbit": 5000, "ports": ports}
    switch = {**shared, "key": "switch", "name": "Switch", "ports": ports}
    models = (Router.model_validate(router), Switch.model_validate(switch))
    return Catalogue(name="L", currency="EUR", priced_on="2026-01-01", models=models)


def site_of(closets: int, drops: int, networks: int) -> tuple[Project, Catalogue, dict[int, Boxes]]:
    """Closets with three boxes each and so many desks over all of them, in as many networks."""
    kinds: tuple[KindKey, ...] = (
        "desk", "printer", "screen", "console", "phone", "hub", "reader", "spare", "jack", "server", "nas",
        "controller",
    )  # fmt: skip
    start = apply_edits(empty_project("P", 2026), [
        ChangeSettings(changes={"growth_percent": 0}),
        AddRooms(rooms=tuple(NewRoom(name=f"Room {n}") for n in range(closets))),
        *(AddEntry(list="closets", values={"name": f"Closet {n}"}) for n in range(1, closets)),
        *(AddEntry(list="networks", values={"name": f"Network {n}", "number": 10 * n, "kinds": [kinds[n % 12]]})
          for n in range(1, networks + 1)),
    ])  # fmt: skip
    project = apply_edits(start, [
        AddDrops(room=start.rooms[n].id, kind=kinds[k], count=drops // closets // 3, changes=DropChanges(
            closet_id=start.closets[n].id, poe_class=None, speed_mbit=1000, traffic_mbit=1.0, in_use=True))
        for n in range(closets)
        for k in (0, 1, 2)
    ])  # fmt: skip
    standing = {one.id: Boxes(("switch",) * 3) for one in project.closets}
    standing[project.head_end.id] = Boxes(("router", "switch", "switch"))
    return project, _catalogue(), standing


def _networks(runs: int, median_ms: Callable[[int, Callable[[int], object]], float], line: Line) -> None:
    project, catalogue, standing = site_of(10, 900, 12)
    grounds = grounds_of(project, catalogue, standing)
    stack = stack_of(project, catalogue, grounds)
    patchings, told = closets_of(project, grounds, stack, better=False)
    lines = {one.closet_id: one.lines for one in told}
    boxes = sum(len(one.boxes) for one in patchings)

    there = [(1, f"b{n}", "Switch") for n in range(boxes)]

    def compute(_: int) -> object:
        fresh = project.changed()
        return matrix(fresh), trunks_of(fresh, patchings, lines), address_plan(fresh, there)

    name = f"matrix, trunks and addresses of 12 networks over {boxes} boxes"
    line(name, f"{median_ms(runs, compute):.0f} ms", "asked: 100 ms")


def _question(runs: int, median_ms: Callable[[int, Callable[[int], object]], float], line: Line) -> None:
    project, catalogue, standing = site_of(10, 1000, 12)
    grounds = grounds_of(project, catalogue, standing)
    told = patch_of(project, grounds, stack_of(project, catalogue, grounds), better=False)
    stands = balance(project, catalogue, standing)
    known = Known(project, catalogue, standing, lambda: told, lambda: stands, lambda: grounds)
    drop = project.drops[500]
    for text in ("port closet 3 2/14", f"what is {drop.id:03d}", "where is 10.20.10.9", "free powered"):
        took = median_ms(runs, lambda _, said=text: ask(said, known))  # type: ignore[misc]
        line(f"“{text}” at {len(project.drops):,} drops", f"{took:.0f} ms", "asked: 100 ms")
    took = median_ms(runs, lambda _: ask("can I add 3 desk room 4", known))
    line(f"“can I add 3 desk room 4” at {len(project.drops):,} drops", f"{took:.0f} ms", "asked: 100 ms")
