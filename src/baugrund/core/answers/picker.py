"""The picks of a project, what is asked about them, and the balance on the boxes that stand."""

from __future__ import annotations

from collections import Counter
from dataclasses import replace
from functools import cached_property
from threading import Lock

from ..cabling.links import links
from ..demand.needs import Demands, demands
from ..errors import TookTooLong
from ..explain.answers import Answer, tell
from ..explain.flips import Flip, flips
from ..explain.reasons import Relaxed, WhyNot, forced, what_to_relax, why_not
from ..explain.years import Outlook, Step, YearLine, lacks, steps, years
from ..facts.brief import YEARS_AHEAD
from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.lines.box import Box
from ..facts.lines.injector import Injector
from ..facts.lines.module import Module
from ..facts.lines.router import Router
from ..facts.project import Project
from ..facts.settings import Aim
from ..findings import Finding, SiteState, findings
from ..footage.apart import ApartLine, chosen_apart
from ..pick.assignment.preferred import assigned
from ..pick.best import fewest_boxes, least_power, least_price, most_room
from ..pick.site import Site, SiteFound, hinted
from ..pick.standing import Boxes, Standing, first_year
from ..price.costs import costs_of as job_costs
from ..price.pit import money_pit
from ..prices.costs import costs_of
from ..reach.runs import lengths
from ..stack.pits import pits_of
from ..stack.told import Stack, stack_of
from ..standing.bearing import Capacity, bearing, site_bearing
from ..standing.drill import drills
from ..standing.ground import Ground, grounds_of
from ..standing.stranded import stranded
from .beyond import RoomPorts, rooms_beyond
from .rooms_together import RoomsTogether, rooms_together

DRAFT_CLOSETS, DRAFT_DROPS = 3, 100
"""Closets, or drops with the reserve, from which on a draft is told before the proof."""
DRAFT_ALONE_S, DRAFT_EACH_S, DRAFT_ALL_S = 0.5, 3.5, 35.0
"""Time that a draft may take: of one closet, of each of several, and of all of them one after the other."""
DRAFT_GAP = 0.016
"""How much dearer than its bound a draft of a closet may be, as a share, to be told before its time is over: all
together are within 2 % as a rule, though some are not as close when their time is over."""

AIMS: tuple[Aim, ...] = ("least_price", "fewest_boxes", "most_room", "least_power")


def draft_s(closets: int) -> float:
    """Time that the draft of each of so many closets may take [s]."""
    return DRAFT_ALONE_S if closets == 1 else min(DRAFT_EACH_S, DRAFT_ALL_S / closets)


class ClosetGround(Fact):
    """One closet on the boxes that stand there."""

    closet_id: int
    name: str
    boxes: tuple[str, ...]
    """Names of the boxes; empty: nothing is picked for it yet."""
    capacities: tuple[Capacity, ...]
    borne: bool | None
    """Whether they bear the drops by the horizon; None: there are none."""


class Balance(Fact):
    """What an edit changes at once: counts, bearing and findings, on the boxes that stand."""

    live: int
    reserve: int
    powered: int
    watts: float
    """Watts at the ports of the live drops, without margin."""
    drop_watts: dict[int, float]
    """Watts at the port by drop, of those that are live and powered."""
    run_m: dict[int, float]
    """Fixed length of the cable by drop [m]: as typed, else as computed."""
    held: bool
    closets: tuple[ClosetGround, ...]
    """The head end first; others where something ends in them or behind them."""
    site: tuple[Capacity, ...]
    """Capacities of the whole site."""
    apart: tuple[ApartLine, ...]
    """Recorders and disks chosen apart, which are bought beside the boxes."""
    findings: tuple[Finding, ...]


class Picks(Fact):
    """The answers asked for; with none, what stands in the way."""

    answers: tuple[Answer, ...]
    relax: tuple[Relaxed, ...] = ()


class Ahead(Fact):
    """The years to come for one answer."""

    years: tuple[YearLine, ...]


class Steps(Fact):
    """Plans in two steps that spend less now."""

    steps: tuple[Step, ...]


class Flips(Fact):
    """What would make the least price another."""

    flips: tuple[Flip, ...]


class Beyond(Fact):
    """Rooms that want several ports, both ways priced."""

    rooms: tuple[RoomPorts, ...]
    together: RoomsTogether | None
    """Room switches in several of them at once; None: they gain in no more than one."""


