"""The plan: everything computed from a project and a catalogue.  The only module that knows all the others."""

from __future__ import annotations

from .bearing import Capacity, bearing, ground
from .catalogue import Catalogue
from .demand import Demand, demand
from .facts import Fact
from .findings import Finding, Site, findings
from .pick.answers import Answer, tell
from .pick.best import fewest_boxes, least_power, least_price, most_room
from .pick.problem import Problem, build
from .pick.reasons import Relaxed, WhyNot, what_to_relax, why_not
from .pick.standing import Boxes, first_short, first_year, given, seat_in
from .project import YEARS_AHEAD, Aim, Project

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
    site = Site(project, capacities, None if base is None else base.seating is not None)
    return Balance(
        live=len(today.live),
        reserve=len(then.reserve),
        powered=sum(asked.need.poe_rank > 0 for asked in today.live),
        watts=sum(asked.need.power_mw for asked in today.live) / 1000,
        drop_watts={a.drop_id: a.need.power_mw / 1000 for a in today.live if a.drop_id and a.need.poe_rank},
        boxes=tuple(box.name for box in base.boxes) if base else (),
        held=bool(project.held),
        capacities=capacities,
        findings=findings(site),
    )


def pick(project: Project, catalogue: Catalogue, aims: tuple[Aim, ...] = AIMS) -> Picks:
    """The picks for the project's horizon, each proven best or with its bound."""
    asked = demand(project, project.settings.horizon_years)
    problem = build(project, [a.need for a in asked.all], catalogue)
    cheapest = least_price(problem)
    if cheapest is None:
        return Picks(answers=(), relax=what_to_relax(project, catalogue, [a.need for a in asked.all]))
    makers = {
        "least_price": lambda: cheapest,
        "fewest_boxes": lambda: fewest_boxes(problem, cheapest),
        "most_room": lambda: most_room(problem, cheapest),
        "least_power": lambda: least_power(problem, cheapest),
    }
    return Picks(
        answers=tuple(_with_years(tell(aim, makers[aim](), problem, asked), project, catalogue) for aim in aims)
    )


def _with_years(answer: Answer, project: Project, catalogue: Catalogue) -> Answer:
    """An answer with the first year in which its boxes are full, and of what."""
    standing = answer.standing()
    problems: dict[int, Problem] = {}

    def problem_in(year: int) -> Problem:
        if year not in problems:
            problems[year] = build(project, [a.need for a in demand(project, year).all], catalogue)
        return problems[year]

    def bears(year: int) -> bool:
        if year <= project.settings.horizon_years:
            return True
        narrowed = given(problem_in(year), standing)
        return narrowed is not None and seat_in(*narrowed) is not None

    year = first_year(bears, YEARS_AHEAD)
    if year is None:
        return answer
    narrowed = given(problem_in(year), standing)
    full_of = first_short(*narrowed) if narrowed else ""
    return answer.model_copy(update={"full_year": project.settings.start_year + year, "full_of": full_of})


def reasons(project: Project, catalogue: Catalogue, answer: Answer) -> tuple[WhyNot, ...]:
    """Why not: one sentence for every model that an answer does not take."""
    asked: Demand = demand(project, project.settings.horizon_years)
    return why_not(project, catalogue, build(project, [a.need for a in asked.all], catalogue), answer)


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
