"""What was ordered, delivered and paid as a list that comes in: a line a payment."""

from __future__ import annotations

from functools import partial

from pydantic import JsonValue

from baugrund.core.edits import AddEntry
from baugrund.core.edits.entries import ListName
from baugrund.core.facts.project import Project
from baugrund.core.price.costs import JobCosts
from baugrund.core.words import minor_per_unit

from .cells import Odd, number_of, yes
from .entry_list import EntryColumn, read_entries
from .tables import Table

COLUMNS = {
    "part": EntryColumn("Part", str, ("key", "position", "item", "article", "description")),
    "ordered": EntryColumn("Ordered", number_of, ("order quantity",)),
    "delivered": EntryColumn("Delivered", number_of, ("received",)),
    "quantity": EntryColumn("Paid for", number_of, ("quantity", "qty", "invoiced")),
    "paid": EntryColumn("Paid", number_of, ("amount", "net", "price", "cost")),
    "currency": EntryColumn("Currency", str, ()),
    "final": EntryColumn("Final", yes, ("nothing more",)),
    "day": EntryColumn("Day", str, ("date", "invoice date")),
    "supplier": EntryColumn("Supplier", str, ("from", "vendor")),
}
"""The columns; amounts in whole units of the project's currency, without tax."""


def read_paid(table: Table, project: Project, costs: JobCosts) -> tuple[AddEntry, ...]:
    """The edits that add what a list of payments holds, all or nothing.  Raises InvalidInput, line by line."""
    named = [(one.name, one.key) for one in costs.labour.lines] + [(one.name, one.key) for one in costs.parts]
    known = {key.casefold(): key for _, key in named} | {name.casefold(): key for name, key in named}
    return read_entries(table, COLUMNS, "part", partial(_entry, project, known))


def _entry(
    project: Project, known: dict[str, str], read: dict[str, JsonValue]
) -> tuple[ListName, dict[str, JsonValue]]:  # fmt: skip
    ours = project.settings.currency
    currency = str(read.pop("currency", ours)).upper()
    if currency != ours:
        raise Odd(f"Currency: it is {currency}; the project is in {ours}")
    if "part" not in read:
        raise Odd("Part is empty")
    name = str(read.pop("part"))
    paid = read.pop("paid", None)
    if paid is not None:
        amount = float(str(paid))
        if amount < 0:
            raise Odd(f"Paid: {amount:g} is below 0")
        read["paid_minor"] = round(amount * minor_per_unit(ours))
    key = known.get(name.casefold())
    return "paid", {**read, "part": key or f"other/{name}"[:220], "name": "" if key else name[:200]}
