"""Catalogues: listed, changed line by line, and what a project's price lists would gain."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Annotated, Literal

from fastapi import APIRouter, Query
from pydantic import Field

from baugrund.core.errors import NotFound
from baugrund.core.facts.catalogue import Catalogue, Tax
from baugrund.core.facts.fact import Fact, ModelKey, Name
from baugrund.core.facts.lines import AnyLine
from baugrund.core.prices.price_lists import Difference, catalogue_of, day_of, differences
from baugrund.core.words import counted
from baugrund.exchange.price_columns import LineKind, PriceColumn, line_kinds, price_columns
from baugrund.exchange.price_table import cells_of, read_cells
from baugrund.store.catalogues import Edition

from .context import Account, Works
from .uploads import JsonRoute

router = APIRouter(prefix="/api", tags=["catalogues"], route_class=JsonRoute)

Currency = Annotated[str, Field(pattern=r"^[A-Z]{3}$")]
Day = Annotated[str, Field(pattern=r"^\d{4}-\d\d-\d\d$")]


class CatalogueLine(Fact):
    """A line of the list of catalogues."""

    id: int
    name: str
    currency: str
    shipped: bool
    edition: int
    priced_on: str
    at: datetime
    lines: int
    projects: int
    """How many projects are priced with it."""


class CatalogueFor(Fact):
    """A catalogue as of one edition."""

    id: int
    edition: int
    newest: int
    shipped: bool
    catalogue: Catalogue


class NewCatalogue(Fact):
    """What a new catalogue starts from; ``from_id``: a copy of another."""

    name: Name
    currency: Currency = "EUR"
    priced_on: Day | None = None
    from_id: int | None = None


class PutModel(Fact):
    """Add a line, or put it in place of the one with its key."""

    type: Literal["put_model"] = "put_model"
    model: AnyLine


Cell = Annotated[str, Field(max_length=4000)]


class PutLine(Fact):
    """The same, as the cells of a line by column; a line without a key gets one from its name."""

    type: Literal["put_line"] = "put_line"
    cells: Annotated[dict[str, Cell], Field(max_length=200)]


class RemoveModel(Fact):
    """Take a line out."""

    type: Literal["remove_model"] = "remove_model"
    key: ModelKey


class ChangeHead(Fact):
    """Name, price date, and whether prices hold tax."""

    type: Literal["change_head"] = "change_head"
    name: Name | None = None
    priced_on: Day | None = None
    tax: Tax | None = None


Change = Annotated[PutModel | PutLine | RemoveModel | ChangeHead, Field(discriminator="type")]


class Changes(Fact):
    """Changes made on the edition that the browser saw."""

    seen_edition: Annotated[int, Field(ge=1)]
    changes: Annotated[tuple[Change, ...], Field(min_length=1, max_length=500)]


class EditionFor(Fact):
    """A line of the history of a catalogue."""

    number: int
    name: str
    priced_on: str
    account: str
    told: str
    at: datetime


class PriceListFor(Fact):
    """A price list of a project: the edition that it uses, and what the newest one would change."""

    id: int | None
    """Number of the project's row; None: the shipped catalogue, for the project names none."""
    catalogue_id: int
    name: str
    currency: str
    priced_on: str
    tax: Tax
    edition: int
    newest: int
    newest_priced_on: str
    differences: tuple[Difference, ...]
    """Of lines that the project takes or speaks of first."""


def _told(edition: Edition) -> CatalogueFor:
    return CatalogueFor(
        id=edition.id, edition=edition.number, newest=edition.newest, shipped=edition.shipped,
        catalogue=edition.catalogue,
    )  # fmt: skip


@router.get("/catalogues")
def catalogues(works: Works) -> list[CatalogueLine]:
    return [CatalogueLine.model_validate(vars(line)) for line in works.catalogues.all()]


@router.get("/price-columns")
def columns() -> list[PriceColumn]:
    """What a line of a catalogue may say."""
    return list(price_columns())


@router.get("/line-kinds")
def kinds() -> list[LineKind]:
    """The kinds of lines that a price list may have."""
    return list(line_kinds())


@router.get("/catalogues/{catalogue_id}/lines/{key}")
def line(catalogue_id: int, key: ModelKey, works: Works) -> dict[str, str]:
    """A line as its cells by column."""
    found = works.catalogues.edition(catalogue_id).catalogue
    model = found.get(key)
    if model is None:
        raise NotFound(f"There is no line {key} in this catalogue.")
    return cells_of(model, found.currency)


