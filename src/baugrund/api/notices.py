"""Word of edits and questions from the database: one connection listens, and whoever waits for word is told."""

from __future__ import annotations

import asyncio
import json
import logging
from collections import defaultdict
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager, suppress

import psycopg

log = logging.getLogger(__name__)

EVERYTHING = ""
AGAIN = json.dumps({"again": True})
"""Word that some may have been missed: what is shown is to be looked at again."""
WAITING_MOST = 200
"""Notices that one listener has not taken yet; more of them become `AGAIN`."""
BACK_AFTER_S = 1.0


class Notices:
    """Notices of one database, given on to listeners by what they are about (``project 7``), or all of them."""

    def __init__(self, url: str) -> None:
        self.url = url
        self._listeners: dict[str, set[asyncio.Queue[str]]] = defaultdict(set)

    @asynccontextmanager
    async def running(self) -> AsyncIterator[None]:
        """Listen while inside."""
        task = asyncio.create_task(self._listen())
        try:
            yield
        finally:
            task.cancel()
            with suppress(asyncio.CancelledError):
                await task

    @asynccontextmanager
    async def of(self, about: str) -> AsyncIterator[asyncio.Queue[str]]:
        """The notices from now on, as JSON."""
        heard: asyncio.Queue[str] = asyncio.Queue(WAITING_MOST)
        self._listeners[about].add(heard)
        try:
            yield heard
        finally:
            self._listeners[about].discard(heard)
            if not self._listeners[about]:
                del self._listeners[about]

    async def _listen(self) -> None:
        """One connection, made again whenever it is lost."""
        while True:
            try:
                async with await psycopg.AsyncConnection.connect(self.url, autocommit=True) as connection:
                    await connection.execute("LISTEN baugrund_edits")
                    self._tell_all(AGAIN)
                    async for notice in connection.notifies():
                        self._tell(notice.payload)
            except psycopg.Error as error:
                log.warning("no word from the database: %s", error)
            await asyncio.sleep(BACK_AFTER_S)

    def _tell(self, notice: str) -> None:
        said = json.loads(notice)
        kind = "project" if said.get("project") is not None else "catalogue"
        for about in (f"{kind} {said.get(kind)}", EVERYTHING):
            for heard in self._listeners.get(about, ()):
                _put(heard, notice)

    def _tell_all(self, notice: str) -> None:
        for listeners in self._listeners.values():
            for heard in listeners:
                _put(heard, notice)


def _put(heard: asyncio.Queue[str], notice: str) -> None:
    if heard.full():
        while not heard.empty():
            heard.get_nowait()
        notice = AGAIN
    heard.put_nowait(notice)
