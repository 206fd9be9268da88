"""Edits: what each does, what it says, and that any sequence leaves a sound project."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import TypeAdapter, ValidationError

from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    AddList,
    AddRooms,
    ChangeDrops,
    ChangeEntry,
    ChangeRoom,
    ChangeSettings,
    DropChanges,
    DuplicateDrops,
    Edit,
    Held,
    Hold,
    MoveToNetwork,
    NewDrop,
    NewRoom,
    PatchCords,
    PinCord,
    Placed,
    PlaceDrops,
    PutLabels,
    RemoveDrops,
    RemoveEntry,
    RemoveRoom,
    Rename,
    RoomChanges,
    SetGrowth,
    SetPermission,
    SetStance,
    SetTally,
    TellDiscovered,
    UseNetworks,
    apply_edits,
    as_sent,
)
from baugrund.core.errors import BaugrundError, InvalidInput, NotFound
from baugrund.core.facts.drop_kinds import DROP_KINDS
from baugrund.core.facts.project import Project, empty_project
from baugrund.core.reach.runs import usual_m
from baugrund.store.changes import changes_between, rows_of

from .small import changed, kept, line, planned

ANY_EDIT = TypeAdapter(Edit)
EIGHT = (Held(closet_id=1, model="switch-8", count=1),)


@pytest.fixture
def project():
    rooms = (NewRoom(name="Hall", floor="Ground"), NewRoom(name="Yard", floor="Outside", outside=True))
    return apply_edits(empty_project("P", 2026), [AddRooms(rooms=rooms), AddDrops(room="Hall", kind="desk", count=2)])


def hall(project):
    return project.rooms[0].id


def test_a_tally_adds_at_the_end_and_takes_from_the_end(project):
    first = [drop.id for drop in project.drops]
    more = apply_edits(project, [SetTally(room_id=hall(project), kind="desk", count=4)])
    assert [drop.id for drop in more.drops][:2] == first
    fewer = apply_edits(more, [SetTally(room_id=hall(project), kind="desk", count=1)])
    assert [drop.id for drop in fewer.drops] == first[:1]


def test_a_new_drop_has_the_usual_need_of_its_kind(project):
    drop = apply_edits(project, [AddDrops(room="Hall", kind="access_point")]).drops[-1]
    assert (drop.speed_mbit, drop.poe_class, drop.draw_w, drop.place) == (2500, 4, 15.8, "ceiling")
    assert (usual_m(drop), drop.busy_mbit) == (25, 150)


def test_a_drop_outside_starts_in_an_outdoor_jacket(project):
    drops = apply_edits(project, [AddDrops(room="yard", kind="camera"), AddDrops(room="Hall", kind="camera")]).drops
    assert [drop.outdoor_jacket for drop in drops[-2:]] == [True, False]


def test_many_drops_change_together_and_only_in_what_is_set(project):
    ids = tuple(drop.id for drop in project.drops)
    changed = apply_edits(project, [ChangeDrops(ids=ids, changes=DropChanges(run_m=12, label="by the door"))])
    assert {(d.run_m, d.label, d.speed_mbit) for d in changed.drops} == {(12, "by the door", 1000)}
    cleared = apply_edits(changed, [ChangeDrops(ids=ids[:1], changes=DropChanges(run_m=None))])
    assert [d.run_m for d in cleared.drops] == [None, 12]


def test_removing_a_room_takes_its_drops(project):
    assert apply_edits(project, [RemoveRoom(id=hall(project))]).drops == ()


def test_lines_additions_growth_and_stances_come_and_go(project):
    edits = [
        line("Fibre", 500, 100), planned(kind="camera", count=2, years=3),
        SetGrowth(kind="desk", percent=8), SetStance(model="switch-8", pinned=1), kept("switch-8", 2), Hold(models=EIGHT),
    ]  # fmt: skip
    grown = apply_edits(project, edits)
    stance = grown.stances_by_model["switch-8"]
    assert (stance.pinned, grown.owned["switch-8"], grown.held) == (1, 2, {1: {"switch-8": 1}})
    assert grown.growth_of("desk") == 8
    gone = [RemoveEntry(list=name, id=getattr(grown, name)[0].id) for name in ("lines", "additions", "kit")]
    back = apply_edits(grown, [
        *gone, SetGrowth(kind="desk", percent=None), Hold(models=()), SetStance(model="switch-8", pinned=0),
    ])  # fmt: skip
    assert (back.lines, back.additions, back.kit, back.growth_rates, back.stances) == ((), (), (), (), ())
    assert not back.owned


def test_a_line_changes_in_place(project):
    one = apply_edits(project, [line("A", 1, 1)])
    number = one.lines[0].id
    two = apply_edits(one, [changed("lines", number, name="B"), changed("lines", number, standby=True)])
    assert [(line.name, line.down_mbit, line.standby) for line in two.lines] == [("B", 1, True)]
    assert changed("lines", number, name="C").summary(two) == "change the line B"
    with pytest.raises(InvalidInput, match=r"down_mbit.*greater than or equal to 1"):
        apply_edits(two, [changed("lines", number, down_mbit=0)])
    with pytest.raises(InvalidInput, match="speed_of_light"):
        apply_edits(two, [changed("lines", number, speed_of_light=1)])


@pytest.mark.parametrize(
    ("edit", "told"),
    [
        (Rename(name="Q"), "rename the project to Q"),
        (ChangeSettings(changes={"school": "class", "margin_percent": 5}), "change margin percent and school"),
        (ChangeEntry(list="closets", id=1, changes={"units": 4}), "change the closet Main closet"),
        (AddRooms(rooms=(NewRoom(name="Attic"),)), "add Attic"),
        (AddRooms(rooms=(NewRoom(name="A"), NewRoom(name="B"))), "add 2 rooms"),
        (ChangeRoom(id=4, changes=RoomChanges(name="Porch")), "change the room Hall"),
        (RemoveRoom(id=4), "remove Hall with 2 drops"),
        (AddDrops(room=4, kind="camera", count=3), "add 3 cameras in Hall"),
        (SetTally(room_id=4, kind="nas", count=1), "set Hall to 1 NAS"),
        (ChangeDrops(ids=(7, 8), changes=DropChanges(run_m=3)), "change run m of 2 drops"),
        (RemoveDrops(ids=(7,)), "remove 1 drop"),
        (line("L", 1, 1), "add the line L"),
        (planned(kind="access_point", count=3, years=2), "add the planned addition of 3 access points"),
        (SetGrowth(kind="hub", percent=1), "set the growth of hubs"),
        (SetStance(model="switch-8", pinned=2), "pin 2 switch-8"),
        (SetStance(model="switch-8", excluded=True, pinned=0), "take out the pin and leave out switch-8"),
        (Hold(models=EIGHT), "keep these boxes"),
        (Hold(models=()), "follow the pick again"),
    ],
)
def test_every_edit_says_what_it_does_and_travels(project, edit, told):
    assert edit.summary(project) == told
    assert ANY_EDIT.validate_python(as_sent(edit)) == edit
    changes = getattr(edit, "changes", None)
    assert set(as_sent(edit).get("changes", {})) == set(getattr(changes, "model_fields_set", changes or ()))
    assert isinstance(apply_edits(project, [edit]), Project)


@pytest.mark.parametrize(
    "edit",
    [
        ChangeDrops(ids=(99,), changes=DropChanges(run_m=1)), RemoveDrops(ids=(99,)), RemoveRoom(id=99), RemoveEntry(list="lines", id=9),
        AddDrops(room=99, kind="desk"), AddDrops(room="Nowhere", kind="desk"), SetTally(room_id=99, kind="desk", count=1),
        ChangeDrops(ids=(7,), changes=DropChanges(room_id=99)), ChangeEntry(list="closets", id=9, changes={"units": 3}),
        changed("lines", 77, standby=True), RemoveEntry(list="goals", id=5), ChangeRoom(id=8, changes=RoomChanges()),
    ],
)  # fmt: skip
def test_what_is_not_there_is_told(project, edit):
    with pytest.raises(NotFound, match="There is no"):
        apply_edits(project, [edit])


@pytest.mark.parametrize("changes", [{"speed_mbit": None}, {"category": None}, {"in_use": None}])
def test_a_field_that_must_be_there_cannot_be_cleared(project, changes):
    with pytest.raises(InvalidInput):
        apply_edits(project, [ChangeDrops(ids=(7,), changes=DropChanges(**changes))])


@pytest.mark.parametrize(
    "wrong",
    [
        {"run_m": 0}, {"run_m": 10_001}, {"run_m": float("nan")}, {"draw_w": 101}, {"poe_class": 9}, {"poe_class": -1},
        {"speed_mbit": 300}, {"category": "7"}, {"label": "x" * 201}, {"traffic_mbit": float("inf")}, {"colour": 1},
        {"note": "a\x07"},
    ],
)  # fmt: skip
def test_values_out_of_range_are_refused(wrong):
    with pytest.raises(ValidationError):
        DropChanges(**wrong)


@pytest.mark.parametrize("right", [{"run_m": 10_000}, {"draw_w": 100}, {"poe_class": 8}, {"poe_class": 0},
                                   {"label": "x" * 200}, {"note": "two\nlines"}])  # fmt: skip
def test_values_at_the_limit_are_taken(right):
    assert DropChanges(**right).given() == right


kinds = st.sampled_from(sorted(DROP_KINDS))
numbers = st.integers(1, 16)
any_edit = st.one_of(
    st.builds(SetTally, room_id=numbers, kind=kinds, count=st.integers(0, 4)),
    st.builds(AddDrops, room=numbers, kind=kinds, count=st.integers(1, 3)),
    st.builds(lambda name: AddRooms(rooms=(NewRoom(name=name),)), st.sampled_from(["A", "B", "Ω"])),
    st.builds(RemoveRoom, id=numbers),
    st.builds(lambda i: RemoveDrops(ids=(i,)), numbers),
    st.builds(lambda i, run: ChangeDrops(ids=(i,), changes=DropChanges(run_m=run)), numbers, st.floats(1, 90)),
    st.builds(lambda i, to: ChangeDrops(ids=(i,), changes=DropChanges(room_id=to)), numbers, numbers),
    st.builds(lambda h: ChangeSettings(changes={"horizon_years": h}), st.integers(0, 10)),
    st.builds(SetStance, model=st.sampled_from(["switch-8", "router-1wan-4"]), pinned=st.integers(0, 2)),
    st.builds(planned, kind=kinds, count=st.integers(1, 3), years=st.integers(1, 10)),
    st.builds(lambda name: AddEntry(list="measures", values={"name": name}), st.sampled_from(["M", "N"])),
    st.builds(lambda room: AddEntry(list="goals", values={"kind": "coverage", "room_ids": [room]}), numbers),
    st.builds(lambda room: AddEntry(list="entries", values={"name": "E", "room_id": room}), numbers),
    st.builds(lambda kind: AddEntry(list="own_kinds", values={"name": "K", "base": kind}), kinds),
    st.builds(lambda name, i, new: ChangeEntry(list=name, id=i, changes={"name": new}),
              st.sampled_from(["measures", "entries", "floors", "buildings"]), numbers, st.sampled_from(["P", "Q"])),
    st.builds(lambda name, i: RemoveEntry(list=name, id=i),
              st.sampled_from(["measures", "goals", "entries", "own_kinds", "floors", "buildings"]), numbers),
    st.builds(lambda i, room, x: PlaceDrops(places=(Placed(id=i, room_id=room, x_m=x, y_m=1),)), numbers, numbers,
              st.floats(-5, 5)),
    st.builds(lambda i: DuplicateDrops(ids=(i,)), numbers),
    st.builds(lambda i, to: ChangeDrops(ids=(i,), changes=DropChanges(behind_id=to)), numbers, numbers),
    st.builds(lambda kind, name: AddList(drops=(NewDrop(room=name, floor="F", kind=kind),)), kinds,
              st.sampled_from(["A", "B"])),
    st.builds(lambda i, floor: ChangeRoom(id=i, changes=RoomChanges(floor=floor)), numbers, st.sampled_from(["F", "G"])),
    st.builds(lambda key: UseNetworks(template=key), st.sampled_from(["home", "shop"])),
    st.builds(lambda n: AddEntry(list="networks", values={"name": f"N{n}", "number": n}), st.integers(1, 3)),
    st.builds(lambda i: RemoveEntry(list="networks", id=i), numbers),
    st.builds(lambda one, other: SetPermission(from_id=one, to_id=other, access="all"), numbers, numbers),
    st.builds(lambda i, to: MoveToNetwork(drop_ids=(i,), network_id=to), numbers, st.one_of(st.none(), numbers)),
    st.builds(lambda i, port: PinCord(drop_id=i, box="box/s/1", port=port), numbers, st.integers(1, 3)),
    st.builds(lambda i, at: PatchCords(closet_id=1, cords=({"drop_id": i, "panel": "panel/1", "position": at},)), numbers,
              st.integers(1, 3)),
    st.builds(lambda ids: PutLabels(drop_ids=ids), st.one_of(st.none(), st.tuples(numbers))),
    st.builds(lambda port: TellDiscovered(ports=({"closet_id": 1, "box": "box/s/1", "port": port},)), st.integers(1, 3)),
    st.builds(lambda room: ChangeEntry(list="closets", id=1, changes={"room_id": room}), st.one_of(st.none(), numbers)),
)  # fmt: skip


@given(st.lists(any_edit, max_size=25))
@settings(max_examples=150, deadline=None)
def test_any_sequence_leaves_a_sound_project_and_its_changes_lead_back(edits):
    now = apply_edits(empty_project("P", 2026), [AddRooms(rooms=(NewRoom(name="R"),))])
    for edit in edits:
        before = now
        try:
            now = apply_edits(now, [edit])
        except BaugrundError:
            assert now is before
            continue
        assert Project.model_validate(now.model_dump()) == now
        assert now.next_id >= before.next_id
        rows = rows_of(before)
        for change in changes_between(before, now):
            assert rows.get((change.table, change.key)) == change.before
            if change.after is None:
                del rows[change.table, change.key]
            else:
                rows[change.table, change.key] = change.after
        assert rows == rows_of(now)
        for change in changes_between(before, now):
            back = change.reversed()
            assert back.reversed() == change
            assert back.fields() == change.fields() != set()
