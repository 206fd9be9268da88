"""Whole port lists: moves against enumeration of every way to plug a small closet, link ends, pins, what is better."""

import itertools
import random

from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    AddRooms,
    ChangeDrops,
    ChangeEntry,
    ChangeSettings,
    DropChanges,
    NewRoom,
    PatchCords,
    PinCord,
    RemoveDrops,
    apply_edits,
)
from baugrund.core.facts.project import empty_project
from baugrund.core.findings import SiteState
from baugrund.core.findings.patch import labels as findings_of_labels
from baugrund.core.patch.told import patch_of
from baugrund.core.pick.standing import Boxes
from baugrund.core.stack.told import stack_of
from baugrund.core.standing.ground import grounds_of

from .small import catalogue, injector, line, ports, router, some_of, switch

LIST = catalogue(
    router("home", ports(3), ports(2, 2500)),
    switch("fed", ports(3), ports(3, poe=3), watts=60.0),
    switch("long", ports(12)),
)


def closet(desks=3, cameras=2, access_points=1, **settings):
    """A closet of its own with a few drops in two rooms; nothing grows."""
    terms = ChangeSettings(changes={"growth_percent": 0, "separate_networks": False, **settings})
    rooms = AddRooms(rooms=(NewRoom(name="Hall"), NewRoom(name="Shop")))
    start = apply_edits(empty_project("P", 2026), [terms, rooms])
    hall, shop = (one.id for one in start.rooms)
    bare = DropChanges(poe_class=None, speed_mbit=2500)
    adds = [(hall, "desk", desks, DropChanges()), (shop, "camera", cameras, DropChanges(draw_w=5.0)),
            (shop, "access_point", access_points, bare)]  # fmt: skip
    return apply_edits(
        start, [AddDrops(room=room, kind=kind, count=count, changes=more) for room, kind, count, more in adds if count]
    )


def told(project, *boxes, better=False, models=LIST):
    grounds = grounds_of(project, models, {1: Boxes(boxes or ("home", "fed"))})
    return patch_of(project, grounds, stack_of(project, models, grounds), better=better).closets[0]


def seats(here):
    return {one.drop_id: (one.box, one.port) for one in here.lines if one.drop_id is not None and one.port}


def fits(drop, port):
    """Whether a port of a face serves a drop, as a person would read it off the box."""
    powered = drop.poe_class is None or (port.poe_class or -1) >= drop.poe_class
    return powered and port.speed_mbit >= drop.speed_mbit


def fewest_moves(project, here, plugged):
    """The fewest cords that leave their group of ports, over every way to seat the drops on ports that serve them."""
    taken = {one.at_port for one in here.lines if one.use in ("link", "uplink")}
    groups = {}
    for face in here.faces:
        for port in face.ports:
            if face.kind != "panel" and port.number and f"{face.short}/{port.name}" not in taken:
                key = (face.thing, port.speed_mbit, port.poe_class)
                groups.setdefault(key, []).append(port)
    at = {(thing, port.number): key for key, some in groups.items() for port in some for thing in (key[0],)}
    drops = [one for one in project.drops if project.is_live(one)]
    ways = [[key for key, some in groups.items() if fits(drop, some[0])] for drop in drops]
    best = None
    for way in itertools.product(*ways):
        if any(way.count(key) > len(some) for key, some in groups.items()):
            continue
        moved = sum(
            drop.id in plugged and at.get(plugged[drop.id]) != key for drop, key in zip(drops, way, strict=True)
        )
        best = moved if best is None else min(best, moved)
    return best


@some_of(range(18))
def test_a_plugged_closet_moves_as_few_cords_as_any_way_to_plug_it(seed):
    chance = random.Random(seed)
    project = closet(desks=chance.randrange(1, 4), cameras=chance.randrange(1, 3), access_points=chance.randrange(0, 2))
    first = told(project)
    every = [
        (face.thing, port.number) for face in first.faces if face.kind != "panel" for port in face.ports if port.number
    ]
    spots = chance.sample(every, len(project.drops))
    cords = [{"drop_id": drop.id, "box": box, "port": port}
             for drop, (box, port) in zip(project.drops, spots, strict=True) if chance.random() < 0.8]  # fmt: skip
    plugged = apply_edits(project, [PatchCords(closet_id=1, cords=cords)])
    here = told(plugged)
    was = {one.drop_id: (one.box, one.port) for one in plugged.patches}
    ends = {(one.box, one.port) for one in here.lines if one.use in ("link", "uplink")}
    free = {drop: spot for drop, spot in was.items() if spot not in ends}
    assert here.proven
    moved = sum(seats(here)[drop] != spot for drop, spot in was.items())
    assert moved == fewest_moves(plugged, here, free) + len(was) - len(free)
    assert sorted(set(seats(here).values())) == sorted(seats(here).values())
    assert here.moves == moved


