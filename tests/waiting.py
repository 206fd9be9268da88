"""Waiting for what goes on elsewhere: long enough that a slow machine comes to it too."""

import time

import httpx

PATIENCE_S = 300.0
HTTP = httpx.Client(timeout=PATIENCE_S)
"""For what is asked of a server of its own."""


def until(true, seconds=PATIENCE_S, passing=()):
    """What ``true`` gives once it is true; an error of ``passing`` counts as not yet.

    Raises:
        AssertionError: it has not become true in so many seconds.
    """
    ends_at = time.monotonic() + seconds
    while True:
        try:
            if got := true():
                return got
        except passing:
            pass
        assert time.monotonic() < ends_at, "it has not come about in time"
        time.sleep(0.05)
