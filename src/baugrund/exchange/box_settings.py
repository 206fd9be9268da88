"""Settings of boxes as a file that names no maker: networks, what each port carries, power and its priority."""

from __future__ import annotations

from typing import Any, Literal

from baugrund.core.facts.fact import Fact
from baugrund.core.facts.patch import Access, Purpose
from baugrund.core.facts.project import Project
from baugrund.core.patch.networks import matrix
from baugrund.core.patch.trunks import BoxSheet, DeviceSheet, TrunkLine, Trunks


class NetworkSetting(Fact):
    """A network (a VLAN, IEEE Std 802.1Q): its number and name."""

    number: int
    name: str
    purpose: Purpose
    internet: bool


class OpenSetting(Fact):
    """What clients of a network may open to another; replies follow.  What is not named is *nothing*, inside a network
    *all*."""

    source: int
    target: int
    access: Access
    services: tuple[str, ...]


class NameSetting(Fact):
    """A Wi-Fi name, and the number of the network behind it."""

    name: str
    network: int | None


class BoxSettings(Fact):
    """Settings of all boxes of a project."""

    format: Literal["baugrund-box-settings"] = "baugrund-box-settings"
    version: Literal[1] = 1
    project: str
    networks: tuple[NetworkSetting, ...]
    may_open: tuple[OpenSetting, ...]
    wifi_names: tuple[NameSetting, ...]
    links: tuple[TrunkLine, ...]
    boxes: tuple[BoxSheet, ...]
    devices: tuple[DeviceSheet, ...]


def schema() -> dict[str, Any]:
    """The JSON Schema of the file."""
    return BoxSettings.model_json_schema(mode="serialization")


def write_box_settings(project: Project, trunks: Trunks) -> str:
    """The settings of all boxes as JSON."""
    number = {network.id: network.number for network in project.networks}
    settings = BoxSettings(
        project=project.name,
        networks=tuple(
            NetworkSetting(number=one.number, name=one.name, purpose=one.purpose, internet=one.internet)
            for one in project.networks
        ),
        may_open=tuple(
            OpenSetting(
                source=number[cell.from_id], target=number[cell.to_id], access=cell.access, services=cell.services
            )
            for cell in matrix(project)
            if cell.access != ("all" if cell.from_id == cell.to_id else "nothing")
        ),
        wifi_names=tuple(
            NameSetting(name=one.name, network=number.get(one.network_id or -1)) for one in project.wifi_names
        ),
        links=trunks.links, boxes=trunks.boxes, devices=trunks.devices,
    )  # fmt: skip
    return settings.model_dump_json(indent=2) + "\n"
