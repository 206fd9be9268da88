"""Networks: who is in which, what links carry against a plain search, what does not hold from both sides."""

from dataclasses import replace

import pytest

from baugrund.core.answers.picker import standing_boxes
from baugrund.core.edits import (
    AddDrops,
    AddEntry,
    CamerasInto,
    ChangeDrops,
    ChangeEntry,
    ChangeSettings,
    DropChanges,
    Held,
    Hold,
    MoveToNetwork,
    RemoveEntry,
    SetPermission,
    UseNetworks,
    apply_edits,
)
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.findings import SiteState
from baugrund.core.findings import networks as checks
from baugrund.core.patch.networks import (
    management,
    matrix,
    may_open,
    network_of,
    networks_sent,
    port_networks,
    routed,
)
from baugrund.core.patch.told import patch_of
from baugrund.core.patch.trunks import BoxKey
from baugrund.core.pick.standing import Boxes
from baugrund.core.stack.told import stack_of
from baugrund.core.standards.network_templates import TEMPLATES
from baugrund.core.standards.services import port_problem
from baugrund.core.standing.ground import grounds_of

from ..conftest import without_networks
from .small import catalogue, ports, router, switch
from .test_flows import shop


@pytest.fixture(scope="module")
def networked(dye_works):
    """The dye works with the networks of a workshop and nothing else."""
    bare = without_networks(dye_works)
    return apply_edits(bare, [UseNetworks(template="workshop")])


def number(project, name):
    return next(one.id for one in project.networks if one.name == name)


def of_kind(project, kind):
    return next(drop for drop in project.drops if drop.kind == kind)


def said(check, project, **more):
    return {finding.key.rsplit("-", 1)[0] if finding.key[-1].isdigit() else finding.key: finding
            for finding in check(SiteState(project, {}, {}, **more))}  # fmt: skip


@pytest.mark.parametrize("template", TEMPLATES)
def test_a_template_is_set_up_whole_and_once_and_nothing_breaks_in_it(dye_works, template):
    bare = without_networks(dye_works)
    once = apply_edits(bare, [UseNetworks(template=template)])
    asked = TEMPLATES[template]
    assert [one.number for one in once.networks] == [row.number for row in asked.networks]
    assert len(once.permissions) == len(asked.rules)
    assert apply_edits(once, [UseNetworks(template=template)]) == once
    names = {row.name for row in asked.networks}
    assert all({rule.source, rule.target} <= names and rule.reason for rule in asked.rules)
    assert all(port_problem(one) is None for rule in asked.rules for one in rule.services or ())
    assert [f.text for check in (checks.cut_off, checks.open_too_far, checks.wifi)
            for f in check(SiteState(once, {}, {}))] == []  # fmt: skip


def test_a_drop_is_where_it_is_named_then_its_room_then_its_kind_then_the_first(networked):
    camera = of_kind(networked, "camera")

    def home(project):
        return network_of(project)[camera.id].name

    assert home(networked) == "Cameras"
    room = ChangeEntry(list="networks", id=number(networked, "Things"), changes={"room_ids": [camera.room_id]})
    by_room = apply_edits(networked, [room])
    assert home(by_room) == "Things"
    named = apply_edits(by_room, [MoveToNetwork(drop_ids=[camera.id], network_id=number(networked, "Voice"))])
    assert home(named) == "Voice"
    assert home(apply_edits(named, [MoveToNetwork(drop_ids=[camera.id], network_id=None)])) == "Things"
    kindless = apply_edits(
        networked, [ChangeEntry(list="networks", id=number(networked, "Cameras"), changes={"kinds": []})]
    )
    assert home(kindless) == networked.networks[0].name
    gone = apply_edits(named, [RemoveEntry(list="networks", id=number(networked, "Voice"))])
    assert home(gone) == "Things" and all(one.to_id != number(networked, "Voice") for one in gone.permissions)


