"""Projects: create, load, and the one door for edits with its journal."""

from __future__ import annotations

import json
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from psycopg import Connection
from psycopg.errors import ForeignKeyViolation, UniqueViolation
from psycopg.rows import DictRow
from psycopg.types.json import Jsonb
from pydantic import ValidationError

from baugrund.core.edits import Edit, SetTally, apply_edits, as_sent
from baugrund.core.errors import Conflict, FieldClash, InvalidInput, NotFound, NothingToUndo
from baugrund.core.explain.answers import Answer
from baugrund.core.facts.drop_kinds import DROP_KINDS
from baugrund.core.facts.price import Worked
from baugrund.core.facts.project import Project
from baugrund.core.facts.settings import Aim

from .changes import Change, Rows, changes_between, load, rows_of, write
from .database import Database, queries
from .states import States, Stored


@dataclass(frozen=True)
class ProjectLine:
    """A line of the list of projects."""

    id: int
    name: str
    site: str
    revision: int
    changed_at: datetime
    drops: int
    rooms: int


@dataclass(frozen=True)
class Entry:
    """A line of the journal."""

    revision: int
    account: str
    at: datetime
    act: str
    told: str
    state: str


@dataclass(frozen=True)
class Steps:
    """What undo and redo would do next, in words; None when there is nothing."""

    undo: str | None
    redo: str | None


