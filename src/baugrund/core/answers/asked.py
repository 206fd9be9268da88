"""Questions in the quick line: what is on a port, where something is, what is free, and what more drops would take."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from ipaddress import AddressValueError, IPv4Address

from pydantic import field_serializer

from ..edits import Edit, apply_edits, as_sent
from ..errors import BaugrundError
from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.project import Project
from ..patch.lines import PortLine
from ..patch.told import ClosetPatching, PatchTold, closets_of
from ..pick.standing import Standing
from ..stack.told import Stack, stack_of
from ..standing.bearing import Capacity
from ..standing.ground import Ground, grounds_of
from ..walk.quick_line import understand
from ..words import counted
from .picker import Balance, balance_on, standing_boxes

TOLD_MOST = 6
"""Lines of an answer at the most."""
LISTED_MOST = 12
"""Ports that are named before they are only counted."""


class Answered(Fact):
    """The answer to a question; ``edits`` do what it asked about, and nothing is changed before they are sent."""

    lines: tuple[str, ...]
    edits: tuple[Edit, ...] = ()
    drop_ids: tuple[int, ...] = ()

    @field_serializer("edits")
    def _send(self, edits: tuple[Edit, ...]) -> list[dict[str, object]]:
        return [as_sent(edit) for edit in edits]


@dataclass(frozen=True)
class Known:
    """What questions are answered from."""

    project: Project
    catalogue: Catalogue
    followed: Standing | None
    """The boxes of the pick that the project follows."""
    patch: Callable[[], PatchTold]
    balance: Callable[[], Balance]
    grounds: Callable[[], Sequence[Ground]]
    """The port list, the balance and the ground of every closet as they stand."""
    room_id: int | None = None


QUESTIONS = (
    (re.compile(r"(?:what is (?:on|at) )?port (.+)", re.I), "port"),
    (re.compile(r"(?:what is|what's|who is) (.+?)\??", re.I), "what"),
    (re.compile(r"(?:where is|where's) (.+?)\??", re.I), "where"),
    (re.compile(r"(?:how many |what is |which ports are )?free ?(powered|ports?|positions?|fast)?\??", re.I), "free"),
    (re.compile(r"(?:can|could) i (?:add|have) (.+?)\??", re.I), "add"),
)  # fmt: skip


def ask(text: str, known: Known) -> Answered | None:
    """The answer to a line; None: it is no question."""
    line = " ".join(text.split())
    for form, kind in QUESTIONS:
        said = form.fullmatch(line)
        if said is None:
            continue
        rest = (said[1] or "").strip()
        if kind == "port":
            return _port(rest, known)
        if kind in ("what", "where"):
            return _what(rest, known)
        if kind == "free":
            return _free(rest.casefold(), known)
        return _can_add(rest, known)
    return None


def _told(lines: Sequence[str], drop_ids: Sequence[int] = ()) -> Answered:
    more = [f"and {len(lines) - TOLD_MOST + 1} more"] if len(lines) > TOLD_MOST else []
    return Answered(lines=(*lines[: TOLD_MOST - len(more)], *more), drop_ids=tuple(drop_ids))


def _port(text: str, known: Known) -> Answered:
    """Who has a port like 2/14, or a position like A14; the name of a closet before it where there are several."""
    patch = known.patch()
    *closet, spot = text.split(" ")
    named = " ".join(closet).casefold()
    here = [one for one in patch.closets if named in one.name.casefold()]
    wanted = spot.strip("?.").upper()
    found = []
    for one in here:
        lines = {line.key: line for line in one.lines}
        for face in one.faces:
            for port in face.ports:
                if wanted == f"{face.short}{'' if face.kind == 'panel' else '/'}{port.name}":
                    found.append((one, lines.get(port.line)))
    if not found:
        return _told([f"There is no port or position {wanted}; ports are written like 2/14, positions like A14."])
    several = len(patch.closets) > 1
    return _told(
        [f"{wanted}{f' in {one.name}' if several else ''}: {_line(line, known.project) if line else 'free'}"
         for one, line in found],
        [line.drop_id for _, line in found if line and line.drop_id is not None],
    )  # fmt: skip


def _line(line: PortLine, project: Project) -> str:
    """All that is known of a line of the port list, in one sentence."""
    if line.use == "reserve":
        return f"free, kept for growth: {line.kind.replace('_', ' ')}"
    if line.drop_id is None:
        return f"{line.use} {line.name}, {line.at_port}"
    room = project.rooms_by_id[line.room_id].name if line.room_id is not None else ""
    network = next((one for one in project.networks if one.id == line.network_id), None)
    parts = [
        line.name if line.label in ("", line.name) else f"{line.label} {line.name}",
        "" if room in line.name else room,
        line.at_panel and f"position {line.at_panel}",
        f"port {line.at_port}" if line.at_port else "no port",
        f"{line.watts:g} W" if line.watts else "",
        f"network {network.number} {network.name}" if network else "",
        f"run {line.run_m:g} m" if line.run_m else "",
        "to be moved" if line.moves else "",
    ]
    return ", ".join(part for part in parts if part)


def _what(text: str, known: Known) -> Answered:
    """Drops that bear a label or name, or an address, and where each is plugged."""
    patch, project = known.patch(), known.project
    wanted = text.strip(" ?.").casefold()
    address = _by_address(wanted, patch)
    if address is not None:
        return _told([address])
    if re.fullmatch(r"[a-z]+\d+|\d+/\w+", wanted):
        return _port(wanted, known)
    lines = [line for one in patch.closets for line in one.lines if line.drop_id is not None]
    exact = [line for line in lines if wanted in (line.label.casefold(), line.name.casefold())]
    found = exact or next(filter(None, ([one for one in lines if fits(one)] for fits in _fitting(wanted, project))), [])
    hung = [drop for drop in project.drops if drop.behind_id is not None and wanted in project.name_of(drop).casefold()]
    told = [f"{_line(line, project)}." for line in found]
    told += [
        f"{project.name_of(one)}: behind {project.name_of(project.drops_by_id[one.behind_id or 0])}." for one in hung
    ]
    if not told:
        return _told([f"Nothing is called “{text}”: no label, device, room or address."])
    return _told(told, [line.drop_id for line in found if line.drop_id is not None])


def _fitting(wanted: str, project: Project) -> Iterator[Callable[[PortLine], bool]]:
    """How a line may fit what is asked for: all words of it are there whole, or else begin a word."""

    def words(line: PortLine) -> list[str]:
        room = project.rooms_by_id[line.room_id].name if line.room_id is not None else ""
        return re.split(r"\W+", f"{line.label} {line.name} {room}".casefold())

    asked = [word for word in re.split(r"\W+", wanted) if word]
    if asked:
        yield lambda line: all(word in words(line) for word in asked)
        yield lambda line: all(any(one.startswith(word) for one in words(line)) for word in asked)


def _by_address(wanted: str, patch: PatchTold) -> str | None:
    """Who keeps an address; None: it is none."""
    try:
        IPv4Address(wanted)
    except AddressValueError:
        return None
    row = next((one for one in patch.addresses.kept if one.address == wanted), None)
    if row is not None:
        lines = (line for one in patch.closets for line in one.lines)
        at = next((line.at_port for line in lines if row.drop_id is not None and line.drop_id == row.drop_id), "")
        return f"{wanted} is {row.host}, {row.name}{f', on port {at}' if at else ''}."
    for plan in patch.addresses.networks:
        if wanted == plan.gateway:
            return f"{wanted} is the gateway of {plan.prefix}."
        if plan.first_lease and IPv4Address(plan.first_lease) <= IPv4Address(wanted) <= IPv4Address(plan.last_lease):
            return f"{wanted} is leased in {plan.prefix}: nobody keeps it."
    return f"Nobody keeps {wanted}."


def _free(what: str, known: Known) -> Answered:
    """Ports or positions that nobody has, those kept for growth apart."""
    told = []
    for one in known.patch().closets:
        if what.startswith("position"):
            names = [f"{f.short}{p.name}" for f in one.faces if f.kind == "panel" for p in f.ports if not p.line]
            told.append(f"{one.name}: {counted(len(names), 'free position')}{_listed(names)}.")
            continue
        free, kept = _ports(one, what)
        sort = "powered port" if what == "powered" else "fast port" if what == "fast" else "port"
        growth = f"; {counted(len(kept), 'more is', 'more are')} kept for growth{_listed(kept)}" if kept else ""
        told.append(f"{one.name}: {counted(len(free), f'free {sort}')}{_listed(free)}{growth}.")
    return _told(told or ["No closet has boxes yet."])


def _ports(one: ClosetPatching, what: str) -> tuple[list[str], list[str]]:
    """Ports of a closet that nobody has, and those kept for growth."""
    uses = {line.key: line.use for line in one.lines}
    free, kept = [], []
    for face in one.faces:
        for port in face.ports:
            fits = face.kind != "panel" and port.number is not None
            fits = (
                fits
                and (what != "powered" or port.poe_class is not None)
                and (what != "fast" or port.speed_mbit > 1000)
            )
            if fits and not port.line:
                free.append(f"{face.short}/{port.name}")
            elif fits and uses[port.line] == "reserve":
                kept.append(f"{face.short}/{port.name}")
    return free, kept


def _listed(names: Sequence[str]) -> str:
    if not names:
        return ""
    return f": {', '.join(names[:LISTED_MOST])}{' …' if len(names) > LISTED_MOST else ''}"


def _can_add(text: str, known: Known) -> Answered:
    """What drops would take of ports, watts, uplink, disk, positions and battery, and what they would break."""
    project = known.project
    said = understand(text, project, known.room_id)
    if not said.edits:
        return _told([said.complaint or f"“{text}” is not understood."])
    try:
        after = apply_edits(project, said.edits)
    except BaugrundError as error:
        return _told([str(error)])
    standing = standing_boxes(after, known.catalogue, known.followed)
    grounds = grounds_of(after, known.catalogue, standing, known.grounds())
    stack = stack_of(after, known.catalogue, grounds)
    was, now = known.balance(), balance_on(after, known.catalogue, grounds, stack=stack, priced=False)
    known_drops = project.drops_by_id
    new = [drop.id for drop in after.drops if drop.id not in known_drops]
    told = [f"{said.told}: {_ports_of(after, grounds, stack, new)}", *_taken(was, now)]
    broken = _breaks(was, now)
    told.append("; ".join(broken) if broken else "Nothing breaks. Enter adds it.")
    return Answered(lines=tuple(told), edits=said.edits)


def _ports_of(after: Project, grounds: Sequence[Ground], stack: Stack, new: Sequence[int]) -> str:
    """The ports and positions that new drops would get."""
    into = {after.drops_by_id[number].closet_id for number in new}
    there = stack.model_copy(update={"closets": tuple(one for one in stack.closets if one.closet_id in into)})
    _, told = closets_of(after, grounds, there, better=False)
    lines = [line for one in told for line in one.lines if line.drop_id in new]
    places = [" ".join(filter(None, (line.at_panel, line.at_port))) for line in lines if line.at_port]
    without = len(new) - len(places)
    moved = sum(one.moves for one in told)
    parts = [f"ports {', '.join(places[:LISTED_MOST])}" if places else ""]
    parts.append(f"{counted(without, 'drop finds', 'drops find')} no port on the boxes that stand" if without else "")
    parts.append(f"{counted(moved, 'cord has', 'cords have')} to be moved" if moved else "")
    return "; ".join(part for part in parts if part)


def _taken(was: Balance, now: Balance) -> Iterator[str]:
    """Capacities that change, closet by closet and of the site: before, after, limit."""
    before = {(one.closet_id, pit.key): pit for one in was.closets for pit in one.capacities}
    before |= {(0, pit.key): pit for pit in was.site}
    rows: list[tuple[str, int, Capacity]] = [
        (one.name if len(now.closets) > 1 else "", one.closet_id, pit) for one in now.closets for pit in one.capacities
    ]
    rows += [("", 0, pit) for pit in now.site if pit.key != "money"]
    for closet, number, pit in rows:
        old = before.get((number, pit.key))
        if old is not None and (old.used + old.growth, old.limit) != (pit.used + pit.growth, pit.limit):
            where = f", {closet}" if closet else ""
            yield (
                f"{pit.name}{where}: {old.used + old.growth:g} → {pit.used + pit.growth:g} of {pit.limit:g}"
                f" {pit.unit}, {pit.sentence}"
            )


def _breaks(was: Balance, now: Balance) -> list[str]:
    """What would break that does not break today."""
    known = {finding.key for finding in was.findings if finding.weight == "breaks"}
    return [
        f"Breaks: {one.subject} {one.text}" for one in now.findings if one.weight == "breaks" and one.key not in known
    ]
