"""The bench: every device with what is written down of it, what is still left, and what a code on a case says.

References
----------
.. [1] ISO/IEC 15434: a message ``[)>`` of format 06 holds fields of data identifiers between group separators.
.. [2] ANSI MH10.8.2: data identifier S is a serial number, 23S a hardware address.
.. [3] GS1 General Specifications: application identifier 21 is a serial number.
"""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence
from datetime import datetime

from ..facts.drop_kinds import DROP_KINDS
from ..facts.fact import Fact
from ..facts.order_of_work import SUBJECT, Benched, hardware_problem, plain_hardware
from ..facts.project import Project
from ..patch.addresses import KeptAddress, address_plan, host_name, managed_boxes
from ..places.labels import labels
from ..price.work_items import BENCHED
from ..stack.told import Stack
from ..standing.ground import Ground

CODE = "baugrund:"
"""How a code begins that the program prints for a device."""
GROUP, RECORD = "\x1d", "\x1e"
LONGEST_SERIAL = 40


class DeviceTold(Fact):
    """A device that goes over the bench."""

    subject: str
    name: str
    kind: str
    """Its kind of drop, ``router`` or ``switch``."""
    where: str
    """Closet, or room."""
    label: str
    """Of its cable."""
    host: str
    """The name that it is given (RFC 1123)."""
    address: str
    """The address that the plan keeps for it; empty: none."""
    model: str
    powered: bool
    named: bool
    updated: bool
    version: str
    serial: str
    hardware: str
    by: str
    at: datetime | None
    clash: str
    """What it has in common with another device that no two have; empty: nothing."""
    code: str
    """What its printed code says."""


class Bench(Fact):
    """All devices."""

    devices: tuple[DeviceTold, ...]
    through: int
    """Switched on, named and up to date."""
    without_serial: int
    without_hardware: int


class CodeRead(Fact):
    """What a code, or a text that was pasted, says; empty: nothing of it."""

    subject: str
    """Of a code that the program printed."""
    serial: str
    hardware: str


def bench_of(project: Project, grounds: Sequence[Ground], stack: Stack) -> Bench:
    """Every box and device of a project with what is written down of it."""
    bare = tuple(_devices(project, grounds, stack))
    here = {one.subject for one in bare}
    rows = {row.subject: row for row in project.benched if row.subject in here}
    clashes = _clashes(rows.values())
    told = tuple(one.model_copy(update=_written(rows.get(one.subject), clashes)) for one in bare)
    return Bench(
        devices=told, through=sum(one.powered and one.named and one.updated for one in told),
        without_serial=sum(not one.serial for one in told), without_hardware=sum(not one.hardware for one in told),
    )  # fmt: skip


def _written(row: Benched | None, clashes: Mapping[str, str]) -> dict[str, object]:
    if row is None:
        return {}
    said = ("powered", "named", "updated", "version", "serial", "hardware", "by", "at")
    return {name: getattr(row, name) for name in said} | {"clash": clashes.get(row.subject, "")}


def _devices(project: Project, grounds: Sequence[Ground], stack: Stack) -> Iterator[DeviceTold]:
    kept = address_plan(project, managed_boxes(project, grounds, stack)).kept
    of_drops = {one.drop_id: one for one in kept if one.drop_id is not None}
    of_boxes = {(one.closet_id, one.thing): one for one in kept if one.thing}
    models = {ground.closet.id: ground.boxes for ground in grounds}
    for here in stack.closets:
        closet = project.closets_by_id[here.closet_id].name
        for thing in here.things:
            if thing.box is None:
                continue
            name = f"{thing.name}, {closet}" if len(project.closets) > 1 else thing.name
            model = models[here.closet_id][thing.box].key
            yield _bare(f"thing/{here.closet_id}/{thing.key}", name, thing.kind, closet, "",
                        of_boxes.get((here.closet_id, thing.key)), model)  # fmt: skip
    called = labels(project)
    for drop in project.drops:
        if drop.kind in BENCHED and drop.in_use:
            room = project.rooms_by_id[drop.room_id].name
            yield _bare(f"drop/{drop.id}", project.name_of(drop), drop.kind, room, called.get(drop.id, ""),
                        of_drops.get(drop.id), drop.model or "")  # fmt: skip


def _bare(
    subject: str, name: str, kind: str, where: str, label: str, kept: KeptAddress | None, model: str
) -> DeviceTold:  # fmt: skip
    said = f"{label} {name}" if label and label != name else name
    return DeviceTold(
        subject=subject, name=name, kind=kind, where=where, label=label, host=kept.host if kept else host_name(said),
        address=kept.address if kept else "", model=model, powered=False, named=False, updated=False, version="",
        serial="", hardware="", by="", at=None, clash="", code=f"{CODE}{subject} {said}",
    )  # fmt: skip


def kind_name(kind: str) -> str:
    """What a kind of device is called."""
    row = DROP_KINDS.get(kind)
    return row.name if row else kind.capitalize()


def _clashes(rows: Iterable[Benched]) -> dict[str, str]:
    """By subject what another device says too: no two have the same hardware address or serial."""
    found: dict[tuple[str, str], list[str]] = defaultdict(list)
    for row in rows:
        for what, value in (("hardware address", row.hardware), ("serial", row.serial.casefold())):
            if value:
                found[what, value].append(row.subject)
    return {
        subject: f"another device has the same {what}"
        for (what, _), subjects in found.items() if len(subjects) > 1 for subject in subjects
    }  # fmt: skip


def read_code(text: str) -> CodeRead:
    """What a code or a pasted text says of a device."""
    text = text.strip()
    if text.startswith(CODE):
        found = re.match(SUBJECT.replace(".{1,80}", r"\S{1,80}"), text.removeprefix(CODE))
        return CodeRead(subject=found.group() if found else "", serial="", hardware="")
    if text.startswith("[)>"):
        fields = re.split(f"[{GROUP}{RECORD}]", text)
        hardware = next((one[3:] for one in fields if one.startswith("23S")), "")
        serial = next((one[1:] for one in fields if re.match(r"S[^\s]", one)), "")
        return CodeRead(subject="", serial=serial[:LONGEST_SERIAL], hardware=_plain(hardware))
    hardware = next((_plain(one) for one in HARDWARE.findall(text) if _plain(one)), "")
    return CodeRead(subject="", serial=_serial(text, hardware), hardware=hardware)


HARDWARE = re.compile(
    r"(?<![0-9A-Za-z])(?:(?:[0-9A-Fa-f]{2}[:-]){5}[0-9A-Fa-f]{2}|(?:[0-9A-Fa-f]{4}\.){2}[0-9A-Fa-f]{4}"
    r"|[0-9A-Fa-f]{12})(?![0-9A-Za-z])"
)
NAMED_SERIAL = re.compile(
    r"(?:\(21\)|\bS/?N[:#\s]|\bserial(?:\s*(?:no\.?|number))?[:#\s])\s*([0-9A-Z][0-9A-Z\-/.]*)", re.IGNORECASE
)


def _plain(text: str) -> str:
    """A hardware address as it is kept; empty: it is none."""
    return "" if hardware_problem(text) else plain_hardware(text)


def _serial(text: str, hardware: str) -> str:
    named = NAMED_SERIAL.search(text)
    if named:
        return named.group(1)[:LONGEST_SERIAL]
    if hardware or len(text) > LONGEST_SERIAL or not re.fullmatch(r"[0-9A-Za-z][0-9A-Za-z\-/.]*", text):
        return ""
    return text
