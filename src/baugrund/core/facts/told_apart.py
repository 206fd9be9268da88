"""Rows of a project that are told apart: what of a list is said once, and what no two rows have in common."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Hashable, Iterable, Sequence
from typing import Any

Key = Callable[[Any], Hashable | None]
"""What of a row is said once; None: of this one nothing."""
ONCE: tuple[tuple[str, Key], ...] = (
    ("path_rates", lambda row: row.kind),
    ("colours", lambda row: row.kind),
    ("task_rates", lambda row: row.task),
    ("cables", lambda row: (row.category, row.outdoor, row.screened)),
    ("fibres", lambda row: (row.grade, row.strands)),
    ("growth_rates", lambda row: row.kind),
    ("stances", lambda row: row.model),
    ("placings", lambda row: (row.closet_id, row.thing)),
    ("radios", lambda row: (row.drop_id, row.band)),
    ("losses", lambda row: (row.make, row.band)),
    ("offsets", lambda row: row.device),
    ("price_lists", lambda row: row.catalogue_id),
    ("holdings", lambda row: (row.closet_id, row.model)),
    ("permissions", lambda row: (row.from_id, row.to_id)),
    ("cable_networks", lambda row: (row.closet_id, row.cable)),
    ("reserved", lambda row: row.drop_id),
    ("reserved", lambda row: (row.closet_id, row.thing) if row.thing else None),
    ("patches", lambda row: (row.closet_id, row.drop_id, row.end, row.end and row.box)),
    ("printed", lambda row: row.drop_id),
    ("cord_colours", lambda row: row.use),
    ("discovered", lambda row: (row.closet_id, row.box, row.port)),
    ("part_terms", lambda row: row.part),
    ("trace_sheets", lambda row: row.closet_id),
    ("traced_jacks", lambda row: row.drop_id),
    ("benched", lambda row: row.subject),
    ("task_terms", lambda row: row.task),
    ("own_tools", lambda row: row.tool),
    ("move_terms", lambda row: row.step),
)
"""Lists and what of each row is said once in them."""
NAMED: tuple[tuple[str, str, Callable[[Any], str]], ...] = (
    ("networks", "networks have", lambda row: f"number {row.number}"),
    ("networks", "networks have", lambda row: f"name {row.name!r}"),
    ("wifi_names", "Wi-Fi names have", lambda row: f"name {row.name!r}"),
    ("reserved", "things have", lambda row: f"address {row.address}"),
    ("patches", "cords are patched to",
     lambda row: f"position {row.position} of {row.panel} in closet {row.closet_id}" if row.panel else ""),
    ("patches", "cords are patched to",
     lambda row: f"port {row.port} of {row.box} in closet {row.closet_id}" if row.box else ""),
    ("phases", "phases have", lambda row: f"name {row.name!r}"),
    ("offers", "offers have", lambda row: f"number {row.number!r}"),
)  # fmt: skip
"""Lists, who would say the same, and what no two of them may say, capitals or small; empty: this one says nothing."""


def told_apart(rows: Callable[[str], Sequence[Any]]) -> None:
    """Raises ValueError where rows of a list say what only one may.  ``rows``: a list of the project by its name."""
    for name, key in ONCE:
        unique(name, (said for row in rows(name) if (said := key(row)) is not None))
    for name, who, say in NAMED:
        _told_once((said for row in rows(name) if (said := say(row))), who)


def unique(place: str, keys: Iterable[object]) -> None:
    """Raises ValueError where a key comes twice."""
    twice = [key for key, times in Counter(keys).items() if times > 1]
    if twice:
        raise ValueError(f"{place} holds {twice[0]} twice")


def _told_once(said: Iterable[str], who: str) -> None:
    seen: set[str] = set()
    for what in said:
        if what.casefold() in seen:
            raise ValueError(f"two {who} the {what}")
        seen.add(what.casefold())
