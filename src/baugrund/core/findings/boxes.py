"""Checks of the boxes that stand, and of the growth that they are asked for."""

from __future__ import annotations

from collections.abc import Iterator

from ..edits import ChangeSettings
from ..explain.substitutes import substitute
from ..facts.drop_kinds import DROP_KINDS
from ..standing.bearing import Capacity
from ..words import counted
from .finding import Finding, Settle, SiteState

MORE = Settle(label="See picks with more", verb="pick")


def ground(site: SiteState) -> Iterator[Finding]:
    """Boxes that do not bear what is asked by the horizon, that are full on day one, or have a single spare."""
    for closet in site.project.closets:
        of = f"{closet.name}: " if len(site.borne) > 1 else ""
        at = "" if closet is site.project.head_end else f"-{closet.id}"
        short = site.short.get(closet.id, "")
        if site.borne.get(closet.id) is False:
            horizon = site.project.settings.start_year + site.project.settings.horizon_years
            yield Finding(
                key=f"not-borne{at}", weight="breaks", subject=f"{of}Boxes", verb="pick", settle=MORE,
                text=f"cannot serve all drops of {horizon}" + (f": {short} run out first." if short else "."),
            )  # fmt: skip
        for capacity in site.capacities.get(closet.id, ()):
            yield from _capacity(site, capacity, of, at)
    for capacity in site.of_site:
        yield from _capacity(site, capacity, "", "")


def _capacity(site: SiteState, capacity: Capacity, of: str, at: str) -> Iterator[Finding]:
    if capacity.key not in ("ports", "powered", "watts", "money"):
        return
    subject = f"{of}{capacity.name}"
    if capacity.verdict == "over":
        horizon = site.project.settings.start_year + site.project.settings.horizon_years
        text = f"{capacity.limit:,g} {capacity.unit}".strip() + f" are there; {capacity.sentence} by {horizon}."
        yield Finding(key=f"over-{capacity.key}{at}", weight="breaks" if capacity.key != "money" else "strains",
                      subject=subject, verb="pick", text=text, settle=MORE)  # fmt: skip
    elif capacity.key in ("ports", "powered") and capacity.limit:
        free = int(capacity.limit - capacity.used)
        if free <= 1:
            text = "full on day one." if free <= 0 else "a single one is spare on day one."
            yield Finding(key=f"day-one-{capacity.key}{at}", weight="strains", subject=subject, verb="pick",
                          text=text, settle=MORE)  # fmt: skip


def refused(site: SiteState) -> Iterator[Finding]:
    """Boxes that set watts aside by class, so that they refuse devices for which their budget would do (IEEE Std
    802.3-2022, clause 145)."""
    for number, box in enumerate(site.drills):
        gone = [step.ask.drop_id for step in box.steps if not step.fed and step.ask.drop_id]
        if box.allocation == "class" and gone:
            first = site.project.name_of(site.project.drops_by_id[gone[0]])
            others = f" and {counted(len(gone) - 1, 'more device')}" if len(gone) > 1 else ""
            yield Finding(
                key=f"refused-{number}", weight="strains", subject=box.name, verb="load", drop_ids=tuple(gone),
                text=f"reserves its {box.budget_w:g} W by class: it refuses {first}{others} at power-up. A box that "
                     "goes by what devices draw, or one of more watts, would do.",
            )  # fmt: skip


def unlisted_kinds(site: SiteState) -> Iterator[Finding]:
    """Growth that is named for a kind of which nothing stands yet."""
    kinds = {drop.kind for drop in site.project.drops}
    for addition in site.project.additions:
        if addition.kind not in kinds:
            row = DROP_KINDS[addition.kind]
            yield Finding(
                key=f"addition-{addition.id}", weight="note", subject=row.plural, verb="pick",
                text=f"{addition.count} planned for {site.project.settings.start_year + addition.years}, none today: "
                     "usual figures of the kind are taken.",
            )  # fmt: skip


def margin(site: SiteState) -> Iterator[Finding]:
    """Watts added up without a margin."""
    settings = site.project.settings
    if settings.margin == 0 and settings.school != "class" and any(d.poe_class for d in site.project.drops):
        edit = ChangeSettings(changes={"margin_percent": 20.0})
        yield Finding(key="margin", weight="strains", subject="Watts", verb="pick",
                      text="are added up without a margin.", settle=Settle(label="Take 20 %", edit=edit))  # fmt: skip


def currency(site: SiteState) -> Iterator[Finding]:
    """Prices in another currency than the project counts in: nothing converts them."""
    there, counted_in = site.catalogue and site.catalogue.currency, site.project.settings.currency
    if there and there != counted_in:
        edit = ChangeSettings(changes={"currency": there})
        yield Finding(
            key="currency", weight="strains", subject="Prices", verb="pick",
            text=f"the price list is in {there}, the project counts in {counted_in}: figures are not converted.",
            settle=Settle(label=f"Count in {there}", edit=edit),
        )  # fmt: skip


def out_of_stock(site: SiteState) -> Iterator[Finding]:
    """Models that are pinned or held and not to be had, with what comes nearest."""
    project, catalogue = site.project, site.catalogue
    if catalogue is None:
        return
    wanted = [stance.model for stance in project.stances if stance.pinned] + [held.model for held in project.holdings]
    for key in dict.fromkeys(wanted):
        model = catalogue.get(key)
        if model is None or model.in_stock or project.owned.get(key):
            continue
        found = substitute(catalogue, key, project.head_end.living_space)
        nearest = (
            f"nearest is {found.sentence(project.settings.currency)}." if found else "nothing in stock does its work."
        )
        yield Finding(
            key=f"stock-{key}", weight="strains", subject=model.name, verb="pick",
            text=f"is out of stock; {nearest}", settle=MORE,
        )  # fmt: skip


def fast_ends(site: SiteState) -> Iterator[Finding]:
    """Fast ports of what stands that nothing as fast is linked to, with the cheapest way to use one."""
    for stranded in site.stranded:
        yield Finding(
            key=f"stranded-{stranded.closet_id}-{stranded.place}", weight="note", subject=stranded.name, verb="pick",
            text=stranded.sentence,
        )  # fmt: skip
