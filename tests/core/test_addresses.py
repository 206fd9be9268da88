"""The address plan: prefixes by hosts and growth, nothing overlaps, what keeps its address, and what does not hold."""

from ipaddress import IPv4Address, IPv4Network, IPv6Network

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from baugrund.core.edits import AddEntry, ChangeEntry, ChangeSettings, apply_edits
from baugrund.core.errors import InvalidInput
from baugrund.core.facts.project import empty_project
from baugrund.core.findings import SiteState
from baugrund.core.findings.networks import addresses
from baugrund.core.patch.addresses import address_plan, host_name, prefix_length
from baugrund.core.standards.addresses import behind_translation, prefix6_problem, prefix_problem


@pytest.mark.parametrize(
    ("hosts", "growth", "length"),
    [(23, 50, 26), (60, 0, 26), (120, 20, 24), (61, 0, 26), (62, 0, 25), (0, 50, 30), (1, 0, 30), (2, 0, 29),
     (16_777_213, 0, 8), (3, 66.7, 28), (3, 66.6, 29)],
)  # fmt: skip
def test_a_prefix_is_the_smallest_that_holds_hosts_growth_and_three(hosts, growth, length):
    assert prefix_length(hosts, growth) == length


def network(**values):
    return AddEntry(list="networks", values=values)


def planned(*edits, boxes=()):
    project = apply_edits(empty_project("P", 2026), edits)
    return project, address_plan(project, boxes)


SIZES = st.lists(st.tuples(st.integers(1, 4094), st.integers(0, 3000), st.sampled_from([0.0, 50.0, 100.0])), min_size=1,
                 max_size=12, unique_by=lambda row: row[0])  # fmt: skip
BLOCKS = st.lists(st.tuples(st.integers(0, 255), st.integers(18, 30)), max_size=4)


@settings(deadline=None, max_examples=60)
@given(SIZES, BLOCKS)
def test_no_two_prefixes_overlap_each_other_the_providers_box_or_a_tunnel(sizes, blocks):
    tunnels = [IPv4Network((f"10.20.{third}.0", length), strict=False) for third, length in blocks]
    _, plan = planned(
        *(network(name=f"n{n}", number=n, hosts=hosts, growth_percent=growth) for n, hosts, growth in sizes),
        *(AddEntry(list="tunnels", values={"name": f"t{n}", "prefix": str(one)}) for n, one in enumerate(tunnels)),
        AddEntry(list="lines", values={"name": "L", "down_mbit": 1, "up_mbit": 1, "box_prefix": "10.20.0.0/24"}),
        ChangeSettings(changes={"prefix6": "fd00:1::/48"}),
    )
    found = [IPv4Network(one.prefix) for one in plan.networks if one.prefix]
    taken = [*tunnels, IPv4Network("10.20.0.0/24")]
    for place, block in enumerate(found):
        assert block.subnet_of(IPv4Network("10.20.0.0/16"))
        assert not any(block.overlaps(other) for other in (*found[:place], *taken))
    for one, (_, hosts, growth) in zip(plan.networks, sizes, strict=True):
        if one.prefix:
            assert one.holds >= hosts * (1 + growth / 100) + 3 or IPv4Network(one.prefix).prefixlen == 30
            assert one.holds == 4 or one.holds / 2 < hosts * (1 + growth / 100) + 3
    six = [IPv6Network(one.prefix6) for one in plan.networks]
    assert len(set(six)) == len(six) and all(one.prefixlen == 64 for one in six)
    assert len(plan.wrong) == sum(not one.prefix for one in plan.networks), "only a base without a block left is said"


def test_a_network_has_its_number_as_third_octet_where_that_block_is_free():
    _, plan = planned(network(name="a", number=40, hosts=20), network(name="b", number=300, hosts=20),
                      network(name="big", number=50, hosts=400), network(name="c", number=0x3C, hosts=20))  # fmt: skip
    assert [one.prefix for one in plan.networks] == ["10.20.40.0/26", "10.20.0.0/26", "10.20.4.0/22", "10.20.60.0/26"]
    project, plan = planned(
        ChangeSettings(changes={"address_base": "10.20.30.0/27"}), network(name="a", number=4, hosts=40)
    )
    assert plan.networks[0].prefix == "" and plan.wrong == ("a finds no block of 63 addresses in 10.20.30.0/27.",)
    assert project.networks[0].prefix == ""


