"""What every route works with: the projects, the catalogues, the queue, and the acting account."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Annotated
from urllib.parse import unquote

from fastapi import Depends, Header, Request

from baugrund.core.errors import InvalidInput
from baugrund.store.catalogues import Catalogues
from baugrund.store.meanings import RememberedMeanings
from baugrund.store.pictures import Pictures
from baugrund.store.projects import Projects
from baugrund.tasks.queue import Queue


@dataclass(frozen=True)
class Context:
    """Made once at start."""

    projects: Projects
    catalogues: Catalogues
    database_url: str
    pictures: Pictures
    queue: Queue
    meanings: RememberedMeanings


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
