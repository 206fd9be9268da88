"""Edits of networks: all that a kind of place usually has, what one network may open to another, who is in which."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ..facts.drop_kinds import KindKey
from ..facts.fact import Fact, Id, Text
from ..facts.patch import (
    MAX_NETWORKS,
    MAX_PATCHES,
    Access,
    Address,
    Network,
    Permission,
    Prefix,
    Prefix6,
    Reserved,
    ServiceKey,
)
from ..facts.project import Project
from ..standards.network_templates import TEMPLATES, TemplateKey
from ..words import counted
from .rows import found, replaced


class KeptPrefix(Fact):
    """The prefixes of a network."""

    network_id: Id
    prefix: Prefix = ""
    prefix6: Prefix6 = ""


class NewAddress(Fact):
    """An address for a drop or a box of a closet."""

    address: Annotated[Address, Field(min_length=1)]
    drop_id: Id | None = None
    closet_id: Id | None = None
    thing: Text = ""


class UseNetworks(Fact):
    """Set up the networks that places of a kind usually have; those there by name or number stay as they are."""

    type: Literal["use_networks"] = "use_networks"
    template: TemplateKey

    def apply(self, project: Project) -> Project:
        template, number = TEMPLATES[self.template], project.next_id
        networks, permissions = list(project.networks), list(project.permissions)
        for row in template.networks:
            if any(one.name.casefold() == row.name.casefold() or one.number == row.number for one in networks):
                continue
            networks.append(
                Network.model_validate(
                    {"id": number, "name": row.name, "number": row.number, "purpose": row.purpose, "kinds": row.kinds,
                     "internet": row.internet, "way_in": row.way_in}
                )
            )  # fmt: skip
            number += 1
        at = {one.name: one.id for one in networks}
        known = {(one.from_id, one.to_id) for one in permissions}
        for rule in template.rules:
            pair = at.get(rule.source), at.get(rule.target)
            if pair[0] is None or pair[1] is None or pair in known:
                continue
            access: Access = "all" if rule.services is None else "services" if rule.services else "nothing"
            permissions.append(
                Permission(id=number, from_id=pair[0], to_id=pair[1], access=access, services=rule.services or (),
                           reason=rule.reason)
            )  # fmt: skip
            number += 1
        return replaced(project, networks=tuple(networks), permissions=tuple(permissions), next_id=number)

    def summary(self, project: Project) -> str:
        return f"set up the networks of a {self.template}"


class SetPermission(Fact):
    """What clients of one network may open to another."""

    type: Literal["set_permission"] = "set_permission"
    from_id: Id
    to_id: Id
    access: Access
    services: Annotated[tuple[ServiceKey, ...], Field(max_length=20)] = ()
    reason: Text = ""

    def apply(self, project: Project) -> Project:
        for number in (self.from_id, self.to_id):
            found(project.networks, number, "network")
        pair = (self.from_id, self.to_id)
        old = next((one for one in project.permissions if (one.from_id, one.to_id) == pair), None)
        row = Permission(
            id=old.id if old else project.next_id, from_id=pair[0], to_id=pair[1], access=self.access,
            services=self.services if self.access == "services" else (), reason=self.reason,
        )  # fmt: skip
        others = tuple(one for one in project.permissions if one is not old)
        return replaced(project, permissions=(*others, row), next_id=project.next_id + (old is None))

    def summary(self, project: Project) -> str:
        one, other = (found(project.networks, number, "network").name for number in (self.from_id, self.to_id))
        return f"set what {one} may open to {other}" if one != other else f"set what clients of {one} may open"


class MoveToNetwork(Fact):
    """Put single drops into a network; None: they are again where their room or kind says."""

    type: Literal["move_to_network"] = "move_to_network"
    drop_ids: Annotated[tuple[Id, ...], Field(min_length=1, max_length=2000)]
    network_id: Id | None

    def apply(self, project: Project) -> Project:
        wanted = {found(project.drops, number, "drop").id for number in self.drop_ids}
        if self.network_id is not None:
            found(project.networks, self.network_id, "network")
        networks = []
        for network in project.networks:
            named = [number for number in network.drop_ids if number not in wanted]
            if network.id == self.network_id:
                named += sorted(wanted)
            networks.append(network.model_copy(update={"drop_ids": tuple(named)}))
        return replaced(project, networks=tuple(networks))

    def summary(self, project: Project) -> str:
        if self.network_id is None:
            return "put drops back into the network of their kind"
        return f"put drops into {found(project.networks, self.network_id, 'network').name}"


class KeepAddresses(Fact):
    """Prefixes and addresses are kept as they are proposed; those that somebody has said stay."""

    type: Literal["keep_addresses"] = "keep_addresses"
    prefixes: Annotated[tuple[KeptPrefix, ...], Field(max_length=MAX_NETWORKS)]
    addresses: Annotated[tuple[NewAddress, ...], Field(max_length=MAX_PATCHES)]

    def apply(self, project: Project) -> Project:
        said = {one.network_id: one for one in self.prefixes}
        networks = tuple(
            network.model_copy(
                update={"prefix": network.prefix or said[network.id].prefix,
                        "prefix6": network.prefix6 or said[network.id].prefix6}
            )
            if network.id in said
            else network
            for network in project.networks
        )  # fmt: skip
        numbers = range(project.next_id, project.next_id + len(self.addresses))
        rows = tuple(Reserved(id=n, **one.model_dump()) for n, one in zip(numbers, self.addresses, strict=True))
        return replaced(
            project, networks=networks, reserved=(*project.reserved, *rows), next_id=project.next_id + len(rows)
        )

    def summary(self, project: Project) -> str:
        return f"keep {counted(len(self.addresses), 'address', 'addresses')} as proposed"


class CamerasInto(Fact):
    """The school for cameras: their own network with what records them, or with trusted clients."""

    type: Literal["cameras_into"] = "cameras_into"
    network_id: Id

    def apply(self, project: Project) -> Project:
        target = found(project.networks, self.network_id, "network")
        moved: tuple[KindKey, ...] = ("camera", "door_station", "recorder")
        networks = []
        for network in project.networks:
            kinds = tuple(kind for kind in network.kinds if kind not in moved)
            if network is target:
                kinds = (*kinds, *moved)
            networks.append(network.model_copy(update={"kinds": kinds}))
        return replaced(project, networks=tuple(networks))

    def summary(self, project: Project) -> str:
        return f"put cameras into {found(project.networks, self.network_id, 'network').name}"
