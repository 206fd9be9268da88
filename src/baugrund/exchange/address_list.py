"""The address plan as a list: every network with its prefix, then every address that something keeps."""

from __future__ import annotations

from baugrund.core.facts.project import Project
from baugrund.core.patch.addresses import AddressPlan

from .cells import shown
from .tables import write_csv

HEAD = ["Number", "Network", "What", "Name", "Address", "First lease", "Last lease", "IPv6", "Hosts", "Set"]


def write_addresses_csv(project: Project, plan: AddressPlan) -> str:
    """The plan as CSV: a line a network, its gateway, and a line for each that keeps its address."""
    networks = {network.id: network for network in project.networks}
    rows = []
    for one in plan.networks:
        network = networks[one.network_id]
        head = [str(network.number), network.name]
        rows.append([*head, "prefix", "", one.prefix, one.first_lease, one.last_lease, one.prefix6, shown(one.hosts),
                     "yes" if one.typed else ""])  # fmt: skip
        rows.append([*head, "gateway", "", one.gateway, "", "", "", "", "yes" if network.gateway else ""])
        rows += [
            [*head, "kept", row.host, row.address, "", "", "", "", "yes" if row.reserved_id else ""]
            for row in plan.kept
            if row.network_id == one.network_id
        ]
    rows += [
        ["", "", "kept", row.host, row.address, "", "", "", "", "yes"] for row in plan.kept if row.network_id is None
    ]
    return write_csv(HEAD, rows)
