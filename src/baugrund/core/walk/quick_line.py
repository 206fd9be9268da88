"""The quick line: what people say out loud, understood before Enter.

Counts, kinds, variants, rooms, places, speeds, classes, watts, metres and megapixels in any order:
``4 dome cam eaves north 8mp``, ``desk x2 office 2.5g``, ``ap hall ceiling``.  The words live in ``spoken``.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from pydantic import field_serializer

from ..edits import AddDrops, AddRooms, DropChanges, Edit, NewRoom, as_sent
from ..facts.building import Room
from ..facts.drop import OwnKind
from ..facts.drop_kinds import DROP_KINDS, KindKey
from ..facts.fact import Fact
from ..facts.project import Project
from ..words import speed
from . import spoken
from .said import Heard, Role, Said, changes_of


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


PUNCTUATION = ".,;:!?()[]\"“”„–—-/'’"
"""What may stand around a word without meaning anything."""


def understand(text: str, project: Project, room_id: int | None = None) -> Understood:
    """Read one line against a project.  ``room_id``: the room that is selected, taken when none is named."""
    reader = _Reader(text, _kind_words(project.own_kinds), project.rooms)
    reader.read()
    tokens = _guess_room(reader.tokens, reader.said, project)
    return _concluded(tokens, reader.said, project, room_id, _completions(text, project))


@dataclass(frozen=True)
class Phrase:
    """What a few words say of a drop, whatever list they stand in.

    ``powered``: it is said to be powered, not by which class.  ``rest``: the words that are not understood.
    """

    kind: KindKey | None
    own_kind_id: int | None
    count: int | None
    changes: dict[str, object]
    powered: bool
    rest: str
    told: str


def read_phrase(text: str, project: Project) -> Phrase:
    """What a cell of somebody else's list says of a drop; rooms and counts are other cells."""
    reader = _Reader(text, _kind_words(project.own_kinds), ())
    reader.read()
    said, changes = reader.said, changes_of(reader.said)
    if said.kind is None and said.variant:
        said.kind = "desk"
    rest = " ".join(token.text for token in reader.tokens if token.role in ("unknown", "count", "new room"))
    told = ", ".join([_name_of(said, project), *_details(said, changes)]) if said.kind else ""
    return Phrase(said.kind, said.own_kind, said.count, changes, said.powered, rest, told)


class _Reader:
    """A line, word by word: at every place the longest thing that is known."""

    def __init__(self, text: str, kinds: dict[tuple[str, ...], Heard], rooms: Iterable[Room]) -> None:
        self.shown = text.split()
        self.words = [_bare(word) for word in self.shown]
        self.rooms = {tuple(map(_bare, room.name.split())): room.id for room in rooms}
        self.kinds = kinds
        self.tokens: list[Token] = []
        self.said = Said()

    def read(self) -> None:
        place = 0
        while place < len(self.words):
            role, took = self._next(place)
            self.tokens.append(Token(text=" ".join(self.shown[place : place + took]), role=role))
            place += took

    def _next(self, place: int) -> tuple[Role, int]:
        """The role of what stands at a place, and how many words it is."""
        said, words = self.said, self.words
        if not words[place]:
            return "filler", 1
        room = _longest(words, place, self.rooms) if said.room is None and not said.new_room else None
        kind = _longest(words, place, self.kinds)
        if room and len(room) >= len(kind or ()):
            said.room = self.rooms[room]
            return "room", len(room)
        if words[place] in spoken.NEW_ROOM and said.room is None and not said.new_room:
            return "filler" if self._begin_room(place) else "unknown", 1
        if said.naming and (took := self._name_room(place)):
            return "new room", took
        several = self._several(place)
        if kind and len(kind) >= (several[1] if several else 0):
            heard = self._of_kind(self.kinds[kind])
            if said.hear(*heard):
                return "kind" if said.kind_word == heard and said.kind else "form", len(kind)
        if several:
            return several
        called = _longest(words, place, _CALLED)
        if called and said.call(_CALLED[called]):
            return "kind", len(called)
        if words[place] in spoken.LAST_ONLY and place + 1 < len(words):
            return "filler", 1
        return said.take(words[place]), 1

    def _of_kind(self, heard: Heard) -> Heard:
        """A form that several kinds have is one of the kind that is spoken of."""
        _, variant, own = heard
        if variant and self.said.kind and DROP_KINDS[self.said.kind].variant(variant):
            return self.said.kind, variant, own
        return heard

    def _begin_room(self, place: int) -> bool:
        """Whether a name follows the word for a new room."""
        self.said.naming = place + 1 < len(self.words)
        return self.said.naming

    def _name_room(self, place: int) -> int:
        """How many words from here on name the new room: up to the first figure with a unit; 0: none do."""
        said = self.said
        while place < len(self.words) and (self.words[place] in spoken.FILLER or not self.words[place]):
            return 0
        end = place
        while end < len(self.words) and self.words[end] and not self._is_measured(end):
            end += 1
        said.naming = False
        said.new_room = " ".join(word.strip(PUNCTUATION) for word in self.shown[place:end])
        return end - place

    def _is_measured(self, place: int) -> bool:
        probe = Said()
        pair = " ".join(self.words[place : place + 2])
        word = self.words[place]
        return bool(probe.measure(pair) or probe.measure(word) or word == spoken.POWERED or probe.is_count(word))

    def _several(self, place: int) -> tuple[Role, int] | None:
        """Several words that are one thing: a figure with its unit, a count, words that set fields."""
        for count in (3, 2):
            some = " ".join(self.words[place : place + count])
            if place + count > len(self.words):
                continue
            role = self.said.take_several(some)
            if role:
                return role, count
        return None


