"""The quick line: what people say, in any order, and nothing that it cannot take."""

from itertools import permutations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from baugrund.core.edits import AddDrops, AddEntry, AddRooms, NewRoom, apply_edits
from baugrund.core.facts.drop_kinds import DROP_KINDS
from baugrund.core.facts.project import empty_project
from baugrund.core.walk.quick_line import understand

from . import spoken_sentences
from .spoken_sentences import SENTENCES

ROOMS = ("Office", "Workshop east", "Workshop west", "Gate", "Kiln room", "Living room")
PROJECT = apply_edits(empty_project("P", 2026), [AddRooms(rooms=tuple(NewRoom(name=name) for name in ROOMS))])
ROOM_IDS = {room.name: room.id for room in PROJECT.rooms}


@pytest.mark.parametrize(
    ("text", "room", "kind", "count", "changes"),
    [
        ("4 cam eaves gate", "Gate", "camera", 4, {"place": "eaves", "outdoor_jacket": True, "environment": "outdoor"}),
        ("desk x2 office 2.5g", "Office", "desk", 2, {"speed_mbit": 2500}),
        ("ap office ceiling", "Office", "access_point", 1, {"place": "ceiling"}),
        (
            "Access Point in workshop east class6 40w",
            "Workshop east",
            "access_point",
            1,
            {"poe_class": 6, "draw_w": 40},
        ),
        ("3x camera kiln room cat6a 42.5m", "Kiln room", "camera", 3, {"category": "6A", "run_m": 42.5}),
        ("2 spare jacks living room", "Living room", "jack", 2, {"in_use": False}),
        ("printer kiln", "Kiln room", "printer", 1, {}),
        ("door station gate left", "Gate", "door_station", 1, {"place": "left"}),
        ("tv living room low wall", "Living room", "screen", 1, {"place": "low wall", "variant": "television"}),
        (
            "2 dome cams 8mp office masonry",
            "Office",
            "camera",
            2,
            {"variant": "dome", "megapixels": 8.0, "surface": "masonry"},
        ),
        ("cam ptz gate", "Gate", "camera", 1, {"variant": "pan_tilt"}),
        ("in-wall ap office existing", "Office", "access_point", 1, {"variant": "in_wall", "existing": True}),
        ("three spare office", "Office", "spare", 3, {}),
        ("jack spare office", "Office", "jack", 1, {"in_use": False}),
        ("beamer living room", "Living room", "screen", 1, {"variant": "projector"}),
        ("passive ap gate", "Gate", "access_point", 1, {"supply": "passive", "poe_class": None, "draw_w": 0.0}),
        ("1 nas office at", "Office", "nas", 1, {"poe_class": 4, "draw_w": 0.0}),
        ("camera af gate", "Gate", "camera", 1, {"poe_class": 3}),
        ("hub office 1g", "Office", "hub", 1, {"speed_mbit": 1000}),
    ],
)
def test_what_is_said_is_understood(text, room, kind, count, changes):
    heard = understand(text, PROJECT)
    assert heard.complaint == ""
    (edit,) = heard.edits
    assert (edit.room, edit.kind, edit.count) == (ROOM_IDS[room], kind, count)
    assert edit.changes.given() == changes
    assert len(apply_edits(PROJECT, heard.edits).drops) == count
    assert room in heard.told


def test_the_order_of_words_does_not_matter():
    heard = {understand(" ".join(words), PROJECT).edits for words in permutations(["3", "cam", "gate", "1g"])}
    assert len(heard) == 1


def test_the_chosen_room_is_taken_when_none_is_named():
    (edit,) = understand("2 desk", PROJECT, ROOM_IDS["Office"]).edits
    assert edit.room == ROOM_IDS["Office"]
    assert understand("2 desk", PROJECT, 12345).complaint.startswith("Which room?")


def test_a_new_room_is_made_on_the_way():
    heard = understand("2 cam new Rear yard", PROJECT)
    after = apply_edits(PROJECT, heard.edits)
    assert (after.rooms[-1].name, len(after.drops)) == ("Rear yard", 2)
    assert heard.told.endswith("Rear yard (new room)")
    without = understand("2 cam in Rear yard", PROJECT)
    assert without.edits == () and without.complaint == "No room is called “Rear yard”. Say “new Rear yard” to add it"


def at_work():
    rooms = tuple(NewRoom(name=name) for name in spoken_sentences.ROOMS)
    return apply_edits(empty_project("P", 2026), [AddRooms(rooms=rooms)])


def test_what_practitioners_say_is_understood_and_never_misread():
    project = at_work()
    ids = {room.name: room.id for room in project.rooms}
    wrong = []
    for text, room, kind, count, changes in SENTENCES:
        heard = understand(text, project)
        if heard.edits:
            edit = heard.edits[-1]
            meant = (ids.get(room, room.removeprefix("+")), kind, count, changes)
            assert (edit.room, edit.kind, edit.count, edit.changes.given()) == meant, text
        else:
            wrong.append(text)
    assert len(SENTENCES) >= 150
    assert len(wrong) <= 0.05 * len(SENTENCES), wrong


