"""What every route works with: the projects, the catalogues, the queue, and the acting account."""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from typing import Annotated
from urllib.parse import unquote
from uuid import UUID

from anyio import CapacityLimiter
from fastapi import Depends, Header, Request

from baugrund.core.answers.picker import Balance
from baugrund.core.errors import InvalidInput
from baugrund.core.patch.told import PatchTold
from baugrund.core.price.costs import JobCosts
from baugrund.core.standing.ground import Ground
from baugrund.store.catalogues import Catalogues
from baugrund.store.meanings import RememberedMeanings
from baugrund.store.pictures import Pictures
from baugrund.store.projects import Projects
from baugrund.tasks.queue import Queue

from .kept_of import KeptOf
from .notices import Notices

READERS_MOST = 2
GROUNDS_KEPT = 64
"""Projects whose last grounds are kept: where many work at once, the next edit of each begins from them."""


@dataclass(frozen=True)
class Context:
    """Made once at start."""

    projects: Projects
    catalogues: Catalogues
    notices: Notices
    pictures: Pictures
    queue: Queue
    meanings: RememberedMeanings
    patched: KeptOf[PatchTold] = field(default_factory=KeptOf)
    priced: KeptOf[JobCosts] = field(default_factory=KeptOf)
    balances: KeptOf[Balance] = field(default_factory=KeptOf)
    grounds: KeptOf[tuple[Ground, ...]] = field(default_factory=lambda: KeptOf(GROUNDS_KEPT, one_each=True))
    readers: CapacityLimiter = field(default_factory=lambda: CapacityLimiter(READERS_MOST))
    """So many files are read at once; others wait without a thread."""


def context_of(request: Request) -> Context:
    context = request.app.state.context
    assert isinstance(context, Context)
    return context


def acting_account(
    x_account: Annotated[str, Header(max_length=600, description="A name, percent-encoded.")] = "you",
) -> str:
    """Who acts.  One person on one machine is *you*; browsers may name themselves.  Raises InvalidInput."""
    name = unquote(x_account)
    if not re.fullmatch(r"[\w .@-]{1,60}", name):
        raise InvalidInput("An account has a name of letters, digits, spaces and . @ - _, 60 at most.", "X-Account")
    return name


Works = Annotated[Context, Depends(context_of)]
Account = Annotated[str, Depends(acting_account)]
ChangeId = Annotated[
    UUID | None,
    Header(
        alias="Idempotency-Key",
        description="Made by whoever sends a change; a change that is sent again under it is not made again.",
    ),
]
