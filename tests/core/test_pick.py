"""The pick equals a brute-force search on seeded small cases, of one closet and of several."""

import random
from dataclasses import replace

from baugrund.core.demand.needs import Need
from baugrund.core.facts.lines.box import PortGroup, SlotGroup
from baugrund.core.facts.lines.injector import Injector
from baugrund.core.facts.lines.module import Module
from baugrund.core.facts.lines.router import Router
from baugrund.core.facts.lines.switch import Switch
from baugrund.core.pick.best import fewest_boxes, least_power, least_price, most_room
from baugrund.core.pick.model.links import Trunk
from baugrund.core.pick.model.problem import Problem, roots_of
from baugrund.core.pick.model.supply import InjectorType, ModuleType, box_type, mains_mw
from baugrund.core.pick.site import Site, hinted, stocked

from .brute_force import TooLarge, best_of_site, every_pick
from .small import alone, altered, in_blocks, room

CASES = 280
SITES = 720


def random_box(rng, kind, number, margin):
    groups = [PortGroup(count=rng.randint(1, 3), speed_mbit=rng.choice([1000, 1000, 2500]))]
    powered = rng.random() < 0.6
    if powered:
        groups.append(
            PortGroup(count=rng.randint(1, 2), speed_mbit=rng.choice([1000, 2500]), poe_class=rng.choice([3, 4, 6]))
        )
    shared = dict(
        key=f"{kind}-{number}", name=f"{kind} {number}", price_minor=rng.randint(20, 90) * 10,
        own_draw_w=rng.randint(3, 12), efficiency_percent=rng.choice([80, 88, 92]), form="rack", depth_mm=200,
        mass_kg=1, fanless=True, managed=True, large_frames=rng.random() < 0.7, ports=tuple(groups),
        sockets=rng.choice([1, 1, 1, 2]), units=1,
        slots=(SlotGroup(count=rng.randint(1, 2), speed_mbit=rng.choice([1000, 10000])),) if rng.random() < 0.4 else (),
        poe_budget_w=rng.choice([15, 30, 45, 60]) if powered else 0,
    )  # fmt: skip
    model = Router(wan_mbit=(1000,), throughput_mbit=1000, **shared) if kind == "router" else Switch(**shared)
    owned = rng.random() < 0.15
    return box_type(model, number, 0 if owned else model.price_minor, 1 if owned else None, margin)


def random_problem(seed):
    rng = random.Random(seed)
    margin = rng.choice([0, 20])
    routers = tuple(random_box(rng, "router", n, margin) for n in range(rng.randint(1, 2)))
    switches = tuple(random_box(rng, "switch", 10 + n, margin) for n in range(rng.randint(2, 3)))
    kinds = [
        Need(0, 1000, 0, 12_500), Need(0, 100, 0, 5_000), Need(3, 100, 8_000, 6_000), Need(4, 1000, 16_500, 150_000),
        Need(6, 1000, 40_000, 90_000), Need(0, 1000, 0, 500_000, True), Need(0, 2500, 0, 400_000),
    ]  # fmt: skip
    needs = {}
    for _ in range(rng.randint(2, 5)):
        need = rng.choices(kinds, [4, 3, 3, 2, 1, 1, 1])[0]
        needs[need] = needs.get(need, 0) + 1
    injectors = []
    for number, cap in enumerate(rng.sample([3, 4, 6], rng.randint(0, 2))):
        model = Injector(key=f"inj-{cap}", name=f"Injector {cap}", price_minor=rng.randint(5, 40) * 10, own_draw_w=1,
                         efficiency_percent=rng.choice([80, 90]), poe_class=cap, speed_mbit=1000)  # fmt: skip
        own = mains_mw(model.own_draw_mw, model.efficiency_percent)
        injectors.append(InjectorType(20 + number, model, model.price_minor, None, cap, own))
    modules = []
    for number, (medium, speed) in enumerate(
        rng.sample([("copper", 1000), ("fibre-multimode", 10000)], rng.randint(0, 2))
    ):
        model = Module(key=f"mod-{number}", name=f"Module {number}", price_minor=rng.randint(2, 20) * 10, medium=medium,
                       speed_mbit=speed, reach_m=100)  # fmt: skip
        modules.append(ModuleType(30 + number, model, model.price_minor, None))
    pins = {f"switch-{rng.choice([10, 11])}": 1} if rng.random() < 0.2 else {}
    return Problem(
        needs=tuple(sorted(needs.items(), reverse=True)), roots=routers, switches=switches, pins=pins,
        injectors=tuple(injectors), modules=tuple(modules), 
        capacities=room({"units": rng.choice([2, 3, 3]), "load_kg": 3.0, "sockets": rng.randint(3, 6)}),
        chain_allowed=rng.random() < 0.3, margin_percent=margin,
    )  # fmt: skip


