"""Replies that took long, kept by what was asked of what, so that an undo or a copy of a project has them at once."""

from __future__ import annotations

from typing import Any

from psycopg.types.json import Jsonb

from .database import Database, queries

MOST = 2_000
"""Replies kept; the one that nobody saw for longest goes first."""


class Replies:
    """All replies of one database.  A mark stands for a question and all that it is answered from."""

    def __init__(self, database: Database) -> None:
        self.database = database
        self.sql = queries("replies")

    def find(self, mark: str) -> dict[str, Any] | None:
        """The reply that was kept under a mark."""
        with self.database.connection() as connection:
            row = connection.execute(self.sql["find"], {"mark": mark}).fetchone()
        return row["reply"] if row else None

    def keep(self, mark: str, reply: dict[str, Any]) -> None:
        with self.database.connection() as connection:
            connection.execute(self.sql["keep"], {"mark": mark, "reply": Jsonb(reply)})
            connection.execute(self.sql["forget"], {"most": MOST})
