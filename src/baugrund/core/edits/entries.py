"""Edits of entries: the lists of the brief, buildings, floors, closets, entry points and own kinds, all added,
changed and removed alike.

Values are checked against the row's own type when the edit is applied.
"""

from __future__ import annotations

from typing import Any, Literal

from pydantic import ValidationError

from ..errors import InvalidInput
from ..facts.brief import (
    Addition,
    Declined,
    Duty,
    Goal,
    InternetLine,
    Kit,
    Measure,
    PriceList,
    Service,
    WirelessClients,
)
from ..facts.building import Building, Candidate, Closet, Entry, Floor, Landmark
from ..facts.drop import OwnKind
from ..facts.drop_kinds import DROP_KINDS
from ..facts.fact import Fact, Id
from ..facts.labour import TaskRate
from ..facts.moving import MoveTerm, Running
from ..facts.order_of_work import Benched, Ticked
from ..facts.patch import (
    CableNetworks,
    CordColour,
    Discovered,
    LabelStock,
    Network,
    Patch,
    Permission,
    Printed,
    Reserved,
    Tunnel,
    WifiName,
)
from ..facts.paths import Cable, Colour, Fibre, Path, PathRate
from ..facts.price import Crew, ExtraWork, Offer, OwnTool, Paid, PartTerm, Phase, StageOrder, TaskTerm, Wait, Worked
from ..facts.project import NUMBERED, REFERENCES, Project
from ..facts.prove import AcceptanceResult, RunTest, SignOff
from ..facts.sight import Plot, Target, View
from ..facts.signal import DeviceOffset, Loss, Neighbour, Obstacle, Radio, Reading
from ..facts.stack import Gear, Lifeline, PanelBlock, Placing
from ..facts.tracing import TracedJack, TraceSheet, TraceStep
from ..facts.walls import Opening, Wall
from .rows import Values, found, replaced

ListName = Literal[
    "lines", "goals", "clients", "services", "kit", "measures", "declined", "duties", "additions", "buildings",
    "floors", "closets", "entries", "own_kinds", "paths", "path_rates", "task_rates", "cables", "colours", "fibres",
    "candidates", "landmarks", "walls", "openings", "plots", "views", "targets",
    "radios", "obstacles", "neighbours", "readings", "losses", "offsets",
    "gear", "placings", "panel_blocks", "lifelines",
    "networks", "wifi_names", "permissions", "patches", "cable_networks", "reserved", "tunnels", "printed",
    "stocks", "cord_colours", "discovered",
    "phases", "part_terms", "task_terms", "extra_work", "worked", "offers", "paid", "crews", "waits", "stage_orders",
    "own_tools", "running", "move_terms", "run_tests",
    "trace_sheets", "traced_jacks", "trace_steps", "acceptance", "sign_offs", "ticks", "benched",
    "price_lists",
]  # fmt: skip