class Projects:
    """All projects of one database.  ``allowed`` raises for a state that the rows alone would let pass."""

    def __init__(self, database: Database, allowed: Callable[[Project], object] = lambda _: None) -> None:
        self.database = database
        self.allowed = allowed
        self.states = States()
        self.sql = queries("projects")
        self.journal = queries("journal")

    def all(self) -> list[ProjectLine]:
        """Every project, the one changed last first."""
        with self.database.connection() as connection:
            return [ProjectLine(**row) for row in connection.execute(self.sql["list_projects"])]

    def create(self, project: Project, change_id: UUID | None = None) -> int:
        """Keep a new project; returns its number, of one that was created under this id before its own.

        All or nothing.
        """
        with self.database.connection() as connection:
            head = {"name": project.name, "site": project.site, "next_id": project.next_id, "change_id": change_id}
            row = connection.execute(self.sql["create_project"], head).fetchone()
            if row is None:
                row = connection.execute(self.sql["of_change"], head).fetchone()
                assert row is not None
                return int(row["id"])
            project_id = int(row["id"])
            rows = rows_of(project)
            write(connection, project_id, [Change(table, key, None, after) for (table, key), after in rows.items()])
            return project_id

    def delete(self, project_id: int) -> None:
        """Remove a project with its journal."""
        with self.database.connection() as connection:
            if connection.execute(self.sql["delete_project"], {"project": project_id}).fetchone() is None:
                raise NotFound(f"There is no project {project_id}.")

    def load(self, project_id: int) -> Stored:
        """A project as it stands.  Raises NotFound."""
        with self.database.connection() as connection:
            row = connection.execute(self.sql["revision"], {"project": project_id}).fetchone()
            return self._known(connection, project_id, row)

    def revision(self, project_id: int) -> int:
        """The revision of a project.  Raises NotFound."""
        with self.database.connection() as connection:
            row = connection.execute(self.sql["revision"], {"project": project_id}).fetchone()
        if row is None:
            raise NotFound(f"There is no project {project_id}.")
        return int(row["revision"])

    def _known(self, connection: Connection[DictRow], project_id: int, row: DictRow | None) -> Stored:
        """A project at the revision of a row; nothing of it is written yet."""
        if row is None:
            raise NotFound(f"There is no project {project_id}.")
        known = self.states.at(project_id, row["revision"])
        return known or self.states.keep(self._read(connection, project_id))

    def _read(self, connection: Connection[DictRow], project_id: int) -> Stored:
        facts = load(connection, project_id)
        if facts is None:
            raise NotFound(f"There is no project {project_id}.")
        revision = facts.pop("revision")
        return Stored(project_id, revision, Project.model_validate(facts))

    def edit(
        self,
        project_id: int,
        edits: Sequence[Edit],
        seen_revision: int,
        account: str,
        change_id: UUID | None = None,
    ) -> Stored:
        """Apply edits made on ``seen_revision``, journal them and raise the revision; all or nothing.

        A change that was made before, by its id, is not made again.  Edits on other rows than those changed meanwhile
        merge.  Raises Conflict for the same field, NotFound for what is no longer there, InvalidInput for values out
        of range.
        """
        with self.database.connection() as connection:
            before = self._lock(connection, project_id)
            if self._is_made(connection, project_id, account, "edit", change_id):
                return before
            after = apply_edits(before.project, edits)
            if after.price_lists is not before.project.price_lists:
                self.allowed(after)
            changes = changes_between(before.project, after)
            if seen_revision < before.revision:
                self._refuse_clashes(connection, before, changes, edits, seen_revision)
            if not changes:
                return before
            told = _told(edits, before.project, after)
            connection.execute(self.journal["drop_undone"], {"project": project_id, "account": account})
            stored = self._write(
                connection, before, after, changes, account=account, act="edit", told=told, change_id=change_id,
                edits=edits,
            )  # fmt: skip
        return self.states.keep(stored)

    def _is_made(
        self, connection: Connection[DictRow], project_id: int, account: str, act: str, change_id: UUID | None
    ) -> bool:
        """Whether a change was made before.  Raises InvalidInput when its id stands for another one."""
        if change_id is None:
            return False
        row = connection.execute(self.journal["of_change"], {"change_id": change_id}).fetchone()
        if row is None:
            return False
        if (row["project_id"], row["account"], row["act"]) != (project_id, account, act):
            raise InvalidInput(f"The id {change_id} stands for another change; every change has one of its own.")
        return True

    def _lock(self, connection: Connection[DictRow], project_id: int) -> Stored:
        row = connection.execute(self.sql["lock_project"], {"project": project_id}).fetchone()
        return self._known(connection, project_id, row)

    def _write(
        self,
        connection: Connection[DictRow],
        before: Stored,
        after: Project,
        changes: list[Change],
        *,
        account: str,
        act: str,
        told: str,
        change_id: UUID | None,
        edits: Sequence[Edit] = (),
    ) -> Stored:
        write(connection, before.id, changes)
        row = connection.execute(self.sql["raise_revision"], {"project": before.id}).fetchone()
        assert row is not None
        revision = int(row["revision"])
        entry = {
            "project": before.id,
            "revision": revision,
            "account": account,
            "act": act,
            "told": told,
            "edits": Jsonb([as_sent(edit) for edit in edits]),
            "changes": Jsonb([change.as_json() for change in changes]),
            "change_id": change_id,
        }
        connection.execute(self.journal["write_entry"], entry)
        message = json.dumps({"project": before.id, "revision": revision, "account": account, "told": told})
        # a notification holds 8000 bytes; the told sentence is bounded by names of 200 characters
        connection.execute(self.journal["announce"], {"message": message})
        return Stored(before.id, revision, after)

    def _refuse_clashes(
        self,
        connection: Connection[DictRow],
        before: Stored,
        changes: list[Change],
        edits: Sequence[Edit],
        seen_revision: int,
    ) -> None:
        since = connection.execute(self.journal["entries_since"], {"project": before.id, "revision": seen_revision})
        cells: list[FieldClash] = []
        rows: list[FieldClash] = []
        mine = {(change.table, change.key): change for change in changes}
        tallies = {(e.room_id, e.kind, e.own_kind_id): e for e in edits if e.type == "set_tally"}
        for entry in since:
            for theirs in (Change(*change) for change in entry["changes"]):
                ours = mine.get((theirs.table, theirs.key))
                if ours:
                    rows += _field_clashes(before.project, ours, theirs, entry["account"])
            for other in entry["edits"]:
                if other["type"] == "set_tally":
                    tally = tallies.get((other["room_id"], other["kind"], other.get("own_kind_id")))
                    if tally is not None and tally.count != other["count"]:
                        what = _tally_told(before.project, tally)
                        cells.append(FieldClash(what, tally.count, other["count"], entry["account"]))
        if cells or rows:
            raise Conflict([*cells, *rows], before.revision)

    def steps(self, project_id: int, account: str) -> Steps:
        """What undo and redo would do next."""
        with self.database.connection() as connection:
            told = [
                row["told"] if (row := self._next(connection, name, project_id, account)) else None
                for name in ("next_to_undo", "next_to_redo")
            ]
            return Steps(*told)

    def _next(self, connection: Connection[DictRow], name: str, project_id: int, account: str) -> DictRow | None:
        return connection.execute(self.journal[name], {"project": project_id, "account": account}).fetchone()

    def undo(self, project_id: int, account: str, change_id: UUID | None = None) -> Stored:
        """Take back the account's last edit, once for each id.  Raises NothingToUndo, Conflict."""
        return self._replay(project_id, account, "undo", change_id)

    def redo(self, project_id: int, account: str, change_id: UUID | None = None) -> Stored:
        """Do the edit again that was undone last, once for each id.  Raises NothingToUndo, Conflict."""
        return self._replay(project_id, account, "redo", change_id)

    def _replay(self, project_id: int, account: str, act: str, change_id: UUID | None) -> Stored:
        with self.database.connection() as connection:
            before = self._lock(connection, project_id)
            if self._is_made(connection, project_id, account, act, change_id):
                return before
            entry = self._next(connection, f"next_to_{act}", project_id, account)
            if entry is None:
                raise NothingToUndo(f"There is nothing to {act}.")
            changes = [Change(*change) for change in entry["changes"]]
            if act == "undo":
                changes = [change.reversed() for change in reversed(changes)]
            rows = rows_of(before.project)
            self._refuse_overwriting(before.project, rows, changes)
            changes = [change.on(rows.get((change.table, change.key))) for change in changes]
            mark = {
                "project": project_id,
                "revision": entry["revision"],
                "state": "undone" if act == "undo" else "done",
            }
            connection.execute(self.journal["mark_entry"], mark)
            try:
                self._write(
                    connection, before, before.project, changes, account=account, act=act, told=entry["told"],
                    change_id=change_id,
                )  # fmt: skip
                connection.execute("SET CONSTRAINTS ALL IMMEDIATE")
            except (ForeignKeyViolation, UniqueViolation) as error:
                raise InvalidInput(f"Cannot {act} “{entry['told']}”: later edits build on it.") from error
            replayed = self._read(connection, project_id)
            self.allowed(replayed.project)
        return self.states.keep(replayed)

    def _refuse_overwriting(self, project: Project, rows: Rows, changes: list[Change]) -> None:
        """A replay must find its fields as the edit left them; what others changed since is not overwritten."""
        clashes = []
        for change in changes:
            now = rows.get((change.table, change.key))
            if now == change.before:
                continue
            if now is None or change.before is None:
                gone = "nothing" if now is None else "something new"
                clashes.append(FieldClash(_what(project, change, ""), "an older state", gone, "somebody"))
                continue
            # the next free number only grows, whoever takes one
            for name in sorted(change.fields() - {"next_id"}):
                if change.before.get(name) != now.get(name):
                    what = _what(project, change, name)
                    clashes.append(FieldClash(what, (change.after or {}).get(name), now.get(name), "somebody"))
        if clashes:
            raise Conflict(clashes, 0)

    def history(self, project_id: int, most: int = 200) -> list[Entry]:
        """The journal, newest first."""
        with self.database.connection() as connection:
            rows = connection.execute(self.journal["history"], {"project": project_id, "most": most})
            return [Entry(**row) for row in rows]

    def keep_pick(self, project_id: int, revision: int, answer: Answer) -> None:
        """Keep an answer as the last one of its aim, unless a newer one is kept."""
        values: dict[str, Any] = {"project": project_id, "aim": answer.aim, "revision": revision}
        with self.database.connection() as connection:
            connection.execute(self.journal["keep_pick"], {**values, "answer": Jsonb(answer.model_dump(mode="json"))})

    def last_pick(self, project_id: int, aim: Aim) -> tuple[int, Answer] | None:
        """The last answer of an aim and the revision that it was found for."""
        with self.database.connection() as connection:
            row = connection.execute(self.journal["last_pick"], {"project": project_id, "aim": aim}).fetchone()
        try:
            return (row["revision"], Answer.model_validate(row["answer"])) if row else None
        except ValidationError:
            # kept by an older version of this program: it is found again
            return None

    def worked_elsewhere(self, project_id: int) -> dict[int, list[Worked]]:
        """Hours in which somebody counted what was done, of all other projects."""
        found: dict[int, list[Worked]] = {}
        with self.database.connection() as connection:
            for row in connection.execute(self.sql["worked_elsewhere"], {"project": project_id}):
                found.setdefault(row.pop("project_id"), []).append(Worked.model_validate(row))
        return found


