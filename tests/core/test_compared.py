"""What switches tell beside the plan: every difference, what settles it, and a simulated switch whose faults are found."""

import json

import pytest

from baugrund.core.answers.picker import standing_boxes
from baugrund.core.edits import ChangeEntry, Held, Hold, TellDiscovered, apply_edits
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.patch import DiscoveredPort
from baugrund.core.patch.told import patch_of
from baugrund.core.stack.told import stack_of
from baugrund.core.standing.ground import grounds_of
from baugrund.demo.switch import FAULTS, told_by
from baugrund.exchange.neighbour_table import read_neighbours
from baugrund.exchange.tables import read_told_table


@pytest.fixture(scope="module")
def patched(dye_works, catalogue):
    """The dye works, plugged as listed on boxes that it holds."""
    models = {"router-2wan-8-sfp": 1, "switch-48m-24at": 1, "switch-8m-25at": 2}
    held = Hold(models=[Held(closet_id=1, model=key, count=count) for key, count in models.items()])
    project = apply_edits(dye_works.changed(patches=(), discovered=()), [held])
    return apply_edits(project, [one.edit for one in told_of(project, catalogue).closets])


def told_of(project, catalogue):
    grounds = grounds_of(project, catalogue, standing_boxes(project, catalogue, None))
    return patch_of(project, grounds, stack_of(project, catalogue, grounds), better=False)


def with_rows(project, catalogue, rows):
    table = read_told_table(json.dumps(rows).encode())
    discovered = apply_edits(project, [read_neighbours(table, told_of(project, catalogue))])
    return discovered, told_of(discovered, catalogue).compared


@pytest.mark.parametrize("seed", range(4))
def test_the_faults_of_a_simulated_switch_are_found_and_nothing_else(patched, catalogue, seed):
    rows = told_by(patched, told_of(patched, catalogue), seed)
    _, told = with_rows(patched, catalogue, rows)
    kinds = sorted(one.kind for one in told.differences)
    assert kinds == sorted([*FAULTS, "swapped"]), "two cords that are swapped are told at both ports"
    assert told.told == len(rows) and told.same == told.told - len(told.differences)
    _, clean = with_rows(patched, catalogue, told_by(patched, told_of(patched, catalogue), seed, ()))
    assert clean.differences == () and clean.same == clean.told


def test_every_difference_that_is_taken_as_built_is_none_any_more(patched, catalogue):
    project, told = with_rows(patched, catalogue, told_by(patched, told_of(patched, catalogue), 3))
    for _ in range(12):
        if not told.differences:
            break
        # a swapped cord frees the other port; an unknown device is a drop then, which has to be plugged
        first = told.differences[0]
        assert first.take, first.text
        project = apply_edits(project, first.take)
        told = told_of(project, catalogue).compared
    assert told.differences == ()
    assert project.discovered and len(project.drops) == len(patched.drops) + 1


def test_what_is_mended_stays_on_the_list_until_the_switch_is_read_again(patched, catalogue):
    project, told = with_rows(patched, catalogue, told_by(patched, told_of(patched, catalogue), 1))
    row = told.differences[0].row_id
    marked = apply_edits(project, [ChangeEntry(list="discovered", id=row, changes={"mend": True})])
    assert [one.mend for one in told_of(marked, catalogue).compared.differences if one.row_id == row] == [True]
    _, again = with_rows(marked, catalogue, told_by(patched, told_of(patched, catalogue), 1, ()))
    assert again.differences == ()


