"""What can be asked about a project that is not answered at once, and how each is answered."""

from __future__ import annotations

from base64 import b64encode
from collections.abc import Callable
from dataclasses import dataclass
from datetime import date
from functools import cache, cached_property
from hashlib import sha256
from pathlib import Path
from typing import Annotated, Any, ClassVar, Literal, get_type_hints

from pydantic import Base64Bytes, Field, TypeAdapter

from baugrund import core
from baugrund.core.answers.phases import Phases, phases_of
from baugrund.core.answers.phases_by_budget import PhasesProposed, phases_by_budget
from baugrund.core.answers.picker import Ahead, Beyond, Flips, Picker, Steps, standing_boxes
from baugrund.core.errors import NotFound
from baugrund.core.explain.answers import Answer
from baugrund.core.explain.reasons import Relaxed, WhyNot
from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.facts.fact import Fact, ModelKey
from baugrund.core.facts.price import PriceTerms
from baugrund.core.facts.project import Project
from baugrund.core.facts.settings import Aim
from baugrund.core.patch.told import patch_of
from baugrund.core.price.costs import JobCosts, costs_of
from baugrund.core.price.least_wanted import Kept, keep_most
from baugrund.core.price.moving import moving_of
from baugrund.core.price.offer import OfferTold, offer_told
from baugrund.core.price.visits import Visits, visits_of
from baugrund.core.price.work_items import work_in_phases
from baugrund.core.prove.acceptance import acceptance_of
from baugrund.core.prove.bench import bench_of
from baugrund.core.prove.order.told import order_of
from baugrund.core.prove.power_up import power_up_of
from baugrund.core.prove.run_tests import run_tests_of
from baugrund.core.prove.tracing.told import tracing_of
from baugrund.core.siting.answers import Siting, siting
from baugrund.core.siting.cameras import BestViews, best_views
from baugrund.core.siting.channels import Channels, channels
from baugrund.core.siting.stations import BestStations, best_stations
from baugrund.core.stack.proposals import StackProposals, stack_proposals
from baugrund.core.stack.told import Stack, stack_of
from baugrund.core.standing.ground import Ground, grounds_of
from baugrund.core.watch import to_the_end


@dataclass(frozen=True)
class Sources:
    """What a question is answered from."""

    picker: Picker
    """Of the project as it stands."""
    known: Callable[[Aim], Answer | None]
    """The answer of an aim for this very state, where it was found before."""
    fonts: Path | None = None
    """Where the fonts of printed sheets are."""
    picture: Callable[[str], tuple[str, bytes] | None] = lambda key: None
    """Media type and content of a kept picture of the project, by its key; None: it is not there."""

    def answer(self, aim: Aim) -> Answer | None:
        """The answer of an aim; None: nothing fits."""
        return self.known(aim) or self.picker.answer(aim)

    @cached_property
    def grounds(self) -> tuple[Ground, ...]:
        """The boxes that stand: held, or of the pick that the project follows."""
        project, catalogue = self.picker.project, self.picker.catalogue
        followed = self.answer(project.settings.aim)
        standing = standing_boxes(project, catalogue, followed.standing() if followed else None)
        return grounds_of(project, catalogue, standing)

    @cached_property
    def stack(self) -> Stack:
        """What stands in the closets on those boxes."""
        return stack_of(self.picker.project, self.picker.catalogue, self.grounds)

    @cached_property
    def costs(self) -> JobCosts:
        """What the job costs on those boxes."""
        return costs_of(self.picker.project, self.picker.catalogue, self.grounds, self.stack)

    def visits(self) -> Visits:
        """The work in days of crews."""
        project, catalogue = self.picker.project, self.picker.catalogue
        return visits_of(project, self.costs, work_in_phases(project, catalogue, self.grounds, self.stack))

    def offer(self, number: int | None) -> OfferTold:
        """An offer with the picks that it shows side by side.  Raises NotFound where there is none."""
        project = self.picker.project
        offers = [one for one in project.offers if number in (None, one.id)]
        if not offers:
            raise NotFound("There is no such offer." if project.offers else "There is no offer yet.")
        answers = {aim: answer for aim in offers[-1].answers if (answer := self.answer(aim))}
        return offer_told(project, self.costs, offers[-1], answers)

    def some(self, aim: Aim) -> Answer:
        """The answer of an aim.  Raises NotFound when nothing fits."""
        if answer := self.answer(aim):
            return answer
        raise NotFound("Nothing fits yet, so there is no answer to ask about.")


