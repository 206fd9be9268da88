"""The offer: what the client pays, position by position, so that every sum adds up to the last minor unit.

An amount is rounded once, half up, where it first stands: a position with its margin, the discount on their sum, the
tax on what is left.  Shares of a sum (phases, payments) are whole units by largest remainder.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping, Sequence
from decimal import ROUND_HALF_UP, Decimal
from typing import Any, Literal

from pydantic import ValidationError, field_serializer

from ..demand.growth import shared_out
from ..edits import ChangeEntry, as_sent
from ..explain.answers import Answer
from ..facts.drop_kinds import DROP_KINDS
from ..facts.fact import Fact
from ..facts.labour import STAGE_NAMES
from ..facts.price import Offer
from ..facts.project import Project
from ..facts.settings import Aim
from ..standards.spares import GROUPS
from .costs import JobCosts
from .parts import PricedPart


class Position(Fact):
    """A position of an offer."""

    key: str
    group: str
    text: str
    quantity: float
    unit: str
    minor: int | None
    """With its margin, without tax; None: its price is still open."""


class RoomDelivered(Fact):
    """What a room gets."""

    room: str
    floor: str
    text: str


class PhasePrice(Fact):
    """A phase of an offer and its share of the price, without tax."""

    name: str
    minor: int
    begins: str
    ends: str


class PaymentStep(Fact):
    """A step in which it is paid, tax included."""

    name: str
    percent: float
    minor: int


class SideBySide(Fact):
    """A pick as it stands beside others in an offer."""

    aim: Aim
    price_minor: int
    boxes: tuple[str, ...]
    full_year: int | None
    chosen: bool


class OfferDocument(Fact):
    """An offer as the client reads it.  Money in minor units."""

    project: str
    site: str
    client: str
    number: str
    currency: str
    valid_days: int
    positions: tuple[Position, ...]
    rooms: tuple[RoomDelivered, ...]
    answers: tuple[SideBySide, ...]
    phases: tuple[PhasePrice, ...]
    brought: tuple[str, ...]
    """What others bring and do."""
    open: tuple[str, ...]
    """Positions whose price is still open."""
    not_included: str
    assumptions: str
    sum_minor: int
    discount_percent: float
    discount_minor: int
    net_minor: int
    tax_percent: float
    tax_minor: int
    total_minor: int
    payments: tuple[PaymentStep, ...]


class Varied(Fact):
    """A position that differs from the offer that was sent."""

    key: str
    text: str
    what: Literal["new", "gone", "changed"]
    was_quantity: float | None
    quantity: float | None
    unit: str
    was_minor: int | None
    minor: int | None
    more_minor: int | None
    """What it adds, without tax and discount; None: its price is, or was, open."""


class Variation(Fact):
    """What changed since an offer was sent, with its price."""

    lines: tuple[Varied, ...]
    more_net_minor: int
    more_tax_minor: int
    more_minor: int
    """What the total adds, tax included."""


class OfferTold(Fact):
    """An offer: as it would be sent now, as it was sent, and what lies between."""

    offer: Offer
    document: OfferDocument
    sent: OfferDocument | None
    variation: Variation | None
    edit: ChangeEntry | None
    """Sends it as it is; None: it was sent."""

    @field_serializer("edit")
    def _send(self, edit: ChangeEntry | None) -> dict[str, Any] | None:
        return None if edit is None else as_sent(edit)


def percent_of(minor: int, percent: float) -> int:
    """A percentage of an amount, rounded half up to whole minor units."""
    return int((Decimal(minor) * Decimal(str(percent)) / 100).quantize(Decimal(1), ROUND_HALF_UP))


def shares_of(total: int, weights: Sequence[int]) -> list[int]:
    """A sum shared by weight into whole units that add up to it; all of it to the last where nothing weighs."""
    if not sum(weights):
        return [*[0] * (len(weights) - 1), total] if weights else []
    return shared_out(total, weights)


def document_of(project: Project, costs: JobCosts, offer: Offer, answers: Mapping[Aim, Answer]) -> OfferDocument:
    """An offer on what a project costs now."""
    terms, positions = project.settings, tuple(_positions(project, costs))
    whole = sum(one.minor or 0 for one in positions)
    discount = percent_of(whole, offer.discount_percent)
    net = whole - discount
    tax = percent_of(net, terms.tax_percent)
    phases = shares_of(net, [max(0, one.one_off_minor) for one in costs.by_phase]) if project.phases else []
    steps = shares_of(net + tax, [round(one.percent * 1000) for one in offer.payments])
    return OfferDocument(
        project=project.name, site=project.site, client=terms.client, number=offer.number, currency=terms.currency,
        valid_days=offer.valid_days, positions=positions, rooms=tuple(_rooms(project)),
        answers=tuple(_answer(answers[aim], aim == terms.aim) for aim in offer.answers if aim in answers),
        phases=tuple(
            PhasePrice(name=phase.name, minor=minor, begins=str(phase.begins or ""), ends=str(phase.ends or ""))
            for phase, minor in zip(project.phases, phases, strict=False)
        ),
        brought=tuple(_brought(project, costs)), open=tuple(one.text for one in positions if one.minor is None),
        not_included=offer.not_included, assumptions=offer.assumptions, sum_minor=whole,
        discount_percent=offer.discount_percent, discount_minor=discount, net_minor=net,
        tax_percent=terms.tax_percent, tax_minor=tax, total_minor=net + tax,
        payments=tuple(
            PaymentStep(name=one.name, percent=one.percent, minor=minor)
            for one, minor in zip(offer.payments, steps, strict=True)
        ),
    )  # fmt: skip


def _positions(project: Project, costs: JobCosts) -> Iterator[Position]:
    """Parts that the installer brings, line by line, then the installer's work by stage."""
    terms = project.settings
    for part in costs.parts:
        if part.by == "installer" and part.packs:
            total, text = part.total_minor, part.name[:1].upper() + part.name[1:]
            minor = None if total is None else percent_of(total, 100 + terms.margin_parts_percent)
            yield Position(key=part.key, group=GROUPS[part.group], text=text, quantity=_delivered(part),
                           unit=part.unit, minor=minor)  # fmt: skip
    hours: dict[str, float] = defaultdict(float)
    minors = Counter[str]()
    for line in costs.labour.lines:
        if line.who == "installer":
            hours[line.stage] += line.hours.mean_h
            minors[line.stage] += line.cost_minor
    for stage, name in STAGE_NAMES.items():
        if hours[stage]:
            yield Position(key=f"work/{stage}", group="Work", text=name, quantity=round(hours[stage], 1), unit="h",
                           minor=percent_of(minors[stage], 100 + terms.margin_work_percent))  # fmt: skip