def _told(edits: Sequence[Edit], before: Project, after: Project) -> str:
    """What the last of the edits does, in words: told of what it finds, or else of what it leaves."""
    last = edits[-1]
    try:
        return last.summary(before)
    except NotFound:
        return last.summary(after)


def _field_clashes(project: Project, ours: Change, theirs: Change, by: str) -> list[FieldClash]:
    """Fields that both changed, to different values; a row that one of them removed clashes whole."""
    if ours.table == "projects":
        fields = (ours.fields() & theirs.fields()) - {"next_id"}
    elif ours.after is None or theirs.after is None:
        fields = {""} if theirs.after is not None or ours.after is not None else set()
    else:
        fields = ours.fields() & theirs.fields()
    clashes = []
    for name in sorted(fields):
        yours = (ours.after or {}).get(name) if name else ("other values" if ours.after else "to remove it")
        value = (theirs.after or {}).get(name) if name else ("other values" if theirs.after else "nothing")
        if yours != value:
            clashes.append(FieldClash(_what(project, ours, name), yours, value, by))
    return clashes


def _tally_told(project: Project, tally: SetTally) -> str:
    own = next((kind.name for kind in project.own_kinds if kind.id == tally.own_kind_id), "")
    room = project.rooms_by_id.get(tally.room_id)
    return f"the tally of {own or DROP_KINDS[tally.kind].name.lower()} in {room.name if room else 'a room'}"


def _what(project: Project, change: Change, name: str) -> str:
    row = change.after or change.before or {}
    if change.table == "drops":
        drop = next((drop for drop in project.drops if drop.id == change.key), None)
        owner = project.name_of(drop) if drop else f"drop {change.key}"
    else:
        owner = str(row.get("name") or row.get("model") or row.get("kind") or f"the {change.table}")
    return f"{name.replace('_', ' ')} of {owner}" if name else owner
