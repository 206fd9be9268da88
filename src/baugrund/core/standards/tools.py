"""Tools by stage of the work, what they cost and what they are hired for.  All are *defaults* of practice."""

from __future__ import annotations

from typing import NamedTuple


class Tool(NamedTuple):
    """A tool, the stages that it is for, its price, and what it is hired for a day [minor]; None: nobody hires it."""

    name: str
    stages: tuple[str, ...]
    buy_minor: int
    hire_minor: int | None = None


TOOLS: tuple[Tool, ...] = (
    Tool("laser measure, pencil, plan", ("survey",), 60_00),
    Tool("laptop with a network port", ("bench", "set_up", "test"), 500_00),
    Tool("hammer drill with long bits", ("ways", "pull", "mount"), 180_00, 25_00),
    Tool("core drill with dust extraction", ("ways",), 900_00, 60_00),
    Tool("spade or trencher", ("ways",), 45_00, 95_00),
    Tool("detector for pipes and live cable", ("ways", "pull", "mount"), 90_00, 15_00),
    Tool("fish tape and rods", ("pull",), 55_00),
    Tool("cable jack stands", ("pull",), 70_00, 10_00),
    Tool("ladder", ("pull", "mount"), 150_00, 15_00),
    Tool("stripper, punch-down tool, cutter", ("terminate", "punch_down"), 65_00),
    Tool("crimping tool", ("terminate",), 45_00),
    Tool("screwdrivers, level, hole saw", ("mount", "stack"), 80_00),
    Tool("filler knife, brush, dust sheets", ("close", "clear_away"), 30_00),
    Tool("wire-map tester", ("test",), 120_00, 30_00),
    Tool("tone generator and probe", ("test",), 70_00, 12_00),
    Tool("label printer", ("test", "patch"), 110_00),
    Tool("vacuum cleaner", ("clear_away", "close", "ways"), 120_00, 18_00),
)
STAGE_GROUPS: dict[str, tuple[str, ...]] = {
    "ways": ("ways",), "pull": ("cable", "strings", "fixings", "links"), "terminate": ("ends",),
    "mount": ("devices",), "stack": ("closets", "boxes"), "patch": ("cords",), "test": ("labels",),
    "clear_away": ("consumables",),
}  # fmt: skip
"""Groups of parts that are brought for a stage."""