def test_an_end_of_a_link_stays_in_its_port_until_that_port_is_gone():
    project = closet()
    first = told(project)
    uplink = next(one for one in first.lines if one.use == "uplink")
    ends = {one.at_port: one for one in first.lines if one.use in ("link", "uplink")}
    assert len(ends) == 2 and not any(one.drop_id for one in ends.values())
    cords = [{"end": uplink.end, "box": uplink.box, "port": 1}]
    other = told(apply_edits(project, [PatchCords(closet_id=1, cords=cords)]))
    stays = next(one for one in other.lines if one.use == "uplink")
    assert stays.port == 1 and not stays.moves, "it is one of the group where the pick has it"
    beyond = [{"end": uplink.end, "box": uplink.box, "port": 5}]
    moved = next(
        one for one in told(apply_edits(project, [PatchCords(closet_id=1, cords=beyond)])).lines if one.use == "uplink"
    )
    assert moved.moves and moved.was_port == 5 and moved.port != 5


def test_a_pin_is_kept_whoever_else_has_to_move_and_let_go_again():
    project = apply_edits(closet(), [told(closet()).edit])
    desk, other = (one for one in project.drops[:2])
    mine = seats(told(project))
    pinned = apply_edits(project, [PinCord(drop_id=desk.id, box=mine[other.id][0], port=mine[other.id][1])])
    rows = {one.drop_id: one for one in pinned.patches if one.drop_id}
    assert rows[desk.id].fixed and rows[other.id].box == "", "whoever sat there makes way"
    here = told(pinned)
    assert seats(here)[desk.id] == mine[other.id] and here.moves == 0
    assert [one.drop_id for one in here.lines if one.fixed] == [desk.id]
    loose = apply_edits(pinned, [PinCord(drop_id=desk.id, fixed=False)])
    assert not any(one.fixed for one in told(loose).lines)
    taken = apply_edits(pinned, [here.edit])
    assert [one.drop_id for one in taken.patches if one.fixed] == [desk.id], (
        "what is pinned stays pinned when a list is taken"
    )
    assert PinCord(drop_id=desk.id).summary(project).startswith("pin ")
    assert PatchCords(closet_id=1, cords=()).summary(project) == "patch 0 cords in Main closet"


def test_a_pin_that_cannot_be_is_said_and_the_drop_sits_elsewhere():
    project = closet()
    camera = next(one for one in project.drops if one.kind == "camera")
    bare = next(face for face in told(project).faces if face.kind == "router")
    pinned = apply_edits(project, [PinCord(drop_id=camera.id, box=bare.thing, port=1)])
    here = told(pinned)
    assert here.unheld == (camera.id,) and here.moves == 1
    assert seats(here)[camera.id][0] != bare.thing


def test_drops_that_find_no_port_are_named_and_keep_their_lines():
    project = closet(desks=30)
    here = told(project)
    assert set(here.unseated) == {one.id for one in project.drops}, "the boxes do not bear them"
    assert len(here.lines) == len(project.drops) and all(one.use == "cable" for one in here.lines)
    spare = apply_edits(
        closet(jacks_live="in_use"), [ChangeDrops(ids=[closet().drops[0].id], changes={"in_use": False})]
    )
    here = told(spare)
    assert here.unseated == () and [one.use for one in here.lines if one.drop_id == spare.drops[0].id] == ["cable"]