def test_what_keeps_its_address_is_numbered_and_leases_lie_behind_it(dye_works):
    bare = dye_works.changed(reserved=(), tunnels=())
    boxes = [(1, "box/a/1", "Switch"), (1, "box/b/1", "Other")]
    plan = address_plan(bare, boxes)
    at = {network.id: network.name for network in bare.networks}
    own = next(one for one in plan.networks if at[one.network_id] == "Boxes")
    kept = [one for one in plan.kept if one.network_id == own.network_id]
    assert [one.thing for one in kept[:2]] == ["box/a/1", "box/b/1"] and kept[0].address == "10.20.99.2"
    assert len({one.address for one in plan.kept}) == len(plan.kept)
    for one in plan.networks:
        block = IPv4Network(one.prefix)
        mine = [IPv4Address(row.address) for row in plan.kept if row.network_id == one.network_id]
        assert all(at in block and at < IPv4Address(one.first_lease) for at in [*mine, IPv4Address(one.gateway)])
        assert IPv4Address(one.last_lease) == block.broadcast_address - 1
        assert one.leases == int(IPv4Address(one.last_lease)) - int(IPv4Address(one.first_lease)) + 1
    # taken, nothing changes any more when a network grows
    kept_so = apply_edits(bare, [plan.edit])
    again = address_plan(kept_so, boxes)
    assert again.edit is None and all(one.typed for one in again.networks)
    assert {row.address: row.name for row in again.kept} == {row.address: row.name for row in plan.kept}
    more = [ChangeEntry(list="networks", id=own.network_id, changes={"hosts": 900})]
    grown = address_plan(apply_edits(kept_so, more), boxes)
    assert grown.wrong == ("Boxes wants 1353 addresses with growth; 10.20.99.0/27 holds 32.",)


def test_what_is_typed_is_checked_and_what_does_not_hold_is_a_finding():
    project, plan = planned(
        network(name="a", number=1, hosts=5, prefix="10.20.1.0/24", gateway="10.20.1.0"),
        network(name="b", number=2, hosts=5, prefix="10.20.1.128/25"),
        AddEntry(list="tunnels", values={"name": "Depot", "prefix": "10.20.1.192/26"}),
        AddEntry(list="reserved", values={"name": "Door", "address": "10.20.1.255"}),
        AddEntry(list="reserved", values={"name": "Gate", "address": "10.9.0.1"}),
        AddEntry(list="lines", values={"name": "Fibre", "down_mbit": 1, "up_mbit": 1, "wan_address": "100.64.0.9"}),
    )
    assert set(plan.wrong) == {
        "a (10.20.1.0/24) overlaps the tunnel Depot (10.20.1.192/26).",
        "b (10.20.1.128/25) overlaps a (10.20.1.0/24).",
        "b (10.20.1.128/25) overlaps the tunnel Depot (10.20.1.192/26).",
        "The gateway 10.20.1.0 of a is no host of 10.20.1.0/24.",
        "Door keeps 10.20.1.255, which is no host of its network.",
        "Gate keeps 10.9.0.1, which is no host of its network.",
    }
    (twice,) = addresses(SiteState(project, {}, {}))
    assert twice.key.startswith("translated-twice") and "100.64.0.9" in twice.text
    kept = apply_edits(project, [ChangeEntry(list="lines", id=project.lines[0].id, changes={"series_kept": True})])
    assert list(addresses(SiteState(kept, {}, {}))) == []
    with pytest.raises(InvalidInput, match=r"two things have the address 10\.9\.0\.1"):
        apply_edits(project, [AddEntry(list="reserved", values={"name": "Again", "address": "10.9.0.1"})])


@pytest.mark.parametrize(
    ("prefix", "why"),
    [("10.20.30.0/24", None), ("172.31.255.252/30", None), ("192.168.0.0/16", None), ("172.32.0.0/16", "RFC 1918"),
     ("8.8.8.0/24", "RFC 1918"), ("10.20.30.4/24", "no prefix"), ("10.20.30.0", "no room"), ("10.0.0.0/31", "no room"),
     ("ten", "no prefix"), ("10.0.0.0/33", "no prefix")],
)  # fmt: skip
def test_a_prefix_that_is_none_says_why(prefix, why):
    problem = prefix_problem(prefix)
    assert problem is None if why is None else why in problem
    if why:
        with pytest.raises(InvalidInput, match="prefix"):
            planned(network(name="a", number=1, prefix=prefix))


