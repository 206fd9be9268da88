"""Services that one network may offer another, by name, with their ports.

References
----------
.. [1] IANA, Service Name and Transport Protocol Port Number Registry (RFC 6335).
"""

from __future__ import annotations

import re
from dataclasses import dataclass


@dataclass(frozen=True)
class Service:
    """A service: its name and the ports that it listens on [1]_."""

    key: str
    name: str
    ports: tuple[str, ...]


SERVICES: dict[str, Service] = {
    one.key: one
    for one in (
        Service("names", "Names and time", ("udp 53", "tcp 53", "udp 123")),
        Service("web", "Web pages", ("tcp 80", "tcp 443")),
        Service("printing", "Printing", ("tcp 631", "tcp 9100")),
        Service("files", "Shared files", ("tcp 445", "tcp 2049")),
        Service("video", "Camera streams", ("tcp 554", "udp 554")),
        Service("voice", "Telephone", ("udp 5060", "tcp 5061")),
        Service("shell", "Remote shell", ("tcp 22",)),
        Service("screens", "Remote screens", ("tcp 3389", "tcp 5900")),
    )
}

PORTS = re.compile(r"(tcp|udp) (\d{1,5})(?:-(\d{1,5}))?")


def port_problem(service: str) -> str | None:
    """What is wrong with a service as it is named; None: it is one of the table, or ports are named well."""
    if service in SERVICES:
        return None
    told = PORTS.fullmatch(service)
    if told is None:
        known = ", ".join(SERVICES)
        return f"there is no service {service!r}; there are {known}, or ports like tcp 8080 or udp 5000-5010"
    first, last = int(told[2]), int(told[3] or told[2])
    if not 1 <= first <= last <= 65_535:
        return f"{service!r}: ports go from 1 to 65535, the lower one first"
    return None