class _Question(Fact):
    """Something asked; ``reply`` finds the answer and tells the watch how far it is.

    ``brief``: it takes seconds, not minutes; ``lasts``: its reply is that of any project with the same content.
    """

    brief: ClassVar[bool] = False
    lasts: ClassVar[bool] = True


class Found(Fact):
    """The answer of one aim; without one, what stands in the way."""

    answer: Answer | None
    relax: tuple[Relaxed, ...] = ()


class BestOf(_Question):
    """The best pick of one kind."""

    type: Literal["best"] = "best"
    aim: Aim

    def draft(self, sources: Sources) -> Found | None:
        """An answer that is complete, but not proven, where the proof takes long."""
        answer = None if sources.known(self.aim) else sources.picker.draft(self.aim)
        return Found(answer=answer) if answer else None

    def reply(self, sources: Sources) -> Found:
        answer = sources.answer(self.aim)
        return Found(answer=answer, relax=() if answer else sources.picker.relax())


class PriceOf(_Question):
    """The least pick that has one more model in it."""

    type: Literal["price"] = "price"
    aim: Aim
    model: ModelKey

    def reply(self, sources: Sources) -> WhyNot:
        return sources.picker.forced(self.model, sources.some(self.aim))


class Reasons(Fact):
    """Why not: every model that an answer does not take."""

    models: tuple[WhyNot, ...]


class ReasonsOf(_Question):
    """Why a pick does not take what it does not take."""

    brief: ClassVar[bool] = True
    type: Literal["reasons"] = "reasons"
    aim: Aim

    def reply(self, sources: Sources) -> Reasons:
        return Reasons(models=sources.picker.reasons(sources.some(self.aim)))


class AheadOf(_Question):
    """What the years to come ask of a pick."""

    type: Literal["ahead"] = "ahead"
    aim: Aim

    def reply(self, sources: Sources) -> Ahead:
        return sources.picker.ahead(sources.some(self.aim))


class StepsOf(_Question):
    """Whether a pick could be bought in two steps."""

    type: Literal["steps"] = "steps"
    aim: Aim

    def reply(self, sources: Sources) -> Steps:
        return sources.picker.steps(sources.some(self.aim))


class FlipsOf(_Question):
    """What would make the least price another."""

    type: Literal["flips"] = "flips"
    aim: Literal["least_price"] = "least_price"

    def reply(self, sources: Sources) -> Flips:
        return sources.picker.flips(sources.some(self.aim))


class BeyondOf(_Question):
    """Ports beyond the closet: more cables against room switches."""

    type: Literal["beyond"] = "beyond"
    aim: Literal["least_price"] = "least_price"

    def reply(self, sources: Sources) -> Beyond:
        return sources.picker.beyond(sources.some(self.aim))


class SitesOf(_Question):
    """Where closets stand best."""

    brief: ClassVar[bool] = True
    type: Literal["sites"] = "sites"

    def reply(self, sources: Sources) -> Siting:
        return to_the_end(siting(sources.picker.project, sources.picker.catalogue))


class BestViewsOf(_Question):
    """Where cameras meet all targets."""

    brief: ClassVar[bool] = True
    type: Literal["best_views"] = "best_views"

    def reply(self, sources: Sources) -> BestViews:
        return to_the_end(best_views(sources.picker.project, sources.picker.catalogue))


