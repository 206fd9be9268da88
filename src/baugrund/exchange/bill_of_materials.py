"""The bill of materials as CSV (RFC 4180), safe to open in a spreadsheet."""

from __future__ import annotations

from collections.abc import Sequence

from baugrund.core.explain.answers import Answer
from baugrund.core.footage.apart import ApartLine
from baugrund.core.words import plain_money

from .tables import write_csv

COLUMNS = ["quantity", "part", "kind", "key", "price each", "price", "currency", "owned", "packs", "pieces a pack"]


def write_bill(
    answer: Answer, currency: str, small_parts: dict[str, int] | None = None, apart: Sequence[ApartLine] = ()
) -> str:
    """One line a part, the total, what was chosen apart, then the small parts, which have no price yet.

    Prices in whole units of the currency with its decimals, each of one, or of one pack.
    """
    lines = []
    for part in answer.parts:
        each, total = plain_money(part.price_minor, currency), plain_money(part.total_minor, currency)
        owned = "yes" if part.owned else ""
        packed = [str(part.packs), str(part.pack)] if part.packs else ["", ""]
        lines.append([str(part.quantity), part.name, part.kind, part.model, each, total, currency, owned, *packed])
    lines.append(["", "Total", "", "", "", plain_money(answer.price_minor, currency), currency, "", "", ""])
    for one in apart:
        each, total = plain_money(one.price_minor, currency), plain_money(one.total_minor, currency)
        lines.append([str(one.quantity), one.name, one.kind, one.model, each, total, currency, "", "", ""])
    for name, count in (small_parts or {}).items():
        lines.append([str(count), name, "small part", "", "", "", "", "", "", ""])
    return write_csv(COLUMNS, lines)
