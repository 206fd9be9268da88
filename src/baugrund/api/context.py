"""What every route works with: the projects, the catalogues, the queue, and the acting account."""

from __future__ import annotations

import re
from collections import OrderedDict
from dataclasses import dataclass, field
from pathlib import Path
from threading import Lock
from typing import Annotated
from urllib.parse import unquote

from fastapi import Depends, Header, Request

from baugrund.core.errors import InvalidInput
from baugrund.core.plan import Picker
from baugrund.store.catalogues import Catalogues
from baugrund.store.pictures import Pictures
from baugrund.store.projects import Projects, Stored
from baugrund.tasks.queue import Queue

PICKERS_KEPT = 8


@dataclass(frozen=True)
class Context:
    """Made once at start."""

    projects: Projects
    catalogues: Catalogues
    database_url: str
    pictures: Pictures
    queue: Queue
    fonts: Path | None = None
    """Where the fonts of printed sheets are."""
    _pickers: OrderedDict[tuple[int, int], Picker] = field(default_factory=OrderedDict)
    _lock: Lock = field(default_factory=Lock)

    def picker(self, stored: Stored) -> Picker:
        """The picker of a project as it stands; the last few are kept, for several answers ask at once."""
        key = (stored.id, stored.revision)
        with self._lock:
            picker = self._pickers.get(key) or Picker(stored.project, self.catalogues.of(stored.project))
            self._pickers[key] = picker
            self._pickers.move_to_end(key)
            while len(self._pickers) > PICKERS_KEPT:
                self._pickers.popitem(last=False)
        return picker


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
