"""Pictures of a project, kept by the hash of their content: facts name them, undo and redo never lose one."""

from __future__ import annotations

from dataclasses import dataclass
from hashlib import sha256

from psycopg.errors import ForeignKeyViolation, NumericValueOutOfRange

from baugrund.core.errors import InvalidInput, NotFound

from .database import Database, queries

MAX_BYTES_A_PROJECT = 40_000_000
"""So that a project file holds them all."""


@dataclass(frozen=True)
class KeptPicture:
    """A picture as it was kept."""

    media_type: str
    width_px: int
    height_px: int
    content: bytes


class Pictures:
    """All pictures of one database."""

    def __init__(self, database: Database) -> None:
        self.database = database
        self.sql = queries("pictures")

    def keep(self, project_id: int, content: bytes, media_type: str, width_px: int, height_px: int) -> str:
        """Keep a picture; returns its key.  Raises NotFound without the project, InvalidInput when it is full."""
        key = sha256(content).hexdigest()
        values = {
            "project": project_id, "key": key, "media_type": media_type, "width_px": width_px,
            "height_px": height_px, "content": content,
        }  # fmt: skip
        with self.database.connection() as connection:
            row = connection.execute(self.sql["size_of_other_pictures"], values).fetchone()
            if row and row["bytes"] + len(content) > MAX_BYTES_A_PROJECT:
                raise InvalidInput(f"The project's pictures fill {MAX_BYTES_A_PROJECT // 1_000_000} MB, the most.")
            try:
                connection.execute(self.sql["keep_picture"], values)
            except (ForeignKeyViolation, NumericValueOutOfRange) as error:
                raise NotFound(f"There is no project {project_id}.") from error
        return key

    def load(self, project_id: int, key: str) -> KeptPicture:
        """A kept picture.  Raises NotFound."""
        with self.database.connection() as connection:
            row = connection.execute(self.sql["load_picture"], {"project": project_id, "key": key}).fetchone()
        if row is None:
            raise NotFound("There is no such picture in this project.")
        return KeptPicture(row["media_type"], row["width_px"], row["height_px"], bytes(row["content"]))
