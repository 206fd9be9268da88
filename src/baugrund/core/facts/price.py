"""What a project says of its price: parts and who brings them, who does which task, hours worked, phases, offers, and
what was paid.  Money in minor units of the project's currency, hours of one person.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from .brief import Minor
from .fact import Day, Fact, Id, Name, Note, Text
from .labour import Stage, Task
from .references import PhaseId, RoomId

MAX_PRICE_ROWS = 2_000
"""Most rows of a list of Price."""
Brings = Literal["installer", "client", "electrician"]
Doer = Literal["owner", "electrician", "installer"]
DOERS: tuple[Doer, ...] = ("installer", "electrician", "owner")
Wanted = Literal["must", "should", "could"]
"""How much a drop is wanted."""
PartKey = Annotated[str, Field(min_length=1, max_length=220)]
"""What a part is told apart by: ``model/switch-24``, ``part/panel jack``, ``cable/category 6``."""
Count = Annotated[float, Field(ge=0, le=1_000_000)]


class Phase(Fact):
    """A part of the job that ends with a working network."""

    id: Id
    name: Name
    begins: Day | None = None
    ends: Day | None = None
    budget_minor: Annotated[int, Field(ge=1, le=1_000_000_000)] | None = None

    @model_validator(mode="after")
    def _ends_after_it_begins(self) -> Phase:
        if self.begins and self.ends and self.ends < self.begins:
            raise ValueError(f"{self.name} ends on {self.ends}, before it begins on {self.begins}")
        return self


class PartTerm(Fact):
    """What the project says of a part."""

    id: Id
    part: PartKey
    price_minor: Minor | None = None
    """Of one piece, metre or box, in place of what the price lists say."""
    by: Brings = "installer"
    there: Count = 0.0
    """So many are there, and need not be bought."""
    bought: Count = 0.0
    """So many are bought already."""
    spare: Count | None = None
    """Bought beside what is needed; None: by the usual rule."""
    note: Text = ""


class TaskTerm(Fact):
    """Who does a task, where that is not the installer."""

    id: Id
    task: Task
    who: Doer


class OwnTool(Fact):
    """A tool of the owner's work: whether it is there, and its own prices in place of the usual ones."""

    id: Id
    tool: Name
    there: bool = False
    buy_minor: Minor | None = None
    hire_minor: Minor | None = None
    """Of a day."""


class ExtraWork(Fact):
    """Work that follows from no drop: so many of a task, or hours by another name."""

    id: Id
    task: Task | None = None
    name: Text = ""
    count: Annotated[float, Field(gt=0, le=100_000)]
    """Of the task; of other work hours."""
    who: Doer | None = None
    room_id: RoomId | None = None
    phase_id: PhaseId | None = None

    @model_validator(mode="after")
    def _is_named(self) -> ExtraWork:
        if self.task is None and not self.name.strip():
            raise ValueError("other work needs a name")
        return self


class Worked(Fact):
    """Hours of one person as they were worked."""

    id: Id
    task: Task
    hours: Annotated[float, Field(gt=0, le=24)]
    count: Annotated[float, Field(gt=0, le=100_000)] | None = None
    """How many of the task were done in them; None: nobody has counted."""
    day: Day | None = None
    by: Text = ""
    note: Text = ""


class Paid(Fact):
    """What was ordered, delivered and paid of a line."""

    id: Id
    part: PartKey
    """The key of a part, or ``task/pull_open`` of labour."""
    name: Text = ""
    """Of what is no line of the plan."""
    ordered: Count | None = None
    delivered: Count | None = None
    quantity: Count | None = None
    """So many were paid for."""
    paid_minor: Annotated[int, Field(ge=0, le=1_000_000_000)] | None = None
    """All of them together, without tax."""
    final: bool = False
    """Nothing more of it is to come."""
    day: Day | None = None
    supplier: Text = ""


