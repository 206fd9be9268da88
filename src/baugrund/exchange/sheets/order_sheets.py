"""The order of work on paper: steps to tick off, the run-through of powering up, devices with their codes."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from html import escape
from pathlib import Path

import segno

from baugrund.core.facts.project import Project
from baugrund.core.prove.bench import Bench, DeviceTold, kind_name
from baugrund.core.prove.order.told import OrderOfWork, StepTold
from baugrund.core.prove.power_up import PowerUp

from .pages import sentences, table, tick, write_pdf

CODE_MM = 17


def write_order(project: Project, told: OrderOfWork, fonts: Path | None, made: date) -> bytes:
    """Every stage with its caution and tools, every step with a box to tick."""
    body = [sentences([f"{told.done} of {told.total} done.", *([f"{told.again} open again."] if told.again else [])])]
    for phase in told.phases:
        if phase.name:
            body.append(f"<h2>{escape(phase.name)}</h2>")
        for stage in phase.stages:
            said = [stage.do, stage.caution, f"Tools: {', '.join(stage.tools)}." if stage.tools else ""]
            body += [f"<h2>{stage.name}, {stage.done} of {stage.total}</h2>", sentences([one for one in said if one]),
                     table(["", "Step", "What", "Who", "Hours", "Open", "By, on"],
                           [_step(step) for step in stage.steps], right=frozenset({4}))]  # fmt: skip
    return write_pdf(f"{project.name}: order of work", f"{project.site} ·", body, fonts, made)


def _step(step: StepTold) -> list[str]:
    left = [one.name for one in step.subjects if one.state != "done"]
    some = left if 0 < len(left) < len(step.subjects) else []
    last = max((one.at for one in step.subjects if one.at), default=None)
    by = dict.fromkeys(one.by for one in step.subjects if one.by)
    cautions = "".join(f"<br>{escape(one)}" for one in step.cautions)
    return [
        tick(step.state == "done"), f"<b>{escape(step.name)}</b>{cautions}", escape(step.told), step.who,
        f"{step.hours:.1f}" if step.hours else "", escape(", ".join(some)),
        escape(", ".join([*by, *([f"{last:%Y-%m-%d}"] if last else [])])),
    ]  # fmt: skip


def write_power_up(project: Project, told: PowerUp, fonts: Path | None, made: date) -> bytes:
    """Everything that comes up in its order, with what must be seen before the next."""
    begins = "From the street inwards" if told.begins == "street" else "From the switch"
    body = [sentences([f"{begins}; waits of {told.minutes:g} min together.", *(f"{one.text} {one.do}" for one in
                       told.wrong)]),
            table(["", "What", "Do", "Wait", "Seen before the next", "Takes", "Box gives"],
                  [["<div class=box></div>", f"<b>{escape(step.name)}</b>", escape(step.do), f"{step.wait_min:g} min",
                    escape(step.seen), f"{step.watts:.1f} W" if step.watts is not None else "",
                    f"{step.given_w:.1f} of {step.budget_w:.0f} W" if step.given_w is not None else ""]
                   for step in told.steps], right=frozenset({3, 5, 6}))]  # fmt: skip
    return write_pdf(f"{project.name}: powering up", f"{project.site} ·", body, fonts, made)


def write_bench(project: Project, told: Bench, fonts: Path | None, made: date) -> bytes:
    """Every device with what is written down of it and its code, to be stuck on and read by the phone."""
    body = [sentences([f"{told.through} of {len(told.devices)} through the bench."]), table(
        ["Code", "Device", "Name and address to give", "On", "Named", "Updated", "Serial", "Hardware address"],
        [_device(one) for one in told.devices],
    )]  # fmt: skip
    return write_pdf(f"{project.name}: bench", f"{project.site} ·", body, fonts, made)


def _device(one: DeviceTold) -> Sequence[str]:
    code = segno.make(one.code, error="m", micro=False)
    drawn = code.svg_inline(border=1, svgclass=None, lineclass=None, omitsize=True)
    return [
        f'{escape(one.label) or "·"}<div style="width:{CODE_MM}mm">{drawn}</div>',
        f"<b>{escape(one.name)}</b><br>{escape(kind_name(one.kind))}, {escape(one.where)}",
        f"{escape(one.host)}<br>{escape(one.address)}", tick(one.powered), tick(one.named), tick(one.updated),
        escape(one.serial), escape(one.hardware),
    ]  # fmt: skip
