"""The order of work as it is told: phases, stages and steps with what is done, what waits, and what comes next."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from datetime import datetime

import networkx as nx

from ...edits import RemoveDrops
from ...facts.catalogue import Catalogue
from ...facts.fact import Fact
from ...facts.price import Doer
from ...facts.project import Project
from ...places.labels import labels
from ...price.phasing import place_of
from ...price.work_items import work_in_phases
from ...stack.told import Stack
from ...standards.order_of_work import BEFORE, BUILD_STAGES, LABOUR_STAGES, STAGE_ROWS, BuildStage, Scope
from ...standards.tools import TOOLS
from ...standing.ground import Ground
from ..power_up import power_up_of
from ..run_tests import run_tests_of
from .status import Standing, State, Status
from .steps import PhaseSteps, PlannedStep


class SubjectTold(Fact):
    """One of the things that a step is about."""

    key: str
    name: str
    state: State
    at: datetime | None
    by: str
    why: str
    """What opened it again, or what is left of it."""


class StepTold(Fact):
    """A step of the order of work."""

    key: str
    name: str
    told: str
    subjects: tuple[SubjectTold, ...]
    done: int
    state: State
    """Again: something of it was done, and is open again."""
    who: Doer
    hours: float
    """Usual hours of one person [h]."""
    closet_id: int | None
    room_id: int | None
    tools: tuple[str, ...]
    cautions: tuple[str, ...]
    """Of this step alone; those of the stage stand there."""
    waits_for: tuple[str, ...]
    """Names of stages that come before it and are open for what it is about."""


class StageTold(Fact):
    """A stage of a phase."""

    stage: BuildStage
    name: str
    do: str
    caution: str
    tools: tuple[str, ...]
    steps: tuple[StepTold, ...]
    done: int
    """Of its subjects."""
    total: int
    hours: float


class PhaseTold(Fact):
    """The order of work of a phase; without phases there is one without a name."""

    name: str
    stages: tuple[StageTold, ...]
    done: int
    total: int
    next: tuple[str, ...]
    """Keys of the first steps that wait for nothing: one of every stage."""


class OrderOfWork(Fact):
    """Everything that is done until the network stands."""

    phases: tuple[PhaseTold, ...]
    done: int
    total: int
    again: int
    """Subjects that were done, and are open again."""


def order_of(
    project: Project, catalogue: Catalogue, grounds: Sequence[Ground], stack: Stack
) -> OrderOfWork:  # fmt: skip
    """The order of work of a project on the boxes that stand."""
    status, names = Status(project, run_tests_of(project, grounds)), _Names(project, stack)
    power_up = power_up_of(project, grounds, stack)
    before = before_of(project)
    told = []
    works = work_in_phases(project, catalogue, grounds, stack)
    for place, (phase, items) in enumerate(zip(project.phases or (None,), works, strict=True)):
        only = _only(project, place)
        planned = PhaseSteps(project, only, place, grounds, stack, items=items, power_up=power_up).steps()
        told.append(_phase(phase.name if phase else "", list(planned), before, status, names))
    return OrderOfWork(
        phases=tuple(told), done=sum(one.done for one in told), total=sum(one.total for one in told),
        again=sum(
            subject.state == "again"
            for one in told for stage in one.stages for step in stage.steps for subject in step.subjects
        ),
    )  # fmt: skip


def _only(project: Project, place: int) -> Project:
    """The project with the drops of one phase alone."""
    others = tuple(drop.id for drop in project.drops if place_of(project, drop) != place)
    return RemoveDrops(ids=others).apply(project) if others else project


Before = tuple[BuildStage, BuildStage, Scope]


def before_of(project: Project) -> tuple[Before, ...]:
    """What waits for what: as the project orders it, and of the usual what does not run against that."""
    own: list[Before] = [
        (LABOUR_STAGES[row.first], LABOUR_STAGES[row.second], "site") for row in project.stage_orders
        if row.first in LABOUR_STAGES and row.second in LABOUR_STAGES
    ]  # fmt: skip
    graph: nx.DiGraph[BuildStage] = nx.DiGraph()
    kept: list[Before] = []
    graph.add_nodes_from(BUILD_STAGES)
    for row in (*own, *BEFORE):
        first, then, _ = row
        if first != then and not nx.has_path(graph, then, first):
            graph.add_edge(first, then)
            kept.append(row)
    return tuple(kept)


def stages_in_order(before: Sequence[Before]) -> tuple[BuildStage, ...]:
    """The usual order of stages, as far as nothing has to come before."""
    graph = nx.DiGraph([(first, then) for first, then, _ in before])
    graph.add_nodes_from(BUILD_STAGES)
    return tuple(nx.lexicographical_topological_sort(graph, key=BUILD_STAGES.index))


class _Names:
    """What subjects are called."""

    def __init__(self, project: Project, stack: Stack) -> None:
        self.project, self.labels = project, labels(project)
        self.things = {
            f"thing/{here.closet_id}/{thing.key}": thing.name for here in stack.closets for thing in here.things
        }
        self.rows: dict[str, str] = {
            f"{kind}/{row.id}": row.name
            for kind, rows in (("closet", project.closets), ("path", project.paths), ("kit", project.kit),
                               ("line", project.lines), ("extra", project.extra_work), ("room", project.rooms))
            for row in rows
        } | {f"link/{closet.id}": f"Link to {closet.name}" for closet in project.closets}  # fmt: skip

    def of(self, key: str) -> str:
        kind, _, rest = key.partition("/")
        if kind == "drop":
            number = int(rest)
            label, name = self.labels.get(number, ""), self.project.name_of(self.project.drops_by_id[number])
            return f"{label} {name}" if label and label != name else name
        return self.things.get(key) or self.rows.get(key) or "The whole site"


def _phase(
    name: str, planned: Sequence[PlannedStep], before: Sequence[Before], status: Status, names: _Names
) -> PhaseTold:
    standings = {(step.stage, key): status.of(step.stage, key) for step in planned for key in step.subjects}
    open_of = _Open(planned, standings, before)
    stages = []
    for stage in stages_in_order(before):
        steps = [_step(step, standings, open_of, names) for step in planned if step.stage == stage]
        if not steps:
            continue
        row = STAGE_ROWS[stage]
        stages.append(StageTold(
            stage=stage, name=row.name, do=_do(stage, status.project), caution=row.caution,
            tools=tuple(tool.name for tool in TOOLS if set(row.tools_of) & set(tool.stages)), steps=tuple(steps),
            done=sum(step.done for step in steps), total=sum(len(step.subjects) for step in steps),
            hours=sum(step.hours for step in steps),
        ))  # fmt: skip
    ready = [
        next((step.key for step in stage.steps if step.state != "done" and not step.waits_for), None)
        for stage in stages
    ]  # fmt: skip
    return PhaseTold(
        name=name, stages=tuple(stages), done=sum(one.done for one in stages), total=sum(one.total for one in stages),
        next=tuple(key for key in ready if key),
    )  # fmt: skip


def _do(stage: BuildStage, project: Project) -> str:
    """What is done in a stage; ends are made by the site's own standard of colours."""
    pinout = f" ({project.settings.pinout})" if stage in ("terminate", "punch_down") else ""
    return STAGE_ROWS[stage].do.removesuffix(".") + f"{pinout}."