def standing_boxes(project: Project, catalogue: Catalogue, followed: Standing | None) -> Standing:
    """The boxes that stand: those held, else those of the pick that is followed."""
    if not project.held:
        return followed or {}
    standing = {}
    for closet_id, held in project.held.items():
        models = [(catalogue.get(key), count) for key, count in held.items()]
        boxes = [model.key for model, count in models if isinstance(model, Box) for _ in range(count)]
        boxes.sort(key=lambda key: not isinstance(catalogue.get(key), Router))
        extras = tuple((model.key, count) for model, count in models if isinstance(model, Injector | Module))
        same = (followed or {}).get(closet_id)
        kept = same and sorted(boxes) == sorted(same.boxes) and sorted(extras) == sorted(same.extras)
        standing[closet_id] = same if same and kept else Boxes(tuple(boxes), extras)
    return standing


def balance(project: Project, catalogue: Catalogue, followed: Standing | None) -> Balance:
    """The balance on the held boxes, or on those of the last pick of the aim that the project follows."""
    return balance_on(project, catalogue, grounds_of(project, catalogue, standing_boxes(project, catalogue, followed)))


def balance_on(
    project: Project, catalogue: Catalogue, grounds: tuple[Ground, ...], *, stack: Stack | None = None,
    priced: bool = True,
) -> Balance:  # fmt: skip
    """The balance on the ground of every closet; ``stack``: what stands there, where that is known; ``priced``: with
    what the job costs."""
    stack = stack or stack_of(project, catalogue, grounds)
    today = [asked for demand in demands(project, 0).values() for asked in demand.live]
    then = [asked for demand in demands(project, project.settings.horizon_years).values() for asked in demand.reserve]
    closets = tuple(
        ClosetGround(
            closet_id=ground.closet.id,
            name=ground.closet.name,
            boxes=tuple(box.name for box in ground.boxes),
            capacities=(*bearing(ground), *pits_of(stack, ground.closet.id)) if ground.boxes else (),
            borne=None if not ground.boxes else ground.seating is not None,
        )
        for ground in grounds
    )
    capacities = {one.closet_id: one.capacities for one in closets}
    idle = stranded(grounds, catalogue, project.settings.currency)
    borne = {one.closet_id: one.borne for one in closets}
    short = {ground.closet.id: ground.stand.why for ground in grounds if ground.seating is None}
    of_site = site_bearing(grounds[0]) if grounds[0].boxes else ()
    costs = job_costs(project, catalogue, grounds, stack) if priced else None
    if costs and grounds[0].boxes and (money := money_pit(project, costs)):
        of_site = (*of_site, money)
    powered_up = drills(project, grounds, with_reserve=False)
    site = SiteState(project, capacities, borne, catalogue, short, powered_up, idle, of_site, stack, grounds, costs)
    return Balance(
        live=len(today),
        reserve=len(then),
        powered=sum(asked.need.poe_rank > 0 for asked in today),
        watts=sum(asked.need.power_mw for asked in today) / 1000,
        drop_watts={a.drop_id: a.need.power_mw / 1000 for a in today if a.drop_id and a.need.poe_rank},
        run_m=dict(lengths(project)),
        held=bool(project.held),
        closets=closets,
        site=of_site,
        apart=chosen_apart(project, catalogue),
        findings=findings(site),
    )


