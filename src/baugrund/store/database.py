"""The connection pool, migrations in order, and named queries from the ``.sql`` files beside the modules."""

from __future__ import annotations

import re
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from functools import cache
from importlib import resources
from typing import LiteralString, cast

from procrastinate.schema import SchemaManager
from psycopg import Connection
from psycopg.rows import DictRow, dict_row
from psycopg_pool import ConnectionPool

WAIT_S = 5.0
"""How long a request waits for a connection before the database counts as away [s]."""

MIGRATION_LOCK = 7_214_001
"""Key of the advisory lock under which migrations run, so that two servers starting together do not both."""

QUEUE_TABLES = "procrastinate 3.10"
"""What the task queue made of its tables, kept among the migrations; a newer queue brings its own steps from here."""


class Database(ConnectionPool[Connection[DictRow]]):
    """A pool of connections that give rows as dictionaries.

    A thread that has a connection is handed the same one where it asks again: what is done inside belongs to the
    transaction outside, and nobody who holds one connection waits for a second.
    """

    def __init__(self, url: str, most_connections: int) -> None:
        self._held = threading.local()
        super().__init__(
            url,
            min_size=1,
            max_size=most_connections,
            kwargs={"row_factory": dict_row},
            open=True,
            timeout=WAIT_S,
            connection_class=Connection[DictRow],
            check=ConnectionPool.check_connection,
        )

    @contextmanager
    def connection(self, timeout: float | None = None) -> Iterator[Connection[DictRow]]:
        """A connection; its transaction is committed at the end, or rolled back when something is raised.

        Raises psycopg.OperationalError when the database is away.
        """
        held = getattr(self._held, "connection", None)
        if held is not None:
            yield held
            return
        with super().connection(timeout) as connection:
            self._held.connection = connection
            try:
                yield connection
            finally:
                self._held.connection = None


def open_database(url: str, most_connections: int = 8) -> Database:
    """The database at an address, migrated to the newest schema."""
    database = Database(url, most_connections)
    try:
        migrate(database)
    except BaseException:
        database.close()
        raise
    return database


@contextmanager
def alone(database: Database, key: int) -> Iterator[None]:
    """One transaction during which no other program does what this key stands for."""
    with database.connection() as connection:
        connection.execute("SELECT pg_advisory_xact_lock(%s)", (key,))
        yield


def migrate(database: Database) -> list[str]:
    """Run the numbered migrations that have not run yet, on top of the queue's own tables; returns their names."""
    ran = []
    with alone(database, MIGRATION_LOCK), database.connection() as connection:
        connection.execute(
            "CREATE TABLE IF NOT EXISTS migrations (name text PRIMARY KEY, at timestamptz DEFAULT now())"
        )
        known = {row["name"] for row in connection.execute("SELECT name FROM migrations")}
        if QUEUE_TABLES not in known:
            connection.execute(SchemaManager.get_schema())
            connection.execute("INSERT INTO migrations (name) VALUES (%s)", (QUEUE_TABLES,))
        folder = resources.files(__package__) / "migrations"
        for file in sorted(folder.iterdir(), key=lambda file: file.name):
            if file.name.endswith(".sql") and file.name not in known:
                connection.execute(file.read_text("utf-8").encode())
                connection.execute("INSERT INTO migrations (name) VALUES (%s)", (file.name,))
                ran.append(file.name)
    return ran


@cache
def queries(module: str) -> dict[str, LiteralString]:
    """Named queries of ``module.sql``: each follows a line ``-- name: ...``."""
    text = (resources.files(__package__) / f"{module}.sql").read_text("utf-8")
    parts = re.split(r"^-- name: (\w+)\n", text, flags=re.MULTILINE)
    return {
        name: cast(LiteralString, body.strip().rstrip(";")) for name, body in zip(parts[1::2], parts[2::2], strict=True)
    }