def test_what_is_better_is_offered_with_what_it_moves_and_taken_once():
    project = closet(desks=3, cameras=0, access_points=0)
    first = told(project)
    powered = next(face for face in first.faces if any(port.poe_class for port in face.ports))
    fed = [port.number for port in powered.ports if port.poe_class]
    cords = [
        {"drop_id": one.id, "box": powered.thing, "port": number}
        for one, number in zip(project.drops, fed[:2], strict=False)
    ]
    plugged = apply_edits(project, [PatchCords(closet_id=1, cords=cords)])
    here = told(plugged, better=True)
    assert here.moves == 0 and here.idle == 2 and here.better is not None
    assert (here.better.idle, here.better.moves) == (0, 2)
    after = told(apply_edits(plugged, [here.better.edit]), better=True)
    assert after.idle == 0 and after.better is None and after.moves == 0


def test_cords_from_one_panel_to_one_box_do_not_cross_where_nothing_is_plugged():
    project = closet(desks=9, cameras=0, access_points=0)
    here = told(project, "home", "long")
    assert here.crossings == 0
    first, second = [one for one in here.lines if one.box.startswith("box/long") and one.drop_id is not None][:4:3]
    swapped = [{"drop_id": one.drop_id, "panel": one.panel, "position": one.position, "box": one.box, "port": other.port}
               for one, other in ((first, second), (second, first))]  # fmt: skip
    crossed = told(apply_edits(project, [PatchCords(closet_id=1, cords=swapped)]), "home", "long")
    assert crossed.crossings == 1 and crossed.moves == 0, "what is plugged stays, though it crosses"


def test_faces_show_every_port_slot_and_wan_port_once_and_who_has_it():
    feed = line("Fibre", 100)
    here = told(apply_edits(closet(), [feed]))
    home = next(face for face in here.faces if face.kind == "router")
    assert [one.name for one in home.ports] == ["1", "2", "3", "4", "5", "W1"]
    assert [(one.column, one.row) for one in home.ports] == [(n, 0) for n in range(6)] and home.columns == 6
    keys = {one.key for one in here.lines}
    assert all(not port.line or port.line in keys for face in here.faces for port in face.ports)
    shown = [port.line for face in here.faces if face.kind != "panel" for port in face.ports if port.line]
    assert sorted(shown) == sorted(one.key for one in here.lines if one.at_port)
    assert next(one for one in here.lines if one.use == "feed").at_port == "1/W1"
    long = next(face for face in told(closet(cameras=0, access_points=0), "home", "long").faces if face.short == "2")
    assert long.rows == 2 and [one.row for one in long.ports[:4]] == [0, 1, 0, 1]


def test_panels_are_lettered_and_what_stands_in_the_closet_takes_no_position():
    project = closet(desks=30, cameras=0, access_points=0)
    room = project.rooms[0].id
    more = apply_edits(project, [
        ChangeEntry(list="closets", id=1, changes={"room_id": room}), AddDrops(room=room, kind="nas"),
    ])  # fmt: skip
    here = told(more, "home", "long", "long", "long")
    panels = [face for face in here.faces if face.kind == "panel"]
    assert sorted(face.short for face in panels) == ["A", "B"] and here.without_position == ()
    nas = next(one for one in here.lines if one.kind == "nas")
    assert nas.panel == "" and nas.box and len([one for one in here.lines if one.panel]) == 30
    direct = told(
        apply_edits(more, [ChangeSettings(changes={"termination": "direct"})]), "home", "long", "long", "long"
    )
    assert not [face for face in direct.faces if face.kind == "panel"] and direct.without_position == ()


def test_cables_beyond_the_positions_of_typed_panels_are_named():
    project = closet(desks=10, cameras=0, access_points=0)
    panel = AddEntry(list="gear", values={"closet_id": 1, "kind": "panel", "model": "small-panel"})
    here = told(apply_edits(project, [panel]), "home", "long")
    typed = next(face for face in here.faces if face.kind == "panel")
    assert typed.short == "A" and len(here.without_position) == max(0, 10 - len(typed.ports))


def test_a_drop_that_goes_leaves_its_label_to_be_taken_off_and_its_port_free():
    project = apply_edits(closet(), [told(closet()).edit])
    gone = project.drops[0]
    rest = apply_edits(project, [RemoveDrops(ids=[gone.id])])
    assert all(one.drop_id != gone.id for one in rest.patches) and told(rest).moves == 0
    assert list(findings_of_labels(SiteState(rest, {}, {}))) == [], "nothing was printed"