@pytest.mark.parametrize(("text", "said"), spoken_sentences.REFUSED)
def test_what_nobody_can_know_is_asked_about(text, said):
    heard = understand(text, at_work())
    assert heard.edits == () and said in heard.complaint


@pytest.mark.parametrize(
    ("text", "complaint"),
    [
        ("", "Say what to add: 2 desk office"), ("office", "Which kind of drop?"),
        ("2 desk", "Which room? Say its name, or “new” and a name to add one"),
        ("2 blob office", "“blob” is not understood"), ("0 desk office", "“0” is not understood"),
        ("desk workshop", "No room is called “workshop”. Say “new workshop” to add it"), ("9999 desk office", "“9999” is not understood"),
        ("cam gate 900w", "“900w” is not understood"), ("cam gate class9", "“class9” is not understood"),
    ],
)  # fmt: skip
def test_what_is_not_understood_is_marked(text, complaint):
    heard = understand(text, PROJECT)
    assert heard.complaint == complaint
    assert heard.edits == ()


def test_the_word_being_typed_is_completed():
    assert understand("2 desk off", PROJECT).completions == ("2 desk Office",)
    assert "acc".casefold() in understand("acc", PROJECT).completions[0]
    assert understand("2 desk ", PROJECT).completions == ()


@pytest.mark.parametrize("kind", DROP_KINDS.values(), ids=lambda kind: kind.key)
def test_every_name_of_every_kind_is_known(kind):
    for said in (kind.name, kind.plural, *kind.words):
        (edit,) = understand(f"{said} office", PROJECT).edits
        assert edit.kind == kind.key


@given(st.text(max_size=80))
@settings(max_examples=400, deadline=None)
def test_any_text_is_taken_apart_without_losing_a_word(text):
    heard = understand(text, PROJECT)
    assert " ".join(token.text for token in heard.tokens).split() == text.split()
    assert bool(heard.edits) != bool(heard.complaint)
    if heard.edits:
        apply_edits(PROJECT, heard.edits)


words = st.sampled_from(
    [
        "2",
        "cam",
        "desk",
        "office",
        "gate",
        "1g",
        "class4",
        "in",
        "new",
        "eaves",
        "x3",
        "at",
        "9m",
        "kiln",
        "room",
        "east",
    ]
)


@given(st.lists(words, max_size=8))
@settings(max_examples=300, deadline=None)
def test_any_words_it_knows_give_a_sound_edit_or_a_complaint(said):
    heard = understand(" ".join(said), PROJECT)
    assert bool(heard.edits) != bool(heard.complaint)
    for edit in heard.edits:
        assert isinstance(edit, AddDrops | AddRooms)
    if heard.edits:
        assert apply_edits(PROJECT, heard.edits).drops


OWN = apply_edits(
    PROJECT,
    [
        AddEntry(list="own_kinds", values={"name": "Kiln logger", "base": "hub", "poe_class": 2, "draw_w": 3.0}),
        AddEntry(list="own_kinds", values={"name": "Dome", "base": "access_point"}),
    ],
)


def test_a_kind_of_ones_own_is_said_by_its_name():
    heard = understand("3 kiln logger kiln room", OWN)
    (edit,) = heard.edits
    assert (edit.kind, edit.own_kind_id, edit.count) == ("hub", OWN.own_kinds[0].id, 3)
    assert heard.told == "3 × Kiln logger, Kiln room"
    assert apply_edits(OWN, heard.edits).drops[0].poe_class == 2


def test_ones_own_name_comes_before_a_word_for_a_variant():
    (edit,) = understand("dome office", OWN).edits
    assert (edit.kind, edit.own_kind_id) == ("access_point", OWN.own_kinds[1].id)
    (edit,) = understand("dome office", PROJECT).edits
    assert (edit.kind, edit.changes.variant) == ("camera", "dome")


@pytest.mark.parametrize(
    ("begun", "finished"),
    [
        ("2 kil", "2 Kiln logger"),
        ("3 tur", "3 turret"),
        ("jack exi", "jack existing"),
        ("desk work", "desk Workshop east"),
    ],
)
def test_any_word_that_can_be_said_is_completed(begun, finished):
    assert finished in understand(begun, OWN).completions


@pytest.mark.parametrize(
    ("text", "told"),
    [
        ("2 dome cams 8mp gate", "2 cameras, dome, 8 MP, Gate"),
        ("jack office masonry existing spare", "1 wall jack, masonry, existing, spare, Office"),
        ("ap office passive", "1 access point, passive, Office"),
        ("cam gate class4 20w 35m", "1 camera, class 4, 20 W, 35 m, Gate"),
    ],
)
def test_what_was_understood_is_told_in_full(text, told):
    assert understand(text, PROJECT).told == told


def test_two_kinds_in_one_line_are_one_too_many():
    heard = understand("desk camera office", PROJECT)
    assert heard.edits == ()
    assert heard.complaint == "“camera” is not understood"