class ChannelsOf(_Question):
    """The channels of least shared airtime."""

    brief: ClassVar[bool] = True
    type: Literal["channels"] = "channels"

    def reply(self, sources: Sources) -> Channels:
        return to_the_end(channels(sources.picker.project, sources.picker.catalogue))


class BestStationsOf(_Question):
    """Where access points meet all goals of Wi-Fi."""

    brief: ClassVar[bool] = True
    type: Literal["best_stations"] = "best_stations"

    def reply(self, sources: Sources) -> BestStations:
        return to_the_end(best_stations(sources.picker.project, sources.picker.catalogue))


class StackOf(_Question):
    """What could stand better in every closet, with the boxes of the pick that is followed."""

    brief: ClassVar[bool] = True
    type: Literal["stack"] = "stack"

    def reply(self, sources: Sources) -> StackProposals:
        return stack_proposals(sources.picker.project, sources.picker.catalogue, sources.grounds)


class PhasesOf(_Question):
    """What is bought in each phase, and the network that works at its end."""

    brief: ClassVar[bool] = True
    type: Literal["phases"] = "phases"

    def reply(self, sources: Sources) -> Phases:
        project, catalogue = sources.picker.project, sources.picker.catalogue
        followed = sources.answer(project.settings.aim)
        return to_the_end(phases_of(project, catalogue, followed))


class PhasesByBudgetOf(_Question):
    """Which drops are built in which phase, as far as each budget reaches."""

    brief: ClassVar[bool] = True
    type: Literal["phases_by_budget"] = "phases_by_budget"

    def reply(self, sources: Sources) -> PhasesProposed:
        project, catalogue = sources.picker.project, sources.picker.catalogue
        return to_the_end(phases_by_budget(project, catalogue, sources.answer(project.settings.aim)))


class VisitsOf(_Question):
    """The work in days of crews."""

    brief: ClassVar[bool] = True
    type: Literal["visits"] = "visits"

    def reply(self, sources: Sources) -> Visits:
        return sources.visits()


class KeptWithin(Fact):
    """The choice of drops that keeps most within the budget; None: there is no budget."""

    kept: Kept | None


class KeptOf(_Question):
    """What could go or wait so that the job fits its budget."""

    brief: ClassVar[bool] = True
    type: Literal["kept"] = "kept"

    def reply(self, sources: Sources) -> KeptWithin:
        project, catalogue, grounds = sources.picker.project, sources.picker.catalogue, sources.grounds
        return KeptWithin(kept=keep_most(project, catalogue, grounds, sources.stack))


SheetName = Literal[
    "pulls", "setting-out", "views", "signal", "stack", "pattern", "ports", "networks", "labels", "strips", "legend",
    "offer", "variation", "workshop", "moving", "tests", "tracing",
    "acceptance", "order", "power-up", "bench",
]  # fmt: skip


class Sheet(Fact):
    """A printed sheet and the day that stands on it."""

    made: date
    pdf: Base64Bytes


class SheetOf(_Question):
    """A sheet to print, as PDF, with the day on it and the project's name."""

    brief: ClassVar[bool] = True
    lasts: ClassVar[bool] = False
    type: Literal["sheet"] = "sheet"
    sheet: SheetName
    of: int | None = None
    """Number of the offer that it is about; None: the last one."""

    def reply(self, sources: Sources) -> Sheet:
        # who never prints need not wait for what writes PDF
        from baugrund.exchange.sheets import SHEETS, SheetSources

        made = date.today()
        picker = sources.picker

        of = SheetSources(
            picker.project, picker.catalogue, sources.fonts, made, sources.picture,
            lambda: sources.stack, lambda: patch_of(picker.project, sources.grounds, sources.stack, better=False),
            lambda: sources.costs, lambda: sources.offer(self.of), sources.visits,
            lambda: moving_of(picker.project, sources.grounds), lambda: run_tests_of(picker.project, sources.grounds),
            lambda: tracing_of(picker.project, sources.stack), 
            lambda: acceptance_of(picker.project, picker.catalogue, sources.stack),
            lambda: order_of(picker.project, picker.catalogue, sources.grounds, sources.stack),
            lambda: power_up_of(picker.project, sources.grounds, sources.stack),
            lambda: bench_of(picker.project, sources.grounds, sources.stack),
        )  # fmt: skip
        pdf = SHEETS[self.sheet](of)
        return Sheet(made=made, pdf=b64encode(pdf))


