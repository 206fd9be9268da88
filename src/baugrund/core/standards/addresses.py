"""What an address plan may use.

References
----------
.. [1] RFC 1918: 10.0.0.0/8, 172.16.0.0/12, 192.168.0.0/16 for private networks.
.. [2] RFC 6598: 100.64.0.0/10, shared by a provider's customers.
.. [3] RFC 4291, 2.5.1, RFC 4193: a /64 a network; fd00::/8 of one's own.
"""

from __future__ import annotations

from ipaddress import AddressValueError, IPv4Address, IPv4Network, IPv6Network, NetmaskValueError

PRIVATE = tuple(IPv4Network(text) for text in ("10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16"))
"""[1]_"""
SHARED = IPv4Network("100.64.0.0/10")
"""[2]_"""
LONGEST = 30
"""A network has two addresses for hosts at least."""


def prefix_problem(text: str) -> str | None:
    """What is wrong with an IPv4 prefix; None: it is one of RFC 1918."""
    try:
        prefix = IPv4Network(text)
    except (AddressValueError, NetmaskValueError, ValueError):
        return f"{text!r} is no prefix; one is written like 10.20.30.0/24, with zeros after its length"
    if "/" not in text or prefix.prefixlen > LONGEST:
        return f"{text!r} has no room for hosts; a prefix is /{LONGEST} at the longest"
    if not any(prefix.subnet_of(one) for one in PRIVATE):
        return f"{text} is not of RFC 1918 (10.0.0.0/8, 172.16.0.0/12, 192.168.0.0/16)"
    return None


def prefix6_problem(text: str) -> str | None:
    """What is wrong with an IPv6 prefix; None: it is one of /64 or shorter."""
    try:
        prefix = IPv6Network(text)
    except (AddressValueError, NetmaskValueError, ValueError):
        return f"{text!r} is no IPv6 prefix; one is written like fd12:3456:789a::/48, with zeros after its length"
    return None if prefix.prefixlen <= 64 else f"{text} is longer than /64, which one network takes"


def address_problem(text: str) -> str | None:
    """What is wrong with an IPv4 address; None: it is one."""
    try:
        IPv4Address(text)
    except AddressValueError:
        return f"{text!r} is no address; one is written like 10.20.30.4"
    return None


def behind_translation(address: str) -> bool:
    """Whether an address of a WAN port shows that a router before it translates as well [1]_ [2]_."""
    at = IPv4Address(address)
    return at in SHARED or any(at in one for one in PRIVATE)
