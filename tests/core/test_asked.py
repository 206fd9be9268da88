"""Questions in the quick line: ports, labels, addresses, what is free, and what more drops would take."""

import re

import pytest

from baugrund.core.answers.asked import Known, ask
from baugrund.core.answers.picker import balance, standing_boxes
from baugrund.core.edits import ChangeSettings, Held, Hold, SetGrowth, apply_edits
from baugrund.core.patch.told import patch_of
from baugrund.core.stack.told import stack_of
from baugrund.core.standing.ground import grounds_of


@pytest.fixture(scope="module")
def known(dye_works, catalogue):
    models = {"router-2wan-8-sfp": 1, "switch-48m-24at": 1, "switch-8m-25at": 2}
    held = Hold(models=[Held(closet_id=1, model=key, count=count) for key, count in models.items()])
    grows = [SetGrowth(kind="camera", percent=25), ChangeSettings(changes={"horizon_years": 1})]
    project = apply_edits(dye_works.changed(patches=(), reserved=()), [held, *grows])
    grounds = grounds_of(project, catalogue, standing_boxes(project, catalogue, None))
    told = patch_of(project, grounds, stack_of(project, catalogue, grounds), better=False)
    return Known(project, catalogue, None, lambda: told, lambda: balance(project, catalogue, None), lambda: grounds)


def said(known, text):
    return ask(text, known).lines


def test_a_port_and_a_position_tell_who_has_them(known):
    lines = known.patch().closets[0].lines
    camera = next(line for line in lines if line.kind == "camera" and line.at_panel)
    for text in (f"port {camera.at_port}", f"what is on port {camera.at_port}?", f"port {camera.at_panel.lower()}",
                 f"what is {camera.at_port}"):  # fmt: skip
        (told,) = said(known, text)
        assert camera.label in told and f"position {camera.at_panel}" in told and f"port {camera.at_port}" in told
        assert f"{camera.watts:g} W" in told and "network 40 Cameras" in told
    assert ask(f"port {camera.at_port}", known).drop_ids == (camera.drop_id,)
    reserve = next(line for line in lines if line.use == "reserve")
    assert said(known, f"port {reserve.at_port}")[0].startswith(f"{reserve.at_port}: free, kept for growth: ")
    link = next(line for line in lines if line.use == "uplink")
    assert "uplink" in said(known, f"port {link.at_port}")[0]
    assert said(known, "port 99/1") == (
        "There is no port or position 99/1; ports are written like 2/14, positions like A14.",
    )


def test_labels_names_rooms_and_addresses_are_found(known):
    gate = said(known, "what is gate")
    assert len(gate) == 3 and all("Gate" in line or "gate" in line for line in gate)
    assert said(known, "where is camera, gate left")[0].startswith("Camera, gate left")
    assert len(said(known, "where is workshop")) == 6 and said(known, "where is workshop")[-1].startswith("and ")
    label = next(line for line in known.patch().closets[0].lines if line.kind == "desk").label
    assert len(said(known, f"what is {label}")) == 1
    assert said(known, "what is nowhere")[0].startswith("Nothing is called “nowhere”")
    plan = known.patch().addresses
    row = next(one for one in plan.kept if one.drop_id is not None)
    assert (
        row.host in said(known, f"where is {row.address}")[0] and "on port" in said(known, f"where is {row.address}")[0]
    )
    network = next(one for one in plan.networks if one.leases)
    assert "gateway" in said(known, f"what is {network.gateway}")[0]
    assert "leased" in said(known, f"what is {network.last_lease}")[0]
    assert said(known, "where is 9.9.9.9") == ("Nobody keeps 9.9.9.9.",)


def test_what_is_free_is_counted_apart_from_what_is_kept_for_growth(known):
    here = known.patch().closets[0]
    uses = {line.key: line.use for line in here.lines}
    ports = [port for face in here.faces if face.kind != "panel" for port in face.ports if port.number]
    powered = [port for port in ports if port.poe_class is not None]
    free = sum(not port.line for port in powered)
    kept = sum(uses.get(port.line) == "reserve" for port in powered)
    (told,) = said(known, "free powered")
    assert told.startswith(f"{here.name}: {free} free powered port") and f"{kept} more " in told
    assert said(known, "free ports")[0].startswith(f"{here.name}: {sum(not port.line for port in ports)} free port")
    positions = [port for face in here.faces if face.kind == "panel" for port in face.ports if not port.line]
    assert said(known, "free positions")[0].startswith(f"{here.name}: {len(positions)} free position")


def test_what_can_be_added_tells_ports_and_capacities_and_changes_nothing_before_enter(known):
    before = known.project
    told = ask("can I add 2 cam gate", known)
    assert re.search(r"^2 cameras, Gate: ports \S+ \d/\d+, \S+ \d/\d+", told.lines[0])
    assert any(line.startswith("Ports: ") for line in told.lines) and any(
        line.startswith("Disk: ") for line in told.lines
    )
    assert known.project == before and len(told.edits) == 1
    after = apply_edits(before, told.edits)
    assert len(after.drops) == len(before.drops) + 2
    now = {pit.key: pit for pit in balance(after, known.catalogue, None).closets[0].capacities}
    assert any(f"→ {now['ports'].used + now['ports'].growth:g} of" in line for line in told.lines)
    many = ask("can I add 60 cam gate", known)
    assert "find no port" in many.lines[0] or "Breaks: " in many.lines[-1]
    assert ask("could i add 3 cam nowhere?", known).edits == ()


def test_a_ground_that_is_known_is_as_one_that_is_found_anew(known):
    def told(project, before=()):
        grounds = grounds_of(project, known.catalogue, standing_boxes(project, known.catalogue, None), before)
        return [(one.stand.full, one.stand.why, one.places, one.capacities) for one in grounds]

    for text in ("can I add 1 cam gate", "can I add 9 desk shop", "can I add 1 nas plant room"):
        after = apply_edits(known.project, ask(text, known).edits)
        assert told(after, known.grounds()) == told(after)
    gone = apply_edits(known.project, [ChangeSettings(changes={"margin_percent": 90})])
    assert told(gone, known.grounds()) == told(gone)


@pytest.mark.parametrize("text", ["2 cam gate", "desk x2 office 2.5g", "ap hall ceiling", "printer shop"])
def test_what_is_no_question_is_left_to_be_added(known, text):
    assert ask(text, known) is None
