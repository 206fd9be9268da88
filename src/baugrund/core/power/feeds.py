"""Feeds: the loop and the steady state of every powered run of a project, for all that ask about its power.

References
----------
.. [1] IEEE Std 802.3-2022, clauses 33 and 145.
.. [2] ANSI/TIA-568.2, DC resistance; IEC 60028, its change with temperature.
"""

from __future__ import annotations

from ..facts.drop import Drop
from ..facts.project import Project
from ..physics.poe import Feed, School, feed, port_watts
from ..reach.runs import ROOM_C, lengths, warmth


def loop_ohm(project: Project, drop: Drop) -> float:
    """Loop resistance of a powered drop's run, as long and as warm as it is [ohm] [2]_."""
    assert drop.poe_class is not None
    warm_c = warmth(project).get(drop.id, ROOM_C)
    length_m = lengths(project)[drop.id]
    return project.settings.feed_terms.loop_ohm(drop.poe_class, length_m, warm_c, clad=drop.copper_clad)


def steady(project: Project, drop: Drop) -> Feed | None:
    """Current, watts and volts of a powered drop's run [1]_; None: it cannot deliver the draw."""
    return feed(project.draw_w(drop), loop_ohm(project, drop), project.settings.port_volts)


def counted_w(project: Project, drop: Drop) -> float:
    """Watts at the port of a powered drop by the project's school of adding up, without margin [W]."""
    poe_class = project.port_class(drop)
    assert poe_class is not None
    return port_watts(
        project.settings.school, poe_class, project.draw_w(drop), loop_ohm(project, drop),
        measured_w=drop.measured_w, port_v=project.settings.port_volts,
    )  # fmt: skip


def running_w(project: Project, drop: Drop) -> float:
    """Watts at the port that a powered drop takes as it runs [W]: measured, else rated over its run, whatever the
    school of adding up reserves for it."""
    assert drop.poe_class is not None
    school: School = "measured" if project.settings.school == "measured" else "rated"
    return port_watts(
        school, drop.poe_class, project.draw_w(drop), loop_ohm(project, drop), measured_w=drop.measured_w,
        port_v=project.settings.port_volts,
    )  # fmt: skip
