"""Checks for what is forgotten: the classic omissions of a list of drops."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from ..edits import AddDrops, SetTally
from ..facts.building import Closet
from ..facts.drop_kinds import CLOSET_KINDS, DROP_KINDS
from ..facts.project import Project
from ..gear.beside import is_recorder
from ..places.mounting import parts_of
from ..reach.runs import runs
from ..words import counted, joined
from .finding import Finding, Settle, SiteState

MANY_ACCESS_POINTS = 3
"""From so many on, access points are run by a controller."""


def forgotten(site: SiteState) -> Iterator[Finding]:
    """Recorder, line, controller, files, hubs, rooms without a drop, and a spare on every floor."""
    project = site.project
    kinds = Counter[str](drop.kind for drop in project.drops)
    if kinds["camera"] and not kinds["recorder"] and project.rooms:
        room = next((r for r in project.rooms if not r.outside), project.rooms[0])
        yield Finding(
            key="no-recorder", weight="strains", subject="Recorder", verb="walk",
            text=f"{counted(kinds['camera'], 'camera')} and no recorder on the list.",
            settle=Settle(
                label=f"Add one in {room.name}", edit=SetTally(room_id=room.id, kind="recorder", count=1)
            ),
        )  # fmt: skip
    if project.drops and not project.lines:
        yield Finding(
            key="no-line", weight="note", subject="Internet", verb="brief",
            text="no line is listed, so any router will do for it.",
            settle=Settle(label="List the line", verb="brief"),
        )  # fmt: skip
    here = _closet_room(project)
    for kind, wanted in _missing(project, kinds):
        row = DROP_KINDS[kind]
        settle = None
        if here is not None:
            label = f"Add one in {project.rooms_by_id[here].name}"
            settle = Settle(label=label, edit=AddDrops(room=here, kind=row.key))
        yield Finding(
            key=f"no-{kind}", weight="note", subject=row.name, verb="walk", text=wanted, settle=settle
        )  # fmt: skip
    yield from _bare_rooms(project)
    yield from _no_spare(project)


def _missing(project: Project, kinds: Counter[str]) -> Iterator[tuple[str, str]]:
    access_points = kinds["access_point"]
    if access_points >= MANY_ACCESS_POINTS and not kinds["controller"]:
        yield "controller", f"{counted(access_points, 'access point')} and no controller listed; one may be built in."
    if len(project.drops) >= 8 and not kinds["nas"] and kinds["desk"] >= 4:
        yield "nas", f"{counted(kinds['desk'], 'desk')}, and no place for shared files is listed."
    if len(project.drops) >= 8 and not kinds["hub"]:
        yield "hub", "no lighting, heating or other hub is listed; a home easily has several, all wired."


def _closet_room(project: Project) -> int | None:
    if project.head_end.room_id is not None:
        return project.head_end.room_id
    return next((room.id for room in project.rooms if not room.outside), None)


def _bare_rooms(project: Project) -> Iterator[Finding]:
    """Rooms to work in, without a single drop."""
    taken = {drop.room_id for drop in project.drops}
    bare = [room for room in project.rooms if room.use == "work" and room.id not in taken]
    if project.drops and bare:
        edit = SetTally(room_id=bare[0].id, kind="desk", count=1)
        yield Finding(
            key="bare-rooms", weight="note", subject="Rooms", verb="walk",
            text=f"{joined([room.name for room in bare[:4]])} {'is' if len(bare) == 1 else 'are'} to work in and "
                 "without a drop.",
            settle=Settle(label=f"Add a desk in {bare[0].name}", edit=edit),
        )  # fmt: skip


def _no_spare(project: Project) -> Iterator[Finding]:
    with_spare = {drop.room_id for drop in project.drops if not drop.in_use}
    floors: dict[int, bool] = {}
    for room in project.rooms:
        if not room.outside:
            floors[room.floor_id] = floors.get(room.floor_id, False) or room.id in with_spare
    bare = [project.floors_by_id[floor].name for floor, spare in floors.items() if not spare]
    if bare and len(project.drops) >= 8:
        room = next(r for r in project.rooms if project.floor_name(r) == bare[0] and not r.outside)
        yield Finding(
            key="no-spare", weight="note", subject="Spare", verb="walk",
            text=f"no drop is kept spare on {', '.join(bare)}.",
            settle=Settle(label=f"Add one in {room.name}", edit=AddDrops(room=room.id, kind="spare")),
        )  # fmt: skip


def closet_sockets(site: SiteState) -> Iterator[Finding]:
    """What stands in a closet beside the boxes wants mains too; plug bricks cover two sockets."""
    for closet in site.project.closets:
        if closet.room_id is not None:
            yield from _plugs(site, closet)


def _plugs(site: SiteState, closet: Closet) -> Iterator[Finding]:
    project = site.project
    here = [d for d in project.drops if d.room_id == closet.room_id and d.kind in CLOSET_KINDS]
    # a recorder chosen apart takes a socket of the pick's
    devices = [d for d in here if not (d.model and site.catalogue and is_recorder(site.catalogue, d.model))]
    boxes = sum(line.box != "none" for line in project.lines) if closet is project.head_end else 0
    bricks = sum(d.kind in ("hub", "nas", "controller") for d in devices) + boxes
    wanted = len(devices) + boxes
    if not wanted:
        return
    takes = f"{counted(wanted, 'plug')} beside the boxes ({counted(bricks, 'plug brick')}, each wider than one socket)"
    if closet.other_sockets is None:
        yield Finding(key=f"plugs-{closet.id}", weight="note", subject=closet.name, verb="brief",
                      text=f"{takes}: count the sockets for them.",
                      settle=Settle(label="Count them", verb="brief"))  # fmt: skip
    elif wanted + bricks > closet.other_sockets:
        yield Finding(
            key=f"plugs-{closet.id}", weight="strains", subject=closet.name, verb="brief",
            text=f"{takes} want {wanted + bricks} sockets; there are {closet.other_sockets}. A new socket is work for "
                 "a licensed electrician.",
            settle=Settle(label="Count again", verb="brief"),
        )  # fmt: skip


def unknown_surfaces(site: SiteState) -> Iterator[Finding]:
    """Devices whose small parts cannot be told, for nobody has said what they are fixed to."""
    unsaid = tuple(drop.id for drop in site.project.drops if parts_of(drop) is None)
    if unsaid:
        yield Finding(
            key="surfaces", weight="note", subject="Surfaces", verb="walk", drop_ids=unsaid,
            text=f"{counted(len(unsaid), 'device')} without a surface: anchors, boxes and gaskets cannot be told.",
        )  # fmt: skip


def guessed_runs(site: SiteState) -> Iterator[Finding]:
    """Runs that nobody has typed to a closet that is nowhere yet."""
    guessed = tuple(run.drop_id for run in runs(site.project).values() if run.state == "guess")
    if guessed:
        yield Finding(
            key="runs", weight="note", subject="Runs", verb="brief", drop_ids=guessed,
            text=f"{counted(len(guessed), 'run')} cannot be measured while the closet has no room: the usual length of "
                 "the kind is taken.",
            settle=Settle(label="Choose its room", verb="brief"),
        )  # fmt: skip
