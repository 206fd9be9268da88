"""A look over the shoulder of long work: how far it is, and the chance to stop it.

The work tells whoever watches from time to time; who watches is known to the context, so that nothing between has to
pass it on.
"""

from __future__ import annotations

import os
from collections.abc import Callable, Generator, Iterable, Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from contextvars import ContextVar, copy_context
from dataclasses import dataclass
from threading import Event, Lock
from typing import TypeVar

AT_ONCE = min(os.cpu_count() or 1, 2)
"""Searches that run side by side; while one counts in machine code or in the solver, the interpreter is another's."""

TOLD_EVERY = 100
"""Of many steps that are quickly made."""


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


@dataclass(frozen=True)
class Share:
    """How far work is that knows its end."""

    share: float
    """0 to 1."""
    text: str
    """What is being worked on."""


Watch = Callable[[Progress | Share], None]
"""Told how far it is; may raise to stop the work."""

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
Made = TypeVar("Made")


def counted_off(items: Sequence[Item]) -> Iterator[Item]:
    """The items one by one, each a part of one reply: the watch is told how many are done."""
    token = _parts.set((0, len(items)))
    try:
        for done, item in enumerate(items):
            _parts.set((done, len(items)))
            yield item
    finally:
        _parts.reset(token)


class _Needless(Exception):
    """Nobody wants what this search finds any more."""


def side_by_side(searches: Sequence[Callable[[], Made]]) -> Generator[Made]:
    """What searches find, in their order, made side by side; those that are not waited for are broken off.

    The watch is told of one at a time, the first that is not done, and never from two threads at once.
    """
    if len(searches) < 2 or AT_ONCE < 2:
        yield from (search() for search in searches)
        return
    watch, needless, lock, done = _watch.get(), Event(), Lock(), set[int]()

    def run(number: int) -> Made:
        def guarded(progress: Progress | Share) -> None:
            if needless.is_set():
                raise _Needless
            with lock:
                if watch and not needless.is_set() and done.issuperset(range(number)):
                    watch(progress)

        _watch.set(guarded)
        try:
            return searches[number]()
        finally:
            done.add(number)

    with ThreadPoolExecutor(AT_ONCE) as pool:
        made = [pool.submit(copy_context().run, run, number) for number in range(len(searches))]
        try:
            for one in made:
                yield one.result()
        finally:
            needless.set()
            pool.shutdown(wait=False, cancel_futures=True)


def tell(progress: Progress | Share) -> None:
    """Tell the watch, if there is one."""
    watch = _watch.get()
    if watch is not None:
        done, of = _parts.get()
        if of and isinstance(progress, Progress):
            progress = Progress(progress.closet_id, progress.weight, None, 0, done, of)
        watch(progress)


def stepwise(items: Iterable[Item], of: int | None, what: str) -> Iterator[Item]:
    """The items, so many (None: that is not known), one by one; the watch is told now and then which it is.  ``what``:
    what they are."""
    for done, item in enumerate(items):
        if done % TOLD_EVERY == 0:
            tell(Share(done / of if of else 0.0, f"{what} {done + 1:,}" + (f" of {of:,}" if of else "")))
        yield item


def to_the_end(steps: Generator[Share, None, Made]) -> Made:
    """What work comes to that tells its steps itself; the watch is told of each."""
    while True:
        try:
            tell(next(steps))
        except StopIteration as done:
            made: Made = done.value
            return made