class Picker:
    """The picks of one project as it stands; what several answers need is computed once, whichever asks first."""

    def __init__(self, project: Project, catalogue: Catalogue, before: Standing | None = None) -> None:
        """``before``: the boxes that were best before an edit, to begin from."""
        self.project = project
        self.catalogue = catalogue
        self.before = before or {}
        self._once = Lock()

    @cached_property
    def outlook(self) -> Outlook:
        return Outlook(self.project, self.catalogue, links(self.project, self.catalogue))

    @cached_property
    def _stated(self) -> tuple[Site, Demands]:
        site, asked = self.outlook.site(self.project.settings.horizon_years)
        boxes = {closet_id: boxes.boxes for closet_id, boxes in self.before.items()}
        return hinted(site, boxes), asked

    @cached_property
    def _cheapest(self) -> SiteFound | None:
        return least_price(self._stated[0])

    def draft(self, aim: Aim) -> Answer | None:
        """The least price as far as it is found in a moment, where proving it takes long; the proof begins from it."""
        site, asked = self._stated
        drops = sum(problem.drops for problem in site.closets)
        if aim != "least_price" or (len(site.closets) < DRAFT_CLOSETS and drops < DRAFT_DROPS):
            return None
        try:
            found = least_price(site, draft_s(len(site.closets)), DRAFT_GAP)
        except TookTooLong:
            return None
        if found is None or found.proven:
            return None
        keys = [[box.model.key for box in seating.boxes] for seating in found.seatings]
        boxes = dict(zip((problem.closet_id for problem in site.closets), keys, strict=True))
        self._stated = hinted(site, boxes), asked
        return self._with_costs(self._with_years(tell(aim, found, site, self.project, asked)))

    def answer(self, aim: Aim) -> Answer | None:
        """The best of one kind, proven or with its bound, and the year in which it is full; None: nothing fits."""
        with self._once:
            cheapest = self._cheapest
        if cheapest is None:
            return None
        site, asked = self._stated
        if aim == "least_price":
            found = cheapest
        else:
            find = {"fewest_boxes": fewest_boxes, "most_room": most_room, "least_power": least_power}[aim]
            found = find(site, cheapest)
        seatings = assigned(
            tuple(zip(site.closets, found.seatings, strict=True)), asked, keeps_mains=aim == "least_power"
        )
        found = replace(found, seatings=seatings)
        return self._with_costs(self._with_years(tell(aim, found, site, self.project, asked)))

    def _with_costs(self, answer: Answer) -> Answer:
        """An answer with what it costs to have it for the horizon."""
        settings = self.project.settings
        yearly: Counter[str] = Counter()
        for part in answer.parts:
            yearly[part.yearly_for] += part.yearly_minor
        costs = costs_of(answer.price_minor, yearly, answer.running_w, settings.kwh_minor, settings.horizon_years)
        return answer.model_copy(update={"costs": costs})

    def _with_years(self, answer: Answer) -> Answer:
        """An answer with the first year in which the boxes of a closet are full, and of what."""
        standing, horizon = answer.standing(), self.project.settings.horizon_years

        def short(year: int) -> str | None:
            return None if year <= horizon else lacks(self.outlook, standing, year)

        year = first_year(lambda year: short(year) is None, YEARS_AHEAD)
        if year is None:
            return answer
        full = {"full_year": self.project.settings.start_year + year, "full_of": short(year)}
        return answer.model_copy(update=full)

    def ahead(self, answer: Answer) -> Ahead:
        """What each year asks of an answer."""
        return Ahead(years=years(self.outlook, answer, YEARS_AHEAD))

    def steps(self, answer: Answer) -> Steps:
        """The plans in two steps that spend less now than an answer at once."""
        return Steps(steps=tuple(steps(self.outlook, answer)))

    def flips(self, answer: Answer) -> Flips:
        """What would make the least price another."""
        return Flips(flips=tuple(flips(self.outlook, answer.price_minor)))

    def beyond(self, answer: Answer) -> Beyond:
        """Ports beyond the closet: more cables against room switches."""
        rooms = tuple(rooms_beyond(self.outlook, answer.price_minor))
        return Beyond(rooms=rooms, together=rooms_together(self.outlook, answer.price_minor, rooms))

    def relax(self) -> tuple[Relaxed, ...]:
        """What stands in the way when nothing fits."""
        return what_to_relax(self.project, self.catalogue)

    def reasons(self, answer: Answer) -> tuple[WhyNot, ...]:
        """Why not: one sentence for every model that an answer does not take."""
        return why_not(self.project, self.catalogue, self._stated[0], answer)

    def forced(self, key: str, answer: Answer) -> WhyNot:
        """The least pick that has one more model in it, against an answer."""
        return forced(self.project, self.catalogue, self._stated[0], key, answer)


def pick(project: Project, catalogue: Catalogue, aims: tuple[Aim, ...] = AIMS) -> Picks:
    """The picks for the project's horizon, each proven best or with its bound."""
    picker = Picker(project, catalogue)
    answers = [answer for aim in aims if (answer := picker.answer(aim))]
    return Picks(answers=tuple(answers), relax=() if answers else picker.relax())


def reasons(project: Project, catalogue: Catalogue, answer: Answer) -> tuple[WhyNot, ...]:
    """Why not: one sentence for every model that an answer does not take."""
    return Picker(project, catalogue).reasons(answer)
