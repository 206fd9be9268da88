"""What a few words say of a drop: its kind, form, count, places and the fields that it differs in from the usual."""

from __future__ import annotations

import re
from typing import Literal

from ..facts.drop_kinds import DROP_KINDS, PLATES, KindKey
from ..standards.poe_classes import HIGHEST_CLASS, smallest_class_for
from . import spoken

Role = Literal[
    "count", "kind", "form", "room", "new room", "place", "speed", "class", "watts", "metres", "pixels", "category",
    "said", "filler", "unknown",
]  # fmt: skip
Heard = tuple[KindKey, str, int | None]
"""A kind, a variant of it or none, and an own kind or none."""
PLATE_KEYS = tuple(variant.key for variant in PLATES)


class Said:
    """What has been said so far."""

    def __init__(self) -> None:
        self.kind: KindKey | None = None
        self.kind_word: Heard | None = None
        self.own_kind: int | None = None
        self.variant = ""
        self.room: int | None = None
        self.new_room = ""
        self.naming = False
        """The word for a new room was said, its name is still to come."""
        self.count: int | None = None
        self.places: list[str] = []
        self.powered = False
        self.changes: dict[str, object] = {}

    def hear(self, kind: KindKey, variant: str, own_kind: int | None) -> bool:
        """Take a word for a kind or a variant; False: another kind is spoken of already."""
        if self.kind is None and variant in PLATE_KEYS:
            # "double": of a jack, a desk, a spare drop; which of them is said next, or it is a desk
            self.variant = variant
            return True
        if self.variant in PLATE_KEYS and not variant and not DROP_KINDS[kind].variant(self.variant):
            return False
        if self.kind is None or (self.kind == "spare" != kind):
            if self.kind == "spare":
                self.changes |= spoken.FIELDS["spare"]
            self.kind, self.own_kind, self.kind_word = kind, own_kind, (kind, variant, own_kind)
        elif self.kind != kind or own_kind is not None or (not variant and self.kind_word == (kind, "", None)):
            return False
        elif not variant:
            # "dome cam": the variant came first, now the kind itself
            self.kind_word = (kind, variant, own_kind)
        self.variant = variant or self.variant
        return True

    def call(self, called: tuple[str, dict[str, object]]) -> bool:
        """Take what a device is called; False: another kind is spoken of already."""
        kind, changes = called
        known = self.kind == kind and self.kind_word == (kind, "", None) and not changes
        if known or not self.hear(kind, "", None):  # type: ignore[arg-type]
            return known
        self.changes |= changes
        return True

    def take(self, word: str) -> Role:
        """The role of one word, and what follows from it."""
        if self.is_count(word):
            if self.count is not None:
                return "unknown"
            self.count = count_of(word)
            return "count"
        if word == spoken.POWERED:
            self.powered = True
            return "class"
        measured = self.measure(word)
        if measured:
            return measured
        if word in spoken.FIELDS:
            self.changes |= spoken.FIELDS[word]
            return "said"
        if word in spoken.OUTDOOR:
            self.changes |= {"outdoor_jacket": True, "environment": "outdoor"}
        if word in spoken.PLACES or word in spoken.OUTDOOR:
            self.places.append(word)
            return "place"
        return "filler" if word in spoken.FILLER else "unknown"

    def take_several(self, words: str) -> Role | None:
        """The role of several words together; None: they are nothing together."""
        if words in spoken.NUMBERS and self.count is None:
            self.count = spoken.NUMBERS[words]
            return "count"
        if words in spoken.FIELDS:
            self.changes |= spoken.FIELDS[words]
            if words in spoken.GENERATIONS and self.kind is None:
                self.hear("access_point", "", None)
                self.kind_word = None
            return "said"
        return self.measure(words)

    @staticmethod
    def is_count(word: str) -> bool:
        return count_of(word) is not None

    def measure(self, words: str) -> Role | None:
        """A figure with its unit, together or apart: speed, class, watts, metres, megapixels, frames, category."""
        if words in spoken.SPEEDS:
            self.changes["speed_mbit"] = spoken.SPEEDS[words]
            return "speed"
        if words in spoken.CLASSES:
            self.changes["poe_class"] = spoken.CLASSES[words]
            return "class"
        if match := re.fullmatch(r"(?:class|cl\.?) ?([0-8])", words):
            self.changes["poe_class"] = int(match[1])
            return "class"
        if match := re.fullmatch(r"cat(?:egory)?\.? ?(5|5e|6|6a)", words):
            self.changes["category"] = {"6a": "6A"}.get(match[1], match[1])
            return "category"
        match = re.fullmatch(r"(\d+(?:[.,]\d+)?|ten|five|one) ?([a-z/]+)", words)
        if match is None:
            return None
        number = float(spoken.NUMBERS.get(match[1], 0) or match[1].replace(",", "."))
        return self._with_unit(number, match[2])

    def _with_unit(self, number: float, unit: str) -> Role | None:
        if unit in spoken.GIGABITS or unit in spoken.MEGABITS:
            mbit = number * 1000 if unit in spoken.GIGABITS else number
            if mbit not in spoken.SPEEDS.values():
                return None
            self.changes["speed_mbit"] = int(mbit)
            return "speed"
        fields: tuple[tuple[tuple[str, ...], str, float, float, Role], ...] = (
            (spoken.WATTS, "draw_w", 0.0, 100.0, "watts"), (spoken.PIXELS, "megapixels", 0.3, 64.0, "pixels"),
            (spoken.METRES, "run_m", 0.01, 10_000.0, "metres"), (spoken.FRAMES, "frames_s", 0.2, 120.0, "pixels"),
        )  # fmt: skip
        for units, field, least, most, role in fields:
            if unit in units and least <= number <= most:
                self.changes[field] = number
                return role
        return None


def count_of(word: str) -> int | None:
    """How many a word says; None: it is no count."""
    number = re.fullmatch(r"x?(\d{1,3})x?", word)
    if number:
        return int(number[1]) or None
    return spoken.NUMBERS.get(word)


USUAL_CLASS = 4
"""Class of a device that is said to be powered, of a kind that usually is not: what common powered ports give."""


def changes_of(said: Said) -> dict[str, object]:
    changes = dict(said.changes)
    if said.variant:
        changes["variant"] = said.variant
    if said.places:
        changes["place"] = " ".join(said.places)
    usual = DROP_KINDS[said.kind].poe_class if said.kind else None
    if said.powered and said.kind and "poe_class" not in changes:
        powered = powered_class(said.kind, float(str(changes.get("draw_w", 0.0))))
        if powered != usual:
            changes["poe_class"] = powered
    if changes.get("poe_class") and not usual and "draw_w" not in changes:
        changes["draw_w"] = 0.0
    return changes


def powered_class(kind: KindKey, watts: float) -> int:
    """The class of a device that is said to be powered and draws ``watts`` [W], 0: not known.

    The usual one of its kind, or the lowest that gives its watts where that is not enough.
    """
    usual = DROP_KINDS[kind].poe_class or USUAL_CLASS
    return max(usual, smallest_class_for(watts) or HIGHEST_CLASS)
