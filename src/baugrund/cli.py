"""The command line.  ``./baugrund`` installs what is missing, then comes here."""

from __future__ import annotations

import json
import os
import sys
from pathlib import Path
from typing import Annotated

import typer

from baugrund.core.errors import BaugrundError

ROOT = Path(__file__).resolve().parents[2]

app = typer.Typer(add_completion=False, no_args_is_help=True, pretty_exceptions_enable=False)


def _fail(error: BaugrundError) -> typer.Exit:
    print(f"baugrund: {error.sentence}", file=sys.stderr)
    return typer.Exit(1)


@app.command()
def demo(
    port: Annotated[
        int | None, typer.Option(min=1, max=65535, help="Port on loopback; the first free one if not given.")
    ] = None,
    fresh: Annotated[bool, typer.Option("--fresh", help="Remove all projects and load the demo ones anew.")] = False,
) -> None:
    """Start with the demo projects (loaded when there is no project yet)."""
    from baugrund.launch.serve import serve as run

    try:
        run(ROOT / "data", ROOT / "web" / "dist", port, demo=True, fresh=fresh)
    except BaugrundError as error:
        raise _fail(error) from error


@app.command()
def serve(
    port: Annotated[
        int | None, typer.Option(min=1, max=65535, help="Port on loopback; the first free one if not given.")
    ] = None,
) -> None:
    """Start without demo data."""
    from baugrund.launch.serve import serve as run

    try:
        run(ROOT / "data", ROOT / "web" / "dist", port, demo=False, fresh=False)
    except BaugrundError as error:
        raise _fail(error) from error


@app.command()
def worker(
    only_brief: Annotated[bool, typer.Option("--only-brief", help="Leave what may take minutes to others.")] = False,
) -> None:
    """Take questions off the queue of the database at DATABASE_URL, beside those that a server starts itself."""
    from baugrund.demo import CATALOGUE
    from baugrund.exchange.catalogue_file import read_catalogue
    from baugrund.launch.workers import work

    url = os.environ.get("DATABASE_URL")
    try:
        if not url:
            raise BaugrundError("Name the database in DATABASE_URL.")
        work(url, read_catalogue(CATALOGUE), ROOT / "web" / "dist" / "assets", only_brief)
    except BaugrundError as error:
        raise _fail(error) from error


@app.command()
def plan(
    file: Annotated[Path, typer.Argument(help="A project file.")],
    catalogue: Annotated[Path | None, typer.Option(help="A catalogue file; the shipped one if not given.")] = None,
    proposals: Annotated[
        bool,
        typer.Option("--proposals", help="Also closets compared, what flips, room switches."),
    ] = False,
) -> None:
    """Print the plan of a project file as JSON, a key a verb.  Needs no server and no database."""
    from baugrund.core.plan import plan as compute
    from baugrund.demo import CATALOGUE
    from baugrund.exchange.catalogue_file import read_catalogue
    from baugrund.exchange.project_file import read_project

    try:
        try:
            content, prices = file.read_bytes(), catalogue or CATALOGUE
            models = read_catalogue(prices)
        except OSError as error:
            raise BaugrundError(f"{error.filename}: {error.strerror}.") from error
        print(compute(read_project(content), models, proposals=proposals).model_dump_json(indent=2))
    except BaugrundError as error:
        raise _fail(error) from error


@app.command(hidden=True)
def prepare() -> None:
    """Make the machine code that a search needs, once for this machine."""
    from baugrund.launch.prepare import prepare as run

    run()


@app.command()
def formats(folder: Annotated[Path, typer.Argument(help="Where the schemas go.")]) -> None:
    """Write the JSON Schemas of the open formats."""
    from baugrund.core.plan import schema as plan_schema
    from baugrund.exchange import box_settings, catalogue_file, project_file

    folder.mkdir(parents=True, exist_ok=True)
    schemas = {
        "project": project_file.schema(), "catalogue": catalogue_file.schema(), "plan": plan_schema(),
        "box-settings": box_settings.schema(),
    }  # fmt: skip
    for name, schema in schemas.items():
        text = json.dumps(schema, indent=2, ensure_ascii=False) + "\n"
        (folder / f"{name}.schema.json").write_text(text, "utf-8")


@app.command()
def openapi(file: Annotated[Path, typer.Argument(help="Where the description goes.")]) -> None:
    """Write the OpenAPI description of the HTTP interface."""
    from baugrund.api.app import create_app

    file.parent.mkdir(parents=True, exist_ok=True)
    file.write_text(json.dumps(create_app(None, None).openapi(), indent=1), "utf-8")


@app.command()
def bench(
    runs: Annotated[int, typer.Option(min=1, max=100, help="Runs a figure is the median of.")] = 7,
) -> None:
    """Print the figures of speed: medians in one run on this machine."""
    from baugrund.launch.bench import measure

    try:
        measure(ROOT, runs)
    except BaugrundError as error:
        raise _fail(error) from error


if __name__ == "__main__":
    app()
