"""A look over the shoulder of a search: how far it is, and the chance to stop it.

The search tells whoever watches from time to time; who watches is known to the context, so that nothing between has to
pass it on.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass


@dataclass(frozen=True)
class Progress:
    """How far a search is."""

    closet_id: int
    weight: str
    """What is made least: *price* [minor] or *power* [mW]."""
    best: int | None
    """The best so far in that; None: nothing yet."""
    bound: int
    """What nothing can be under; 0: not known yet."""


Watch = Callable[[Progress], None]
"""Told how far it is; may raise to stop the search."""

_watch: ContextVar[Watch | None] = ContextVar("watch", default=None)


@contextmanager
def watched(watch: Watch) -> Iterator[None]:
    """Searches begun inside tell this watch how far they are."""
    token = _watch.set(watch)
    try:
        yield
    finally:
        _watch.reset(token)


def tell(progress: Progress) -> None:
    """Tell the watch, if there is one."""
    watch = _watch.get()
    if watch is not None:
        watch(progress)
