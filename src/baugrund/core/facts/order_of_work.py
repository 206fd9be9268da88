"""What was ticked off while the network is built, and what was written down of each device at the bench."""

from __future__ import annotations

import re
from datetime import datetime
from typing import Annotated

from pydantic import AfterValidator, Field, StringConstraints

from ..standards.order_of_work import BuildStage
from .fact import Fact, Id, Text

MAX_TICKS = 10_000
MAX_SUBJECTS = 2_000
"""Things that one press ticks off."""
MAX_BENCHED = 10_000

SUBJECT = r"(?:site|(?:drop|closet|path|link|kit|room|line|extra)/[0-9]+|thing/[0-9]+/[a-z]+/.{1,80})"
SubjectKey = Annotated[str, StringConstraints(max_length=110, pattern=f"^{SUBJECT}$")]
"""What a step is about: ``drop/7``, ``closet/1``, ``thing/1/box/switch-24/1`` of closet 1, ``line/2``, ``site``."""


def drop_of(subject: str) -> int | None:
    """The number of the drop that a subject is; None: it is something else."""
    kind, _, rest = subject.partition("/")
    return int(rest) if kind == "drop" else None


_EUI48 = re.compile(r"[0-9A-F]{12}")


def _digits(text: str) -> str:
    return re.sub(r"[\s:.\-]", "", text).upper()


def hardware_problem(text: str) -> str | None:
    """What is wrong with a hardware address; None: it is an EUI-48 of one device (IEEE Std 802-2014, 8.2)."""
    digits = _digits(text)
    if not _EUI48.fullmatch(digits):
        return f"{text!r} is no hardware address; one has twelve digits of 0 to 9 and A to F"
    if int(digits[:2], 16) & 1:
        return f"{text} is an address of groups: the first two digits of a device’s are even"
    if digits == "0" * 12:
        return f"{text} is no address of a device"
    return None


def plain_hardware(text: str) -> str:
    """A hardware address as it is kept, ``AA:BB:CC:DD:EE:FF``.  Raises ValueError where it is none; empty stays so."""
    if not text:
        return ""
    if problem := hardware_problem(text):
        raise ValueError(problem)
    digits = _digits(text)
    return ":".join(digits[place : place + 2] for place in range(0, 12, 2))


Hardware = Annotated[str, StringConstraints(max_length=40, strip_whitespace=True), AfterValidator(plain_hardware)]
"""An EUI-48 in any usual writing, kept as AA:BB:CC:DD:EE:FF; empty: nobody has read it."""


class Ticked(Fact):
    """A stage that is done for so many things, by whom and when."""

    id: Id
    stage: BuildStage
    subjects: Annotated[tuple[SubjectKey, ...], Field(min_length=1, max_length=MAX_SUBJECTS)]
    at: datetime | None = None
    """When, in the time of the place."""
    by: Text = ""
    ended_in: Id | None = None
    """The closet in which the cables of these drops ended then; None: they are none, or nobody has kept it."""


class Benched(Fact):
    """A device as it was at the bench."""

    id: Id
    subject: SubjectKey
    powered: bool = False
    named: bool = False
    updated: bool = False
    version: Text = ""
    """What it runs since."""
    serial: Text = ""
    hardware: Hardware = ""
    at: datetime | None = None
    by: Text = ""
