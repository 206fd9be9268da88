"""What takes more than a moment with a catalogue: a long file read into it, or written from it."""

from __future__ import annotations

from base64 import b64encode
from dataclasses import dataclass
from functools import lru_cache, partial
from typing import Annotated, Literal

from pydantic import Base64Bytes, Field, TypeAdapter

from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.facts.fact import Fact
from baugrund.core.prices.price_lists import Difference, catalogue_of, day_of, differences
from baugrund.core.words import counted
from baugrund.exchange.apart import apart
from baugrund.exchange.meanings import Answers, Meanings, Value, said_in
from baugrund.exchange.price_table import (
    PriceFile,
    PriceLine,
    read_prices,
    write_prices_csv,
    write_prices_json,
    write_prices_xlsx,
)
from baugrund.exchange.tables import read_table
from baugrund.store.catalogues import Catalogues
from baugrund.store.meanings import RememberedMeanings
from baugrund.store.price_files import PriceFiles


@lru_cache(2)
def _read_lately(
    content: bytes, currency: str, answers: Answers, remembered: tuple[tuple[tuple[str, str], str], ...]
) -> PriceFile:
    """A file that was looked into is read once only, where the same worker takes it in."""
    return read_prices(content, currency, Meanings(answers, dict(remembered)), partial(apart, read_table))


@dataclass(frozen=True)
class Prices:
    """What a question about a catalogue is answered from."""

    catalogue_id: int
    catalogues: Catalogues
    files: PriceFiles
    meanings: RememberedMeanings


class Imported(Fact):
    """What a file would change or has changed; with anything wrong, it changes nothing."""

    lines: tuple[PriceLine, ...]
    values: tuple[Value, ...] = ()
    wrong: int
    differences: tuple[Difference, ...]
    taken: bool
    """Whether it was done."""
    edition: int


FileKey = Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]


class _FileIn(Fact):
    """A file that came for a catalogue, as of the edition that was seen; ``replace``: lines that the file does not have
    go, else they stay; ``answers``: the key of what was said about the file, kept as a file of ``Answers``."""

    file: FileKey
    seen: Annotated[int, Field(ge=1)]
    replace: bool = False
    answers: FileKey | None = None

    def _said(self, prices: Prices) -> Answers:
        """What was said about the file.  Raises NotFound."""
        if self.answers is None:
            return Answers()
        return Answers.model_validate_json(prices.files.load(prices.catalogue_id, self.answers))

    def _read(self, prices: Prices) -> tuple[Catalogue, PriceFile, Catalogue | None]:
        """The catalogue as it was seen, the file, and what it makes of it; None: a line is wrong."""
        before = prices.catalogues.edition(prices.catalogue_id, self.seen).catalogue
        content = prices.files.load(prices.catalogue_id, self.file)
        remembered = tuple(prices.meanings.of("prices").items())
        file = _read_lately(content, before.currency, self._said(prices), remembered)
        if file.wrong:
            return before, file, None
        models = {} if self.replace else {model.key: model for model in before.models}
        models |= {model.key: model for model in file.models}
        changed = catalogue_of(
            name=before.name, currency=before.currency, tax=before.tax,
            priced_on=day_of(file.priced_on or before.priced_on), models=tuple(models.values()),
        )  # fmt: skip
        return before, file, changed

    def _told(self, before: Catalogue, file: PriceFile, changed: Catalogue | None, taken: int | None) -> Imported:
        """The reply; ``taken``: the edition that it became."""
        return Imported(
            lines=file.lines, values=file.values, wrong=file.wrong,
            differences=differences(before, changed) if changed else (), taken=taken is not None,
            edition=taken or self.seen,
        )  # fmt: skip


class LookInto(_FileIn):
    """What a file would change."""

    type: Literal["look"] = "look"

    def reply(self, prices: Prices) -> Imported:
        return self._told(*self._read(prices), None)


class TakeIn(_FileIn):
    """The same, and it is done; what was done once is not done again."""

    type: Literal["take"] = "take"
    account: str

    def reply(self, prices: Prices) -> Imported:
        before, file, changed = self._read(prices)
        if changed is None:
            return self._told(before, file, None, None)
        prices.meanings.keep("prices", said_in(self._said(prices)))
        what = f"took in a list of {counted(len(file.models), 'line')}"
        edition = prices.catalogues.change(prices.catalogue_id, self.seen, changed, self.account, what)
        return self._told(before, file, changed, edition.number)


PriceFormat = Literal["csv", "xlsx", "json"]


class PricesWritten(Fact):
    """A catalogue as a file."""

    content: Base64Bytes


class WriteOut(Fact):
    """Every line of an edition as a file."""

    type: Literal["write"] = "write"
    format: PriceFormat
    edition: Annotated[int, Field(ge=1)]

    def reply(self, prices: Prices) -> PricesWritten:
        return PricesWritten(
            content=b64encode(self._content(prices.catalogues.edition(prices.catalogue_id, self.edition).catalogue))
        )

    def _content(self, catalogue: Catalogue) -> bytes:
        if self.format == "xlsx":
            return write_prices_xlsx(catalogue)
        if self.format == "json":
            return write_prices_json(catalogue).encode()
        return write_prices_csv(catalogue).encode("utf-8-sig")


PriceQuestion = Annotated[LookInto | TakeIn | WriteOut, Field(discriminator="type")]
PRICE_QUESTIONS: TypeAdapter[PriceQuestion] = TypeAdapter(PriceQuestion)
