"""Sample projects and the shipped catalogue, as data."""

from __future__ import annotations

from importlib import resources
from pathlib import Path

FOLDER = Path(str(resources.files(__package__)))
CATALOGUE = FOLDER / "catalogue.json"
PROJECTS = (FOLDER / "dye_works.json", FOLDER / "row_house.json", FOLDER / "orchard_school.json")