LISTS: dict[str, tuple[type[Fact], str]] = {
    "lines": (InternetLine, "line"),
    "goals": (Goal, "goal"),
    "clients": (WirelessClients, "clients"),
    "services": (Service, "service"),
    "kit": (Kit, "kit"),
    "measures": (Measure, "temporary measure"),
    "declined": (Declined, "declined advice"),
    "duties": (Duty, "duty"),
    "additions": (Addition, "planned addition"),
    "buildings": (Building, "building"),
    "floors": (Floor, "floor"),
    "closets": (Closet, "closet"),
    "entries": (Entry, "entry"),
    "own_kinds": (OwnKind, "own kind"),
    "paths": (Path, "path"),
    "path_rates": (PathRate, "rate of a path"),
    "task_rates": (TaskRate, "hours of a task"),
    "cables": (Cable, "cable"),
    "colours": (Colour, "colour"),
    "fibres": (Fibre, "fibre"),
    "candidates": (Candidate, "place for a closet"),
    "landmarks": (Landmark, "landmark"),
    "walls": (Wall, "wall"),
    "openings": (Opening, "opening"),
    "plots": (Plot, "boundary"),
    "views": (View, "view"),
    "targets": (Target, "target"),
    "radios": (Radio, "radio"),
    "obstacles": (Obstacle, "obstacle"),
    "neighbours": (Neighbour, "neighbour"),
    "readings": (Reading, "reading"),
    "losses": (Loss, "loss"),
    "offsets": (DeviceOffset, "offset of a device"),
    "gear": (Gear, "thing"),
    "placings": (Placing, "place of a thing"),
    "panel_blocks": (PanelBlock, "block of a panel"),
    "lifelines": (Lifeline, "service on battery"),
    "networks": (Network, "network"),
    "wifi_names": (WifiName, "Wi-Fi name"),
    "permissions": (Permission, "permission"),
    "patches": (Patch, "patch"),
    "cable_networks": (CableNetworks, "networks of a cable"),
    "reserved": (Reserved, "reserved address"),
    "tunnels": (Tunnel, "tunnel"),
    "printed": (Printed, "printed label"),
    "stocks": (LabelStock, "stock of labels"),
    "cord_colours": (CordColour, "colour of cords"),
    "discovered": (Discovered, "discovered port"),
    "phases": (Phase, "phase"),
    "part_terms": (PartTerm, "terms of a part"),
    "task_terms": (TaskTerm, "terms of a task"),
    "extra_work": (ExtraWork, "work"),
    "worked": (Worked, "hours worked"),
    "offers": (Offer, "offer"),
    "paid": (Paid, "payment"),
    "crews": (Crew, "crew"),
    "waits": (Wait, "wait"),
    "stage_orders": (StageOrder, "order of stages"),
    "own_tools": (OwnTool, "tool"),
    "running": (Running, "thing that runs"),
    "move_terms": (MoveTerm, "terms of a step"),
    "run_tests": (RunTest, "test of a run"),
    "trace_sheets": (TraceSheet, "panel that is traced"),
    "traced_jacks": (TracedJack, "jack to trace"),
    "trace_steps": (TraceStep, "step of tracing"),
    "acceptance": (AcceptanceResult, "result"),
    "sign_offs": (SignOff, "acceptance"),
    "ticks": (Ticked, "tick"),
    "benched": (Benched, "device at the bench"),
    "price_lists": (PriceList, "price list"),
}
"""Per list: the type of its rows, and the word for one."""


class AddEntry(Fact):
    """Add an entry to a list."""

    type: Literal["add_entry"] = "add_entry"
    list: ListName
    values: Values

    def apply(self, project: Project) -> Project:
        row = _checked(self.list, {**self.values, "id": project.next_id})
        rows = (*getattr(project, self.list), row)
        return replaced(project, **{self.list: rows, "next_id": project.next_id + 1})

    def summary(self, project: Project) -> str:
        return f"add the {LISTS[self.list][1]}{_named(self.values)}"


class ChangeEntry(Fact):
    """Change fields of an entry."""

    type: Literal["change_entry"] = "change_entry"
    list: ListName
    id: Id
    changes: Values

    def apply(self, project: Project) -> Project:
        rows = getattr(project, self.list)
        old = found(rows, self.id, LISTS[self.list][1])
        changed = _checked(self.list, {**old.model_dump(mode="json"), **self.changes, "id": self.id})
        if isinstance(old, Offer) and old.sent and self.changes.get("sent", old.sent) != old.sent:
            raise InvalidInput(f"Offer {old.number} was sent; what was sent stays as it was.", "offers")
        return replaced(project, **{self.list: tuple(changed if row is old else row for row in rows)})

    def summary(self, project: Project) -> str:
        old = found(getattr(project, self.list), self.id, LISTS[self.list][1])
        return f"change the {LISTS[self.list][1]}{_named(old.model_dump())}"