Question = Annotated[
    BestOf
    | PriceOf
    | ReasonsOf
    | AheadOf
    | StepsOf
    | FlipsOf
    | BeyondOf
    | SitesOf
    | BestViewsOf
    | ChannelsOf
    | BestStationsOf
    | StackOf
    | PhasesOf
    | PhasesByBudgetOf
    | VisitsOf
    | KeptOf
    | SheetOf,
    Field(discriminator="type"),
]
_QUESTIONS: TypeAdapter[Question] = TypeAdapter(Question)


def name_of(question: Fact) -> str:
    """The text that a question is kept under."""
    return question.model_dump_json()


@cache
def mark_of_core() -> str:
    """What stands for the text of all modules that an answer is computed by."""
    here = Path(core.__file__).parent
    return sha256(b"".join(path.read_bytes() for path in sorted(here.rglob("*.py")))).hexdigest()


LISTS_AFTER = {
    "networks", "wifi_names", "permissions", "patches", "cable_networks", "reserved", "tunnels", "printed", "stocks",
    "cord_colours", "discovered", "phases", "part_terms", "task_terms", "extra_work", "worked", "crews", "waits",
    "stage_orders", "offers", "paid", "own_tools", "running", "move_terms", "run_tests",
    "trace_sheets", "traced_jacks", "trace_steps", "acceptance", "sign_offs", "ticks", "benched",
}  # fmt: skip
"""Lists of Patch, Price and Prove, which come after the pick and all other searches: those read none of them."""
FIELDS_AFTER: dict[str, Any] = {
    "settings": set(PriceTerms.model_fields) - {"difficulty_percent"},
    "drops": {"__all__": {"wanted", "phase_id"}},
    "closets": {"__all__": {"phase_id"}},
    "rooms": {"__all__": {"let_in_by"}},
    "kit": {"__all__": {"goes"}},
}
"""Fields that only they read."""


def mark_of_question(question: Question, project: Project, catalogue: Catalogue) -> str:
    """What stands for a question and all that it is answered from: the core as it is written, the content of a project
    but its name, the prices.  What only Patch and Price know changes no search before them."""
    beside: dict[str, Any] = {"name": True, "site": True}
    if not isinstance(question, SheetOf | PhasesOf | PhasesByBudgetOf | VisitsOf | KeptOf):
        beside |= dict.fromkeys(LISTS_AFTER, True) | FIELDS_AFTER
    if isinstance(question, BestOf | PriceOf | ReasonsOf | AheadOf | StepsOf | FlipsOf | StackOf):
        # nothing in their replies names a row that is yet to come
        beside["next_id"] = True
    parts = (
        mark_of_core(),
        name_of(question),
        project.model_dump_json(exclude=beside),
        catalogue.model_dump_json(),
    )
    return sha256("\0".join(parts).encode()).hexdigest()


def reply_type(question: Question) -> type[Fact]:
    """What a reply to a question is."""
    return get_type_hints(type(question).reply)["return"]  # type: ignore[no-any-return]


def is_proven(reply: object) -> bool:
    """Whether nothing in a reply, as JSON, says that it is not proven."""
    if isinstance(reply, dict):
        return reply.get("proven") is not False and all(map(is_proven, reply.values()))
    return not isinstance(reply, list) or all(map(is_proven, reply))


def named(text: str) -> Question:
    """The question kept under a text."""
    return _QUESTIONS.validate_json(text)