def test_a_port_carries_its_own_network_the_names_that_it_sends_and_what_hangs_behind(networked):
    access = of_kind(networked, "access_point")
    names = [AddEntry(list="wifi_names", values={"name": text, "network_id": number(networked, of), "drop_ids": at})
             for text, of, at in (("Works", "Office", []), ("Guests", "Guests", [access.id]))]  # fmt: skip
    sent = apply_edits(networked, names)
    assert networks_sent(sent, access) == {number(sent, "Office"), number(sent, "Guests")}
    other = next(one for one in sent.drops if one.kind == "access_point" and one.id != access.id)
    assert networks_sent(sent, other) == {number(sent, "Office")}
    desk = of_kind(sent, "desk")
    assert networks_sent(sent, desk) == frozenset()
    in_wall = apply_edits(sent, [
        ChangeDrops(ids=[access.id], changes={"variant": "in_wall"}),
        ChangeDrops(ids=[desk.id], changes={"behind_id": access.id}),
        MoveToNetwork(drop_ids=[desk.id], network_id=number(sent, "Machines")),
    ])  # fmt: skip
    carried = port_networks(in_wall)[access.id]
    assert carried.native == number(sent, "Boxes")
    assert carried.tagged == {number(sent, name) for name in ("Office", "Guests", "Machines")}


def test_the_matrix_has_every_pair_and_says_what_nobody_said(networked):
    cells = {(one.from_id, one.to_id): one for one in matrix(networked)}
    assert len(cells) == len(networked.networks) ** 2
    office, guests, boxes = (number(networked, name) for name in ("Office", "Guests", "Boxes"))
    assert (cells[office, office].access, cells[office, office].said) == ("all", False)
    assert cells[guests, guests].access == "nothing" and cells[office, guests].access == "nothing"
    assert may_open(networked, office, boxes) and may_open(networked, office, boxes, "web")
    assert not may_open(networked, office, boxes, "files") and not may_open(networked, boxes, office)
    opened = apply_edits(networked, [SetPermission(from_id=guests, to_id=office, access="all", reason="a day")])
    assert may_open(opened, guests, office, "files")
    assert len(opened.permissions) == len(networked.permissions) + 1
    shut = apply_edits(opened, [SetPermission(from_id=guests, to_id=office, access="nothing")])
    assert not may_open(shut, guests, office) and len(shut.permissions) == len(opened.permissions)


LIST = catalogue(
    router("home", ports(8)), switch("eight", ports(8)), switch("plain", ports(8), managed=False),
)  # fmt: skip


def patched(project, here, there):
    """The shop on these boxes."""
    standing = {1: Boxes(here), project.closets[1].id: Boxes(there)}
    grounds = grounds_of(project, LIST, standing)
    return grounds, stack_of(project, LIST, grounds)


def in_the_shed(kind, count=1):
    """Drops of the shop's shed, bare and slow enough for its closet."""
    bare = shop()
    changes = DropChanges(closet_id=bare.closets[1].id, poe_class=None, speed_mbit=100)
    return AddDrops(room=bare.rooms[1].id, kind=kind, count=count, changes=changes)


def test_links_carry_what_a_plain_search_of_the_tree_finds_behind_them():
    added = [in_the_shed("desk", 3), in_the_shed("access_point"), UseNetworks(template="home")]
    bare = apply_edits(shop(), added)
    names = AddEntry(list="wifi_names", values={"name": "Shop", "network_id": number(bare, "Guests")})
    project = apply_edits(bare, [names])
    told = patch_of(project, *patched(project, ("home",), ("eight", "eight")))
    links, far = told.trunks.links, project.closets[1].id
    assert [link.lower.closet_id for link in links] == [far, far]
    of = {one.id: one.number for one in project.networks}
    for link in links:
        below, grown = {link.lower}, True
        while grown:
            more = {one.lower for one in links if one.upper in below} - below
            grown, below = bool(more), below | more
        wanted = {99}
        for here in told.closets:
            for one in here.lines:
                if one.drop_id is not None and BoxKey(closet_id=here.closet_id, thing=one.box) in below:
                    wanted |= {of[net] for net in port_networks(project)[one.drop_id].every}
        assert {link.native, *link.tagged} == wanted and link.native == 99
    trunk = next(link for link in links if link.upper.closet_id == 1)
    assert set(trunk.tagged) == {10, 30, 40}, "things have nothing in the shed"
    for box in told.trunks.boxes:
        assert set(box.networks) >= {one for port in box.ports for one in (port.native, *port.tagged) if one}
        assert len({port.port for port in box.ports}) == len(box.ports)
        for port in box.ports:
            if port.use in ("link", "uplink"):
                assert (port.native, port.tagged) in {(one.native, one.tagged) for one in links}


