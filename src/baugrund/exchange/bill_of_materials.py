"""The bill of materials as CSV (RFC 4180), safe to open in a spreadsheet."""

from __future__ import annotations

import csv
import io

from baugrund.core.pick.answers import Answer

COLUMNS = ("quantity", "part", "kind", "key", "price each", "price", "currency", "owned")
EXECUTED = ("=", "+", "-", "@", "\t", "\r")


def inert(text: str) -> str:
    """A text that no spreadsheet runs as a formula: one that could start one gets an apostrophe before it."""
    return f"'{text}" if text.startswith(EXECUTED) else text


def write_bill(answer: Answer, currency: str) -> str:
    """One line a part, then the total.  Prices with two decimals and a point."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(COLUMNS)
    for part in answer.parts:
        each, total = f"{part.price_minor / 100:.2f}", f"{part.total_minor / 100:.2f}"
        owned = "yes" if part.owned else ""
        writer.writerow([part.quantity, inert(part.name), part.kind, part.model, each, total, currency, owned])
    writer.writerow(["", "Total", "", "", "", f"{answer.price_minor / 100:.2f}", currency, ""])
    return out.getvalue()
