"""Changes: which rows differ between two states of a project, and how to write them."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cache
from typing import Any, get_args

from psycopg import Connection
from psycopg.rows import DictRow
from psycopg.sql import SQL, Composed, Identifier, Literal
from psycopg.types.json import Jsonb

from baugrund.core.facts.fact import Fact
from baugrund.core.facts.project import NUMBERED, Project

from .database import queries


@dataclass(frozen=True)
class Table:
    """A table of a project's rows: the field that is a row's key in it, and the order that they are read in."""

    key: str = "id"
    order: tuple[str, ...] = ("id",)


TABLES = {
    "settings": Table(key="", order=("project_id",)),
    **dict.fromkeys(NUMBERED, Table()),
    "rooms": Table(order=("position", "id")),
    "growth_rates": Table("kind", ("kind",)),
    "stances": Table("model", ("model",)),
}
"""Every table that holds facts of a project, named as in ``Project``; the settings are one row, of key 0."""

Row = dict[str, Any]
Rows = dict[tuple[str, int | str], Row]


@dataclass(frozen=True)
class Change:
    """One row before and after; None where it is not there."""

    table: str
    key: int | str
    before: Row | None
    after: Row | None

    def fields(self) -> set[str]:
        """Names of the fields that differ; all of them for a row that came or went."""
        before, after = self.before or {}, self.after or {}
        return {name for name in {*before, *after} if before.get(name) != after.get(name)}

    def reversed(self) -> Change:
        return Change(self.table, self.key, self.after, self.before)

    def on(self, now: Row | None) -> Change:
        """The same change of a row as it is now: fields that it does not touch stay as somebody left them since."""
        if now is None or self.before is None or self.after is None:
            return Change(self.table, self.key, now, self.after)
        touched = {name: self.after[name] for name in self.fields() if name in self.after}
        return Change(self.table, self.key, now, {**now, **touched})

    def as_json(self) -> list[Any]:
        return [self.table, self.key, self.before, self.after]


def rows_of(project: Project) -> Rows:
    """Every row of a project by table and key."""
    rows: Rows = {("projects", 0): _head(project)}
    for table in TABLES:
        for key, value in _values(project, table).items():
            rows[table, key] = value.model_dump(mode="json")
    return rows


def changes_between(before: Project, after: Project) -> list[Change]:
    """The rows that differ.  Values that are the same object are not looked into."""
    changes = []
    for table in TABLES:
        if getattr(before, table) is getattr(after, table):
            continue
        old, new = _values(before, table), _values(after, table)
        for name in dict.fromkeys([*old, *new]):
            was, now = old.get(name), new.get(name)
            if was is not now and was != now:
                changes.append(Change(table, name, _row(was), _row(now)))
    if _head(before) != _head(after):
        changes.append(Change("projects", 0, _head(before), _head(after)))
    return changes


def _row(value: Fact | None) -> Row | None:
    return None if value is None else value.model_dump(mode="json")


def _head(project: Project) -> Row:
    return {"name": project.name, "site": project.site, "next_id": project.next_id}


def _values(project: Project, table: str) -> dict[int | str, Fact]:
    values = getattr(project, table)
    key = TABLES[table].key
    return {getattr(value, key): value for value in values} if key else {0: values}


def write(connection: Connection[DictRow], project_id: int, changes: Iterable[Change]) -> None:
    """Bring the tables to the state after the changes.  The number that ids are given from never falls."""
    by_table: dict[str, list[Change]] = {}
    for change in changes:
        by_table.setdefault(change.table, []).append(change)
    put_project = queries("projects")["put_project"]
    for head in by_table.pop("projects", []):
        connection.execute(put_project, {"project": project_id, **(head.after or {})})
    for table, some in by_table.items():
        old = [change.key for change in some if change.before]
        # a row of the journal may be older than a column
        usual = {"project_id": project_id, **_defaults(table)}
        new = [{**usual, **change.after} for change in some if change.after]
        if old:
            connection.execute(_filled("remove_rows", table), {"project": project_id, "keys": old})
        if new:
            connection.execute(_filled("put_rows", table), {"rows": Jsonb(new)})


def load(connection: Connection[DictRow], project_id: int) -> dict[str, Any] | None:
    """The head of a project (with its revision) and all its rows by table, as of one moment; None: not there."""
    rows = connection.execute(_everything(), {"project": project_id})
    facts = {row["name"]: row["rows"] for row in rows}
    head = facts.pop("head")
    for values in (value for some in facts.values() for value in some):
        del values["project_id"]
    return head and {**head, **facts, "settings": facts["settings"][0]}


@cache
def _defaults(table: str) -> Row:
    """Values of the fields that a row may do without."""
    annotation = Project.model_fields[table].annotation
    row_type: Any = get_args(annotation)[0] if get_args(annotation) else annotation
    fields = row_type.model_fields.items()
    return {name: field.get_default(call_default_factory=False) for name, field in fields if not field.is_required()}


@cache
def _everything() -> Composed:
    """One statement for all, so that no edit falls between its parts."""
    parts = [SQL(queries("projects")["load_head"]), *(_filled("load_rows", table) for table in TABLES)]
    return SQL(" UNION ALL ").join(parts)


@cache
def _filled(query: str, table: str) -> Composed:
    """A query of any table with the names of one filled in."""
    shape = TABLES[table]
    return SQL(queries("projects")[query]).format(
        table=Identifier(table),
        name=Literal(table),
        key=Identifier(shape.key) if shape.key else Literal(0),
        order=SQL(", ").join(Identifier("t", field) for field in shape.order),
    )