def _delivered(part: PricedPart) -> float:
    return part.needed + part.spare - part.there


def _rooms(project: Project) -> Iterator[RoomDelivered]:
    by_room: dict[int, Counter[str]] = defaultdict(Counter)
    for drop in project.drops:
        by_room[drop.room_id][drop.kind] += 1
    for room in project.rooms:
        if kinds := by_room.get(room.id):
            told = ", ".join(DROP_KINDS[kind].many(many) for kind, many in kinds.items())
            yield RoomDelivered(room=room.name, floor=project.floor_name(room), text=told)


def _answer(answer: Answer, chosen: bool) -> SideBySide:
    boxes = Counter(box.name for box in answer.boxes)
    return SideBySide(
        aim=answer.aim, price_minor=answer.price_minor, full_year=answer.full_year, chosen=chosen,
        boxes=tuple(f"{many} × {name}" if many > 1 else name for name, many in boxes.items()),
    )  # fmt: skip


def _brought(project: Project, costs: JobCosts) -> Iterator[str]:
    words = {"client": "the client brings", "electrician": "the electrician brings"}
    for part in costs.parts:
        if part.by != "installer" and part.packs:
            yield f"{part.name}: {words[part.by]} {_delivered(part):g}{' ' + part.unit if part.unit else ''}"
    for line in costs.labour.lines:
        if line.who != "installer":
            yield f"{line.name}: {'done by the ' + line.who}"
    yield from (f"{one.task}: {one.who}" for one in project.duties if one.who != "installer")


def variation_of(sent: OfferDocument, now: OfferDocument) -> Variation:
    """What a variation of an offer would say: every position that differs, and what all of them add."""
    was, is_now = ({one.key: one for one in some.positions} for some in (sent, now))
    lines = []
    for key in dict.fromkeys([*was, *is_now]):
        old, new = was.get(key), is_now.get(key)
        if old and new and (old.quantity, old.minor) == (new.quantity, new.minor):
            continue
        told = new or old
        assert told is not None
        lines.append(
            Varied(
                key=key, text=told.text, what="new" if old is None else "gone" if new is None else "changed",
                was_quantity=old.quantity if old else None, quantity=new.quantity if new else None, unit=told.unit,
                was_minor=old.minor if old else None, minor=new.minor if new else None,
                more_minor=_more(old, new),
            )
        )  # fmt: skip
    return Variation(
        lines=tuple(lines), more_net_minor=now.net_minor - sent.net_minor,
        more_tax_minor=now.tax_minor - sent.tax_minor, more_minor=now.total_minor - sent.total_minor,
    )  # fmt: skip


def _more(old: Position | None, new: Position | None) -> int | None:
    """What a position costs more than it did; one that is not there costs nothing."""
    was, now = (0 if one is None else one.minor for one in (old, new))
    return None if was is None or now is None else now - was


def offers_of(project: Project, costs: JobCosts, answers: Mapping[Aim, Answer]) -> tuple[OfferTold, ...]:
    """Every offer of a project."""
    return tuple(offer_told(project, costs, offer, answers) for offer in project.offers)


def offer_told(project: Project, costs: JobCosts, offer: Offer, answers: Mapping[Aim, Answer]) -> OfferTold:
    """An offer as it would be sent now, as it was sent, and what changed since.  ``answers``: the picks by aim."""
    now = document_of(project, costs, offer, answers)
    sent = sent_document(offer)
    return OfferTold(
        offer=offer, document=now, sent=sent, variation=variation_of(sent, now) if sent else None,
        edit=None if sent else ChangeEntry(list="offers", id=offer.id,
                                           changes={"state": "sent", "sent": now.model_dump_json()}),
    )  # fmt: skip


def sent_document(offer: Offer) -> OfferDocument | None:
    """What was sent; None: nothing yet, or nothing that can be read."""
    if not offer.sent:
        return None
    try:
        return OfferDocument.model_validate_json(offer.sent)
    except ValidationError:
        return None
