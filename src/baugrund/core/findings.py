"""Findings: a sentence, one place that it points to, and one thing that would settle it.

To add one: write a function from a ``Site`` to findings and name it in ``CHECKS``.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any, Literal

from pydantic import field_serializer

from .bearing import Capacity
from .drop_kinds import DROP_KINDS
from .edits import ChangeDrops, ChangeSettings, DropChanges, Edit, SetTally, SettingsChanges, as_sent
from .facts import Fact
from .poe import PORT_VOLTS_DEFAULT, feed_faults, loop_resistance_ohm
from .project import Drop, Project
from .standards.cabling import CORDS_DEFAULT_M, FIXED_LINK_MAX_M, fastest_mbit
from .standards.poe_classes import POE_CLASSES, smallest_class_for
from .words import counted, speed

Verb = Literal["walk", "pick"]


class Settle(Fact):
    """What would settle a finding: an edit to apply, or a verb to go to."""

    label: str
    edit: Edit | None = None
    verb: Verb | None = None

    @field_serializer("edit")
    def _send(self, edit: Edit | None) -> dict[str, Any] | None:
        return None if edit is None else as_sent(edit)


class Finding(Fact):
    """Something to know.  *breaks*: cannot work; *strains*: works, but; *note*."""

    key: str
    weight: Literal["breaks", "strains", "note"]
    subject: str
    text: str
    verb: Verb
    drop_ids: tuple[int, ...] = ()
    settle: Settle | None = None


@dataclass(frozen=True)
class Site:
    """What the checks look at."""

    project: Project
    capacities: tuple[Capacity, ...]
    borne: bool | None
    """Whether the boxes that the ground stands on bear the drops by the horizon; None: nothing picked yet."""


def _over_class(site: Site) -> Iterator[Finding]:
    for drop in site.project.drops:
        if drop.poe_class is None or drop.draw_w <= POE_CLASSES[drop.poe_class].device_w:
            continue
        fitting = smallest_class_for(drop.draw_w)
        settle = None
        if fitting:
            edit = ChangeDrops(ids=(drop.id,), changes=DropChanges(poe_class=fitting))
            settle = Settle(label=f"Ask for class {fitting}", edit=edit)
        yield Finding(
            key=f"class-{drop.id}", weight="breaks", subject=site.project.name_of(drop), verb="walk",
            text=f"draws {drop.draw_w:g} W; class {drop.poe_class} gives a device "
                 f"{POE_CLASSES[drop.poe_class].device_w:g} W at most.",
            drop_ids=(drop.id,), settle=settle,
        )  # fmt: skip


def _feeds(site: Site) -> Iterator[Finding]:
    for drop in site.project.drops:
        if drop.poe_class is None:
            continue
        row = POE_CLASSES[drop.poe_class]
        if drop.draw_w > row.device_w:
            continue
        loop = loop_resistance_ohm(drop.length_m, pairs=row.pairs)
        faults = feed_faults(drop.draw_w, row, loop, PORT_VOLTS_DEFAULT)
        if faults:
            yield Finding(
                key=f"feed-{drop.id}", weight="breaks", subject=site.project.name_of(drop), verb="walk",
                text=f"over {drop.length_m:g} m: {'; '.join(faults)}.", drop_ids=(drop.id,),
            )  # fmt: skip


def _too_long(site: Site) -> Iterator[Finding]:
    for drop in site.project.drops:
        if drop.length_m > FIXED_LINK_MAX_M:
            yield Finding(
                key=f"long-{drop.id}", weight="breaks", subject=site.project.name_of(drop), verb="walk",
                text=f"has a run of {drop.length_m:g} m; a fixed link is {FIXED_LINK_MAX_M:g} m at most. "
                     "A closet nearer to it, or fibre, would do.",
                drop_ids=(drop.id,),
            )  # fmt: skip


def _too_slow(site: Site) -> Iterator[Finding]:
    for drop in site.project.drops:
        channel = drop.length_m + CORDS_DEFAULT_M
        fastest = fastest_mbit(drop.category, channel)
        if drop.length_m <= FIXED_LINK_MAX_M and fastest < drop.speed_mbit:
            edit = ChangeDrops(ids=(drop.id,), changes=DropChanges(category="6A"))
            yield Finding(
                key=f"slow-{drop.id}", weight="breaks", subject=site.project.name_of(drop), verb="walk",
                text=f"asks {speed(drop.speed_mbit)}; category {drop.category} carries {speed(fastest)} "
                     f"over {channel:g} m.",
                drop_ids=(drop.id,), settle=Settle(label="Take category 6A", edit=edit),
            )  # fmt: skip


def _outside(site: Site) -> Iterator[Finding]:
    rooms = site.project.rooms_by_id
    bare = [d for d in site.project.drops if rooms[d.room_id].outside and not d.outdoor_jacket]
    by_room: dict[int, list[Drop]] = {}
    for drop in bare:
        by_room.setdefault(drop.room_id, []).append(drop)
    for room_id, drops in by_room.items():
        ids = tuple(drop.id for drop in drops)
        verb = "is" if len(ids) == 1 else "are"
        yield Finding(
            key=f"jacket-{room_id}", weight="breaks", subject=rooms[room_id].name, verb="walk",
            text=f"{counted(len(ids), 'drop')} outside {verb} on indoor cable. Outside and between buildings, surge "
                 "protection and earthing are work for a licensed person; local code decides.",
            drop_ids=ids,
            settle=Settle(
                label="Take outdoor jacket", edit=ChangeDrops(ids=ids, changes=DropChanges(outdoor_jacket=True))
            ),
        )  # fmt: skip


def _category_5(site: Site) -> Iterator[Finding]:
    old = [drop for drop in site.project.drops if drop.category == "5" and drop.poe_class is not None]
    if old:
        yield Finding(
            key="category-5", weight="strains", subject="Old cable", verb="walk",
            text=f"{counted(len(old), 'powered drop')} on category 5: measure it before power goes on.",
            drop_ids=tuple(drop.id for drop in old),
        )  # fmt: skip


def _forgotten(site: Site) -> Iterator[Finding]:
    project = site.project
    kinds = Counter(drop.kind for drop in project.drops)
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
            key="no-line", weight="note", subject="Internet", verb="pick",
            text="no line is listed, so any router will do for it.",
            settle=Settle(label="List the line", verb="pick"),
        )  # fmt: skip
    floors: dict[str, bool] = {}
    for room in project.rooms:
        if not room.outside and room.floor:
            idle = any(d.room_id == room.id and not d.in_use for d in project.drops)
            floors[room.floor] = floors.get(room.floor, False) or idle
    bare = [floor for floor, spare in floors.items() if not spare]
    if bare and len(project.drops) >= 8:
        yield Finding(
            key="no-spare", weight="note", subject="Spare", verb="walk",
            text=f"no drop is kept spare on {', '.join(bare)}.",
        )  # fmt: skip


def _untyped_runs(site: Site) -> Iterator[Finding]:
    guessed = [drop for drop in site.project.drops if drop.run_m is None]
    if guessed:
        yield Finding(
            key="runs", weight="note", subject="Runs", verb="walk",
            text=f"{counted(len(guessed), 'run')} not measured yet: the usual length of the kind is taken.",
            drop_ids=tuple(drop.id for drop in guessed),
        )  # fmt: skip


def _ground(site: Site) -> Iterator[Finding]:
    start = site.project.settings.start_year
    horizon = start + site.project.settings.horizon_years
    more = Settle(label="See picks with more", verb="pick")
    if site.borne is False:
        yield Finding(
            key="not-borne", weight="breaks", subject="Boxes", verb="pick", settle=more,
            text=f"the boxes that the ground stands on do not bear all drops of {horizon}.",
        )  # fmt: skip
    for capacity in site.capacities:
        if capacity.key not in ("ports", "powered", "watts", "money"):
            continue
        if capacity.verdict == "over":
            text = f"{capacity.limit:,g} {capacity.unit}".strip() + f" are there; {capacity.sentence} by {horizon}."
            yield Finding(key=f"over-{capacity.key}", weight="breaks" if capacity.key != "money" else "strains",
                          subject=capacity.name, verb="pick", text=text, settle=more)  # fmt: skip
        elif capacity.key in ("ports", "powered") and capacity.limit:
            free = int(capacity.limit - capacity.used)
            if free <= 1:
                text = "full on day one." if free <= 0 else "a single one is spare on day one."
                yield Finding(key=f"day-one-{capacity.key}", weight="strains", subject=capacity.name, verb="pick",
                              text=text, settle=more)  # fmt: skip


def _unlisted_kinds(site: Site) -> Iterator[Finding]:
    """Growth that is named for a kind of which nothing stands yet."""
    kinds = {drop.kind for drop in site.project.drops}
    for addition in site.project.additions:
        if addition.kind not in kinds:
            row = DROP_KINDS[addition.kind]
            yield Finding(
                key=f"addition-{addition.id}", weight="note", subject=row.plural, verb="pick",
                text=f"{addition.count} planned for {site.project.settings.start_year + addition.years}, none today: "
                     "usual figures of the kind are taken.",
            )  # fmt: skip


def _margin(site: Site) -> Iterator[Finding]:
    settings = site.project.settings
    if settings.margin == 0 and settings.school != "class" and any(d.poe_class for d in site.project.drops):
        edit = ChangeSettings(changes=SettingsChanges(margin_percent=20.0))
        yield Finding(key="margin", weight="strains", subject="Watts", verb="pick",
                      text="are added up without a margin.", settle=Settle(label="Take 20 %", edit=edit))  # fmt: skip


CHECKS: tuple[Callable[[Site], Iterator[Finding]], ...] = (
    _over_class, _feeds, _too_long, _too_slow, _outside, _ground, _forgotten, _category_5, _margin,
    _unlisted_kinds, _untyped_runs,
)  # fmt: skip

WEIGHTS = ("breaks", "strains", "note")


def findings(site: Site) -> tuple[Finding, ...]:
    """Everything there is to say, heaviest first."""
    found = [finding for check in CHECKS for finding in check(site)]
    return tuple(sorted(found, key=lambda finding: WEIGHTS.index(finding.weight)))