def test_a_camera_sits_at_the_box_of_its_recorder_where_both_have_a_port_for_it():
    models = catalogue(
        router("home", ports(4)), switch("one", ports(6, poe=3), watts=90.0), switch("two", ports(6, poe=3), watts=90.0)
    )
    project = closet(desks=2, cameras=4, access_points=0)
    with_recorder = apply_edits(project, [AddDrops(room=project.rooms[1].id, kind="recorder")])
    recorder = with_recorder.drops[-1]
    for box in ("box/one/1", "box/two/1"):
        pinned = apply_edits(with_recorder, [PinCord(drop_id=recorder.id, box=box, port=1)])
        here = told(pinned, "home", "one", "two", models=models)
        cameras = [one.box for one in here.lines if one.kind == "camera"]
        assert cameras == [box] * 4 and here.hops_mbit == 0 and here.proven
    # the other box must take what the first one has no watts for: each of those crosses two links
    poor = catalogue(
        router("home", ports(4)), switch("one", ports(6, poe=3), watts=20.0), switch("two", ports(6, poe=3), watts=90.0)
    )
    pinned = apply_edits(with_recorder, [PinCord(drop_id=recorder.id, box="box/one/1", port=1)])
    here = told(pinned, "home", "one", "two", models=poor)
    away = [one for one in here.lines if one.kind == "camera" and one.box != "box/one/1"]
    assert away and here.hops_mbit == sum(6 * 2 for _ in away)


def test_an_injector_feeds_a_camera_on_any_port_and_stands_in_its_line():
    models = catalogue(router("home", ports(6)), injector("brick", 3))
    project = closet(desks=1, cameras=1, access_points=0)
    grounds = grounds_of(project, models, {1: Boxes(("home",), (("brick", 1),))})
    here = patch_of(project, grounds, stack_of(project, models, grounds), better=False).closets[0]
    camera = next(one for one in here.lines if one.kind == "camera")
    assert (camera.injector, camera.watts, camera.poe_class) == ("brick", 0.0, None) and camera.port
    assert here.idle == 1 and here.unseated == (), "a gigabit is more than it needs"


def test_two_closets_have_port_lists_of_their_own_and_their_link_ends_on_panels():
    project = closet(desks=2, cameras=0, access_points=0)
    shed = apply_edits(project, [AddEntry(list="closets", values={"name": "Shed"})])
    far = shed.closets[1].id
    more = apply_edits(shed, [AddDrops(room=shed.rooms[1].id, kind="desk", count=2,
                                       changes=DropChanges(closet_id=far, speed_mbit=1000))])  # fmt: skip
    grounds = grounds_of(more, LIST, {1: Boxes(("home",)), far: Boxes(("long",))})
    one, other = patch_of(more, grounds, stack_of(more, LIST, grounds), better=False).closets
    down = next(line for line in one.lines if line.use == "link")
    up = next(line for line in other.lines if line.use == "uplink")
    assert (down.end, up.end) == (f"closet/{far}/1", "closet/1/1")
    assert down.name == "Shed, cable 1" and down.panel and up.panel, "copper between closets ends on panels"
    assert {line.drop_id for line in other.lines if line.drop_id} == {drop.id for drop in more.drops[2:]}
    plugged = apply_edits(more, [one.edit, other.edit])
    again = patch_of(plugged, grounds, stack_of(plugged, LIST, grounds), better=False).closets
    assert [here.moves for here in again] == [0, 0] and len(plugged.patches) == 6


def test_a_feed_keeps_its_position_when_another_line_comes():
    start = apply_edits(closet(), [line("Fibre", 100)])
    first = told(start)
    feed = next(one for one in first.lines if one.use == "feed")
    assert feed.panel and feed.port is None
    plugged = apply_edits(start, [first.edit, AddEntry(list="lines", values={
        "name": "Second", "down_mbit": 10, "up_mbit": 1, "standby": True})])  # fmt: skip
    two = catalogue(router("home", ports(3), ports(2, 2500), wan_mbit=(1000, 1000)), *LIST.models[1:])
    here = told(plugged, models=two)
    at = {one.name: (one.panel, one.position) for one in here.lines if one.use == "feed"}
    assert at["Fibre"] == (feed.panel, feed.position) != at["Second"] and here.moves == 0
    assert here.cords_unknown == len(plugged.drops), "nothing stands anywhere yet"
