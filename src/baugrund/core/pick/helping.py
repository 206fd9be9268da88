"""Processes that help with searches.

Python counts on one core at a time, and a helper has an interpreter of its own.  It is handed work as a function and
what that is done with; what it gives back is told in the very things that it was handed.
"""

from __future__ import annotations

import gc
import io
import math
import pickle
import time
from collections.abc import Callable, Iterator, MutableSequence, Sequence
from contextlib import ExitStack, contextmanager
from importlib import import_module
from multiprocessing import get_context
from multiprocessing.connection import Connection
from threading import Lock
from typing import Any, Protocol

from ..errors import Stopped
from ..watch import Progress, Share, tell, watched

TOLD_EVERY_S = 0.3
LOOK_EVERY_S = 0.5
ENDS_WITHIN_S = 2.0
PARTS_MOST = 256
"""So many parts of a search can be taken one by one."""
AGAIN_AFTER_S = 60.0
"""A process that is gone is begun again, but not sooner than so long after it was."""


MADE_BETWEEN = 20_000
"""Things made, less those let go, after which the collector looks for what refers to itself."""


class Number(Protocol):
    """A number in memory that several processes share."""

    value: float


class Mark:
    """What whoever works on one search sees of the others: the least that was found (infinite: nothing yet), and which
    parts of it are taken."""

    def __init__(self, cell: Number, taken: MutableSequence[int]) -> None:
        """``taken``: a figure a part, all 0 at first."""
        self._cell, self._taken = cell, taken

    @staticmethod
    def alone() -> Mark:
        """The mark of a search that one process does alone."""
        return Mark(_Alone(), bytearray(PARTS_MOST))

    @property
    def least(self) -> float:
        return self._cell.value

    def lower(self, found: float) -> None:
        """Lower the shared cutoff.  Of two who say so at once the dearer may be the last: every mark is
        true, it only cuts off less."""
        self._cell.value = min(self._cell.value, found)

    def take(self, part: int) -> bool:
        """Take a part; whether it was free.  Two who ask at once may both have it, and both go
        through it: a lock would be held for ever by a process that ends with it."""
        was_taken, self._taken[part] = self._taken[part], 1
        return not was_taken


Work = Callable[[Mark], Any]
"""A function of its module, perhaps with some arguments given, so that another process finds it."""


class HelperGone(Exception):
    """The process ended before its work did."""


class Helper:
    """One such process: it does one work at a time, and ends with the one that began it."""

    def __init__(self) -> None:
        self._start()

    def _start(self) -> None:
        self._started_at = time.monotonic()
        context = get_context("spawn")
        self._least, self._stop = context.RawValue("d", math.inf), context.RawValue("d", 0.0)
        self._taken = context.RawArray("b", PARTS_MOST)
        self.mark = Mark(self._least, self._taken)
        self._pipe, theirs = context.Pipe()
        given = theirs, self._least, self._taken, self._stop
        self._process = context.Process(target=_serve, args=given, daemon=True)
        self._process.start()
        theirs.close()
        self._is_busy = True
        """Until it says that it is ready; until the reply is there, thereafter."""
        self._work: Work | None = None
        """What somebody waits for."""
        self._things: Sequence[object] = ()

    def start_again(self) -> None:
        """Where the process is gone, nobody waits for it any more, and it was not begun just now."""
        is_late = time.monotonic() - self._started_at > AGAIN_AFTER_S
        if is_late and self._work is None and not self._process.is_alive():
            self._pipe.close()
            self._start()

    @property
    def is_free(self) -> bool:
        """Whether it can begin something: it is ready, nobody waits for it, and what was let go has ended."""
        if self._work:
            return False
        try:
            while self._is_busy and self._pipe.poll():
                self._is_busy = self._pipe.recv()[0] == "told"
        except (EOFError, OSError):
            self._is_busy = True
        return not self._is_busy and self._process.is_alive()

    def begin(self, work: Work, things: Sequence[object], least: float = math.inf) -> None:
        """Hand it some work.  ``things``: what the reply may name; ``least``: the mark to begin with."""
        self._is_busy, self._work, self._things = True, work, things
        self._least.value, self._stop.value = least, 0.0
        self._taken[:] = [0] * PARTS_MOST
        try:
            self._pipe.send_bytes(pickle.dumps((list(things), work), pickle.HIGHEST_PROTOCOL))
        except OSError as error:
            self._work = None
            raise HelperGone from error

    def heard(self, seconds: float = 0.0, relay: bool = False) -> Any:
        """The reply, if it is there within so long; else None.  ``relay``: the watch is told what it says meanwhile.

        Raises what the work raised, or HelperGone.
        """
        ends_at = time.monotonic() + seconds
        try:
            while self._pipe.poll(max(0.0, ends_at - time.monotonic())):
                kind, content = self._pipe.recv()
                if kind == "told":
                    if relay:
                        tell(content)
                    continue
                # from here on others may begin something
                things, self._is_busy, self._work = self._things, False, None
                if kind == "failed":
                    raise content
                return _Reader(content, things).load()
        except (EOFError, OSError) as error:
            raise HelperGone from error
        return None

    def is_at(self, work: Work) -> bool:
        """Whether the caller still waits for this work."""
        return self._work is work

    def let_go(self) -> None:
        """Cancel the work: it stops as soon as it can."""
        self._stop.value = 1.0
        self._work = None

    def close(self) -> None:
        """End the process."""
        self.let_go()
        self._pipe.close()
        self._process.terminate()
        self._process.join(ENDS_WITHIN_S)


