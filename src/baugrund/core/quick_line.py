"""The quick line: what people say out loud, understood before Enter.

Counts, kinds, variants, rooms, places, speeds, classes, watts, metres and megapixels in any order:
``4 dome cam eaves north 8mp``, ``desk x2 office 2.5g``, ``ap hall ceiling``.  The words live in ``spoken``.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any, Literal

from pydantic import field_serializer

from . import spoken
from .drop_kinds import DROP_KINDS, KindKey
from .edits import AddDrops, AddRooms, DropChanges, Edit, NewRoom, as_sent
from .facts import Fact
from .project import Project
from .words import counted, speed

Role = Literal[
    "count", "kind", "form", "room", "new room", "place", "speed", "class", "watts", "metres", "pixels", "category",
    "said", "filler", "unknown",
]  # fmt: skip


class Token(Fact):
    """A stretch of the line and what it was taken for."""

    text: str
    role: Role


class Understood(Fact):
    """What a line was understood as; with ``edits`` empty, ``complaint`` says what is missing or odd."""

    tokens: tuple[Token, ...]
    told: str
    complaint: str
    edits: tuple[Edit, ...]
    completions: tuple[str, ...]
    """Whole lines that finish the word being typed."""

    @field_serializer("edits")
    def _send(self, edits: tuple[Edit, ...]) -> list[dict[str, Any]]:
        return [as_sent(edit) for edit in edits]


def understand(text: str, project: Project, room_id: int | None = None) -> Understood:
    """Read one line against a project.  ``room_id``: the room that is selected, taken when none is named."""
    words = text.split()
    tokens: list[Token] = []
    place = 0
    rooms = {tuple(room.name.casefold().split()): room.id for room in project.rooms}
    kinds = _kind_words(project)
    said = _Said()
    while place < len(words):
        took = _longest(words, place, rooms)
        if took and (said.room is None):
            said.room = rooms[took]
            tokens.append(Token(text=" ".join(words[place : place + len(took)]), role="room"))
            place += len(took)
            continue
        took = _longest(words, place, kinds)
        if took and said.hear(*kinds[took]):
            role: Role = "kind" if said.kind_word == kinds[took] else "form"
            tokens.append(Token(text=" ".join(words[place : place + len(took)]), role=role))
            place += len(took)
            continue
        role = said.take(words[place].casefold())
        if role == "filler" and words[place].casefold() in spoken.NEW_ROOM and place + 1 < len(words):
            rest = words[place + 1 :]
            if said.room is None and not _longest(words, place + 1, rooms):
                said.new_room = " ".join(rest)
                tokens += [
                    Token(text=words[place], role="filler"),
                    Token(text=said.new_room, role="new room"),
                ]
                break
        tokens.append(Token(text=words[place], role=role))
        place += 1
    tokens = _guess_room(tokens, said, project)
    return _concluded(tokens, said, project, room_id, _completions(text, project))


Heard = tuple[KindKey, str, int | None]
"""A kind, a variant of it or none, and an own kind or none."""


class _Said:
    """What has been said so far."""

    def __init__(self) -> None:
        self.kind: KindKey | None = None
        self.kind_word: Heard | None = None
        self.own_kind: int | None = None
        self.variant = ""
        self.room: int | None = None
        self.new_room = ""
        self.count: int | None = None
        self.places: list[str] = []
        self.changes: dict[str, object] = {}

    def hear(self, kind: KindKey, variant: str, own_kind: int | None) -> bool:
        """Take a word for a kind or a variant; False: another kind is spoken of already."""
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

    def take(self, word: str) -> Role:
        """The role of one word, and what follows from it."""
        number = re.fullmatch(r"x?(\d{1,3})x?", word)
        if self.count is None and ((number and int(number[1]) > 0) or word in spoken.NUMBERS):
            self.count = int(number[1]) if number else spoken.NUMBERS[word]
            return "count"
        measured = self._measure(word)
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
        if word in spoken.FILLER or word in spoken.NEW_ROOM:
            return "filler"
        return "unknown"

    def _measure(self, word: str) -> Role | None:
        """A word with a figure and a unit: speed, class, watts, metres, megapixels, category."""
        rate = word.replace("gbit", "g")
        if rate in spoken.SPEEDS:
            self.changes["speed_mbit"] = spoken.SPEEDS[rate]
            return "speed"
        if word in spoken.CLASSES:
            self.changes["poe_class"] = spoken.CLASSES[word]
            return "class"
        if match := re.fullmatch(r"(?:class|cl\.?)([0-8])", word):
            self.changes["poe_class"] = int(match[1])
            return "class"
        if (match := re.fullmatch(r"(\d+(?:\.\d+)?)w", word)) and float(match[1]) <= 100:
            self.changes["draw_w"] = float(match[1])
            return "watts"
        if (match := re.fullmatch(r"(\d+(?:\.\d+)?)mp", word)) and 0.3 <= float(match[1]) <= 64:
            self.changes["megapixels"] = float(match[1])
            return "pixels"
        if (match := re.fullmatch(r"(\d+(?:\.\d+)?)m", word)) and 0 < float(match[1]) <= 10_000:
            self.changes["run_m"] = float(match[1])
            return "metres"
        if match := re.fullmatch(r"cat\.?(5|5e|6|6a)", word):
            self.changes["category"] = {"6a": "6A"}.get(match[1], match[1])
            return "category"
        return None


def _kind_words(project: Project) -> dict[tuple[str, ...], Heard]:
    """What people say for kinds, their variants and the project's own kinds; the project's own come first."""
    words: dict[tuple[str, ...], Heard] = {}
    for own in project.own_kinds:
        words.setdefault(tuple(own.name.casefold().split()), (own.base, "", own.id))
    for kind in DROP_KINDS.values():
        names = (kind.name, kind.plural, kind.key.replace("_", " "))
        for said in (*names, *kind.words, *(word + "s" for word in kind.words)):
            words.setdefault(tuple(said.casefold().split()), (kind.key, "", None))
    for kind in DROP_KINDS.values():
        for variant in kind.variants:
            for said in (*variant.words, *(word + "s" for word in variant.words)):
                words.setdefault(tuple(said.casefold().split()), (kind.key, variant.key, None))
    return words


def _longest(words: list[str], place: int, known: Mapping[tuple[str, ...], object]) -> tuple[str, ...] | None:
    folded = [word.casefold() for word in words[place:]]
    fitting = [key for key in known if key and tuple(folded[: len(key)]) == key]
    return max(fitting, key=len, default=None)


def _guess_room(tokens: list[Token], said: _Said, project: Project) -> list[Token]:
    """An unknown word that begins the name of exactly one room means that room."""
    if said.room is not None or said.new_room:
        return tokens
    for number, token in enumerate(tokens):
        folded = token.text.casefold()
        if token.role in ("unknown", "place") and len(folded) >= 2:
            begun = [r for r in project.rooms if any(w.startswith(folded) for w in r.name.casefold().split())]
            if len(begun) == 1:
                said.room = begun[0].id
                if token.role == "place":
                    said.places.remove(folded)
                return [*tokens[:number], Token(text=token.text, role="room"), *tokens[number + 1 :]]
    return tokens


def _concluded(
    tokens: list[Token], said: _Said, project: Project, room_id: int | None, completions: tuple[str, ...]
) -> Understood:
    unknown = [token.text for token in tokens if token.role == "unknown"]
    room = said.room or (room_id if room_id in project.rooms_by_id and not said.new_room else None)
    complaint = ""
    if not tokens:
        complaint = "Say what to add: 2 desk office"
    elif unknown:
        complaint = f"“{unknown[0]}” is not understood"
    elif said.kind is None:
        complaint = "Which kind of drop?"
    elif room is None and not said.new_room:
        complaint = "Which room? A new one: in …"
    elif len(said.new_room) > 200:
        complaint = "A room's name has 200 characters at most"
    if complaint or said.kind is None:
        return Understood(tokens=tuple(tokens), told="", complaint=complaint, edits=(), completions=completions)
    count = said.count or 1
    changes = _changes(said)
    edits: list[Edit] = []
    if said.new_room:
        edits.append(AddRooms(rooms=(NewRoom(name=said.new_room),)))
    target: int | str = said.new_room or (room or 0)
    edits.append(
        AddDrops(
            room=target,
            kind=said.kind,
            own_kind_id=said.own_kind,
            count=count,
            changes=DropChanges.model_validate(changes),
        )
    )
    told = ", ".join([_counted(said, count, project), *_details(said, changes), _where(said, room, project)])
    return Understood(tokens=tuple(tokens), told=told, complaint="", edits=tuple(edits), completions=completions)


def _changes(said: _Said) -> dict[str, object]:
    changes = dict(said.changes)
    if said.variant:
        changes["variant"] = said.variant
    if said.places:
        changes["place"] = " ".join(said.places)
    if changes.get("poe_class") and said.kind and not DROP_KINDS[said.kind].poe_class and "draw_w" not in changes:
        changes["draw_w"] = 0.0
    return changes


def _counted(said: _Said, count: int, project: Project) -> str:
    own = next((own for own in project.own_kinds if own.id == said.own_kind), None)
    if own:
        return f"{count} × {own.name}"
    row = DROP_KINDS[said.kind or "desk"]
    return counted(count, row.name.lower(), row.plural.lower())


def _details(said: _Said, changes: dict[str, object]) -> list[str]:
    variant = DROP_KINDS[said.kind or "desk"].variant(said.variant) if said.variant else None
    details = [variant.name] if variant else []
    details += said.places
    if "speed_mbit" in changes:
        details.append(speed(int(str(changes["speed_mbit"]))))
    if changes.get("poe_class") is not None:
        details.append(f"class {changes['poe_class']}")
    for name, unit in (("draw_w", "W"), ("megapixels", "MP"), ("run_m", "m")):
        if changes.get(name):
            details.append(f"{changes[name]:g} {unit}")
    details += [str(changes[name]) for name in ("supply", "surface") if changes.get(name)]
    details += [name.replace("_", " ") for name in ("existing", "power_only") if changes.get(name)]
    if changes.get("in_use") is False:
        details.append("spare")
    return details


def _where(said: _Said, room: int | None, project: Project) -> str:
    return f"{said.new_room} (new room)" if said.new_room else project.rooms_by_id[room or 0].name


def _completions(text: str, project: Project) -> tuple[str, ...]:
    """Lines that finish the last word with a kind, place or room."""
    if not text or text.endswith(" "):
        return ()
    head, _, last = text.rpartition(" ")
    names = [own.name for own in project.own_kinds] + [kind.name.lower() for kind in DROP_KINDS.values()]
    names += [room.name for room in project.rooms] + list(spoken.PLACES)
    names += [variant.words[0] for kind in DROP_KINDS.values() for variant in kind.variants if variant.words]
    names += [word for word in spoken.FIELDS if len(word) > 2]
    fitting = [
        name for name in names if name.casefold().startswith(last.casefold()) and name.casefold() != last.casefold()
    ]
    return tuple(f"{head} {name}".strip() for name in dict.fromkeys(fitting))[:5]
