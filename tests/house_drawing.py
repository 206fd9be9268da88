"""The drawing of the house, from the imports: ``python -m tests.house_drawing`` writes it anew.

Every package and every room of the core is a box, in the order of the contracts of import-linter; an arrow leads to what
it stands on, where nothing between them does so already.
"""

import ast
import tomllib
from pathlib import Path
from xml.sax.saxutils import escape

import networkx as nx

ROOT = Path(__file__).resolve().parents[1]
SOURCE = ROOT / "src"
DRAWING = ROOT / "docs" / "house.svg"
BESIDE = "baugrund.core.errors", "baugrund.core.watch", "baugrund.core.words"
"""What everything may use: no arrow leads there."""
WIDE, HIGH, GAP, LEFT, TOP = 150, 34, 16, 250, 20
PAPER, INK, FAINT, EARTH, CLAY = "#f6f2e6", "#23282c", "#6b665c", "#e7dfcb", "#a2472a"


def layers():
    """Packages from the top down, then the rooms of the core; those beside each other in one row."""
    contracts = tomllib.loads((ROOT / "pyproject.toml").read_text())["tool"]["importlinter"]["contracts"][:2]
    rows = [[name.strip() for name in row.split("|")] for contract in contracts for row in contract["layers"]]
    return [row for row in rows if row != ["baugrund.core"]]


def modules():
    """Every module with its tree, by its full name."""
    for file in sorted(SOURCE.rglob("*.py")):
        parts = list(file.relative_to(SOURCE).with_suffix("").parts)
        yield ".".join(parts[:-1] if parts[-1] == "__init__" else parts), file


def imported(name, file):
    """Full names that a module imports, as far as they may be of this program."""
    package = name.split(".") if file.name == "__init__.py" else name.split(".")[:-1]
    for node in ast.walk(ast.parse(file.read_text())):
        if isinstance(node, ast.ImportFrom):
            start = package[: len(package) - node.level + 1] if node.level else []
            base = ".".join([*start, *([node.module] if node.module else [])])
            yield from (f"{base}.{alias.name}" for alias in node.names)
        elif isinstance(node, ast.Import):
            yield from (alias.name for alias in node.names)


def house():
    """The rooms as a graph: an edge to each that a room stands on, and none that follows from others; their sizes."""
    rooms = [room for row in layers() for room in row]
    graph = nx.DiGraph()
    graph.add_nodes_from(rooms)
    lines = dict.fromkeys(rooms, 0)

    def room_of(name):
        return next((room for room in rooms if name == room or name.startswith(room + ".")), None)

    for name, file in modules():
        if mine := room_of(name):
            lines[mine] += len(file.read_text().splitlines())
            for other in imported(name, file):
                theirs = None if other.startswith(BESIDE) else room_of(other)
                if theirs and theirs != mine:
                    graph.add_edge(mine, theirs)
    return nx.transitive_reduction(graph), lines


def drawn():
    """The drawing as SVG."""
    graph, lines = house()
    at = {}
    for row, rooms in enumerate(layers()):
        for column, room in enumerate(rooms):
            at[room] = (LEFT + column * (WIDE + GAP), TOP + row * (HIGH + GAP))
    width, height = LEFT + 3 * (WIDE + GAP) + 20, TOP + len(layers()) * (HIGH + GAP)
    out = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width} {height}" width="{width}" height="{height}" '
        f'font-family="sans-serif" font-size="13">',
        f'<rect width="{width}" height="{height}" fill="{PAPER}"/>',
        f'<defs><marker id="to" viewBox="0 0 8 8" refX="8" refY="4" markerWidth="7" markerHeight="7" orient="auto">'
        f'<path d="M0 0L8 4L0 8z" fill="{CLAY}"/></marker></defs>',
    ]
    for mine, theirs in sorted(graph.edges):
        out.append(_arrow(at[mine], at[theirs]))
    for room, (x, y) in at.items():
        name = room.removeprefix("baugrund.")
        out.append(f'<rect x="{x}" y="{y}" width="{WIDE}" height="{HIGH}" fill="{EARTH}" stroke="{INK}"/>')
        out.append(f'<text x="{x + 10}" y="{y + 15}" fill="{INK}" font-weight="600">{escape(name)}</text>')
        size = f"{round(lines[room], -1):,} lines"
        out.append(f'<text x="{x + 10}" y="{y + 28}" fill="{FAINT}" font-size="10.5">{size}</text>')
    return "\n".join([*out, "</svg>"]) + "\n"


def _arrow(mine, theirs):
    """Straight down to the next row or along a column; past other boxes in an arc, on the side where there are none."""
    (x, y), (to_x, to_y) = mine, theirs
    rows = round((to_y - y) / (HIGH + GAP))
    if rows == 1 or (x == to_x and x > LEFT):
        d = f"M{x + WIDE / 2} {y + HIGH}L{to_x + WIDE / 2} {to_y}"
    elif to_x > LEFT:
        d = f"M{x + WIDE} {y + HIGH / 2}Q{to_x + WIDE / 2} {y + HIGH / 2} {to_x + WIDE / 2} {to_y}"
    elif x > LEFT:
        d = f"M{x + WIDE / 2} {y + HIGH}Q{x + WIDE / 2} {to_y + HIGH / 2} {to_x + WIDE} {to_y + HIGH / 2}"
    else:
        out = min(20 + 22 * rows, LEFT - 20)
        d = f"M{x} {y + HIGH / 2}C{x - out} {y + HIGH / 2} {to_x - out} {to_y + HIGH / 2} {to_x} {to_y + HIGH / 2}"
    return f'<path d="{d}" fill="none" stroke="{CLAY}" stroke-width="1.2" marker-end="url(#to)"/>'


if __name__ == "__main__":
    DRAWING.write_text(drawn())
