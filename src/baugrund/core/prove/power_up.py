"""Power-up: in which order everything comes up, how long each takes, and what must be seen before the next.

From the street inwards by default: the provider's box, the router, switches from the root outwards, what keeps data,
then devices one after another as their box feeds them.  A project may begin at the switch.  Wrong cabling that the plan
or what switches told shows is named first.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from typing import Literal

from ..facts.brief import InternetLine
from ..facts.building import Closet
from ..facts.drop import Drop
from ..facts.drop_kinds import CLOSET_KINDS
from ..facts.fact import Fact
from ..facts.project import Project
from ..patch.addresses import host_name
from ..price.work_items import BENCHED
from ..stack.things import Thing
from ..stack.told import Stack
from ..standards.moving import LINE_MIN, RESTART_MIN, ROUTER_MIN, USUAL_RESTART_MIN
from ..standards.order_of_work import SWITCH_WAIT_MIN
from ..standing.drill import Answered, Drill, drills
from ..standing.ground import Ground
from ..words import counted, speed

SEEN: dict[str, str] = {
    "access_point": "Its Wi-Fi name is heard beside it, and a phone joins.",
    "camera": "Its picture comes, and the recorder shows it.",
    "door_station": "It rings, and its picture comes.",
    "recorder": "It answers at its address; its clock is right.",
    "nas": "It answers at its address; its disks are sound.",
    "controller": "It answers at its address.",
    "phone": "A call comes in and goes out. Emergency calls die with its battery.",
    "reader": "A card opens, and is refused.",
}  # fmt: skip
USUALLY_SEEN = "It answers at its address."
NO_LINE = "Its cord, the socket of the line, the provider’s fault line."
NO_ROUTER = "The cord in its WAN port, the mode of the provider’s box; switch that box off and on once more."
NO_SWITCH = "Another cord, another port; the light of the port at the other end."
NO_POWER = "The power of its port, the watts that are left, the wire map of its run."
NO_ANSWER = "Its plug, its cord, the light of its port, its network."


Box = tuple[int, str]
"""A box by its closet and key."""


class PowerStep(Fact):
    """Something that is switched on, and what must be seen before the next."""

    subject: str
    """``line/2``, ``thing/1/box/switch-24/1`` or ``drop/7``."""
    name: str
    closet_id: int
    do: str
    wait_min: float
    """Usual minutes until it works."""
    seen: str
    otherwise: str
    """Where to look if that is not seen."""
    watts: float | None
    """Drawn from its port; None: it is not fed over its cable."""
    given_w: float | None
    """What its box gives in all once it is on."""
    budget_w: float | None


class Miswired(Fact):
    """Cabling that is wrong whatever is switched on."""

    weight: Literal["breaks", "strains"]
    text: str
    do: str


class PowerUp(Fact):
    """Everything that comes up, in its order."""

    begins: Literal["street", "switch"]
    steps: tuple[PowerStep, ...]
    minutes: float
    """All waits together [min]."""
    wrong: tuple[Miswired, ...]


def power_up_of(project: Project, grounds: Sequence[Ground], stack: Stack) -> PowerUp:
    """The run-through of a project on the boxes that stand."""
    things = {here.closet_id: here.things for here in stack.closets}
    steps = tuple(_steps(project, grounds, things))
    return PowerUp(
        begins=project.settings.power_up, steps=steps, minutes=sum(step.wait_min for step in steps),
        wrong=tuple(_wrong(project, grounds, things)),
    )  # fmt: skip


def _steps(
    project: Project, grounds: Sequence[Ground], things: Mapping[int, Sequence[Thing]]
) -> Iterator[PowerStep]:  # fmt: skip
    lines = [_of_line(project, line) for line in sorted(project.lines, key=lambda one: one.standby)]
    boxes = list(_boxes(project, grounds, things))
    routers = [step for step, kind in boxes if kind == "router"]
    switches = [step for step, kind in boxes if kind == "switch"]
    yield from (*switches, *routers, *lines) if project.settings.power_up == "switch" else (*lines, *routers, *switches)
    devices = list(_devices(project, grounds))
    keeping = {f"drop/{drop.id}" for drop in project.drops if drop.kind in CLOSET_KINDS}
    yield from sorted(devices, key=lambda step: step.subject not in keeping)


def _of_line(project: Project, line: InternetLine) -> PowerStep:
    own = line.box != "none"
    return PowerStep(
        subject=f"line/{line.id}", name=f"Box of {line.name}" if own else f"Terminal of {line.name}",
        closet_id=project.head_end.id, wait_min=LINE_MIN[line.kind], watts=None, given_w=None, budget_w=None,
        do="Plug in the line, then the mains." if own else "Plug in its cord.",
        seen="Its light for the line is steady, and does not blink.", otherwise=NO_LINE,
    )  # fmt: skip


def from_the_root(project: Project) -> list[Closet]:
    """Closets from the head end outwards."""
    order, behind = [project.head_end], {closet.id: closet.fed_by_id for closet in project.closets}
    while len(order) < len(project.closets):
        reached = {closet.id for closet in order}
        nearer = [
            closet for closet in project.closets
            if closet.id not in reached and (behind[closet.id] or project.head_end.id) in reached
        ]  # fmt: skip
        order += nearer
    return order


def _boxes(
    project: Project, grounds: Sequence[Ground], things: Mapping[int, Sequence[Thing]]
) -> Iterator[tuple[PowerStep, str]]:  # fmt: skip
    """Boxes with their kind, each after the one that it hangs from."""
    by_closet = {ground.closet.id: ground for ground in grounds}
    for closet in from_the_root(project):
        ground = by_closet.get(closet.id)
        here = {thing.box: thing for thing in things.get(closet.id, ()) if thing.box is not None}
        above = {link.lower: link for link in ground.seating.links} if ground and ground.seating else {}
        done: list[int] = []
        while len(done) < len(here):
            ready = [box for box in here if box not in done and (box not in above or above[box].upper in done)]
            for box in ready or [box for box in here if box not in done]:
                done.append(box)
                thing = here[box]
                link = above.get(box)
                at = f" at {speed(link.option.lower.speed_mbit)}" if link else ""
                root = link is None and closet is project.head_end
                if thing.kind == "router":
                    seen = "Its WAN port has an address of the line; a laptop at a LAN port gets one too."
                elif root:
                    seen = "Its own light is steady; no port blinks wildly: that would be a loop."
                elif link:
                    seen = f"Its link to {here[link.upper].name} is up{at}."
                else:
                    seen = f"Its link to {_fed_from(project, closet)} is up."
                yield PowerStep(
                    subject=f"thing/{closet.id}/{thing.key}", name=f"{thing.name}, {closet.name}",
                    closet_id=closet.id, do="Switch it on.", seen=seen,
                    otherwise=NO_ROUTER if thing.kind == "router" else NO_SWITCH,
                    wait_min=ROUTER_MIN if thing.kind == "router" else SWITCH_WAIT_MIN,
                    watts=None, given_w=None, budget_w=None,
                ), thing.kind  # fmt: skip


def _fed_from(project: Project, closet: Closet) -> str:
    return project.closets_by_id[closet.fed_by_id or project.head_end.id].name


def _devices(project: Project, grounds: Sequence[Ground]) -> Iterator[PowerStep]:
    """Devices one after another: those that a box feeds in the order of its drill, then the others."""
    told: set[int] = set()
    injected = {place.drop_id for ground in grounds for place in ground.places if place.injector}
    for drill in drills(project, grounds, with_reserve=False):
        for answered in drill.steps:
            drop = project.drops_by_id.get(answered.ask.drop_id or 0)
            if drop is not None and drop.in_use:
                told.add(drop.id)
                yield _of_device(project, drop, _fed_by(drill, answered), drill, answered)
    for drop in project.drops:
        if drop.in_use and drop.kind in BENCHED and drop.id not in told:
            if drop.behind_id is not None:
                do = f"Switch it on behind {project.name_of(project.drops_by_id[drop.behind_id])}."
            elif drop.id in injected:
                do = "Switch its injector on."
            else:
                do = "Plug it in." if drop.poe_class is None or drop.supply else "Switch on what feeds it."
            yield _of_device(project, drop, do)


def _fed_by(drill: Drill, answered: Answered) -> str:
    if answered.fed:
        return "Switch its port’s power on."
    return f"{drill.name} refuses it: more watts are asked than are left."


def _of_device(
    project: Project, drop: Drop, do: str, drill: Drill | None = None, answered: Answered | None = None
) -> PowerStep:  # fmt: skip
    room = project.rooms_by_id[drop.room_id].name
    name = project.name_of(drop)
    return PowerStep(
        subject=f"drop/{drop.id}", name=name if room in name else f"{name}, {room}", closet_id=drop.closet_id, do=do,
        wait_min=RESTART_MIN.get(drop.kind, USUAL_RESTART_MIN), seen=SEEN.get(drop.kind, USUALLY_SEEN),
        otherwise=NO_POWER if answered else NO_ANSWER, watts=answered.ask.watts if answered else None,
        given_w=answered.given_w if answered else None,
        budget_w=drill.budget_w if drill else None,
    )  # fmt: skip


def _wrong(
    project: Project, grounds: Sequence[Ground], things: Mapping[int, Sequence[Thing]]
) -> Iterator[Miswired]:  # fmt: skip
    yield from _behind_a_switch(project, things)
    yield from _two_routers(project, things)
    yield from _loops(project, grounds, things)


def _named(project: Project, closet_id: int, key: str, things: Mapping[int, Sequence[Thing]]) -> Thing | None:
    return next((thing for thing in things.get(closet_id, ()) if thing.key == key), None)


def _behind_a_switch(project: Project, things: Mapping[int, Sequence[Thing]]) -> Iterator[Miswired]:
    """A line that reaches the router by way of a switch."""
    do = "Its cable goes straight into the router’s WAN port: behind a switch two networks are one."
    lines = {line.id: line for line in project.lines}
    for row in project.patches:
        line = lines.get(int(row.end.partition("/")[2])) if row.end.startswith("line/") else None
        box = _named(project, row.closet_id, row.box, things)
        if line is not None and box is not None and box.kind == "switch":
            yield Miswired(weight="breaks", do=do, text=f"{line.name} is plugged into port {row.port} of {box.name}.")
    names = {said.casefold(): line for line in project.lines for said in (line.name, f"Box of {line.name}")}
    names |= {host_name(said): line for said, line in names.items()}
    for found in project.discovered:
        box = _named(project, found.closet_id, found.box, things)
        line = names.get(found.name.casefold())
        if found.up and line is not None and box is not None and box.kind == "switch":
            yield Miswired(weight="breaks", do=do, text=f"{line.name} answers on port {found.port} of {box.name}.")
    for gear in project.gear:
        if gear.kind == "provider_box" and gear.closet_id != project.head_end.id:
            there = project.closets_by_id[gear.closet_id].name
            yield Miswired(
                weight="strains", do=do,
                text=f"{gear.name or 'The provider’s box'} stands in {there}, the router in {project.head_end.name}.",
            )  # fmt: skip


def _two_routers(project: Project, things: Mapping[int, Sequence[Thing]]) -> Iterator[Miswired]:
    """A second router by its WAN port."""
    routers = [thing for here in things.values() for thing in here if thing.kind == "router"]
    for line in project.lines:
        if line.box == "routing" and routers and not line.series_kept:
            yield Miswired(
                weight="strains", text=f"The box of {line.name} routes, and {routers[0].name} hangs on it by its WAN"
                " port: addresses are translated twice.",
                do="Bridge mode, a direct cable from the terminal, or keep it knowingly in Brief.",
            )  # fmt: skip
    for router in routers[1:]:
        yield Miswired(
            weight="breaks",
            text=f"{router.name} in {project.closets_by_id[router.closet_id].name} is a second router.",
            do="A LAN port of it takes the link, its address service is off, its WAN port stays empty.",
        )  # fmt: skip


def _loops(
    project: Project, grounds: Sequence[Ground], things: Mapping[int, Sequence[Thing]]
) -> Iterator[Miswired]:  # fmt: skip
    """Cables between boxes beyond those of the plan, which are a tree of links and bundles: each closes a loop."""
    boxes = {(closet, thing.key): thing for closet, here in things.items() for thing in here if thing.box is not None}
    hardware = {
        row.hardware: tuple(row.subject.split("/", 2)[1:]) for row in project.benched
        if row.hardware and row.subject.startswith("thing/")
    }  # fmt: skip
    names = Counter(thing.name.casefold() for thing in boxes.values())
    named = {thing.name.casefold(): at for at, thing in boxes.items() if names[thing.name.casefold()] == 1}
    named |= {host_name(name): at for name, at in named.items()}
    planned = _planned(project, grounds, things)
    # where the boxes of a closet bear no drops, nobody knows how they are linked
    known = {ground.closet.id for ground in grounds if ground.seating}
    told: Counter[tuple[Box, Box]] = Counter()
    for found in project.discovered:
        said = hardware.get(found.hardware.upper().replace("-", ":"))
        there = (int(said[0]), said[1]) if said else named.get(found.name.casefold())
        here = (found.closet_id, found.box)
        if found.up and here in boxes and there in boxes:
            told[here, there] += 1
    for here, there in dict.fromkeys((min(pair), max(pair)) for pair in told):
        # both ends of a cable tell of it
        cables, wanted = max(told[here, there], told[there, here]), planned[frozenset({here, there})]
        if here == there:
            yield Miswired(weight="breaks", text=f"A cord joins two ports of {boxes[here].name}: a loop.",
                           do="Pull it out.")  # fmt: skip
        elif cables > wanted and {here[0], there[0]} <= known:
            yield Miswired(
                weight="breaks",
                text=f"{counted(cables, 'cable')} {'joins' if cables == 1 else 'join'} {boxes[here].name} and"
                f" {boxes[there].name}; the plan has {wanted or 'none'}: a loop that is no bundle.",
                do="Pull out what the port list does not name.",
            )  # fmt: skip


def _planned(
    project: Project, grounds: Sequence[Ground], things: Mapping[int, Sequence[Thing]]
) -> Counter[frozenset[Box]]:  # fmt: skip
    """Cables of the plan between two boxes."""
    keys = {
        closet: {thing.box: thing.key for thing in here if thing.box is not None} for closet, here in things.items()
    }
    planned: Counter[frozenset[Box]] = Counter()
    for ground in grounds:
        here = ground.closet.id
        if ground.seating is None:
            continue
        for link in ground.seating.links:
            planned[frozenset({(here, keys[here][link.upper]), (here, keys[here][link.lower])})] += 1
        for seat in ground.seating.trunks:
            below = keys.get(seat.trunk.closet_id, {}).get(0)
            if below is not None:
                ends = frozenset({(here, keys[here][seat.box]), (seat.trunk.closet_id, below)})
                planned[ends] += seat.trunk.ends
    return planned