@router.post("/catalogues", status_code=201)
def create(new: NewCatalogue, works: Works, account: Account) -> CatalogueFor:
    day = day_of(new.priced_on or datetime.now(UTC).date().isoformat())
    if new.from_id is not None:
        number = works.catalogues.copy(works.catalogues.edition(new.from_id), new.name, day, account)
    else:
        empty = catalogue_of(name=new.name, currency=new.currency, priced_on=day, models=())
        number = works.catalogues.create(empty, account)
    return _told(works.catalogues.edition(number))


@router.get("/catalogues/{catalogue_id}")
def catalogue(catalogue_id: int, works: Works, edition: Annotated[int | None, Query(ge=1)] = None) -> CatalogueFor:
    return _told(works.catalogues.edition(catalogue_id, edition))


@router.post("/catalogues/{catalogue_id}/changes")
def change(catalogue_id: int, changes: Changes, works: Works, account: Account) -> CatalogueFor:
    """A new edition with these changes; all or nothing."""
    before = works.catalogues.edition(catalogue_id, changes.seen_edition).catalogue
    models = {model.key: model for model in before.models}
    name, priced_on, tax, told = before.name, before.priced_on, before.tax, ""
    for one in changes.changes:
        match one:
            case PutModel() | PutLine():
                model = one.model if isinstance(one, PutModel) else read_cells(one.cells, before.currency)
                told = f"{'changed' if model.key in models else 'added'} {model.name}"
                models[model.key] = model
            case RemoveModel():
                gone = models.pop(one.key, None)
                if gone is None:
                    raise NotFound(f"There is no line {one.key} to take out.")
                told = f"took out {gone.name}"
            case ChangeHead():
                name, priced_on = one.name or name, day_of(one.priced_on or priced_on)
                tax = before.tax if one.tax is None else one.tax
                told = f"prices of {priced_on}" if one.priced_on else f"named it {name}"
                if one.tax is not None:
                    told = f"tax is {one.tax or 'not told'}"
    if len(changes.changes) > 1:
        told = f"{told} and {counted(len(changes.changes) - 1, 'more change')}"
    head = {"name": name, "currency": before.currency, "priced_on": priced_on, "tax": tax}
    changed = catalogue_of(tuple(models.values()), **head)
    return _told(works.catalogues.change(catalogue_id, changes.seen_edition, changed, account, told))


@router.get("/catalogues/{catalogue_id}/editions")
def editions(catalogue_id: int, works: Works) -> list[EditionFor]:
    return [EditionFor.model_validate(vars(line)) for line in works.catalogues.history(catalogue_id)]


@router.get("/catalogues/{catalogue_id}/differences")
def between(
    catalogue_id: int, works: Works, since: Annotated[int, Query(ge=1)],
    edition: Annotated[int | None, Query(ge=1)] = None,
) -> list[Difference]:  # fmt: skip
    """What changed from one edition to another, or to the newest."""
    old, new = works.catalogues.edition(catalogue_id, since), works.catalogues.edition(catalogue_id, edition)
    return list(differences(old.catalogue, new.catalogue))


@router.delete("/catalogues/{catalogue_id}", status_code=204)
def delete(catalogue_id: int, works: Works) -> None:
    works.catalogues.delete(catalogue_id)


@router.get("/projects/{project_id}/price-lists")
def price_lists(project_id: int, works: Works) -> list[PriceListFor]:
    """What the project is priced with, and what newer editions would change."""
    project = works.projects.load(project_id).project
    rows: list[tuple[int | None, int, int | None]] = [
        (row.id, row.catalogue_id, row.edition) for row in project.price_lists
    ]
    shipped = next((line.id for line in works.catalogues.all() if line.shipped), None)
    if not rows and shipped is not None:
        rows = [(None, shipped, None)]
    spoken = {stance.model for stance in project.stances} | {held.model for held in project.holdings}
    lists = []
    for number, catalogue_id, edition in rows:
        mine, newest = works.catalogues.edition(catalogue_id, edition), works.catalogues.edition(catalogue_id)
        told = sorted(differences(mine.catalogue, newest.catalogue), key=lambda one: one.key not in spoken)
        lists.append(
            PriceListFor(
                id=number, catalogue_id=catalogue_id, name=newest.catalogue.name, currency=mine.catalogue.currency,
                priced_on=mine.catalogue.priced_on, tax=mine.catalogue.tax, edition=mine.number, newest=newest.number,
                newest_priced_on=newest.catalogue.priced_on, differences=tuple(told),
            )
        )  # fmt: skip
    return lists


@router.get("/projects/{project_id}/catalogue")
def prices_of(project_id: int, works: Works) -> Catalogue:
    """What the project is priced with, its price lists as one."""
    return works.catalogues.of(works.projects.load(project_id).project)
