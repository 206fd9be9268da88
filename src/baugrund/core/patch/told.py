"""What is told of the patching: the faces of panels and boxes, the port list, moves, and what would be better."""

from __future__ import annotations

from collections.abc import Sequence

from pydantic import field_serializer

from ..edits import PatchCords, as_sent
from ..edits.patching import Cord as Plugged
from ..facts.building import Closet
from ..facts.fact import Fact
from ..facts.project import Project
from ..stack.told import Stack
from ..standing.ground import Ground, router_of
from .addresses import AddressPlan, address_plan, managed_boxes
from .compared import Compared, compared
from .cords import CordList, cord_list
from .faces import Face, faces_of
from .labelling import Labelling, labelling
from .lines import PortLine, lines_of
from .networks import MatrixCell, Routed, matrix, network_of, routed
from .patching import Patching, position_x, x_of
from .ports import ports_of
from .trunks import Trunks, trunks_of


class Better(Fact):
    """An assignment that is better where more may move."""

    moves: int
    hops_mbit: int
    idle: int
    cord_m: float
    """Its sums; those of the steady one stand with the closet."""
    edit: PatchCords

    @field_serializer("edit")
    def _send(self, edit: PatchCords) -> dict[str, object]:
        return as_sent(edit)


class ClosetPatching(Fact):
    """The port list of a closet."""

    closet_id: int
    name: str
    faces: tuple[Face, ...]
    lines: tuple[PortLine, ...]
    unseated: tuple[int, ...]
    """Live drops for which the boxes that stand have no port."""
    without_position: tuple[int, ...]
    """Drops whose cable finds no position on the panels."""
    unheld: tuple[int, ...]
    """Drops that are pinned where they cannot be."""
    moves: int
    """Cords that have to be moved."""
    proven: bool
    """No assignment moves fewer, or has less traffic, idle ports and cord under as many moves."""
    least_moves: int
    hops_mbit: int
    idle: int
    cord_m: float
    """Of cords whose ends stand somewhere."""
    cords_unknown: int
    """Cords of which nobody knows how long they are."""
    crossings: int
    """Pairs of cords between one panel and one box that cross; found, not proven least."""
    better: Better | None
    edit: PatchCords
    """Takes the list as it stands: everything is plugged so."""

    @field_serializer("edit")
    def _send(self, edit: PatchCords) -> dict[str, object]:
        return as_sent(edit)


class PatchTold(Fact):
    """The port lists of all closets, what crosses links, who may open what to whom, and what the router passes on."""

    closets: tuple[ClosetPatching, ...]
    trunks: Trunks
    matrix: tuple[MatrixCell, ...]
    homes: dict[int, int]
    """Network of every drop."""
    routed: Routed
    addresses: AddressPlan
    labelling: Labelling
    cords: CordList
    compared: Compared


def closets_of(
    project: Project, grounds: Sequence[Ground], stack: Stack, *, better: bool
) -> tuple[list[Patching], list[ClosetPatching]]:
    """The patching of every closet in which something ends, and what is told of it."""
    by_closet = {ground.closet.id: ground for ground in grounds}
    told, patchings = [], []
    for here in stack.closets:
        closet = project.closets_by_id[here.closet_id]
        steady = Patching(project, by_closet.get(closet.id), closet, here.things)
        if not steady.drops and not steady.ends:
            continue
        loose = Patching(project, by_closet.get(closet.id), closet, here.things, steady=False) if better else None
        told.append(_told(project, closet, steady, loose))
        patchings.append(steady)
    return patchings, told


