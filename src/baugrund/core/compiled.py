"""Functions as machine code, made by Numba when they are first run.

Modules that hold such functions are imported where they are needed first: whoever only reads picks that were found
does without Numba.  The code is kept in a cache beside the module, or in the account's own where that folder may not
be written.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar, cast

from numba import njit

Function = TypeVar("Function", bound=Callable[..., Any])


def compiled(function: Function) -> Function:
    """The same function over arrays and whole numbers, only faster."""
    try:
        made = njit(cache=True, nogil=True)(function)
    except RuntimeError:
        # no folder can hold the cache
        made = njit(nogil=True)(function)
    return cast(Function, made)


def inlined(function: Function) -> Function:
    """A part of compiled functions: it stands in each of them, for a call takes longer than what it does."""
    return cast(Function, njit(inline="always")(function))