def _bare(word: str) -> str:
    """A word in small letters, without the punctuation around it."""
    return word.casefold().strip(PUNCTUATION)


def _plurals(word: str) -> tuple[str, ...]:
    """A word for a thing, and for several of it."""
    return (word, f"{word}s", f"{word}es") if not word.endswith("s") else (word, f"{word}es")


_CALLED = {tuple(name.split()): called for single, called in spoken.CALLED.items() for name in _plurals(single)}


@lru_cache(8)
def _kind_words(own_kinds: tuple[OwnKind, ...]) -> dict[tuple[str, ...], Heard]:
    """What people say for kinds, their variants and the project's own kinds; the project's own come first."""
    words: dict[tuple[str, ...], Heard] = {}
    for own in own_kinds:
        words.setdefault(tuple(own.name.casefold().split()), (own.base, "", own.id))
    for kind in DROP_KINDS.values():
        for variant in kind.variants:
            for said in (one for word in variant.words for one in _plurals(word)):
                words.setdefault(tuple(said.casefold().split()), (kind.key, variant.key, None))
    for kind in DROP_KINDS.values():
        names = (kind.name, kind.plural, kind.key.replace("_", " "), *kind.words, *spoken.ALSO.get(kind.key, ()))
        for said in (one for name in names for one in _plurals(name.casefold())):
            words.setdefault(tuple(said.split()), (kind.key, "", None))
    return words


def _longest(words: list[str], place: int, known: Mapping[tuple[str, ...], object]) -> tuple[str, ...] | None:
    rest = words[place:]
    fitting = [key for key in known if key and tuple(rest[: len(key)]) == key]
    return max(fitting, key=len, default=None)


def _guess_room(tokens: list[Token], said: Said, project: Project) -> list[Token]:
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
    tokens: list[Token], said: Said, project: Project, room_id: int | None, completions: tuple[str, ...]
) -> Understood:
    unknown = [token.text for token in tokens if token.role == "unknown"]
    if said.kind is None and said.variant:
        said.kind = "desk"
    room = said.room or (room_id if room_id in project.rooms_by_id and not said.new_room else None)
    complaint = ""
    if not tokens:
        complaint = "Say what to add: 2 desk office"
    elif unknown:
        complaint = f"“{unknown[0]}” is not understood"
        if said.kind is not None and said.room is None and not said.new_room:
            name = " ".join(word.strip(PUNCTUATION) for word in unknown)
            complaint = f"No room is called “{name}”. Say “new {name}” to add it"
    elif said.kind is None and not said.variant:
        complaint = "Which kind of drop?"
    elif room is None and not said.new_room:
        complaint = "Which room? Say its name, or “new” and a name to add one"
    elif len(said.new_room) > 200:
        complaint = "A room's name has 200 characters at most"
    if complaint or said.kind is None:
        return Understood(tokens=tuple(tokens), told="", complaint=complaint, edits=(), completions=completions)
    count = said.count or 1
    changes = changes_of(said)
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


def _name_of(said: Said, project: Project) -> str:
    own = next((own for own in project.own_kinds if own.id == said.own_kind), None)
    return own.name if own else DROP_KINDS[said.kind or "desk"].name


def _counted(said: Said, count: int, project: Project) -> str:
    if said.own_kind:
        return f"{count} × {_name_of(said, project)}"
    return DROP_KINDS[said.kind or "desk"].many(count)


def _details(said: Said, changes: dict[str, object]) -> list[str]:
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


def _where(said: Said, room: int | None, project: Project) -> str:
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