def patch_of(project: Project, grounds: Sequence[Ground], stack: Stack, *, better: bool = True) -> PatchTold:
    """The patching of a site; ``better``: with what would be better where more cords may move."""
    patchings, told = closets_of(project, grounds, stack, better=better)
    router = router_of(grounds)
    return PatchTold(
        closets=tuple(told),
        trunks=trunks_of(project, patchings, {one.closet_id: one.lines for one in told}),
        matrix=matrix(project),
        homes={number: network.id for number, network in network_of(project).items()},
        routed=routed(project, router.throughput_mbit if router else None),
        labelling=labelling(project),
        compared=compared(project, {one.closet_id: one.lines for one in told}),
        cords=cord_list(project, (line for one in told for line in one.lines)),
        addresses=address_plan(project, managed_boxes(project, grounds, stack)),
    )


def _told(project: Project, closet: Closet, steady: Patching, loose: Patching | None) -> ClosetPatching:
    lines = tuple(lines_of(project, steady))
    live = {drop.id for drop in steady.drops if project.is_live(drop)}
    seated = {place.drop_id for place, _ in steady.places}
    hops, idle, cord_cm, _ = steady.assigned.cost if steady.places else (0, 0, 0, 0)
    held = {line.drop_id for line in lines if line.fixed and line.moves}
    movable = sum(one.weight for one in steady.case.asking) if steady.places else 0
    return ClosetPatching(
        closet_id=closet.id, name=closet.name, faces=tuple(faces_of(steady, lines)), lines=lines,
        unseated=tuple(sorted(live - seated)),
        without_position=tuple(
            drop.id for drop in steady.drops
            if steady.panels and drop.id not in steady.own and f"drop/{drop.id}" not in steady.positions
        ),
        unheld=tuple(sorted(one for one in held if one is not None)),
        moves=sum(line.moves for line in lines),
        proven=steady.assigned.proven if steady.places else True,
        least_moves=steady.assigned.bound if movable else 0,
        hops_mbit=hops, idle=idle, cord_m=round(cord_cm / 100, 2),
        cords_unknown=sum(line.use == "drop" and line.cord_m is None and bool(steady.panels) for line in lines),
        crossings=_crossings(steady, lines),
        better=_better(project, closet, steady, loose) if loose else None,
        edit=_plugged(closet, lines),
    )  # fmt: skip


def _better(project: Project, closet: Closet, steady: Patching, loose: Patching) -> Better | None:
    """What is better in traffic, idle ports or cord where more may move than must."""
    if not steady.places or not steady.by_drop:
        return None
    now, then = steady.assigned.cost[:3], loose.assigned.cost[:3]
    if then >= now:
        return None
    lines = tuple(lines_of(project, loose, steady))
    hops, idle, cord_cm = then
    return Better(
        moves=sum(line.moves for line in lines), hops_mbit=hops, idle=idle, cord_m=round(cord_cm / 100, 2),
        edit=_plugged(closet, lines),
    )  # fmt: skip


def _plugged(closet: Closet, lines: Sequence[PortLine]) -> PatchCords:
    """The edit that says that all is plugged as listed."""
    return PatchCords(
        closet_id=closet.id,
        cords=tuple(
            Plugged(
                drop_id=line.drop_id, end=line.end, panel=line.panel,
                position=line.position, box=line.box if line.port is not None else "", port=line.port,
            )
            for line in lines
            if line.use != "reserve" and (line.panel or line.port is not None)
        ),
    )  # fmt: skip


def _crossings(patching: Patching, lines: Sequence[PortLine]) -> int:
    """Pairs of cords between one panel and one box of which the left one ends to the right of the other."""
    from_to: dict[tuple[str, str], list[tuple[float, float]]] = {}
    if patching.seating is None:
        return 0
    counts = dict(patching.panels)
    for line in lines:
        if line.panel and line.position and line.port and line.box in patching.at_box:
            ports = ports_of(patching.seating.boxes[patching.at_box[line.box]].model)
            ends = position_x(line.position, counts[line.panel]), x_of(ports[line.port - 1], ports)
            from_to.setdefault((line.panel, line.box), []).append(ends)
    return sum(
        (one[0] - other[0]) * (one[1] - other[1]) < 0
        for cords in from_to.values()
        for place, one in enumerate(cords)
        for other in cords[:place]
    )
