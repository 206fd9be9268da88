"""A look over the shoulder of a search: how far it is, and the chance to stop it.

The search tells whoever watches from time to time; who watches is known to the context, so that nothing between has to
pass it on.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from typing import TypeVar


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
    done: int = 0
    of: int = 0
    """Where many searches make one reply, how many are done; then best and bound say nothing."""


Watch = Callable[[Progress], None]
"""Told how far it is; may raise to stop the search."""

_watch: ContextVar[Watch | None] = ContextVar("watch", default=None)
_parts: ContextVar[tuple[int, int]] = ContextVar("parts", default=(0, 0))


@contextmanager
def watched(watch: Watch) -> Iterator[None]:
    """Searches begun inside tell this watch how far they are."""
    token = _watch.set(watch)
    try:
        yield
    finally:
        _watch.reset(token)


Item = TypeVar("Item")


def counted_off(items: Sequence[Item]) -> Iterator[Item]:
    """The items one by one, each a part of one reply: the watch is told how many are done."""
    token = _parts.set((0, len(items)))
    try:
        for done, item in enumerate(items):
            _parts.set((done, len(items)))
            yield item
    finally:
        _parts.reset(token)


def tell(progress: Progress) -> None:
    """Tell the watch, if there is one."""
    watch = _watch.get()
    if watch is not None:
        done, of = _parts.get()
        watch(Progress(progress.closet_id, progress.weight, None, 0, done, of) if of else progress)
