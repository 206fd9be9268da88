"""A channel for every access point: those that hear each other share as little airtime as can be.

For each band and each width that all of it could use, the channels that the region allows are given out so that the
sum over access points of others' airtime that they hear on theirs is least, then the sum of its squares, then what is
set now changes least (`giving_out`).
"""

from __future__ import annotations

from collections.abc import Generator, Iterator, Mapping, Sequence
from dataclasses import replace
from typing import Any

from pydantic import JsonValue, field_serializer

from ..edits import AddEntry, ChangeEntry, Edit, as_sent
from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.project import Project
from ..signal.airtime import airtime, hears, neighbours_on
from ..signal.field import Prediction, field_of, losses_of, predicted
from ..signal.radios import Sender, Station
from ..standards.radio import BANDS, WIDTHS, Band, Block, Width, blocks
from ..watch import Share
from .giving_out import Case, give_out
from .powers import Powers, PowerSet, lowered

UNIT = 100_000
"""Airtime is counted in this part of all of it."""
NOBODY = 1_000
"""What an access point takes where nobody has said which clients there are: pairs on a channel are counted."""


class ChannelSet(Fact):
    """The channel of an access point in a plan, what it had, and the airtime of others that it hears there."""

    drop_id: int
    channel: int
    was: int | None
    kept: bool
    radar: bool
    shared: float
    own: float


class ChannelPlan(Fact):
    """Channels of a band at a width."""

    band: Band
    width_mhz: Width
    channels: tuple[ChannelSet, ...]
    shared: float
    """Sum over access points of others' airtime that they hear."""
    bound: float
    """No channels make that less."""
    own: float
    """Sum of what their own clients take at this width."""
    proven: bool
    counted_by_pairs: bool
    """Nobody has said which clients there are: every access point counts the same."""
    edits: tuple[Edit, ...]
    """What takes it."""

    @field_serializer("edits")
    def _send(self, edits: tuple[Edit, ...]) -> list[dict[str, Any]]:
        return [as_sent(edit) for edit in edits]


class BandPlans(Fact):
    """The plans of a band, a width each, and the one with least of its own and others' airtime."""

    band: Band
    now_shared: float | None
    """What is shared as channels are set now; None: some are not set."""
    plans: tuple[ChannelPlan, ...]
    best_width: Width | None
    powers: tuple[PowerSet, ...]
    """At that width: where less power leaves more airtime and no goal is lost; found step by step, not proven."""
    saves: float
    """Airtime of the band that they leave, of what it is with those channels and the powers of now."""
    own_then: float
    shared_then: float
    """Airtime of the band with them."""
    power_edits: tuple[Edit, ...]

    @field_serializer("power_edits")
    def _send(self, edits: tuple[Edit, ...]) -> list[dict[str, Any]]:
        return [as_sent(edit) for edit in edits]


class Channels(Fact):
    """The best channels of every band that anything sends in."""

    bands: tuple[BandPlans, ...]
    why_not: str = ""


def channels(project: Project, catalogue: Catalogue | None) -> Generator[Share, None, Channels]:
    """The best channels of a project.  Yields how far it is."""
    prediction = predicted(project, catalogue)
    senders = [sender for station in prediction.stations for sender in station.senders]
    sent = [band for band in BANDS if any(sender.band == band for sender in senders)]
    if not sent:
        return Channels(bands=(), why_not="no access point that is on the plan sends")
    found = []
    for place, band in enumerate(sent):
        mine = [sender for sender in senders if sender.band == band]
        now = airtime(project, prediction)
        set_now = [line.shared for line in now.radios if line.band == band]
        plans = []
        for step, width in enumerate(WIDTHS):
            yield Share((place + step / len(WIDTHS)) / len(sent), f"{band} GHz, {width} MHz")
            plan = _plan(project, prediction, mine, width)
            if plan is not None:
                plans.append(plan)
        best = min(plans, key=lambda plan: (plan.own + plan.shared, plan.width_mhz), default=None)
        yield Share((place + 0.9) / len(sent), f"{band} GHz, power")
        less = _powers(project, prediction, best)
        known = all(sender.block is not None for sender in mine)
        found.append(
            BandPlans(
                band=band, now_shared=round(sum(set_now), 5) if known else None, plans=tuple(plans),
                best_width=best.width_mhz if best else None, powers=less.sets, own_then=less.own, saves=less.saves,
                shared_then=less.shared, power_edits=_with_powers(project, best, less),
            )
        )  # fmt: skip
    return Channels(bands=tuple(found))


