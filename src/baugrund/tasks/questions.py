"""What can be asked about a project that is not answered at once, and how each is answered."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, TypeAdapter

from baugrund.core.errors import NotFound
from baugrund.core.facts import Fact, ModelKey
from baugrund.core.pick.answers import Answer
from baugrund.core.pick.reasons import Relaxed, WhyNot
from baugrund.core.plan import Ahead, Beyond, Flips, Picker, Steps
from baugrund.core.project import Aim


class Found(Fact):
    """The answer of one aim; without one, what stands in the way."""

    answer: Answer | None
    relax: tuple[Relaxed, ...] = ()


class BestOf(Fact):
    """The best pick of one kind."""

    type: Literal["best"] = "best"
    aim: Aim

    def draft(self, picker: Picker) -> Found | None:
        """An answer that is complete, but not proven, where the proof takes long."""
        answer = picker.draft(self.aim)
        return Found(answer=answer) if answer else None

    def reply(self, picker: Picker, kept: Answer | None) -> Found:
        """``kept``: the answer of this aim for this very state, where it is known already."""
        answer = kept or picker.answer(self.aim)
        return Found(answer=answer, relax=() if answer else picker.relax())


class PriceOf(Fact):
    """The least pick that has one more model in it."""

    type: Literal["price"] = "price"
    aim: Aim
    model: ModelKey

    def reply(self, picker: Picker, kept: Answer | None) -> WhyNot:
        """``kept``: the answer of this aim for this very state, where it is known already."""
        return picker.forced(self.model, _some(kept or picker.answer(self.aim)))


class AheadOf(Fact):
    """What the years to come ask of a pick."""

    type: Literal["ahead"] = "ahead"
    aim: Aim

    def reply(self, picker: Picker, kept: Answer | None) -> Ahead:
        """``kept``: the answer of this aim for this very state, where it is known already."""
        return picker.ahead(_some(kept or picker.answer(self.aim)))


class StepsOf(Fact):
    """Whether a pick could be bought in two steps."""

    type: Literal["steps"] = "steps"
    aim: Aim

    def reply(self, picker: Picker, kept: Answer | None) -> Steps:
        """``kept``: the answer of this aim for this very state, where it is known already."""
        return picker.steps(_some(kept or picker.answer(self.aim)))


class FlipsOf(Fact):
    """What would make the least price another."""

    type: Literal["flips"] = "flips"
    aim: Literal["least_price"] = "least_price"

    def reply(self, picker: Picker, kept: Answer | None) -> Flips:
        """``kept``: the answer of this aim for this very state, where it is known already."""
        return picker.flips(_some(kept or picker.answer(self.aim)))


class BeyondOf(Fact):
    """Ports beyond the closet: more cables against room switches."""

    type: Literal["beyond"] = "beyond"
    aim: Literal["least_price"] = "least_price"

    def reply(self, picker: Picker, kept: Answer | None) -> Beyond:
        """``kept``: the answer of this aim for this very state, where it is known already."""
        return picker.beyond(_some(kept or picker.answer(self.aim)))


def _some(answer: Answer | None) -> Answer:
    if answer is None:
        raise NotFound("Nothing fits yet, so there is no answer to ask about.")
    return answer


Question = Annotated[BestOf | PriceOf | AheadOf | StepsOf | FlipsOf | BeyondOf, Field(discriminator="type")]
_QUESTIONS: TypeAdapter[Question] = TypeAdapter(Question)


def name_of(question: Question) -> str:
    """The text that a question is kept under."""
    return question.model_dump_json()


def named(text: str) -> Question:
    """The question kept under a text."""
    return _QUESTIONS.validate_json(text)
