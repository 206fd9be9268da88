"""What all facts share: frozen, strict about unknown fields, finite numbers only, bounded text."""

from __future__ import annotations

import hashlib
from datetime import date
from typing import Annotated, Self

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, StringConstraints, WithJsonSchema


class Fact(BaseModel):
    """Base of every value that comes in from outside or is kept."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


class Computed(Fact):
    """A fact of which something is computed and kept."""

    def __copy__(self) -> Self:
        """A copy to be changed: nothing that was computed goes with it."""
        return self.model_construct(**{name: getattr(self, name) for name in type(self).model_fields})


def mark_of(of: object) -> str:
    """A few letters that stand for a value and all that it is made of."""
    return hashlib.blake2b(repr(of).encode(), digest_size=8).hexdigest()


def _no_control_characters(text: str) -> str:
    for character in text:
        if ord(character) < 32 and character not in "\n\t":
            raise ValueError(f"holds the control character U+{ord(character):04X}, which cannot be kept")
    return text


Text = Annotated[str, StringConstraints(max_length=200), AfterValidator(_no_control_characters)]
"""Free text of any script, up to 200 characters."""
Name = Annotated[
    str,
    StringConstraints(min_length=1, max_length=200, strip_whitespace=True),
    AfterValidator(_no_control_characters),
]
"""Free text that must not be empty."""
Note = Annotated[str, StringConstraints(max_length=2000), AfterValidator(_no_control_characters)]
ModelKey = Annotated[str, StringConstraints(pattern=r"^[a-z0-9][a-z0-9-]{0,79}$")]
"""Key of a catalogue model: small letters, digits and hyphens."""
Id = Annotated[int, Field(ge=1, le=2_000_000_000)]


def numbers(count: int) -> WithJsonSchema:
    """How a tuple of so many numbers is described outside: an array, for not every generator knows tuples."""
    return WithJsonSchema({"type": "array", "items": {"type": "number"}, "minItems": count, "maxItems": count})


Day = Annotated[date, Field(ge=date(1990, 1, 1), le=date(2200, 1, 1))]
PictureKey = Annotated[str, StringConstraints(pattern=r"^[0-9a-f]{64}$")]
"""SHA-256 of a kept picture."""