def _plan(project: Project, prediction: Prediction, senders: Sequence[Sender], width: Width) -> ChannelPlan | None:
    """The best channels of a band at a width; None: not every access point can be so wide."""
    band = senders[0].band
    widest = {station.drop.id: station.model.widest_mhz for station in prediction.stations}
    allowed = blocks(project.settings.region, band, width)
    allowed = tuple(block for block in allowed if not (project.settings.avoid_radar and block.radar))
    if not allowed or any(width > widest[sender.drop_id] for sender in senders):
        return None
    case, by_pairs = case_of(project, prediction, senders, width, allowed)
    given = give_out(case)
    if given is None:
        return None
    shared = case.shared(given.chosen)
    sets = tuple(
        ChannelSet(
            drop_id=sender.drop_id, channel=allowed[b].first, was=sender.channel, kept=sender.kept,
            radar=allowed[b].radar, shared=mine / UNIT, own=own / UNIT,
        )
        for sender, b, mine, own in zip(senders, given.chosen, shared, case.own, strict=True)
    )  # fmt: skip
    return ChannelPlan(
        band=band, width_mhz=width, channels=sets, shared=sum(shared) / UNIT, bound=given.bound / UNIT,
        own=0.0 if by_pairs else sum(case.own) / UNIT, proven=given.proven, counted_by_pairs=by_pairs,
        edits=tuple(_edits(project, sets, band, width)),
    )  # fmt: skip


def case_of(
    project: Project, prediction: Prediction, senders: Sequence[Sender], width: Width, allowed: tuple[Block, ...]
) -> tuple[Case, bool]:
    """What the channels of a band are given out to at a width, and whether only pairs are counted."""
    own = [round(share * UNIT) for share in _own_at(project, prediction, senders, width)]
    by_pairs = not any(own)

    def place(sender: Sender) -> int | None:
        if sender.channel is None:
            return None
        return next((b for b, block in enumerate(allowed) if sender.channel in block.channels), None)

    now = tuple(place(sender) for sender in senders)
    return Case(
        own=tuple(NOBODY for _ in own) if by_pairs else tuple(own),
        hears=hears(project, prediction.losses, senders), blocks=allowed,
        neighbours=tuple(
            tuple(round(neighbours_on(project, sender, block) * UNIT) for block in allowed) for sender in senders
        ),
        fixed=tuple(at if sender.kept else None for sender, at in zip(senders, now, strict=True)), now=now,
    ), by_pairs  # fmt: skip


def _own_at(project: Project, prediction: Prediction, senders: Sequence[Sender], width: Width) -> list[float]:
    """What the own clients of each take of its time were the band so wide."""
    band = senders[0].band

    def widened(station: Station) -> Station:
        return replace(
            station,
            senders=tuple(replace(s, width_mhz=width) if s.band == band else s for s in station.senders),
        )

    around = tuple(widened(station) for station in prediction.stations)
    losses = losses_of(project)
    fields = {
        key: field
        for key in prediction.fields
        if (field := field_of(project, around, key[0], key[1], prediction.step_m, losses)) is not None
    }
    told = airtime(project, replace(prediction, stations=around, fields=fields))
    own = {line.drop_id: line.own for line in told.radios if line.band == band}
    return [own[sender.drop_id] for sender in senders]


def _powers(project: Project, prediction: Prediction, best: ChannelPlan | None) -> Powers:
    """Lower powers with the channels of a plan; none where nobody has said which clients there are."""
    if best is None or best.counted_by_pairs:
        return Powers((), best.own if best else 0.0, best.shared if best else 0.0)
    first = {one.drop_id: one.channel for one in best.channels}
    return lowered(project, prediction, best.band, best.width_mhz, first)


def _with_powers(project: Project, best: ChannelPlan | None, less: Powers) -> tuple[Edit, ...]:
    if best is None or not less.sets:
        return ()
    powers = {one.drop_id: one.power_dbm for one in less.sets}
    return tuple(_edits(project, best.channels, best.band, best.width_mhz, powers))


def _edits(
    project: Project, sets: Sequence[ChannelSet], band: Band, width: Width, powers: Mapping[int, float] | None = None
) -> Iterator[Edit]:
    """What takes a plan, with the powers [dBm] of some."""
    rows = {(radio.drop_id, radio.band): radio for radio in project.radios}
    for one in sets:
        row = rows.get((one.drop_id, band))
        values: dict[str, JsonValue] = {"channel": one.channel, "width_mhz": width}
        if powers and one.drop_id in powers:
            values["power_dbm"] = powers[one.drop_id]
        if row is None:
            yield AddEntry(list="radios", values={"drop_id": one.drop_id, "band": band, **values})
        elif any(getattr(row, name) != value for name, value in values.items()):
            yield ChangeEntry(list="radios", id=row.id, changes=values)
