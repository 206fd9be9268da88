"""The pit of money: what the job costs against its budget, what later phases add on top."""

from __future__ import annotations

from ..facts.project import Project
from ..facts.verbs import VERBS
from ..standards.spares import GROUPS
from ..standing.bearing import Capacity, Opened, Share, Verdict
from ..words import counted, minor_per_unit
from .costs import JobCosts


def money_pit(project: Project, costs: JobCosts) -> Capacity | None:
    """What is paid once against the budget, both without tax; None: there is no budget."""
    fit = costs.one_off_fit
    if fit is None:
        return None
    per_unit = minor_per_unit(costs.currency)
    first = costs.by_phase[0].one_off_minor
    verdict: Verdict = "over" if fit.over_minor > 0 else "holds"
    return Capacity(
        key="money", name="Money", unit=costs.currency, used=first / per_unit,
        growth=(fit.spent_minor - first) / per_unit, limit=fit.budget_minor / per_unit, verdict=verdict,
        sentence=fit.sentence, full_year=project.settings.start_year if fit.over_minor > 0 else None, verbs=VERBS,
    )  # fmt: skip


def opened_money(project: Project, costs: JobCosts) -> Opened | None:
    """The pit of money with what makes it up."""
    capacity = money_pit(project, costs)
    if capacity is None:
        return None
    per_unit = minor_per_unit(costs.currency)
    sums = {name: sum(part.total_minor or 0 for part in costs.parts if part.group == group)
            for group, name in GROUPS.items()}  # fmt: skip
    tools = costs.own.given.tools_minor
    sums |= {"Work": costs.labour.cost.mean_minor, "Tools of the owner": tools}
    shares = [Share(label=name, amount=minor / per_unit) for name, minor in sums.items() if minor]
    parts, work = costs.parts_minor / per_unit, costs.labour.cost.mean_minor / per_unit
    added = f" + tools {tools / per_unit:,.2f}" if tools else ""
    told = f"parts {parts:,.2f} + work {work:,.2f}{added} of {capacity.limit:,.2f} {capacity.unit}, all without tax"
    if costs.unpriced:
        told += f"; without {counted(len(costs.unpriced), 'part')} of unknown price"
    return Opened(
        capacity=capacity, shares=tuple(sorted(shares, key=lambda share: -share.amount)), formula=told,
        source="Whole packs at the prices of the project's lists; mean hours of PERT estimates at the rates agreed.",
    )  # fmt: skip