class Crew(Fact):
    """People who work together."""

    id: Id
    name: Name
    who: Doer = "installer"
    people: Annotated[int, Field(ge=1, le=12)] = 1


class Wait(Fact):
    """Something that others do, and that work waits for: the provider's line, a socket, plaster that dries."""

    id: Id
    name: Name
    who: Text = ""
    after: Stage | None = None
    """The stage that it follows; None: it waits for none of ours."""
    before: Annotated[tuple[Stage, ...], Field(max_length=16)] = ()
    """Stages that wait for it."""
    from_day: Day | None = None
    """The day on which it is done."""
    days: Annotated[int, Field(ge=0, le=365)] = 0
    """Working days between the stage that it follows and those that wait."""
    fallback: Note = ""
    """What is done where it does not come."""
    done: bool = False


class StageOrder(Fact):
    """A stage that comes before another in this job, beside the usual order."""

    id: Id
    first: Stage
    second: Stage


class Payment(Fact):
    """A step in which an offer is paid."""

    name: Name
    percent: Annotated[float, Field(gt=0, le=100)]


class Offer(Fact):
    """An offer to the client; what was sent stays as it was."""

    id: Id
    number: Name
    day: Day | None = None
    valid_days: Annotated[int, Field(ge=1, le=730)] = 30
    discount_percent: Annotated[float, Field(ge=0, le=100)] = 0.0
    answers: Annotated[tuple[Literal["least_price", "fewest_boxes", "most_room", "least_power"], ...],
                       Field(max_length=3)] = ()  # fmt: skip
    """Picks that stand side by side in it."""
    payments: Annotated[tuple[Payment, ...], Field(max_length=12)] = ()
    not_included: Note = ""
    assumptions: Note = ""
    state: Literal["draft", "sent", "accepted", "declined"] = "draft"
    sent: Annotated[str, Field(max_length=2_000_000)] = ""
    """What was sent, as JSON of an offer's document; empty: nothing yet."""

    @model_validator(mode="after")
    def _is_paid_whole(self) -> Offer:
        if self.payments and abs(sum(one.percent for one in self.payments) - 100) > 1e-6:
            told = sum(one.percent for one in self.payments)
            raise ValueError(f"the payments of offer {self.number} come to {told:g} %, and not to 100 %")
        if self.state != "draft" and not self.sent:
            raise ValueError(f"offer {self.number} is {self.state}, but nothing was sent")
        return self


class PriceTerms(Fact):
    """What of the settings only Price reads."""

    tax_percent: Annotated[float, Field(ge=0, le=100)] = 20.0
    """Tax on what is sold, *default*: the law of the place decides."""
    budget_with_tax: bool = False
    """The budget holds the tax."""
    margin_parts_percent: Annotated[float, Field(ge=0, le=300)] = 15.0
    margin_work_percent: Annotated[float, Field(ge=0, le=300)] = 0.0
    """Put on parts, and on labour, in offers, *default*; no client sees it."""
    difficulty_percent: Annotated[float, Field(ge=50, le=300)] = 100.0
    """Hours of every task of this site over the usual ones."""
    site_spread_percent: Annotated[float, Field(ge=0, le=50)] = 10.0
    """How far off all hours of a site are together: the standard deviation of the factor that they share, *default*."""
    electrician_minor: Annotated[int, Field(ge=0, le=100_000_00)] = 85_00
    owner_minor: Annotated[int, Field(ge=0, le=100_000_00)] = 0
    """What an hour of the electrician, and of the owner, is reckoned at, *default*."""
    owner_slower_percent: Annotated[float, Field(ge=100, le=400)] = 150.0
    """Hours of the owner over those of who does it every day, *default*."""
    day_h: Annotated[float, Field(ge=1, le=16)] = 8.0
    """Working day, the way there and back included, *default* [h]."""
    travel_h: Annotated[float, Field(ge=0, le=12)] = 0.75
    """The way there and back, *default* [h]."""
    first_day: Day | None = None
    """When the work begins."""
