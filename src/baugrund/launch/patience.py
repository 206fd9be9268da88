"""HTTP/1.1 with an end to patience: a request whose head does not come to its end takes its connection with it."""

from __future__ import annotations

from asyncio import TimerHandle
from typing import Any

import h11
from uvicorn.protocols.http.h11_impl import H11Protocol

HEAD_WITHIN_S = 15.0
"""From the opening of a connection, or the first byte of a further request, to the end of its head [s]."""


class PatientProtocol(H11Protocol):
    """uvicorn's protocol with a limit on the time that the head of a request may take."""

    _head: TimerHandle | None = None

    def connection_made(self, transport: Any) -> None:
        super().connection_made(transport)
        self._wait_for_head()

    def connection_lost(self, exc: Exception | None) -> None:
        self._head_is_there()
        super().connection_lost(exc)

    def data_received(self, data: bytes) -> None:
        super().data_received(data)
        if self.conn.their_state is h11.IDLE:
            self._wait_for_head()
        else:
            self._head_is_there()

    def _wait_for_head(self) -> None:
        if self._head is None:
            self._head = self.loop.call_later(HEAD_WITHIN_S, self.transport.close)

    def _head_is_there(self) -> None:
        if self._head is not None:
            self._head.cancel()
            self._head = None
