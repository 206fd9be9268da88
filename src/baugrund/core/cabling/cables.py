"""The cable to buy: by type and colour, in whole boxes, and which run is cut from which."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass

from ..facts.kept import kept
from ..facts.project import Project
from ..reach.cable_types import CableType
from ..reach.runs import Run, runs
from .fill import cable_of, filled
from .packing import STEP_M, Packed, pack, steps


@dataclass(frozen=True)
class Cut:
    """One run and what is cut for it: metre marks on its box, from and to [m]."""

    drop_id: int
    length_m: float
    from_m: float
    to_m: float


@dataclass(frozen=True)
class BoxCut:
    """One box: the runs cut from it, longest first, and what stays [m]."""

    cuts: tuple[Cut, ...]
    rest_m: float


@dataclass(frozen=True)
class CableLine:
    """A cable to buy.  ``bound``: no packing does with fewer boxes; ``too_long``: runs over the length of a box."""

    name: str
    colour: str
    box_m: float
    price_minor: int
    runs: int
    total_m: float
    boxes: tuple[BoxCut, ...]
    bound: int
    at_once: int
    """Boxes to pull from at a time: as many as its largest bundle has runs, and no more than there are."""
    passes: int
    """How often the largest bundle is pulled then."""
    too_long: tuple[int, ...]

    @property
    def proven(self) -> bool:
        return len(self.boxes) == self.bound

    @property
    def total_minor(self) -> int:
        return self.price_minor * len(self.boxes)


@kept
def cable_list(project: Project) -> tuple[CableLine, ...]:
    """Everything to buy, the most boxes first.  Cable that is there already is not bought."""
    by_type: dict[tuple[CableType, str], list[Run]] = defaultdict(list)
    colours = {colour.kind: colour.colour for colour in project.colours}
    for run in runs(project).values():
        drop = project.drops_by_id[run.drop_id]
        if not drop.existing:
            by_type[cable_of(project, drop), colours.get(drop.kind, "")].append(run)
    lines = [_line(project, cable, colour, some) for (cable, colour), some in by_type.items()]
    return tuple(sorted(lines, key=lambda line: (-len(line.boxes), line.name, line.colour)))


def _line(project: Project, cable: CableType, colour: str, some: list[Run]) -> CableLine:
    beyond = {run.drop_id for run in some if steps(run.length_m) * STEP_M > cable.box_m + 1e-9}
    fitting = [run for run in some if run.drop_id not in beyond]
    packed = pack([run.length_m for run in fitting], cable.box_m)
    largest = _largest_bundle(project, {run.drop_id for run in some})
    at_once = max(1, min(largest, len(packed.boxes)))
    return CableLine(
        cable.name, colour, cable.box_m, cable.price_minor, len(some), round(sum(run.length_m for run in some), 1),
        _boxes(packed, fitting, cable.box_m), packed.bound, at_once, -(-largest // at_once),
        tuple(run.drop_id for run in some if run.drop_id in beyond),
    )  # fmt: skip


def _boxes(packed: Packed, some: list[Run], box_m: float) -> tuple[BoxCut, ...]:
    boxes = []
    for numbers in packed.boxes:
        at = 0.0
        cuts = []
        for run in sorted((some[number] for number in numbers), key=lambda run: (-run.length_m, run.drop_id)):
            end = at + steps(run.length_m) * STEP_M
            cuts.append(Cut(run.drop_id, run.length_m, at, end))
            at = end
        boxes.append(BoxCut(tuple(cuts), round(box_m - at, 2)))
    return tuple(boxes)


def _largest_bundle(project: Project, drop_ids: set[int]) -> int:
    """Most runs of these that lie in one path; with none drawn, one is pulled at a time."""
    held: Mapping[int, frozenset[int]] = {path_id: frozenset(f.drop_ids) for path_id, f in filled(project).items()}
    return max((len(ids & drop_ids) for ids in held.values()), default=0) or 1