def test_a_recorder_is_cut_off_where_neither_may_open_a_stream_and_one_press_mends_it(networked):
    recorder = of_kind(networked, "recorder")
    office, cameras = number(networked, "Office"), number(networked, "Cameras")
    assert said(checks.cut_off, networked) == {}, "both are in one network"
    shut = [MoveToNetwork(drop_ids=[recorder.id], network_id=number(networked, "Voice"))]
    apart = apply_edits(networked, shut)
    finding = said(checks.cut_off, apart)[f"recorder-cut-off-{recorder.id}"]
    assert finding.weight == "breaks" and recorder.id in finding.drop_ids
    assert said(checks.cut_off, apply_edits(apart, [finding.settle.edit])) == {}
    bring = SetPermission(from_id=cameras, to_id=number(networked, "Voice"), access="services", services=["video"])
    assert said(checks.cut_off, apply_edits(apart, [bring])) == {}, "cameras may bring their streams"
    other = SetPermission(from_id=cameras, to_id=number(networked, "Voice"), access="services", services=["web"])
    assert said(checks.cut_off, apply_edits(apart, [other])), "web pages are no streams"
    assert office != cameras


def test_a_printer_nobody_may_print_to_is_said_and_one_that_a_wifi_name_reaches_is_not(networked):
    printers = [drop.id for drop in networked.drops if drop.kind == "printer"]
    lab = apply_edits(networked, [AddEntry(list="networks", values={"name": "Lab", "number": 70, "purpose": "lab"})])
    moved = apply_edits(lab, [MoveToNetwork(drop_ids=printers, network_id=number(lab, "Lab"))])
    assert len(said(checks.cut_off, moved)) == 1 and len(list(checks.cut_off(SiteState(moved, {}, {})))) == len(
        printers
    )
    for services, left in ((["files"], len(printers)), (["printing"], 0)):
        opens = SetPermission(
            from_id=number(lab, "Office"), to_id=number(lab, "Lab"), access="services", services=services
        )
        assert len(list(checks.cut_off(SiteState(apply_edits(moved, [opens]), {}, {})))) == left
    joined = AddEntry(list="wifi_names", values={"name": "Lab", "network_id": number(lab, "Lab")})
    assert list(checks.cut_off(SiteState(apply_edits(moved, [joined]), {}, {}))) == []


def test_guests_and_things_that_open_too_much_are_said(networked):
    guests, office, boxes = (number(networked, name) for name in ("Guests", "Office", "Boxes"))
    assert said(checks.open_too_far, networked) == {}
    far = apply_edits(
        networked, [SetPermission(from_id=guests, to_id=office, access="services", services=["printing"])]
    )
    finding = said(checks.open_too_far, far)["guests-reach"]
    assert finding.text == "may open connections to Office, and guests are in it."
    assert said(checks.open_too_far, apply_edits(far, [finding.settle.edit])) == {}
    things = apply_edits(networked, [SetPermission(from_id=number(networked, "Things"), to_id=boxes, access="all")])
    assert set(said(checks.open_too_far, things)) == {"boxes-open"}
    shared = apply_edits(networked, [ChangeEntry(list="networks", id=boxes, changes={"kinds": ["desk"]}),
                                     ChangeEntry(list="networks", id=office, changes={"kinds": []})])  # fmt: skip
    assert "boxes-with-clients" in said(checks.open_too_far, shared)
    assert management(networked).id == boxes
    assert management(apply_edits(networked, [RemoveEntry(list="networks", id=boxes)])).name == "Office"


