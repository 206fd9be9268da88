"""The catalogue: what can be bought.  Watts and kilograms as the data sheets state them, money in minor units."""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping
from functools import cached_property
from typing import Annotated, Literal, NamedTuple, TypeVar, cast

from pydantic import Field, PrivateAttr, model_validator

from .fact import Computed, Name
from .lines import AnyLine
from .lines.box import Accessory
from .lines.injector import Injector
from .lines.line import Line
from .lines.module import Module
from .lines.router import Router
from .lines.spare import Spare
from .lines.switch import Switch

LINES_MOST = 5_000
Made = TypeVar("Made")
Tax = Literal["", "included", "excluded"]
"""Whether prices hold value-added tax; empty: not told."""


class Listed(NamedTuple):
    """The price list that a line stands in, its edition where that is known, and its day."""

    name: str
    edition: int | None
    priced_on: str


class Catalogue(Computed):
    """A price list: its order breaks the last ties."""

    version: Literal[1] = 1
    name: Name
    currency: Annotated[str, Field(pattern=r"^[A-Z]{3}$")]
    priced_on: Annotated[str, Field(pattern=r"^\d{4}-\d\d-\d\d$")]
    tax: Tax = ""
    """Whether prices hold value-added tax; empty: not told."""
    models: Annotated[tuple[AnyLine, ...], Field(max_length=LINES_MOST)]
    _listed: Mapping[str, Listed] = PrivateAttr(default_factory=dict)
    """Of several lists read as one: where each line stands."""

    @model_validator(mode="after")
    def _keys_and_names_are_unique(self) -> Catalogue:
        for what in ("key", "name"):
            seen: set[str] = set()
            for model in self.models:
                value = getattr(model, what)
                if value in seen:
                    raise ValueError(f"two models have the {what} {value!r}")
                seen.add(value)
        return self

    def get(self, key: str) -> Line | None:
        """The model with this key, or None."""
        return self._by_key.get(key)

    def listed(self, key: str) -> Listed:
        """The price list that a line stands in."""
        return self._listed.get(key) or Listed(self.name, None, self.priced_on)

    def read_from(self, listed: Mapping[str, Listed]) -> Catalogue:
        """The catalogue, knowing where its lines stand."""
        self._listed = listed
        return self

    def part(self, keys: Collection[str]) -> Catalogue:
        """The lines of these models, and all that no pick chooses among."""
        models = tuple(model for model in self.models if model.key in keys or not model.of_kind.in_picks)
        return self.model_copy(update={"models": models})

    @cached_property
    def _by_key(self) -> Mapping[str, Line]:
        return {model.key: model for model in self.models}

    def once(self, key: object, make: Callable[[], Made]) -> Made:
        """What follows from its lines alone, made when it is first asked for."""
        if key not in self._made:
            self._made[key] = make()
        return cast(Made, self._made[key])

    @cached_property
    def _made(self) -> dict[object, object]:
        return {}

    @cached_property
    def _cheapest_spares(self) -> Mapping[Accessory, Spare]:
        able = [model for model in self.models if isinstance(model, Spare) and model.in_stock]
        return {spare.completes: spare for spare in sorted(reversed(able), key=lambda spare: -spare.price_minor)}

    @property
    def routers(self) -> tuple[Router, ...]:
        return tuple(model for model in self.models if isinstance(model, Router))

    @property
    def switches(self) -> tuple[Switch, ...]:
        return tuple(model for model in self.models if isinstance(model, Switch))

    @property
    def injectors(self) -> tuple[Injector, ...]:
        return tuple(model for model in self.models if isinstance(model, Injector))

    def spare_for(self, lack: Accessory) -> Spare | None:
        """The cheapest line in stock that completes a box; None: the catalogue has none."""
        return self._cheapest_spares.get(lack)

    @property
    def modules(self) -> tuple[Module, ...]:
        return tuple(model for model in self.models if isinstance(model, Module))