class RemoveEntry(Fact):
    """Remove an entry; what named it names nothing then, and drops of a closet go to the head end."""

    type: Literal["remove_entry"] = "remove_entry"
    list: ListName
    id: Id

    def apply(self, project: Project) -> Project:
        rows = getattr(project, self.list)
        old = found(rows, self.id, LISTS[self.list][1])
        if self.list == "floors" and any(room.floor_id == self.id for room in project.rooms):
            raise InvalidInput(f"{old.name} still has rooms; remove or move them first.", "floors")
        rest = replaced(project, **{self.list: tuple(row for row in rows if row is not old)})
        if self.list == "trace_sheets":
            for name in ("traced_jacks", "trace_steps"):
                kept = tuple(one for one in getattr(rest, name) if one.closet_id != old.closet_id)
                rest = replaced(rest, **{name: kept})
        if self.list == "floors":
            rest = _without_ways_of(rest, self.id)
            for name in ("landmarks", "walls", "openings", "targets", "obstacles", "readings"):
                rest = replaced(rest, **{name: tuple(one for one in getattr(rest, name) if one.floor_id != self.id)})
            there = (goal.floor_id == self.id for goal in rest.goals)
            goals = (
                goal.model_copy(update={"area": None}) if gone else goal
                for goal, gone in zip(rest.goals, there, strict=True)
            )
            rest = replaced(rest, goals=tuple(goals))
            gone = {one.id for one in project.targets} - {one.id for one in rest.targets}
            rest = unnamed(rest, "targets", gone)
        if self.list == "closets":
            if old is project.head_end:
                raise InvalidInput(f"{old.name} is the head end; a project keeps one.", "closets")
            rest = _all_at_head_end(rest)
        return unnamed(rest, self.list, {self.id})

    def summary(self, project: Project) -> str:
        old = found(getattr(project, self.list), self.id, LISTS[self.list][1])
        return f"remove the {LISTS[self.list][1]}{_named(old.model_dump())}"


def _without_ways_of(project: Project, floor_id: int) -> Project:
    """The project without paths of a floor that is gone, and what went straight up or down to it."""
    gone = {
        path.id
        for path in project.paths
        if path.floor_id == floor_id or (path.to_floor_id == floor_id and len(path.points) == 1)
    }
    paths = tuple(path for path in project.paths if path.id not in gone)
    return unnamed(replaced(project, paths=paths), "paths", gone)


def _all_at_head_end(project: Project) -> Project:
    """The project with drops whose closet is gone at the head end."""
    moved = {"closet_id": project.head_end.id}
    drops = (d if d.closet_id in project.closets_by_id else d.model_copy(update=moved) for d in project.drops)
    return replaced(project, drops=tuple(drops))


GO_ALONG = frozenset(NUMBERED) - {"drops", "rooms"}
"""Lists whose rows go with what they cannot do without; drops and rooms have to be moved first."""


def unnamed(project: Project, target: str, gone: set[int]) -> Project:
    """The project with every mention of rows that are gone taken out, and without rows that cannot do without them."""
    for rows, field, named in REFERENCES:
        if named != target:
            continue
        kept: list[Fact] = []
        for row in getattr(project, rows):
            value = getattr(row, field)
            if isinstance(value, tuple) and gone.intersection(value):
                kept.append(row.model_copy(update={field: tuple(one for one in value if one not in gone)}))
            elif value not in gone or rows not in GO_ALONG:
                kept.append(row if value not in gone else _without(row, field) or row)
            elif rest := _without(row, field):
                kept.append(rest)
        before = getattr(project, rows)
        if len(kept) < len(before) or any(new is not old for new, old in zip(kept, before, strict=True)):
            project = replaced(project, **{rows: tuple(kept)})
    return project


def _without(row: Fact, field: str) -> Fact | None:
    """A row that names nothing in a field; None: it cannot do without."""
    try:
        return type(row).model_validate({**row.model_dump(), field: None})
    except ValidationError:
        return None


def _checked(name: str, values: dict[str, Any]) -> Fact:
    return LISTS[name][0].model_validate(values)


def _named(values: dict[str, Any]) -> str:
    name = values.get("name") or values.get("advice") or values.get("task")
    row = DROP_KINDS.get(str(values.get("kind")))
    if row and not name:
        return f" of {values['count']} {row.plural.lower()}" if "count" in values else f" of {row.plural.lower()}"
    return f" {name}" if name else ""