def test_a_wifi_name_without_a_network_and_guests_without_a_way_in_are_said(networked):
    name = apply_edits(networked, [AddEntry(list="wifi_names", values={"name": "Spare"})])
    assert set(said(checks.wifi, name)) == {"wifi-without-network"}
    silent = apply_edits(
        networked, [ChangeEntry(list="networks", id=number(networked, "Guests"), changes={"way_in": ""})]
    )
    assert set(said(checks.wifi, silent)) == {"guests-way-in"}
    with pytest.raises(InvalidInput, match="33 octets"):
        apply_edits(networked, [AddEntry(list="wifi_names", values={"name": "x" * 31 + "é"})])
    outside = apply_edits(networked, [ChangeDrops(ids=[of_kind(networked, "camera").id], changes={"by_service": True})])
    assert set(said(checks.services_outside, outside)) == {"service-cut-off"}
    cameras = ChangeEntry(list="networks", id=number(networked, "Cameras"), changes={"internet": True})
    assert said(checks.services_outside, apply_edits(outside, [cameras])) == {}


def test_a_router_has_to_keep_so_many_networks_apart_and_to_pass_so_much(networked, request):
    catalogue = request.getfixturevalue("catalogue")
    held = apply_edits(
        networked,
        [
            hold_one("router-2wan-8-sfp"),
        ],
    )
    grounds = grounds_of(held, catalogue, standing_boxes(held, catalogue, None))
    router = grounds[0].boxes[0]
    told = routed(held, router.throughput_mbit)

    def keys(networks, throughput):
        other = router.model_copy(update={"networks": networks, "throughput_mbit": throughput})
        models = tuple(other if one is router else one for one in catalogue.models)
        changed = Catalogue.model_construct(**{**catalogue.__dict__, "models": models})
        there = grounds_of(held, changed, standing_boxes(held, changed, None))
        return set(said(checks.kept_apart, held, grounds=there))

    many, sum_mbit = len(held.networks), int(told.sum_mbit)
    assert keys(many, sum_mbit) == set()
    assert keys(many - 1, sum_mbit) == {"router-networks"} and keys(None, sum_mbit) == set()
    assert keys(many, sum_mbit - 1) == {"router-between-networks"}


def hold_one(*models):
    return Hold(models=[Held(closet_id=1, model=key, count=1) for key in models])


def test_either_school_for_cameras_tells_what_the_router_passes_for_it(networked):
    cameras = [
        drop for drop in networked.drops if drop.kind in ("camera", "door_station") and networked.is_counted(drop)
    ]
    told = routed(networked, 1000)
    assert [(one.name, one.is_now) for one in told.schools] == [("Cameras", True), ("Office", False)]
    assert told.schools[0].routed_mbit == pytest.approx(sum(one.busy_mbit for one in cameras), abs=0.01)
    assert told.schools[1].routed_mbit == 0 and told.recordings_mbit == 0
    trusted = apply_edits(networked, [CamerasInto(network_id=number(networked, "Office"))])
    assert [one.is_now for one in routed(trusted, 1000).schools] == [False, True]
    recorder = of_kind(networked, "recorder")
    apart = apply_edits(networked, [MoveToNetwork(drop_ids=[recorder.id], network_id=number(networked, "Office"))])
    kept = sum(one.busy_mbit for one in cameras if one.kind == "camera" and not one.by_service)
    assert routed(apart, 1000).recordings_mbit == pytest.approx(kept, abs=0.01)


@pytest.mark.parametrize(("template", "is_said"), [("home", True), (None, False)])
def test_a_plain_switch_cannot_pass_several_networks_and_may_pass_one(template, is_said):
    terms = ChangeSettings(changes={"separate_networks": False})
    alone = [AddEntry(list="networks", values={"name": name, "number": n}) for n, name in ((1, "All"), (2, "Nobody"))]
    networks = [UseNetworks(template=template)] if template else alone
    project = apply_edits(shop(), [in_the_shed("desk"), terms, *networks])
    grounds, stack = patched(project, ("home",), ("plain",))
    sheet = next(box for box in patch_of(project, grounds, stack).trunks.boxes if not box.managed)
    assert (len(sheet.networks) > 1) is is_said
    found = said(checks.kept_apart, project, grounds=grounds, stack=stack)
    assert any(key.startswith("plain-switch") for key in found) is is_said


