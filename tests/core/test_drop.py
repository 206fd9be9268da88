"""A drop and its kinds: every limit from both sides, and variants that say only what differs."""

import pytest
from pydantic import ValidationError

from baugrund.core.edits import AddDrops, AddRooms, DropChanges, NewRoom, apply_edits
from baugrund.core.facts.building import Floor
from baugrund.core.facts.drop import Drop
from baugrund.core.facts.drop_kinds import DROP_KINDS
from baugrund.core.facts.project import empty_project

BARE = {"id": 1, "room_id": 2, "closet_id": 3, "kind": "camera", "speed_mbit": 100}


@pytest.mark.parametrize(
    ("field", "least", "most", "under", "over"),
    [
        ("height_m", -10, 100, -10.1, 100.1), ("megapixels", 0.3, 64, 0.2, 64.1), ("x_m", -5000, 5000, -5001, 5001),
        ("traffic_mbit", 0, 10_000, -1, 10_001), ("run_m", 0.001, 10_000, 0, 10_001), ("draw_w", 0, 100, -1, 100.1),
    ],
)  # fmt: skip
def test_every_limit_is_kept_on_both_sides(field, least, most, under, over):
    other = {"y_m": 0} if field == "x_m" else {}
    for value in (least, most):
        assert getattr(Drop(**BARE, **other, **{field: value}), field) == value
    for value in (under, over):
        with pytest.raises(ValidationError):
            Drop(**BARE, **other, **{field: value})


@pytest.mark.parametrize(("height", "taken"), [(1.49, False), (1.5, True), (30, True), (30.1, False), (0, False)])
def test_a_floor_has_a_height(height, taken):
    if taken:
        assert Floor(id=1, name="F", height_m=height).height_m == height
    else:
        with pytest.raises(ValidationError):
            Floor(id=1, name="F", height_m=height)


@pytest.mark.parametrize("photos", [("0" * 63,), ("G" * 64,), tuple(f"{n:064x}" for n in range(13))])
def test_photos_are_named_by_their_hash_and_are_a_dozen_at_most(photos):
    with pytest.raises(ValidationError):
        Drop(**BARE, photos=photos)
    assert len(Drop(**BARE, photos=tuple(f"{n:064x}" for n in range(12))).photos) == 12


KINDS_AND_FORMS = [
    pytest.param(kind, variant, id=f"{kind.key}-{variant.key if variant else 'bare'}")
    for kind in DROP_KINDS.values()
    for variant in (None, *kind.variants)
]


@pytest.mark.parametrize(("kind", "variant"), KINDS_AND_FORMS)
def test_every_kind_and_form_makes_a_sound_drop(kind, variant):
    rooms = AddRooms(rooms=(NewRoom(name="In"), NewRoom(name="Out", floor="Outside", outside=True)))
    changes = DropChanges(variant=variant.key) if variant else DropChanges()
    both = [AddDrops(room=room, kind=kind.key, changes=changes) for room in ("In", "Out")]
    inside, outside = apply_edits(empty_project("K", 2026), [rooms, *both]).drops
    for field, value in (variant.sets if variant else {}).items():
        assert getattr(inside, field) == value
    assert outside.outdoor_jacket
    assert outside.environment == "outdoor"
    assert (inside.poe_class is None) == (inside.draw_w == 0)
    assert inside.lan_ports == (variant.lan_ports if variant else (kind.variants[0].lan_ports if kind.variants else 0))


def test_a_power_only_drop_has_no_traffic_and_a_typed_rate_stands():
    assert Drop(**BARE, power_only=True).busy_mbit == 0
    assert Drop(**BARE, power_only=True, traffic_mbit=3).busy_mbit == 3
    assert Drop(**BARE).busy_mbit == 6
    assert Drop(**BARE, megapixels=8).busy_mbit == 12


def test_kinds_have_names_of_their_own():
    for field in ("name", "plural", "column"):
        names = [getattr(kind, field) for kind in DROP_KINDS.values()]
        assert len(set(names)) == len(names)
