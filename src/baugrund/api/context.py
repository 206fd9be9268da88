"""What every route works with: the projects, the catalogue, and the acting account."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from fastapi import Depends, Header, Request

from baugrund.core.catalogue import Catalogue
from baugrund.store.projects import Projects


@dataclass(frozen=True)
class Context:
    """Made once at start."""

    projects: Projects
    catalogue: Catalogue
    database_url: str


def context_of(request: Request) -> Context:
    context = request.app.state.context
    assert isinstance(context, Context)
    return context


def acting_account(
    x_account: Annotated[str, Header(max_length=60, pattern=r"^[\w .@-]+$")] = "you",
) -> str:
    """Who acts.  One person on one machine is *you*; browsers may name themselves."""
    return x_account


Works = Annotated[Context, Depends(context_of)]
Account = Annotated[str, Depends(acting_account)]