def test_ipv6_prefixes_and_translated_addresses_are_told_from_both_sides():
    assert prefix6_problem("fd00::/64") is None and "longer" in prefix6_problem("fd00::/65")
    assert "no IPv6" in prefix6_problem("fd00::1/64")
    told = {"100.63.255.255": False, "100.64.0.0": True, "100.127.255.255": True, "100.128.0.0": False,
            "172.15.255.255": False, "172.16.0.0": True, "192.168.1.1": True, "198.51.100.7": False}  # fmt: skip
    assert {text: behind_translation(text) for text in told} == told
    # a /56 holds 256 networks: a number of 300 takes the next free one
    _, plan = planned(
        ChangeSettings(changes={"prefix6": "fd00:1::/56"}), network(name="a", number=300), network(name="b", number=255)
    )
    assert [one.prefix6 for one in plan.networks] == ["fd00:1::/64", "fd00:1:0:ff::/64"]


def test_clients_count_where_their_wifi_name_leads_and_names_are_hosts():
    edits = [
        network(name="a", number=1),
        network(name="b", number=2),
        AddEntry(list="wifi_names", values={"name": "w"}),
    ]
    project = apply_edits(empty_project("P", 2026), edits)
    number = project.wifi_names[0].id
    guests = AddEntry(list="clients", values={"name": "Phones", "count": 40, "wifi_name_id": number})
    nowhere = apply_edits(project, [guests])
    assert [one.counted for one in address_plan(nowhere, ()).networks] == [40, 0], (
        "a name without a network leads nowhere"
    )
    led = apply_edits(
        nowhere, [ChangeEntry(list="wifi_names", id=number, changes={"network_id": project.networks[1].id})]
    )
    assert [one.counted for one in address_plan(led, ()).networks] == [0, 40]
    assert (
        host_name("Café «Ölmühle» 2") == "cafe-olmuhle-2"
        and host_name("…") == "host"
        and len(host_name("x" * 90)) == 63
    )


@settings(deadline=None, max_examples=40)
@given(BLOCKS, st.integers(22, 30), st.integers(256, 4094))
def test_the_lowest_free_block_is_that_of_trying_every_one(blocks, length, number):
    """For a number that is no third octet: of all aligned blocks of its length the first that is clear."""
    tunnels = [IPv4Network((f"10.20.{third % 4}.0", max(24, size)), strict=False) for third, size in blocks]
    hosts = 2 ** (32 - length) - 3
    _, plan = planned(
        ChangeSettings(changes={"address_base": "10.20.0.0/22"}),
        network(name="n", number=number, hosts=hosts, growth_percent=0),
        *(AddEntry(list="tunnels", values={"name": f"t{n}", "prefix": str(one)}) for n, one in enumerate(tunnels)),
    )
    every = IPv4Network("10.20.0.0/22").subnets(new_prefix=length)
    lowest = next((str(one) for one in every if not any(one.overlaps(tunnel) for tunnel in tunnels)), "")
    assert plan.networks[0].prefix == lowest


@pytest.mark.parametrize(("kept", "hosts", "first"), [(0, 10, 2), (4, 4, 8), (4, 10, 8), (9, 10, 16), (10, 20, 17)])
def test_leases_begin_behind_kept_addresses_and_their_growth(kept, hosts, first):
    reserved = [AddEntry(list="reserved", values={"name": f"r{n}", "address": f"10.20.9.{n + 2}"}) for n in range(kept)]
    boxes = [(1, f"box/{n}", f"Box {n}") for n in range(kept)]
    _, plan = planned(network(name="a", number=9, hosts=hosts), *reserved, boxes=())
    assert plan.networks[0].first_lease == "10.20.9.2", "what asks for none by itself keeps its address and no more"
    _, plan = planned(network(name="a", number=9, hosts=hosts), boxes=boxes)
    one = plan.networks[0]
    assert [row.address for row in plan.kept] == [f"10.20.9.{n + 2}" for n in range(kept)]
    assert one.first_lease == f"10.20.9.{first}"
    assert one.leases >= (hosts - kept) * 1.5 or one.first_lease == f"10.20.9.{kept + 2}"
