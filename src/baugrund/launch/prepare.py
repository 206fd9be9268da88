"""What is made once on a machine, so that nobody waits for it later: the machine code of searches."""

from __future__ import annotations

import numpy as np

from baugrund.core.pick.best import least_price
from baugrund.core.pick.site import Site
from baugrund.core.prove.tracing.matching import EXACT_POSITIONS, posterior
from baugrund.core.stack.arrangement import arrange

from .bench_stack import WISHES, made_up_rack
from .cases import made_up_catalogue, made_up_closet, made_up_needs


def prepare() -> None:
    """Look for one pick, one arrangement and one panel's chances: all that is compiled is kept (`core.compiled`)."""
    least_price(Site((made_up_closet(made_up_needs(40, 2), made_up_catalogue(40, 1)),), {}), seconds=120)
    closet, things, cords = made_up_rack(3)
    arrange(closet, things[:4], cords, WISHES)
    jacks = EXACT_POSITIONS + 1
    posterior(np.full((jacks, jacks), 1 / jacks), np.full(jacks, 1 / jacks))
