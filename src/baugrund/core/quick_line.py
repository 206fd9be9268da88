"""The quick line: what people say out loud, understood before Enter.

Counts, kinds, rooms, places, speeds, classes, watts and metres in any order: ``4 cam eaves north``,
``desk x2 office 2.5g``, ``ap hall ceiling``.  Words live in ``WORDS``; another language is another table.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any, Literal

from pydantic import field_serializer

from .drop_kinds import DROP_KINDS
from .edits import AddDrops, AddRooms, DropChanges, Edit, NewRoom, as_sent
from .facts import Fact
from .project import Project
from .words import counted, speed

WORDS = {
    "places": (
        "ceiling", "wall", "floor", "low", "high", "eaves", "desk", "shelf", "mast", "post", "door", "window", "north",
        "south", "east", "west", "corner", "outside", "left", "right", "front", "back", "bench",
    ),
    "outdoor": ("outdoor", "outside", "eaves"),
    "new_room": ("in", "new"),
    "filler": ("and", "with", "the", "a", "at", "to", "on", "for", "of", "x"),
    "spare": ("spare", "unused"),
}  # fmt: skip

Role = Literal["count", "kind", "room", "new room", "place", "speed", "class", "watts", "metres", "category", "spare",
               "filler", "unknown"]  # fmt: skip
SPEEDS = {"100m": 100, "1g": 1000, "2.5g": 2500, "5g": 5000, "10g": 10000}
NAMED_CLASSES = {"af": 3, "at": 4}


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
    kinds = _kind_words()
    said = _Said()
    while place < len(words):
        took = _longest(words, place, rooms)
        if took and (said.room is None):
            said.room = rooms[took]
            tokens.append(Token(text=" ".join(words[place : place + len(took)]), role="room"))
            place += len(took)
            continue
        took = _longest(words, place, kinds)
        if took and said.kind is None:
            said.kind = kinds[took]
            tokens.append(Token(text=" ".join(words[place : place + len(took)]), role="kind"))
            place += len(took)
            continue
        role = said.take(words[place].casefold())
        if role == "filler" and words[place].casefold() in WORDS["new_room"] and place + 1 < len(words):
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


class _Said:
    """What has been said so far."""

    def __init__(self) -> None:
        self.kind: str | None = None
        self.room: int | None = None
        self.new_room = ""
        self.count: int | None = None
        self.places: list[str] = []
        self.changes: dict[str, object] = {}

    def take(self, word: str) -> Role:
        """The role of one word, and what follows from it."""
        number = re.fullmatch(r"x?(\d{1,3})x?", word)
        if number and self.count is None and int(number[1]) > 0:
            self.count = int(number[1])
            return "count"
        if word.replace("gbit", "g") in SPEEDS:
            self.changes["speed_mbit"] = SPEEDS[word.replace("gbit", "g")]
            return "speed"
        if word in NAMED_CLASSES:
            self.changes["poe_class"] = NAMED_CLASSES[word]
            return "class"
        if match := re.fullmatch(r"(?:class|cl\.?)([0-8])", word):
            self.changes["poe_class"] = int(match[1])
            return "class"
        if (match := re.fullmatch(r"(\d+(?:\.\d+)?)w", word)) and float(match[1]) <= 100:
            self.changes["draw_w"] = float(match[1])
            return "watts"
        if (match := re.fullmatch(r"(\d+(?:\.\d+)?)m", word)) and 0 < float(match[1]) <= 10_000:
            self.changes["run_m"] = float(match[1])
            return "metres"
        if match := re.fullmatch(r"cat\.?(5|5e|6|6a)", word):
            self.changes["category"] = {"6a": "6A"}.get(match[1], match[1])
            return "category"
        if word in WORDS["spare"]:
            self.changes["in_use"] = False
            return "spare"
        if word in WORDS["outdoor"]:
            self.changes["outdoor_jacket"] = True
        if word in WORDS["places"] or word in WORDS["outdoor"]:
            self.places.append(word)
            return "place"
        if word in WORDS["filler"] or word in WORDS["new_room"]:
            return "filler"
        return "unknown"


def _kind_words() -> dict[tuple[str, ...], str]:
    words: dict[tuple[str, ...], str] = {}
    for kind in DROP_KINDS.values():
        for said in (
            kind.name,
            kind.plural,
            kind.key.replace("_", " "),
            *kind.words,
            *(w + "s" for w in kind.words),
        ):
            words.setdefault(tuple(said.casefold().split()), kind.key)
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
    row = DROP_KINDS[said.kind]
    changes = dict(said.changes)
    if said.places:
        changes["place"] = " ".join(said.places)
    if "poe_class" in changes and not row.poe_class and "draw_w" not in changes:
        changes["draw_w"] = 0.0
    edits: list[Edit] = []
    if said.new_room:
        edits.append(AddRooms(rooms=(NewRoom(name=said.new_room),)))
    target: int | str = said.new_room or (room or 0)
    edits.append(AddDrops(room=target, kind=row.key, count=count, changes=DropChanges.model_validate(changes)))
    where = said.new_room or project.rooms_by_id[room or 0].name
    details = [*said.places]
    if "speed_mbit" in changes:
        details.append(speed(int(str(changes["speed_mbit"]))))
    if "poe_class" in changes:
        details.append(f"class {changes['poe_class']}")
    told = ", ".join([counted(count, row.name.lower(), row.plural.lower()), *details, where])
    if said.new_room:
        told += " (new room)"
    return Understood(tokens=tuple(tokens), told=told, complaint="", edits=tuple(edits), completions=completions)


def _completions(text: str, project: Project) -> tuple[str, ...]:
    """Lines that finish the last word with a kind, place or room."""
    if not text or text.endswith(" "):
        return ()
    head, _, last = text.rpartition(" ")
    names = [kind.name.lower() for kind in DROP_KINDS.values()] + [room.name for room in project.rooms]
    names += list(WORDS["places"])
    fitting = [
        name for name in names if name.casefold().startswith(last.casefold()) and name.casefold() != last.casefold()
    ]
    return tuple(f"{head} {name}".strip() for name in dict.fromkeys(fitting))[:5]
