"""Catalogues in editions: every change makes a new one, and an edition stays as it was for whoever uses it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from functools import lru_cache
from itertools import count as counting
from typing import Any

from psycopg import Connection
from psycopg.errors import ForeignKeyViolation, UniqueViolation
from psycopg.rows import DictRow
from psycopg.types.json import Jsonb

from baugrund.core.errors import Conflict, FieldClash, InvalidInput, NotFound
from baugrund.core.facts.brief import PriceList
from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.facts.lines.line import Line
from baugrund.core.facts.project import Project
from baugrund.core.prices.price_lists import catalogue_of, merged

from .database import Database, alone, queries

SHIPPED_LOCK = 7_214_003
"""Key of the advisory lock under which the shipped catalogue is kept."""
EDITIONS_KEPT = 16
"""Editions that are kept in memory: they never change."""


@dataclass(frozen=True)
class ListedCatalogue:
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


@dataclass(frozen=True)
class Edition:
    """A catalogue as of one edition, and the newest that there is."""

    id: int
    number: int
    newest: int
    shipped: bool
    catalogue: Catalogue


@dataclass(frozen=True)
class EditionLine:
    """A line of the history of a catalogue."""

    number: int
    name: str
    priced_on: str
    account: str
    told: str
    at: datetime


class Catalogues:
    """All catalogues of one database; ``shipped`` stands for projects that name none."""

    def __init__(self, database: Database, shipped: Catalogue) -> None:
        self.database = database
        self.shipped = shipped
        self.sql = queries("catalogues")
        self._catalogue = lru_cache(EDITIONS_KEPT)(self._read)
        self._merged = lru_cache(EDITIONS_KEPT)(self._merge)

    def all(self) -> list[ListedCatalogue]:
        """Every catalogue, the shipped one first."""
        with self.database.connection() as connection:
            return [ListedCatalogue(**row) for row in connection.execute(self.sql["list"])]

    def keep_shipped(self) -> int:
        """See to it that the shipped catalogue is there as it ships now; returns its number."""
        with alone(self.database, SHIPPED_LOCK), self.database.connection() as connection:
            row = connection.execute(self.sql["shipped"]).fetchone()
            if row is None:
                return self.create(self.shipped, "Baugrund", shipped=True)
            edition = self.edition(row["id"])
            if edition.catalogue != self.shipped:
                self.change(edition.id, edition.newest, self.shipped, "Baugrund", "as it ships now")
            return int(row["id"])

    def create(self, catalogue: Catalogue, account: str, shipped: bool = False) -> int:
        """Keep a new catalogue.  Raises InvalidInput when its name is taken."""
        with self.database.connection() as connection:
            number = self._begin(connection, catalogue, shipped)
            models = {model.key: model for model in catalogue.models}
            self._write(connection, number, 1, catalogue, models, set(), account=account, told="began it")
            return number

    def copy(self, edition: Edition, name: str, priced_on: str, account: str) -> int:
        """Keep the lines of an edition as a new catalogue.  Raises InvalidInput when its name is taken."""
        head = edition.catalogue.model_copy(update={"name": name, "priced_on": priced_on})
        with self.database.connection() as connection:
            number = self._begin(connection, head)
            lines = {"catalogue": number, "from": edition.id, "edition": edition.number}
            connection.execute(self.sql["copy_lines"], lines)
            self._write(connection, number, 1, head, {}, set(), account=account, told="began it")
            return number

    def _begin(self, connection: Connection[DictRow], catalogue: Catalogue, shipped: bool = False) -> int:
        """A catalogue without lines."""
        head = {"name": catalogue.name, "currency": catalogue.currency, "shipped": shipped}
        try:
            row = connection.execute(self.sql["create"], head).fetchone()
        except UniqueViolation as error:
            raise InvalidInput(f"There is a catalogue “{catalogue.name}” already.", "name") from error
        assert row is not None
        return int(row["id"])

    def edition(self, catalogue_id: int, number: int | None = None) -> Edition:
        """A catalogue as of an edition; None: the newest.  Raises NotFound."""
        with self.database.connection() as connection:
            head = connection.execute(self.sql["head"], {"catalogue": catalogue_id, "edition": number}).fetchone()
        if head is None:
            raise NotFound(f"There is no catalogue {catalogue_id}" + (f" of edition {number}." if number else "."))
        catalogue = self._catalogue(catalogue_id, head["number"])
        return Edition(catalogue_id, head["number"], head["newest"], head["shipped"], catalogue)

    def _read(self, catalogue_id: int, number: int) -> Catalogue:
        at = {"catalogue": catalogue_id, "edition": number}
        with self.database.connection() as connection:
            head = connection.execute(self.sql["head"], at).fetchone()
            models = [row["model"] for row in connection.execute(self.sql["lines"], at)]
        assert head is not None
        return Catalogue.model_validate(
            {"models": models, **{name: head[name] for name in ("name", "currency", "priced_on", "tax")}}
        )

    def change(self, catalogue_id: int, seen: int, changed: Catalogue, account: str, told: str) -> Edition:
        """A new edition from the one that was seen.

        What others changed since stays, unless it is the same line in another way: then Conflict is raised.  Raises
        InvalidInput when both together are no catalogue.
        """
        with self.database.connection() as connection:
            row = connection.execute(self.sql["lock"], {"catalogue": catalogue_id}).fetchone()
            if row is None:
                raise NotFound(f"There is no catalogue {catalogue_id}.")
            before, now = self.edition(catalogue_id, seen).catalogue, self.edition(catalogue_id).catalogue
            if changed.currency != now.currency:
                raise InvalidInput(f"The catalogue is in {now.currency}; a new list is one of its own.", "currency")
            old, new = ({model.key: model for model in one.models} for one in (before, changed))
            touched = {key: model for key, model in new.items() if old.get(key) != model}
            gone = set(old) - set(new)
            if seen < row["edition"]:
                there = {model.key: model for model in now.models}
                mine = {key for key in (*touched, *gone) if there.get(key) != new.get(key)}
                self._refuse_clashes(connection, catalogue_id, seen, mine, row["edition"])
            head = {name: getattr(changed if getattr(changed, name) != getattr(before, name) else now, name)
                    for name in ("name", "priced_on", "tax")}  # fmt: skip
            together = _together(now, touched, gone, head)
            if together == now:
                return self.edition(catalogue_id)
            number = int(row["edition"]) + 1
            self._write(connection, catalogue_id, number, together, touched, gone, account=account, told=told)
        return self.edition(catalogue_id)

    def _refuse_clashes(
        self, connection: Connection[DictRow], catalogue_id: int, seen: int, mine: set[str], newest: int
    ) -> None:  # fmt: skip
        rows = connection.execute(self.sql["touched_since"], {"catalogue": catalogue_id, "edition": seen})
        both = sorted({row["key"] for row in rows} & mine)
        if both:
            clashes = [FieldClash(f"the line {key}", "your figures", "other figures", "somebody") for key in both]
            raise Conflict(clashes, newest)

    def _write(
        self,
        connection: Connection[DictRow],
        catalogue_id: int,
        number: int,
        catalogue: Catalogue,
        touched: Mapping[str, Line],
        gone: set[str],
        *,
        account: str,
        told: str,
    ) -> None:
        at = {"catalogue": catalogue_id, "edition": number}
        places = {row["key"]: row["place"] for row in connection.execute(self.sql["places"], at)}
        further = max(places.values(), default=-1) + 1
        lines: list[dict[str, Any]] = []
        for key, model in touched.items():
            place = places.get(key)
            if place is None:
                place, further = further, further + 1
            lines.append({"key": key, "place": place, "model": model.model_dump(mode="json", exclude_defaults=False)})
        head = {"name": catalogue.name, "priced_on": catalogue.priced_on, "tax": catalogue.tax}
        try:
            connection.execute(self.sql["end_lines"], {**at, "keys": [*touched, *gone]})
            connection.execute(self.sql["add_lines"], {**at, "lines": Jsonb(lines)})
            connection.execute(self.sql["add_edition"], {**at, **head, "account": account, "told": told[:500]})
            connection.execute(self.sql["raise"], {**at, **head})
        except UniqueViolation as error:
            raise InvalidInput(f"There is a catalogue “{catalogue.name}” already.", "name") from error

    def history(self, catalogue_id: int) -> list[EditionLine]:
        """The editions of a catalogue, newest first."""
        with self.database.connection() as connection:
            rows = connection.execute(self.sql["editions"], {"catalogue": catalogue_id})
            return [EditionLine(**row) for row in rows]

    def delete(self, catalogue_id: int) -> None:
        """Remove a catalogue with all its editions.  Raises InvalidInput while a project is priced with it."""
        with self.database.connection() as connection:
            if self.edition(catalogue_id).shipped:
                raise InvalidInput("The shipped catalogue stays; leave it out of a project instead.")
            try:
                connection.execute(self.sql["delete"], {"catalogue": catalogue_id})
                connection.execute("SET CONSTRAINTS ALL IMMEDIATE")
            except ForeignKeyViolation as error:
                raise InvalidInput("Projects are priced with this catalogue; take it out of them first.") from error

    def of(self, project: Project) -> Catalogue:
        """What a project is priced with: its price lists as one.  Raises InvalidInput when currencies differ."""
        if not project.price_lists:
            return self.shipped
        return self._merged(tuple((one.catalogue_id, one.edition) for one in project.price_lists))

    def _merge(self, editions: tuple[tuple[int, int], ...]) -> Catalogue:
        return merged([self.edition(*one).catalogue for one in editions], [edition for _, edition in editions])

    def priced(self, project: Project, brought: Sequence[Catalogue], account: str) -> Project:
        """A new project with its price lists: those that it brings with it, else the shipped one as it is now.

        A catalogue that is there already, to the line, is used; others are kept as new ones.
        """
        numbers = [self._kept_as(catalogue, account) for catalogue in brought] or [(self.keep_shipped(), None)]
        rows = []
        for place, (catalogue_id, edition) in enumerate(dict(numbers).items()):
            number = edition or self.edition(catalogue_id).number
            rows.append(PriceList(id=project.next_id + place, catalogue_id=catalogue_id, edition=number))
        return project.changed(price_lists=tuple(rows), next_id=project.next_id + len(rows))

    def _kept_as(self, catalogue: Catalogue, account: str) -> tuple[int, int | None]:
        taken = {line.name: line.id for line in self.all()}
        if catalogue.name in taken:
            at = taken[catalogue.name]
            for line in self.history(at):
                if self.edition(at, line.number).catalogue == catalogue:
                    return at, line.number
        free = (f"{catalogue.name[:190]} ({count})" for count in counting(2))
        name = catalogue.name if catalogue.name not in taken else next(name for name in free if name not in taken)
        return self.create(catalogue.model_copy(update={"name": name}), account), 1

    def brought_by(self, project: Project) -> tuple[Catalogue, ...]:
        """The catalogues that a project takes with it into a file: none when it has the shipped one as it is now."""
        editions = [self.edition(one.catalogue_id, one.edition) for one in project.price_lists]
        if all(one.shipped and one.number == one.newest for one in editions):
            return ()
        return tuple(one.catalogue for one in editions)


def _together(now: Catalogue, touched: Mapping[str, Line], gone: set[str], head: dict[str, str]) -> Catalogue:
    kept = [touched.get(model.key, model) for model in now.models if model.key not in gone]
    known = {model.key for model in kept}
    models = [*kept, *(model for key, model in touched.items() if key not in known)]
    return catalogue_of(**head, currency=now.currency, models=models)