def test_a_room_switch_with_several_networks_behind_it_has_to_be_managed(networked):
    office = next(one for one in networked.rooms if one.name == "Office").id
    more = apply_edits(networked, [AddDrops(room=office, kind="room_switch")])
    feeder = more.drops[-1]
    desks = [one.id for one in more.drops if one.kind == "desk"][:2]
    behind = apply_edits(more, [ChangeDrops(ids=desks, changes={"behind_id": feeder.id}),
                                MoveToNetwork(drop_ids=[feeder.id], network_id=number(more, "Office"))])  # fmt: skip
    assert said(checks.kept_apart, behind) == {}
    mixed = apply_edits(behind, [MoveToNetwork(drop_ids=desks[:1], network_id=number(more, "Machines"))])
    assert set(said(checks.kept_apart, mixed)) == {"room-switch-networks"}


@pytest.mark.parametrize(
    ("values", "why"),
    [({"name": "Office", "number": 71}, "two networks have the name 'Office'"),
     ({"name": "Lab", "number": 10}, "two networks have the number 10"),
     ({"name": "Lab", "number": 0}, "greater than or equal to 1"), ({"name": "Lab", "number": 4095}, "4094")],
)  # fmt: skip
def test_doubled_and_impossible_numbers_and_names_are_refused_with_a_sentence(networked, values, why):
    with pytest.raises(InvalidInput, match=why):
        apply_edits(networked, [AddEntry(list="networks", values=values)])
    edges = [AddEntry(list="networks", values={"name": f"n{n}", "number": n}) for n in (1, 4094)]
    assert len(apply_edits(networked, edges).networks) == len(networked.networks) + 2


@pytest.mark.parametrize(("service", "fits"), [("web", True), ("tcp 8080", True), ("udp 5000-5010", True),
    ("tcp 65535", True), ("tcp 65536", False), ("tcp 0", False), ("udp 9-5", False), ("mail", False)])  # fmt: skip
def test_services_are_those_of_the_table_or_ports(service, fits):
    assert (port_problem(service) is None) is fits


def test_several_cables_are_one_bundle_until_networks_are_given_to_each_and_then_no_loop():
    bare = apply_edits(shop(), [in_the_shed("desk", 3), UseNetworks(template="home")])
    grounds, stack = patched(bare, ("home",), ("eight",))
    seat = grounds[0].stand.seated.trunks[0]
    twice = replace(grounds[0].stand.seated, trunks=(replace(seat, trunk=replace(seat.trunk, ends=2)),))
    grounds = (replace(grounds[0], stand=replace(grounds[0].stand, seated=twice)), *grounds[1:])
    far = bare.closets[1].id

    def link(project):
        (line,) = patch_of(project, grounds, stack).trunks.links
        return line

    assert link(bare).ends == 2 and link(bare).bundle and link(bare).cables == ()
    given = {"closet_id": far, "cable": 2, "network_ids": [number(bare, "Cameras"), number(bare, "Things")]}
    apart = apply_edits(bare, [AddEntry(list="cable_networks", values=given)])
    line = link(apart)
    assert not line.bundle and [one.tagged for one in line.cables] == [(10,), (40,)], "things have nothing in the shed"
    assert [one.native for one in line.cables] == [99, None]
    assert {line.native, *line.tagged} == {n for one in line.cables for n in (one.native, *one.tagged) if n}
    nothing = {"closet_id": far, "cable": 2, "network_ids": [number(bare, "Things")]}
    assert link(apply_edits(bare, [AddEntry(list="cable_networks", values=nothing)])).bundle
    beyond = {"closet_id": far, "cable": 3, "network_ids": [number(bare, "Cameras")]}
    assert link(apply_edits(bare, [AddEntry(list="cable_networks", values=beyond)])).bundle, "there is no third cable"
