"""The bench: what codes and pasted texts say, addresses as they are kept, devices that say the same."""

import pytest

from baugrund.core.edits import AddEntry, RemoveDrops, WriteBench, apply_edits
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.order_of_work import hardware_problem, plain_hardware
from baugrund.core.findings import findings
from baugrund.core.findings.finding import SiteState
from baugrund.core.patch.told import patch_of
from baugrund.core.prove.bench import bench_of, read_code

from .priced import stood


@pytest.fixture(scope="module")
def stand(dye_works, catalogue):
    return stood(dye_works, catalogue)


@pytest.mark.parametrize("text", [
    "02:00:5e:10:0a:ff", "02-00-5E-10-0A-FF", "0200.5e10.0aff", "02005e100AFF", " 02:00:5e:10:0a:ff ",
])  # fmt: skip
def test_an_address_is_kept_in_one_writing_however_it_is_typed(text):
    assert plain_hardware(text.strip()) == "02:00:5E:10:0A:FF"
    assert read_code(text).hardware == "02:00:5E:10:0A:FF"


@pytest.mark.parametrize(("text", "said"), [
    ("02:00:5e:10:0a", "twelve digits"), ("02:00:5e:10:0a:fg", "twelve digits"), ("01:00:5e:10:0a:ff", "groups"),
    ("00:00:00:00:00:00", "no address of a device"),
])  # fmt: skip
def test_what_is_no_address_of_a_device_is_said_so(dye_works, text, said):
    assert said in hardware_problem(text)
    with pytest.raises(InvalidInput, match=said):
        apply_edits(dye_works, [WriteBench(subject="drop/23", changes={"hardware": text})])


@pytest.mark.parametrize(("text", "serial", "hardware"), [
    ("QX99-0012", "QX99-0012", ""),
    ("MAC 02005E100001 S/N: AB-1234", "AB-1234", "02:00:5E:10:00:01"),
    ("Serial no. 77/12.3", "77/12.3", ""),
    ("[)>\x1e06\x1d1PMODEL\x1dSQX12345\x1d23S02005E10AA01\x1e\x04", "QX12345", "02:00:5E:10:AA:01"),
    ("(01)04012345678901(21)ABC77", "ABC77", ""),
    ("two words", "", ""),
    ("X" * 41, "", ""),
    ("X" * 40, "X" * 40, ""),
])  # fmt: skip
def test_what_a_label_says_is_read(text, serial, hardware):
    code = read_code(text)
    assert (code.serial, code.hardware, code.subject) == (serial, hardware, "")


def test_every_code_that_is_printed_names_its_device(dye_works, stand):
    devices = bench_of(dye_works, *stand).devices
    assert [read_code(one.code).subject for one in devices] == [one.subject for one in devices]
    assert len({one.subject for one in devices}) == len(devices)


def test_boxes_and_devices_come_with_the_name_and_address_that_they_are_given(dye_works, stand):
    told = bench_of(dye_works, *stand)
    boxes = sum(len(ground.boxes) for ground in stand[0])
    assert sum(one.subject.startswith("thing/") for one in told.devices) == boxes
    kept = {one.drop_id: one for one in patch_of(dye_works, *stand).addresses.kept if one.drop_id}
    cameras = [one for one in told.devices if one.kind == "camera"]
    assert cameras and all(one.address == kept[int(one.subject[5:])].address for one in cameras)


def clashes_of(project, stand, said, one, other):
    same = apply_edits(project, [WriteBench(subject=f"drop/{number}", changes=said) for number in (one, other)])
    (clash,) = {row.clash for row in bench_of(same, *stand).devices if row.clash}
    return clash


def test_two_devices_never_have_one_address(dye_works, stand, catalogue):
    one, other, *_ = (drop.id for drop in dye_works.drops if drop.kind == "camera" and drop.in_use)
    same = {"hardware": "02:aa:00:00:00:01", "serial": "S1"}
    twice = apply_edits(dye_works, [
        WriteBench(subject=f"drop/{one}", changes=same),
        WriteBench(subject=f"drop/{other}", changes={**same, "serial": "S2"}),
    ])  # fmt: skip
    clashes = {row.subject: row.clash for row in bench_of(twice, *stand).devices if row.clash}
    assert clashes == dict.fromkeys((f"drop/{one}", f"drop/{other}"), "another device has the same hardware address")
    assert clashes_of(dye_works, stand, {"serial": "two words"}, one, other) == "another device has the same serial"
    gone = apply_edits(twice, [RemoveDrops(ids=(other,))])
    assert not any(row.clash for row in bench_of(gone, *stand).devices), "a device that is gone clashes with none"
    site = SiteState(project=twice, capacities={}, borne={}, catalogue=catalogue, stack=stand[1], grounds=stand[0])
    assert [row.weight for row in findings(site) if row.key == "bench"] == ["strains", "strains"]


def test_a_device_is_known_again_by_its_address_where_a_switch_tells_it(dye_works, stand):
    closet = dye_works.closets[0]
    lines = [line for one in patch_of(dye_works, *stand).closets for line in one.lines if line.drop_id and line.port]
    planned, elsewhere = lines[0], lines[1]
    found = apply_edits(dye_works.changed(discovered=()), [
        WriteBench(subject=f"drop/{planned.drop_id}", changes={"hardware": "02:bb:00:00:00:07"}),
        AddEntry(list="discovered", values={"closet_id": closet.id, "box": elsewhere.box, "port": elsewhere.port,
                                            "hardware": "02-BB-00-00-00-07", "name": "who knows"}),
    ])  # fmt: skip
    differences = patch_of(found, *stand).compared.differences
    assert [one.kind for one in differences] == ["swapped"]
    assert planned.drop_id in differences[0].drop_ids
