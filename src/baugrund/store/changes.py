"""Changes: which rows differ between two states of a project, and how to write them."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any

from psycopg import Connection
from psycopg.rows import DictRow
from psycopg.types.json import Jsonb

from baugrund.core.project import Project

from .database import queries

KEYS = {
    "closets": "id", "lines": "id", "rooms": "id", "drops": "id", "additions": "id", "growth_rates": "kind",
    "stances": "model",
}  # fmt: skip
"""Tables that hold the rows of a project, and the field that is a row's key in it."""

Row = dict[str, Any]


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

    def as_json(self) -> list[Any]:
        return [self.table, self.key, self.before, self.after]


def rows_of(project: Project) -> dict[tuple[str, int | str], Row]:
    """Every row of a project by table and key."""
    rows: dict[tuple[str, int | str], Row] = {
        ("projects", 0): {"name": project.name, "site": project.site, "next_id": project.next_id},
        ("settings", 0): project.settings.model_dump(),
    }
    for table, key in KEYS.items():
        for value in getattr(project, table):
            rows[table, getattr(value, key)] = value.model_dump()
    return rows


def changes_between(before: Project, after: Project) -> list[Change]:
    """The rows that differ.  Values that are the same object are not looked into."""
    changes = []
    for table, key in {"settings": "", **KEYS}.items():
        if getattr(before, table) is getattr(after, table):
            continue
        old = _values(before, table, key)
        new = _values(after, table, key)
        for name in dict.fromkeys([*old, *new]):
            was, now = old.get(name), new.get(name)
            if was is not now and was != now:
                changes.append(Change(table, name, was and was.model_dump(), now and now.model_dump()))
    old_head = {"name": before.name, "site": before.site, "next_id": before.next_id}
    new_head = {"name": after.name, "site": after.site, "next_id": after.next_id}
    if old_head != new_head:
        changes.append(Change("projects", 0, old_head, new_head))
    return changes


def _values(project: Project, table: str, key: str) -> dict[int | str, Any]:
    if not key:
        return {0: project.settings}
    return {getattr(value, key): value for value in getattr(project, table)}


def write(connection: Connection[DictRow], project_id: int, changes: Iterable[Change]) -> None:
    """Bring the tables to the state after the changes.  The number that ids are given from never falls."""
    by_table: dict[str, list[Change]] = {}
    for change in changes:
        by_table.setdefault(change.table, []).append(change)
    sql = queries("projects")
    for table, some in by_table.items():
        if table == "projects":
            connection.execute(sql["put_project"], {"project": project_id, **(some[-1].after or {})})
            continue
        kept: Sequence[Row] = [{"project_id": project_id, **c.after} for c in some if c.after]
        gone = [c.key for c in some if not c.after]
        if kept:
            connection.execute(sql[f"put_{table}"], {"rows": Jsonb(kept)})
        if gone:
            connection.execute(sql[f"delete_{table}"], {"project": project_id, "keys": gone})