def test_each_difference_is_a_sentence_with_both_sides(patched, catalogue):
    here = told_of(patched, catalogue).closets[0]
    short = {face.thing: face.short for face in here.faces}
    camera = next(one for one in here.lines if one.kind == "camera" and one.watts)
    desk = next(one for one in here.lines if one.kind == "desk" and one.port)
    numbers = {one.id: one.number for one in patched.networks}

    def said(line, **values):
        row = {"box": short[line.box], "port": line.port, "up": True, "name": line.label, **values}
        return [(one.kind, one.text) for one in with_rows(patched, catalogue, [row])[1].differences]

    name = f"{desk.name} ({desk.label})"
    assert said(desk) == []
    assert said(desk, up=False, name="") == [("dead", f"Port {desk.at_port} is dead; {name} should be there.")]
    assert said(desk, speed=100) == [("slow", f"{name} runs at 100 M; 1 G is expected.")]
    assert said(desk, speed=1000) == [] and said(desk, speed=2500) == []
    assert said(desk, vlan=numbers[desk.network_id]) == []
    assert said(desk, vlan=40)[0][1] == f"{name} is in network 40 Cameras; it belongs in 10 Office."
    assert said(desk, vlan=41)[0][1].startswith(f"{name} is in network 41, which is none of this site;")
    over = camera.watts + 1.0
    assert said(camera, watts=over) == [] and said(camera, watts=over + 0.1)[0][0] == "watts"
    assert said(desk, name=camera.label)[0] == (
        "swapped", f"{camera.name} answers on port {desk.at_port}, where {name} should be.",
    )  # fmt: skip
    assert said(desk, name="") == [], "a device that says no name is taken for the one that is planned"
    assert said(desk, name="stranger") == []


@pytest.mark.parametrize(
    ("row", "why"),
    [({"box": "2", "port": "99"}, "has no port “99”"), ({"box": "9", "port": "1"}, "there is no box “9”"),
     ({"port": "1"}, "several boxes"), ({"box": "2", "port": "1", "mac": "02:00"}, "no hardware address"),
     ({"box": "2", "port": "1", "vlan": 4095}, "4094"), ({"box": "2", "port": "1", "vlan": 1.5}, "no whole number"),
     ({"box": "2", "port": "1", "speed": "fast"}, "not a number"), ({"box": "2"}, "no column Port"),
     ({"closet": "Attic", "port": "2/1"}, "no closet “Attic”"), ({"port": "2/S1"}, "no port “S1”")],
)  # fmt: skip
def test_a_table_with_a_wrong_line_says_which_and_keeps_nothing(patched, catalogue, row, why):
    good = {"port": "2/2", "name": "x"} if "port" in row else {"box": "2", "name": "x"}
    with pytest.raises(InvalidInput, match=why):
        with_rows(patched, catalogue, [good, row])
    with pytest.raises(InvalidInput, match="told twice"):
        with_rows(patched, catalogue, [{"port": "2/2"}, {"box": 2, "port": 2}])


def test_csv_and_json_tell_the_same_whatever_the_columns_are_called(patched, catalogue):
    told = told_of(patched, catalogue)
    csv = b"Switch;Interface;MAC;System name;Link;Rate;PoE W;VLAN\n2;1;02-00-5e-10-00-0A;till;up;1G;4.5;10\n"
    with pytest.raises(InvalidInput, match="Up: “up” is neither yes nor no"):
        read_neighbours(read_told_table(csv), told)
    read = read_neighbours(read_told_table(csv.replace(b";up;", b";yes;")), told)
    row = {
        "box": "2",
        "port": 1,
        "hardware": "02005e10000a",
        "name": "till",
        "up": True,
        "speed": "1G",
        "watts": 4.5,
        "network": 10,
    }
    assert read == read_neighbours(read_told_table(json.dumps({"ports": [row]}).encode()), told)
    assert read.ports[0].hardware == "02:00:5e:10:00:0a" and read.ports[0].speed_mbit == 1000
    for wrong in (b"[1]", b"{}", b"[", b"[{}]" * 2):
        with pytest.raises(InvalidInput):
            read_neighbours(read_told_table(wrong), told)


def test_what_one_box_told_is_replaced_and_others_are_left(patched):
    ports = [DiscoveredPort(closet_id=1, box=box, port=n) for box in ("box/a/1", "box/b/1") for n in (1, 2)]
    first = apply_edits(patched, [TellDiscovered(ports=ports)])
    again = apply_edits(first, [TellDiscovered(ports=[DiscoveredPort(closet_id=1, box="box/a/1", port=7)])])
    assert sorted((one.box, one.port) for one in again.discovered) == [("box/a/1", 7), ("box/b/1", 1), ("box/b/1", 2)]
