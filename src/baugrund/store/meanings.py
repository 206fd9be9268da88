"""What values of other people's tables mean: said once, remembered for the next table."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from .database import Database, queries

TableKind = Literal["drops", "prices"]


class RememberedMeanings:
    """All meanings of one database, by column and value, for lists of drops and for price lists."""

    def __init__(self, database: Database) -> None:
        self.database = database
        self.sql = queries("meanings")

    def of(self, tables: TableKind) -> dict[tuple[str, str], str]:
        with self.database.connection() as connection:
            rows = connection.execute(self.sql["all"], {"list": tables}).fetchall()
        return {(row["column_key"], row["value"]): row["means"] for row in rows}

    def keep(self, tables: TableKind, said: Mapping[tuple[str, str], str]) -> None:
        """Remember what values mean, in place of what was said before; an empty meaning is forgotten."""
        with self.database.connection() as connection:
            for (column, value), means in said.items():
                row = {"list": tables, "column": column, "value": value, "means": means}
                connection.execute(self.sql["keep" if means else "forget"], row)
