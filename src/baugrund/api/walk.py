"""Walk: the kinds of drop, templates for an empty project, the quick line, the layout, the small parts."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter
from pydantic import Field

from baugrund.core.answers.asked import Known, ask
from baugrund.core.facts.drop_kinds import DROP_KINDS, DropKind, KindKey
from baugrund.core.facts.fact import Fact, Text, numbers
from baugrund.core.places.layout import Layout, layout
from baugrund.core.places.mounting import small_parts
from baugrund.core.reach.runs import runs
from baugrund.core.walk.quick_line import Understood, understand
from baugrund.core.walk.room_list import RoomsUnderstood, understand_rooms
from baugrund.core.walk.room_starters import STARTERS, Starter

from .context import Works
from .patch import patch_told
from .standing import balance_for, followed_by, grounds_for
from .uploads import JsonRoute

router = APIRouter(prefix="/api", tags=["walk"], route_class=JsonRoute)


class VariantLine(Fact):
    """A variant of a kind."""

    key: str
    name: str
    lan_ports: int


class KindLine(Fact):
    """A kind of drop as the tally shows it."""

    key: KindKey
    name: str
    plural: str
    column: str
    powered: bool
    run_m: float
    variants: tuple[VariantLine, ...]

    @classmethod
    def of(cls, kind: DropKind) -> KindLine:
        return cls(
            key=kind.key,
            name=kind.name,
            plural=kind.plural,
            column=kind.column,
            powered=kind.poe_class is not None,
            run_m=kind.run_m,
            variants=tuple(VariantLine(key=v.key, name=v.name, lan_ports=v.lan_ports) for v in kind.variants),
        )


class QuickLine(Fact):
    """A line as typed, and the room that is selected."""

    text: Annotated[str, Field(max_length=500)]
    room_id: int | None = None


class RoomList(Fact):
    """Rooms as typed or pasted, and the floor that they are on."""

    text: Annotated[str, Field(max_length=20_000)]
    floor: Text = ""
    outside: bool = False


class DrawnRun(Fact):
    """Corners of a run as it will be pulled: x, y, elevation [m], from the closet to the drop."""

    drop_id: int
    corners: tuple[Annotated[tuple[float, float, float], numbers(3)], ...]
    floor_ids: tuple[int, ...]


class LayoutFor(Fact):
    """The layout of a revision, and the ways of its runs."""

    revision: int
    layout: Layout
    ways: tuple[DrawnRun, ...]


class SmallPart(Fact):
    """A small part and how many of it."""

    name: str
    count: int


@router.get("/kinds")
def kinds() -> list[KindLine]:
    return [KindLine.of(kind) for kind in DROP_KINDS.values()]


@router.get("/room-starters", response_model_exclude_unset=True)
def room_starters() -> list[Starter]:
    """Rooms and drops to begin with: only what differs from the usual, as edits are sent."""
    return list(STARTERS)


class QuickReply(Understood):
    """What a line was understood as, or the answer to what it asks."""

    answer: tuple[str, ...] = ()
    drop_ids: tuple[int, ...] = ()
    """Drops that the answer is about."""


@router.post("/projects/{project_id}/quick-line")
def quick_line(project_id: int, line: QuickLine, works: Works) -> QuickReply:
    """What a line adds, or the answer where it is a question; nothing is changed."""
    stored = works.projects.load(project_id)
    _, followed = followed_by(works, stored)
    known = Known(
        stored.project, works.catalogues.of(stored.project), followed,
        lambda: patch_told(works, stored),
        lambda: balance_for(works, stored),
        lambda: grounds_for(works, stored),
        line.room_id,
    )  # fmt: skip
    answered = ask(line.text, known)
    if answered is None:
        said = understand(line.text, stored.project, line.room_id)
        return QuickReply(**{name: getattr(said, name) for name in Understood.model_fields})
    return QuickReply(tokens=(), told="", complaint="", edits=answered.edits, completions=(), answer=answered.lines,
                 drop_ids=answered.drop_ids)  # fmt: skip


@router.post("/projects/{project_id}/room-list")
def room_list(project_id: int, rooms: RoomList, works: Works) -> RoomsUnderstood:
    imperial = works.projects.load(project_id).project.settings.units == "imperial"
    return understand_rooms(rooms.text, rooms.floor, outside=rooms.outside, imperial=imperial)


@router.get("/projects/{project_id}/layout")
def layout_for(project_id: int, works: Works) -> LayoutFor:
    stored = works.projects.load(project_id)
    found = runs(stored.project).values()
    ways = tuple(
        DrawnRun(drop_id=run.drop_id, corners=run.line.corners, floor_ids=run.line.floor_ids)
        for run in found
        if run.legs
    )
    return LayoutFor(revision=stored.revision, layout=layout(stored.project), ways=ways)


@router.get("/projects/{project_id}/small-parts")
def small_parts_for(project_id: int, works: Works) -> list[SmallPart]:
    """Boxes, plates, anchors, gaskets and cords that follow from what the drops are mounted on."""
    project = works.projects.load(project_id).project
    return [SmallPart(name=name, count=count) for name, count in small_parts(project.drops).items()]
