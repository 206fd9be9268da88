"""A simulated switch: it tells what is plugged into its ports, with a few things other than planned, from a seed.

What it tells goes in through the same door as a table that somebody brings (`exchange/neighbour_table`).
"""

from __future__ import annotations

import hashlib
import random
from itertools import pairwise
from typing import Any

from baugrund.core.facts.project import Project
from baugrund.core.patch.addresses import host_name
from baugrund.core.patch.lines import PortLine
from baugrund.core.patch.told import PatchTold

FAULTS = ("swapped", "dead", "slow", "network", "unknown")
"""What it has other than planned, each once where there is something to have it."""


def told_by(project: Project, told: PatchTold, seed: int, faults: tuple[str, ...] = FAULTS) -> list[dict[str, Any]]:
    """Rows of a neighbour table for every port of every box: as planned but for the faults of the seed."""
    draw = random.Random(f"switch {seed}")
    numbers = {network.id: network.number for network in project.networks}
    rows: list[dict[str, Any]] = []
    planned: list[tuple[dict[str, Any], PortLine]] = []
    free: list[dict[str, Any]] = []
    for here in told.closets:
        lines = {line.key: line for line in here.lines}
        for face in here.faces:
            for port in face.ports:
                if face.kind == "panel" or port.number is None:
                    continue
                line = lines.get(port.line)
                row = {"closet": here.name, "box": face.short, "port": port.name, "up": False}
                rows.append(row)
                if line is None or line.use == "reserve":
                    free.append(row)
                elif line.drop_id is None:
                    row |= {"up": True, "name": line.name, "speed_mbit": line.speed_mbit}
                elif project.drops_by_id[line.drop_id].in_use:
                    row |= _answer(project, line, numbers)
                    planned.append((row, line))
    for fault in faults:
        _spoil(draw, fault, planned, free, sorted(numbers.values()))
    return rows


def _answer(project: Project, line: PortLine, numbers: dict[int, int]) -> dict[str, Any]:
    drop = project.drops_by_id[line.drop_id or -1]
    answer: dict[str, Any] = {
        "up": True, "hardware": _hardware(f"drop {drop.id}"), "name": host_name(project.name_of(drop)),
        "speed_mbit": min(drop.speed_mbit, line.speed_mbit or drop.speed_mbit),
    }  # fmt: skip
    if line.label:
        answer["name"] = line.label
    if line.watts:
        answer["watts"] = round(0.9 * line.watts, 1)
    if line.network_id is not None:
        answer["network"] = numbers[line.network_id]
    return answer


def _hardware(of: str) -> str:
    """A made-up hardware address: locally administered (IEEE Std 802, 8.4)."""
    digits = hashlib.blake2b(of.encode(), digest_size=5).hexdigest()
    return "02:" + ":".join(digits[at : at + 2] for at in range(0, 10, 2))


def _spoil(
    draw: random.Random, fault: str, planned: list[tuple[dict[str, Any], PortLine]], free: list[dict[str, Any]],
    numbers: list[int],
) -> None:  # fmt: skip
    """Make one thing other than planned; what was spoiled once is left alone."""
    told = ("hardware", "name", "speed_mbit", "watts", "network")
    if fault == "swapped" and len(planned) > 1:
        pairs = [(a, b) for a, b in pairwise(planned) if a[1].kind == b[1].kind]
        one, other = draw.choice(pairs or [(planned[0], planned[1])])
        here, there = ({key: row.get(key) for key in told if key in row} for row, _ in (one, other))
        for (row, _), other_told in ((one, there), (other, here)):
            for key in told:
                row.pop(key, None)
            row.update(other_told)
        planned[:] = [some for some in planned if some not in (one, other)]
    elif fault == "unknown" and free:
        draw.choice(free).update(up=True, name="", hardware=_hardware(f"stranger {draw.random()}"), speed_mbit=1000)
    elif fault in ("dead", "slow", "network") and planned:
        fit = [some for some in planned if fault != "slow" or (some[0]["speed_mbit"] or 0) > 100] or planned
        row, _ = chosen = draw.choice(fit)
        planned.remove(chosen)
        if fault == "dead":
            for key in told:
                row.pop(key, None)
            row["up"] = False
        elif fault == "slow":
            row["speed_mbit"] = 100
        elif len(numbers) > 1 and "network" in row:
            row["network"] = draw.choice([one for one in numbers if one != row["network"]])
