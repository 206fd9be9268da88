"""Files from outside are read in a process of their own, which has so much memory and so many seconds, and no more.

A file can be made so that its reader never ends, takes all memory, or falls; here only that process does.  Processes
are forked from one that has the readers loaded, so that one costs some milliseconds.

References
----------
.. [1] POSIX.1-2017, setrlimit(): RLIMIT_AS, RLIMIT_CPU.
"""

from __future__ import annotations

import ctypes
import logging
import os
import pickle
import resource
import signal
import time
from collections.abc import Callable
from functools import cache
from multiprocessing import get_context
from multiprocessing.connection import Connection
from multiprocessing.context import ForkServerContext
from typing import TypeVar, cast

from baugrund.core.errors import BaugrundError, InvalidInput

log = logging.getLogger(__name__)

MEMORY_BYTES = 1_200_000_000
"""Address space of a reader, with its program."""
CPU_S = 20
WITHIN_S = 40.0
"""From its beginning to its end, should it wait for anything [s]."""
NICENESS = 5
READERS = ["baugrund.cli", "baugrund.exchange.pictures", "baugrund.exchange.project_file", "baugrund.exchange.tables"]
DRAWING = ["ezdxf.recover", "ezdxf.addons.drawing.frontend", "ezdxf.addons.drawing.svg"]
PR_SET_PDEATHSIG = 1
Read = TypeVar("Read")


@cache
def _context() -> ForkServerContext:
    context = get_context("forkserver")
    context.set_forkserver_preload(READERS + DRAWING)
    return context


def apart(read: Callable[[bytes], Read], content: bytes) -> Read:
    """The result of a reader on the content of a file; ``read``: a function of a module, its result can be pickled.

    Raises what the reader raises for users, and InvalidInput when it takes too much memory or time, or falls.
    """
    mine, theirs = _context().Pipe(duplex=False)
    with mine:
        process = _context().Process(target=_serve, args=(read, content, theirs), daemon=True)
        begun_at = time.monotonic()
        process.start()
        theirs.close()
        try:
            told = mine.recv_bytes() if mine.poll(WITHIN_S) else None
        except EOFError:
            told = None
        process.kill()
        process.join()
    if told is None:
        took_s = time.monotonic() - begun_at
        is_slow = process.exitcode == -signal.SIGXCPU or took_s >= CPU_S
        why = f"it takes more than the {CPU_S} s" if is_slow else "it is damaged, or takes more than the memory"
        raise InvalidInput(f"The file cannot be read: {why} that a file may take.")
    result = pickle.loads(told)
    if isinstance(result, BaugrundError):
        raise result
    return cast(Read, result)


def _serve(read: Callable[[bytes], object], content: bytes, told: Connection) -> None:
    """The main function of a reader process."""
    ctypes.CDLL(None).prctl(PR_SET_PDEATHSIG, signal.SIGKILL)
    os.nice(NICENESS)
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY_BYTES, MEMORY_BYTES))
    resource.setrlimit(resource.RLIMIT_CPU, (CPU_S, CPU_S + 1))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    try:
        result = read(content)
    except BaugrundError as error:
        result = error
    except MemoryError:
        result = InvalidInput("The file cannot be read: it takes more than the memory that a file may take.")
    except RecursionError:
        result = InvalidInput("The file cannot be read: its parts are nested too deeply.")
    except Exception:
        log.exception("a file that could not be read")
        result = InvalidInput("The file cannot be read: a part of it is damaged.")
    told.send_bytes(pickle.dumps(result, pickle.HIGHEST_PROTOCOL))
