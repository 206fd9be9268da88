"""What stands between other web pages and the program: who may ask, and what a browser may do with an answer.

The server listens on loopback, where every page that is open in a browser reaches it.  A request must name this server
(so that no foreign name that points at loopback does) and must not come from another origin's page; links from
elsewhere may open a page, nothing else.

References
----------
.. [1] W3C: Fetch Metadata Request Headers, 2.
.. [2] W3C: Content Security Policy Level 3.
"""

from __future__ import annotations

import secrets

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from .problems import problem

NAMES = frozenset(("127.0.0.1", "localhost", "[::1]"))
"""Host names of this machine that a request may be sent to."""
LONGEST_PATH = 2_000
API = "/api/"
POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self' 'nonce-{nonce}'; img-src 'self' data: blob:; "
    "font-src 'self'; connect-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
)
"""Of pages; styles that are written while the page runs carry the nonce."""
HEADERS = {
    "Content-Security-Policy": "default-src 'none'; frame-ancestors 'none'",
    "X-Content-Type-Options": "nosniff",
    "X-Frame-Options": "DENY",
    "Referrer-Policy": "no-referrer",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
}
"""Of every answer that does not say otherwise."""


def page_policy() -> tuple[str, str]:
    """A new nonce, and the content security policy of the page that carries it."""
    nonce = secrets.token_urlsafe(16)
    return nonce, POLICY.format(nonce=nonce)


class Guard:
    """Refuses what no page of this program sends, and adds the protective headers to every answer."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return

        async def guarded(message: Message) -> None:
            if message["type"] == "http.response.start":
                headers = MutableHeaders(scope=message)
                for name, value in HEADERS.items():
                    headers.setdefault(name, value)
            await send(message)

        refused = _refused(scope["method"], scope["path"], scope["scheme"], Headers(scope=scope))
        await (problem(*refused) if refused else self.app)(scope, receive, guarded)


def _refused(method: str, path: str, scheme: str, headers: Headers) -> tuple[int, str, str] | None:
    """Status, title and sentence of a refusal; None: the request may pass."""
    host = headers.get("host", "")
    if host.rpartition(":")[0] not in NAMES and host not in NAMES:
        return 421, "OtherHost", f"This server is reached as one of {', '.join(sorted(NAMES))}, not as {host[:100]!r}."
    origin, site = headers.get("origin"), headers.get("sec-fetch-site", "none")
    is_link = (
        method in ("GET", "HEAD")
        and not path.startswith(API)
        and headers.get("sec-fetch-mode") == "navigate"
        and headers.get("sec-fetch-dest") == "document"
    )
    if origin not in (None, f"{scheme}://{host}") or (site not in ("same-origin", "none") and not is_link):
        return 403, "OtherOrigin", "A page of another origin asked for this; nothing was read or changed."
    if len(path) > LONGEST_PATH:
        return 404, "NotFound", f"No address here has more than {LONGEST_PATH:,} characters."
    return None
