"""The collector of cycles in processes that hold many rows for long: a project of ten thousand drops is millions of
objects, and to look through all of them after every few thousand new ones took two fifths of an edit."""

import gc

THRESHOLDS = (50_000, 20, 50)
"""New objects, and collections of each younger generation, after which it looks (as `gc.set_threshold`)."""


def collect_seldom() -> None:
    """What is there by now is left alone for good, and what comes is looked at less often."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(*THRESHOLDS)
