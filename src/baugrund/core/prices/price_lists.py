"""Price lists of a project: several catalogues read as one, and what a newer edition would change."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from typing import Literal

from pydantic import ValidationError

from ..edits import plain_sentence
from ..errors import InvalidInput
from ..facts.catalogue import LINES_MOST, Catalogue, Listed
from ..facts.fact import Fact
from ..facts.lines.line import Line, Piecewise
from ..words import money

NOT_TOLD = ("key", "kind")


def catalogue_of(models: Sequence[Line], **head: object) -> Catalogue:
    """A catalogue of these lines and fields.  Raises InvalidInput with the first thing that is wrong."""
    if len(models) > LINES_MOST:
        raise InvalidInput(f"The list would have {len(models):,} lines; a catalogue holds {LINES_MOST:,} at most.")
    try:
        return Catalogue.model_validate({**head, "models": models})
    except ValidationError as error:
        raise InvalidInput(plain_sentence(error)) from error


def day_of(text: str) -> str:
    """A day as it is written in a catalogue.  Raises InvalidInput when the calendar has none such."""
    try:
        return date.fromisoformat(text).isoformat()
    except ValueError as error:
        raise InvalidInput(f"“{text}” is not a day of the calendar.", "priced_on") from error


def merged(catalogues: Sequence[Catalogue], editions: Sequence[int] = ()) -> Catalogue:
    """Several catalogues as one, in their order.

    A model that stands in more than one is taken from the list that has it in stock for the least price; names that
    two models share get the name of their list behind them.  Raises InvalidInput when currencies differ.
    """
    first = catalogues[0]
    numbers = {one.name: number for one, number in zip(catalogues, editions, strict=False)}
    if other := next((one for one in catalogues if one.currency != first.currency), None):
        raise InvalidInput(
            f"“{first.name}” is in {first.currency}, “{other.name}” in {other.currency}: price lists of one project "
            "share a currency.",
            "price_lists",
        )
    best: dict[str, tuple[Catalogue, Line]] = {}
    for catalogue in catalogues:
        for model in catalogue.models:
            known = best.get(model.key)
            if known is None or _cost(model) < _cost(known[1]):
                best[model.key] = (catalogue, model)
    listed = {key: Listed(one.name, numbers.get(one.name), one.priced_on) for key, (one, _) in best.items()}
    if len(catalogues) == 1:
        return first.model_copy().read_from(listed)
    seen: set[str] = set()
    models = []
    for catalogue, model in best.values():
        name = model.name if model.name not in seen else f"{model.name} ({catalogue.name})"
        seen.add(name)
        models.append(model if name == model.name else model.model_copy(update={"name": name}))
    return Catalogue(
        name=" + ".join(one.name for one in catalogues)[:200],
        currency=first.currency,
        priced_on=min(one.priced_on for one in catalogues),
        tax=first.tax if all(one.tax == first.tax for one in catalogues) else "",
        models=tuple(models),
    ).read_from(listed)


def _cost(model: Line) -> tuple[bool, int]:
    return not model.in_stock, model.piece_minor if isinstance(model, Piecewise) else model.price_minor


class Difference(Fact):
    """One line that two editions of a catalogue do not share."""

    key: str
    name: str
    what: Literal["new", "gone", "changed"]
    told: str


def differences(old: Catalogue, new: Catalogue) -> tuple[Difference, ...]:
    """What the second catalogue has in place of the first, line by line: changed, new, gone."""
    before, after = ({model.key: model for model in one.models} for one in (old, new))
    changed = [
        Difference(key=key, name=model.name, what="changed", told=_told(before[key], model, new.currency))
        for key, model in after.items()
        if key in before and before[key] != model
    ]
    come = [
        Difference(key=key, name=model.name, what="new", told=money(model.price_minor, new.currency))
        for key, model in after.items()
        if key not in before
    ]
    gone = [
        Difference(key=key, name=model.name, what="gone", told="is not listed any more")
        for key, model in before.items()
        if key not in after
    ]
    return (*changed, *come, *gone)


def _told(old: Line, new: Line, currency: str) -> str:
    if old.kind != new.kind:
        return f"was a {old.kind}, is a {new.kind}"
    parts = []
    for field in type(new).model_fields:
        was, now = getattr(old, field), getattr(new, field)
        if was == now or field in NOT_TOLD:
            continue
        if field.endswith("_minor"):
            what = "price" if field == "price_minor" else "yearly"
            parts.append(f"{what} {money(was, currency)} → {money(now, currency)}")
        elif field == "in_stock":
            parts.append("in stock again" if now else "out of stock")
        else:
            parts.append(field.replace("_", " "))
    return ", ".join(parts)
