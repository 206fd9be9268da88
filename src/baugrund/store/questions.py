"""Questions about a project or a catalogue that take more than a moment: asked once, worked on elsewhere."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Literal

from psycopg import Connection
from psycopg.rows import DictRow
from psycopg.types.json import Jsonb

from .database import Database, queries

State = Literal["waiting", "working", "done", "stopped", "failed"]

SILENT_S = 12.0
"""A worker whose last heartbeat is older is gone [s]; what it had begun is given to another."""


@dataclass(frozen=True)
class About:
    """What a question is about: one project, or one catalogue."""

    project: int | None = None
    catalogue: int | None = None

    def __str__(self) -> str:
        return f"catalogue {self.catalogue}" if self.project is None else f"project {self.project}"

    def at(self, question: str) -> dict[str, Any]:
        """Where a question about it is kept."""
        return {"about": str(self), "question": question, **vars(self)}


@dataclass(frozen=True)
class StoredQuestion:
    """How a question stands."""

    revision: int
    state: State
    asked_s: float
    """How long ago it was asked [s]."""
    progress: dict[str, Any] | None = None
    reply: dict[str, Any] | None = None
    told: str = ""
    """Why there is no reply, in a sentence."""
    attended: bool = True
    """Whether any worker is there."""


Defer = Callable[[Connection[DictRow]], int]
"""Puts a job on the queue in the transaction of this connection; gives its number."""


class Questions:
    """All questions of one database.  A question is named by a text of its own."""

    def __init__(self, database: Database) -> None:
        self.database = database
        self.sql = queries("questions")

    def find(self, about: About, question: str) -> StoredQuestion | None:
        """How a question stands that was asked before."""
        with self.database.connection() as connection:
            row = self._find(connection, about, question)
        return _asked(row) if row else None

    def ask(self, about: About, question: str, revision: int, defer: Defer) -> tuple[StoredQuestion, int | None]:
        """Ask about a revision, unless that was done already and stands; gives also the job that became needless."""
        at = about.at(question)
        with self.database.connection() as connection:
            connection.execute(self.sql["lock"], at)
            row = self._find(connection, about, question)
            if row and row["revision"] >= revision and not _abandoned(row):
                return _asked(row), None
            job = defer(connection)
            connection.execute(self.sql["ask"], {**at, "revision": revision, "job": job})
            needless = row["job_id"] if row and row["state"] in ("waiting", "working") else None
            return StoredQuestion(revision, "waiting", 0.0), needless

    def _find(self, connection: Connection[DictRow], about: About, question: str) -> DictRow | None:
        return connection.execute(self.sql["find"], {**about.at(question), "silent_s": SILENT_S}).fetchone()

    def take_up(self, about: About, question: str, job: int, revision: int) -> bool:
        """A worker begins on the project as it stands; False: nobody waits for this job any more."""
        return self._update("take_up", about, question, job=job, revision=revision) is not None

    def report(self, about: About, question: str, job: int, progress: dict[str, Any]) -> bool:
        """How far a worker is; False: it may stop, for nobody waits any more."""
        revision = self._update("report", about, question, job=job, progress=Jsonb(progress))
        return revision is not None

    def draft(self, about: About, question: str, job: int, reply: dict[str, Any]) -> None:
        """A reply to see until the one that is worked on is there."""
        self._update("draft", about, question, job=job, reply=Jsonb(reply))

    def settle(self, about: About, question: str, job: int, reply: dict[str, Any] | None, told: str = "") -> None:
        """The reply; with None, why there is none."""
        state = "done" if reply is not None else "failed"
        self._update("settle", about, question, job=job, state=state, reply=reply and Jsonb(reply), told=told)

    def stop(self, about: About, question: str) -> int | None:
        """Ask no longer; gives the job that works or waits, if any."""
        with self.database.connection() as connection:
            row = connection.execute(self.sql["stop"], about.at(question)).fetchone()
            if row:
                self._announce(connection, about, question, row["revision"])
            return row["job_id"] if row else None

    def forget(self, about: About, question: str) -> None:
        """As if it had never been asked."""
        with self.database.connection() as connection:
            connection.execute(self.sql["forget"], about.at(question))

    def forget_older(self, catalogue_id: int) -> None:
        """As if nothing had been asked about a catalogue that nobody looked at for a day."""
        with self.database.connection() as connection:
            connection.execute(self.sql["forget_older"], {"catalogue": catalogue_id})

    def _update(self, name: str, about: About, question: str, **values: Any) -> int | None:
        with self.database.connection() as connection:
            at = {**about.at(question), **values}
            row = connection.execute(self.sql[name], at).fetchone()
            if row is None:
                return None
            self._announce(connection, about, question, row["revision"])
            return int(row["revision"])

    def _announce(self, connection: Connection[DictRow], about: About, question: str, revision: int) -> None:
        message = json.dumps({**vars(about), "revision": revision, "question": question})
        connection.execute(self.sql["announce"], {"message": message})


def _abandoned(row: DictRow) -> bool:
    """Whether nobody works on a question that still waits for its reply."""
    if row["state"] not in ("waiting", "working"):
        return False
    return row["job"] not in ("todo", "doing") or (row["job"] == "doing" and not row["has_worker"])


def _asked(row: DictRow) -> StoredQuestion:
    return StoredQuestion(
        row["revision"], row["state"], row["asked_s"], row["progress"], row["reply"], row["told"], row["attended"]
    )  # fmt: skip