_helpers: list[Helper] = []
_taking = Lock()


@contextmanager
def helped_by(count: int) -> Iterator[None]:
    """Searches made inside have so many helpers; the collector runs seldom."""
    with ExitStack() as stack:
        stack.enter_context(_collected_seldom())
        begun = [Helper() for _ in range(count)]
        for helper in begun:
            stack.callback(helper.close)
        _helpers.extend(begun)
        try:
            yield
        finally:
            for helper in begun:
                _helpers.remove(helper)


@contextmanager
def _collected_seldom() -> Iterator[None]:
    """A search makes many things and keeps most of them to its end: the collector of what refers to itself looks for it
    less often, and not at all at what was there before."""
    before = gc.get_threshold()
    gc.collect()
    gc.freeze()
    gc.set_threshold(MADE_BETWEEN)
    try:
        yield
    finally:
        gc.set_threshold(*before)
        gc.unfreeze()


def begun(work: Work, things: Sequence[object], least: float = math.inf) -> Helper | None:
    """The helper that begins this work; None: none is free."""
    with _taking:
        for one in _helpers:
            one.start_again()
        helper = next((one for one in _helpers if one.is_free), None)
        if helper:
            try:
                helper.begin(work, things, least)
            except HelperGone:
                return None
        return helper


class Elsewhere:
    """Work handed to a helper process."""

    def __init__(self, helper: Helper, work: Work) -> None:
        self._helper, self._work = helper, work
        self.mark = helper.mark

    def reply(self, wait: bool = False) -> Any:
        """The result, waited for; where the helper died, the work is done in this process."""
        try:
            reply = self._helper.heard()
            while wait and reply is None:
                reply = self._helper.heard(LOOK_EVERY_S, relay=True)
            return reply
        except HelperGone:
            return self._work(Mark.alone())

    def let_go(self) -> None:
        """Cancel the work, unless the helper has ended it and begun another."""
        if self._helper.is_at(self._work):
            self._helper.let_go()


class _Alone:
    value = math.inf


@contextmanager
def elsewhere(work: Work, things: Sequence[object], least: float = math.inf) -> Iterator[Elsewhere | None]:
    """Some work that a helper does meanwhile, let go at the end; None: there is no help."""
    helper = begun(work, things, least)
    if helper is None:
        yield None
        return
    there = Elsewhere(helper, work)
    try:
        yield there
    finally:
        there.let_go()


def _serve(pipe: Connection, least: Number, taken: MutableSequence[int], stop: Number) -> None:
    """The main loop of a helper process."""
    # what searches are made with takes seconds to load
    import_module(".search", __package__)
    for compiled in (".growing", ".pricing", ".programs", ".serving", ".summing"):
        import_module(compiled, __package__)
    with _collected_seldom():
        _work_through(pipe, least, taken, stop)


def _work_through(pipe: Connection, least: Number, taken: MutableSequence[int], stop: Number) -> None:
    """Do one piece of work after the other until the pipe closes."""
    pipe.send(("ready", None))
    told_at = 0.0

    def watch(progress: Progress | Share) -> None:
        nonlocal told_at
        if stop.value:
            raise Stopped("Nobody waits for this any more.")
        if time.monotonic() - told_at > TOLD_EVERY_S:
            told_at = time.monotonic()
            pipe.send(("told", progress))

    while True:
        try:
            things, work = pickle.loads(pipe.recv_bytes())
            try:
                with watched(watch):
                    reply = work(Mark(least, taken))
                pipe.send(("done", _written(reply, things)))
            except Exception as error:
                pipe.send(("failed", error))
        except (EOFError, OSError, KeyboardInterrupt):
            return


class _Writer(pickle.Pickler):
    """A pickler that writes objects known to both processes as numbers."""

    def __init__(self, file: io.BytesIO, things: Sequence[object]) -> None:
        super().__init__(file, pickle.HIGHEST_PROTOCOL)
        self._numbers = {id(thing): number for number, thing in enumerate(things)}

    def persistent_id(self, thing: object) -> int | None:
        return self._numbers.get(id(thing))


class _Reader(pickle.Unpickler):
    """An unpickler that reads these numbers as the objects known to both processes."""

    def __init__(self, content: bytes, things: Sequence[object]) -> None:
        super().__init__(io.BytesIO(content))
        self._things = things

    def persistent_load(self, number: Any) -> object:
        return self._things[number]


def _written(reply: object, things: Sequence[object]) -> bytes:
    file = io.BytesIO()
    _Writer(file, things).dump(reply)
    return file.getvalue()