def _step(
    step: PlannedStep, standings: Mapping[tuple[BuildStage, str], Standing], open_of: _Open, names: _Names
) -> StepTold:
    told = []
    for key in step.subjects:
        one = standings[step.stage, key]
        told.append(SubjectTold(key=key, name=names.of(key), state=one.state, at=one.at, by=one.by, why=one.why))
    many = Counter(one.state for one in told)
    return StepTold(
        key=f"{step.stage}/{step.subjects[0]}", name=step.name, told=step.told, subjects=tuple(told),
        done=many["done"], state="again" if many["again"] else "done" if many["done"] == len(told) else "open",
        who=step.who, hours=round(step.hours, 4), closet_id=step.closet_id, room_id=step.room_id, tools=step.tools,
        cautions=step.cautions, waits_for=tuple(STAGE_ROWS[stage].name for stage in open_of.before(step)),
    )  # fmt: skip


class _Open:
    """What is still open of every stage: drops, closets, rooms, or anything."""

    def __init__(
        self, planned: Sequence[PlannedStep], standings: Mapping[tuple[BuildStage, str], Standing],
        before: Sequence[Before],
    ) -> None:  # fmt: skip
        self.orders = before
        self.touched: dict[tuple[BuildStage, Scope], set[object]] = {}
        for step in planned:
            for key in step.subjects:
                if standings[step.stage, key].state != "done":
                    for scope, marks in _marks(step, (key,)).items():
                        self.touched.setdefault((step.stage, scope), set()).update(marks)

    def before(self, step: PlannedStep) -> Iterator[BuildStage]:
        """Stages that a step waits for."""
        mine = _marks(step, step.subjects)
        waits = {first for first, then, scope in self.orders
                 if then == step.stage and self.touched.get((first, scope), set()) & mine[scope]}  # fmt: skip
        if step.subjects == ("site",):
            waits = {stage for stage, _ in self.touched if stage != step.stage}
        yield from (stage for stage in BUILD_STAGES if stage in waits)


def _marks(step: PlannedStep, subjects: Sequence[str]) -> dict[Scope, set[object]]:
    """What two steps have in common where one waits for the other."""
    return {
        "site": {0}, "drops": set(subjects), "closet": {step.closet_id} if step.closet_id else set(),
        "room": {step.room_id} if step.room_id else set(),
    }  # fmt: skip
