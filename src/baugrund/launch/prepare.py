"""What is made once on a machine, so that nobody waits for it later: the machine code of a search."""

from __future__ import annotations

from baugrund.core.pick.best import least_price
from baugrund.core.pick.site import Site

from .cases import made_up_catalogue, made_up_closet, made_up_needs


def prepare() -> None:
    """Look for one pick: all that is compiled is needed for it, and its code is kept (`core.pick.compiled`)."""
    least_price(Site((made_up_closet(made_up_needs(40, 2), made_up_catalogue(40, 1)),), {}), seconds=120)