def random_site(seed):
    """Two or three closets in a row or side by side that share models, owned kit, pins."""
    rng = random.Random(seed)
    first = altered(random_problem(seed + 10_000), units=2)
    several = rng.choice([2, 2, 3])
    fed_by = {2: 1, 3: rng.choice([1, 2])}
    numbers = range(1, several + 1)
    needs = {number: random_problem(seed + 20_000 * number).needs[:2] for number in numbers}
    media = [("copper", rng.choice([1000, 1000, 2500]))]
    media += [(m.model.medium, m.model.speed_mbit) for m in first.modules if m.model.medium != "copper"]

    def behind(number):
        return {number} | {more for n in numbers if fed_by.get(n) == number for more in behind(n)}

    def frames(these):
        return sum(n.large_frames for number in these for n, _ in needs[number])

    links = {}
    for number in numbers[1:]:
        medium, speed = rng.choice(media)
        below = behind(number)
        traffic = sum(n.traffic_kbit * many for one in below for n, many in needs[one])
        asking = frames(below)
        links[number] = Trunk(number, medium, speed, rng.choice([1, 1, 1, 2]), traffic, 0 < asking < frames(numbers))
    closets = []
    for number in numbers:
        uplink = links.get(number)
        closets.append(
            replace(
                first, needs=needs[number], pins={}, closet_id=number, uplink=uplink,
                trunks=tuple(links[n] for n in numbers if fed_by.get(n) == number and n in links),
                roots=first.roots if uplink is None else roots_of(first.switches, first.modules, uplink),
            )
        )  # fmt: skip
    return Site(tuple(closets), first.pins)


def in_packs(site, seed):
    """The site with injectors and modules that are sold by the pack, alone or beside single ones."""
    rng = random.Random(seed)
    made = {}

    def sold(kinds):
        for kind in kinds:
            if kind.index not in made:
                pack = rng.choice([1, 2, 2, 3])
                price = round(kind.price_minor * pack * rng.uniform(0.5, 1.1) / 10) * 10
                key = kind.model.key + "-pack"
                model = kind.model.model_copy(update={"key": key, "pack": pack, "price_minor": price})
                packed = replace(kind, index=kind.index + 5, model=model, price_minor=price // pack)
                made[kind.index] = [packed] if rng.random() < 0.4 else [kind, packed]
                if rng.random() < 0.2:
                    made[kind.index].append(replace(packed, price_minor=0, most=1))
            yield from made[kind.index]

    closets = []
    for problem in site.closets:
        injectors, modules = tuple(sold(problem.injectors)), tuple(sold(problem.modules))
        roots = problem.roots if problem.uplink is None else roots_of(problem.switches, modules, problem.uplink)
        closets.append(replace(problem, injectors=injectors, modules=modules, roots=roots))
    return replace(site, closets=tuple(closets))


def find_best(site):
    cheapest = least_price(site)
    if cheapest is None:
        return {}
    others = {"fewest_boxes": fewest_boxes, "most_room": most_room, "least_power": least_power}
    return {"least_price": cheapest} | {aim: find(site, cheapest) for aim, find in others.items()}


def with_hint(site, seed):
    """The site with boxes to begin from that may or may not do, as after an edit."""
    rng = random.Random(-seed - 1)
    boxes = {}
    for problem in site.closets:
        if problem.roots and rng.random() < 0.6:
            more = rng.choices(problem.switches, k=rng.randint(0, 2)) if problem.switches else []
            boxes[problem.closet_id] = [box.model.key for box in (rng.choice(problem.roots), *more)]
    return hinted(site, boxes)


def judge(site, most_boxes, seed):
    """Compare all four kinds of best with trying everything: None when that is too much, else whether there is one."""
    try:
        picks = [list(every_pick(problem, most_boxes)) for problem in site.closets]
    except TooLarge:
        return None
    stock = {kind.index: kind.most for kind in stocked(site.head_end) if kind.most is not None}
    packs = {(kind.model.key, kind.model.pack, kind.model.price_minor)
             for problem in site.closets for kind in (*problem.injectors, *problem.modules) if kind.model.pack > 1}  # fmt: skip
    expected = best_of_site(picks, site.pins, stock, sorted(packs))
    found = find_best(with_hint(site, seed))
    if expected is None:
        assert not found, seed
        return False
    assert all(answer.proven for answer in found.values()), seed
    assert all(answer.bound <= bounded(answer, aim) for aim, answer in found.items()), seed
    cheapest, fewest, thrifty, roomy = expected
    got = found["least_price"]
    own = sum(seating.own_mains_mw for seating in got.seatings)
    assert (got.price_minor, got.box_count, own) == cheapest, seed
    assert (found["fewest_boxes"].box_count, found["fewest_boxes"].price_minor) == fewest, seed
    mains = sum(seating.mains_mw for seating in found["least_power"].seatings)
    assert (mains, found["least_power"].price_minor) == thrifty, seed
    room = found["most_room"].room(site.head_end.margin_percent)
    assert (room, found["most_room"].price_minor) == roomy, seed
    return True


def bounded(answer, aim):
    """The figure of an answer that its bound speaks of."""
    if aim == "fewest_boxes":
        return answer.box_count
    if aim == "least_power":
        return sum(seating.mains_mw for seating in answer.seatings)
    return answer.price_minor


@in_blocks(20)
def test_every_kind_of_best_equals_brute_force(block):
    seeds = range(block * CASES // 20, (block + 1) * CASES // 20)
    judged = [judge(alone(random_problem(seed)), 3, seed) for seed in seeds]
    assert any(one is True for one in judged)


@in_blocks(20)
def test_every_kind_of_best_of_several_closets_equals_brute_force(block):
    seeds = range(block * SITES // 20, (block + 1) * SITES // 20)
    judged = [judge(random_site(seed), 2, seed) for seed in seeds]
    assert any(one is True for one in judged)


@in_blocks(36)
def test_every_kind_of_best_in_whole_packs_equals_brute_force(block):
    judged = []
    for seed in range(3_000 + block * 5, 3_005 + block * 5):
        site = random_site(seed) if seed % 2 else alone(random_problem(seed))
        judged.append(judge(in_packs(site, seed), 2 if seed % 2 else 3, seed))
    assert any(one is not None for one in judged)
