"""Figures of the price: parts and work at 300 drops, visits of 150 jobs and two crews, four phases, the offer's PDF."""

from __future__ import annotations

import random
import time
from collections.abc import Callable
from datetime import date

from baugrund.core.answers.phases import phases_of
from baugrund.core.answers.picker import Picker
from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    AddRooms,
    ChangeDrops,
    ChangeEntry,
    DropChanges,
    NewRoom,
    apply_edits,
)
from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.facts.drop_kinds import KindKey
from baugrund.core.facts.labour import Stage
from baugrund.core.facts.price import Offer
from baugrund.core.facts.project import Project, empty_project
from baugrund.core.price.costs import costs_of
from baugrund.core.price.jobs import Job
from baugrund.core.price.offer import offer_told
from baugrund.core.price.visit_program import Case, Team, plan_visits
from baugrund.core.stack.told import stack_of
from baugrund.core.standing.ground import grounds_of
from baugrund.core.watch import to_the_end
from baugrund.exchange.sheets.offer_sheet import write_offer

Line = Callable[[str, str, str], None]
ROOMS, IN_ROOM = 30, 10
JOBS = 150
KINDS: tuple[KindKey, ...] = (
    "desk",
    "desk",
    "desk",
    "jack",
    "jack",
    "printer",
    "phone",
    "camera",
    "access_point",
    "screen",
)
STAGES: tuple[Stage, ...] = ("survey", "ways", "pull", "terminate", "mount", "test")


def measure_price(
    runs: int, catalogue: Catalogue, median_ms: Callable[[int, Callable[[int], object]], float], line: Line
) -> None:
    """Measure and print the figures of the price."""
    project = site_of(ROOMS, IN_ROOM)
    answer = Picker(project, catalogue).answer("least_price")
    assert answer is not None
    grounds = grounds_of(project, catalogue, answer.standing())
    stack = stack_of(project, catalogue, grounds)

    def costs(_: int) -> object:
        return costs_of(project.changed(), catalogue, grounds, stack)

    line(
        f"parts and work at {len(project.drops)} drops, from nothing",
        f"{median_ms(runs, costs):.0f} ms",
        "asked: 100 ms",
    )
    told = costs_of(project, catalogue, grounds, stack)
    offer = offer_told(project, told, Offer(id=1, number="1"), {answer.aim: answer})
    took = median_ms(min(runs, 3), lambda _: write_offer(project, offer, None, date(2026, 5, 6)))
    line("the offer's PDF", f"{took:.0f} ms", "asked: 3,000 ms")
    case = made_up_case(JOBS)
    started = time.perf_counter()
    planned = plan_visits(case)
    seconds = time.perf_counter() - started
    gap = "proven" if planned.days == planned.bound else f"at most {planned.days / planned.bound - 1:.1%} over"
    line(f"visits of {JOBS} jobs, two crews: {planned.days} days, {gap}", f"{seconds:.1f} s", "asked: 10 s")
    phased = in_four(site_of(10, IN_ROOM))
    pick = Picker(phased, catalogue).answer("least_price")
    started = time.perf_counter()
    found = to_the_end(phases_of(phased, catalogue, pick))
    seconds = time.perf_counter() - started
    line(f"4 phases of {len(phased.drops)} drops, {'proven' if found.proven else 'not proven'}", f"{seconds:.1f} s",
         "asked: 20 s")  # fmt: skip


def site_of(rooms: int, in_room: int) -> Project:
    """Rooms with so many drops each, all at one closet."""
    named = tuple(NewRoom(name=f"Room {number}") for number in range(1, rooms + 1))
    drops = [
        AddDrops(room=room.name, kind=KINDS[number % len(KINDS)], count=1, changes=DropChanges(run_m=15.0 + number))
        for room in named
        for number in range(in_room)
    ]
    space = ChangeEntry(list="closets", id=1, changes={"units": 42, "sockets": 20, "load_kg": 400, "depth_mm": 800})
    return apply_edits(empty_project("Bench", 2026), [space, AddRooms(rooms=named), *drops])


def in_four(project: Project) -> Project:
    """The project in four phases of as many drops each."""
    phases = apply_edits(project, [AddEntry(list="phases", values={"name": f"Phase {n}"}) for n in range(1, 5)])
    numbers = [drop.id for drop in phases.drops]
    size = -(-len(numbers) // 4)
    return apply_edits(phases, [
        ChangeDrops(ids=tuple(numbers[place * size : (place + 1) * size]), changes=DropChanges(phase_id=phase.id))
        for place, phase in enumerate(phases.phases)
    ])  # fmt: skip


def made_up_case(jobs: int) -> Case:
    """Jobs of random length in rooms, in the order of their stages, for two crews."""
    chance = random.Random(7)
    rooms = jobs // len(STAGES)
    made = [
        Job(number, STAGES[number % len(STAGES)], "installer", chance.choice((0.4, 0.7, 1.1, 1.8, 2.6, 3.9)),
            number // len(STAGES), 1, frozenset())
        for number in range(rooms * len(STAGES))
    ]  # fmt: skip
    edges = tuple((job.number, job.number + 1) for job in made if (job.number + 1) % len(STAGES))
    return Case(tuple(made), (Team("One", "installer", 1), Team("Two", "installer", 1)), edges, 435)
