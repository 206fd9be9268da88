"""The plan: everything computed from a project and a catalogue.  The only module that knows all the others."""

from __future__ import annotations

from functools import cached_property
from threading import Lock

from .bearing import Capacity, bearing, ground
from .brief import YEARS_AHEAD
from .catalogue import Catalogue
from .demand import Demand, demand, live_needs
from .facts import Fact
from .findings import Finding, Site, findings
from .pick.answers import Answer, tell
from .pick.best import fewest_boxes, least_power, least_price, most_room
from .pick.problem import Problem, build
from .pick.reasons import Relaxed, WhyNot, forced, what_to_relax, why_not
from .pick.search import Found
from .pick.standing import Boxes, first_short, first_year, given, seat_in
from .project import Aim, Project
from .reach.runs import lengths

AIMS: tuple[Aim, ...] = ("least_price", "fewest_boxes", "most_room", "least_power")


class Balance(Fact):
    """What an edit changes at once: counts, bearing and findings, on the boxes that the ground stands on."""

    live: int
    reserve: int
    powered: int
    watts: float
    """Watts at the ports of the live drops, without margin."""
    drop_watts: dict[int, float]
    """Watts at the port by drop, of those that are live and powered."""
    run_m: dict[int, float]
    """Fixed length of the cable by drop [m]: as typed, else as computed."""
    boxes: tuple[str, ...]
    """Names of the boxes that the ground stands on."""
    held: bool
    capacities: tuple[Capacity, ...]
    findings: tuple[Finding, ...]


class Picks(Fact):
    """The answers asked for; with none, what stands in the way."""

    answers: tuple[Answer, ...]
    relax: tuple[Relaxed, ...] = ()


class Plan(Fact):
    """Everything at once, as the command line prints it."""

    project: str
    balance: Balance
    picks: Picks
    why_not: tuple[WhyNot, ...]


def standing_boxes(project: Project, catalogue: Catalogue, followed: Boxes | None) -> Boxes | None:
    """The boxes that the ground stands on: those held, else those of the pick that is followed."""
    held = project.held
    if not held:
        return followed
    kinds = {model.key: model.kind for model in catalogue.models}
    boxes = [key for key, count in held.items() for _ in range(count) if kinds.get(key) in ("router", "switch")]
    boxes.sort(key=lambda key: kinds[key] != "router")
    if followed and sorted(boxes) == sorted(followed.boxes):
        return followed
    extras = tuple((key, count) for key, count in held.items() if kinds.get(key) in ("injector", "module"))
    return Boxes(tuple(boxes), extras)


def balance(project: Project, catalogue: Catalogue, followed: Boxes | None) -> Balance:
    """The balance on the held boxes, or on those of the last pick of the aim that the project follows."""
    standing = standing_boxes(project, catalogue, followed)
    base = ground(project, catalogue, standing) if standing else None
    capacities = bearing(base) if base else ()
    today = base.today if base else demand(project, 0)
    then = base.then if base else demand(project, project.settings.horizon_years)
    site = Site(project, capacities, None if base is None else base.seating is not None, catalogue)
    return Balance(
        live=len(today.live),
        reserve=len(then.reserve),
        powered=sum(asked.need.poe_rank > 0 for asked in today.live),
        watts=sum(asked.need.power_mw for asked in today.live) / 1000,
        drop_watts={a.drop_id: a.need.power_mw / 1000 for a in today.live if a.drop_id and a.need.poe_rank},
        run_m=dict(lengths(project)),
        boxes=tuple(box.name for box in base.boxes) if base else (),
        held=bool(project.held),
        capacities=capacities,
        findings=findings(site),
    )


class Picker:
    """The picks of one project as it stands; what several answers need is computed once, whichever asks first."""

    def __init__(self, project: Project, catalogue: Catalogue) -> None:
        self.project = project
        self.catalogue = catalogue
        self._once = Lock()

    @cached_property
    def _asked(self) -> tuple[Demand, ...]:
        """Demand for each year from today to ten years on."""
        live = live_needs(self.project)
        return tuple(demand(self.project, year, live) for year in range(YEARS_AHEAD + 1))

    @property
    def _then(self) -> Demand:
        return self._asked[self.project.settings.horizon_years]

    def _problem(self, asked: Demand) -> Problem:
        return build(self.project, [a.need for a in asked.all], self.catalogue)

    @cached_property
    def _stated(self) -> Problem:
        return self._problem(self._then)

    @cached_property
    def _cheapest(self) -> Found | None:
        return least_price(self._stated)

    def answer(self, aim: Aim) -> Answer | None:
        """The best of one kind, proven or with its bound, and the year in which it is full; None: nothing fits."""
        with self._once:
            cheapest = self._cheapest
        if cheapest is None:
            return None
        if aim == "least_price":
            found = cheapest
        else:
            find = {"fewest_boxes": fewest_boxes, "most_room": most_room, "least_power": least_power}[aim]
            found = find(self._stated, cheapest)
        return self._with_years(tell(aim, found, self._stated, self._then))

    def _with_years(self, answer: Answer) -> Answer:
        """An answer with the first year in which its boxes are full, and of what."""
        standing = answer.standing()

        def bears(year: int) -> bool:
            if year <= self.project.settings.horizon_years:
                return True
            narrowed = given(self._problem(self._asked[year]), standing)
            return narrowed is not None and seat_in(*narrowed, standing.before, self._asked[year].all) is not None

        year = first_year(bears, YEARS_AHEAD)
        if year is None:
            return answer
        narrowed = given(self._problem(self._asked[year]), standing)
        full_of = first_short(*narrowed) if narrowed else ""
        return answer.model_copy(update={"full_year": self.project.settings.start_year + year, "full_of": full_of})

    def relax(self) -> tuple[Relaxed, ...]:
        """What stands in the way when nothing fits."""
        return what_to_relax(self.project, self.catalogue, [a.need for a in self._then.all])

    def reasons(self, answer: Answer) -> tuple[WhyNot, ...]:
        """Why not: one sentence for every model that an answer does not take."""
        return why_not(self.project, self.catalogue, self._stated, answer)

    def forced(self, key: str, answer: Answer) -> WhyNot:
        """The least pick that has one more model in it, against an answer."""
        return forced(self.project, self.catalogue, self._then, key, answer)


def pick(project: Project, catalogue: Catalogue, aims: tuple[Aim, ...] = AIMS) -> Picks:
    """The picks for the project's horizon, each proven best or with its bound."""
    picker = Picker(project, catalogue)
    answers = [answer for aim in aims if (answer := picker.answer(aim))]
    return Picks(answers=tuple(answers), relax=() if answers else picker.relax())


def reasons(project: Project, catalogue: Catalogue, answer: Answer) -> tuple[WhyNot, ...]:
    """Why not: one sentence for every model that an answer does not take."""
    return Picker(project, catalogue).reasons(answer)


def plan(project: Project, catalogue: Catalogue) -> Plan:
    """The whole plan of a project."""
    picks = pick(project, catalogue)
    followed = next((a for a in picks.answers if a.aim == project.settings.aim), None)
    return Plan(
        project=project.name,
        balance=balance(project, catalogue, followed.standing() if followed else None),
        picks=picks,
        why_not=reasons(project, catalogue, followed) if followed else (),
    )
