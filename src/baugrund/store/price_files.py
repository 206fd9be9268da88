"""Price lists as they came, by the hash of their content: kept until they are read into a catalogue, or for a day."""

from __future__ import annotations

from hashlib import sha256

from psycopg.errors import ForeignKeyViolation

from baugrund.core.errors import NotFound

from .database import Database, queries


class PriceFiles:
    """All such files of one database."""

    def __init__(self, database: Database) -> None:
        self.database = database
        self.sql = queries("price_files")

    def keep(self, catalogue_id: int, content: bytes) -> str:
        """Keep a file for a catalogue, and no longer those of another day; returns its key.  Raises NotFound."""
        key, at = sha256(content).hexdigest(), {"catalogue": catalogue_id}
        with self.database.connection() as connection:
            connection.execute(self.sql["drop_older"], at)
            try:
                connection.execute(self.sql["keep"], {**at, "key": key, "content": content})
            except ForeignKeyViolation as error:
                raise NotFound(f"There is no catalogue {catalogue_id}.") from error
        return key

    def load(self, catalogue_id: int, key: str) -> bytes:
        """A file that was kept.  Raises NotFound."""
        with self.database.connection() as connection:
            row = connection.execute(self.sql["load"], {"catalogue": catalogue_id, "key": key}).fetchone()
        if row is None:
            raise NotFound("The file is no longer there; choose it again.")
        return bytes(row["content"])
