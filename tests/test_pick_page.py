"""The page about the pick names every module of the search, and none that is not there."""

import re
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[1]
PICK = ROOT / "src" / "baugrund" / "core" / "pick"
PAGE = (ROOT / "docs" / "pick.md").read_text()
BESIDE = {"model/filters.py", "model/rules.py", "model/trunks.py", "model/places.py", "model/arrays.py", "standing.py"}
"""Not steps of the search: told in *Room by room*."""


def named():
    """Modules as the page names them; one without its room is in that of the one before."""
    found, room = set(), ""
    for name in re.findall(r"`([a-z_/]+\.py)`", PAGE):
        if name.startswith("tests/"):
            continue
        if (PICK / name).exists():
            room = name.rpartition("/")[0]
            found.add(name)
        else:
            found.add(f"{room}/{name}")
    return found


def test_every_module_that_the_page_names_is_there():
    assert [name for name in sorted(named()) if not (PICK / name).exists()] == []


def test_every_module_of_the_search_is_named():
    there = {str(file.relative_to(PICK)) for file in PICK.rglob("*.py") if file.name != "__init__.py"}
    assert there - BESIDE == named() - BESIDE


def test_the_tests_that_the_page_leans_on_are_there():
    for name in re.findall(r"`(tests/[a-z_/]+\.py)`", PAGE):
        assert (ROOT / name).exists(), name


def test_the_page_and_its_drawing_use_the_words_of_the_field():
    drawing = (ROOT / "docs" / "pick.svg").read_text()
    for word in ("incumbent", "cutoff", "lower bound", "relaxation", "configuration", "candidate", "assignment"):
        assert word in PAGE.casefold(), word
    for word in ("incumbent", "cutoff", "lower bound", "relaxation", "configurations", "assignment"):
        assert word in drawing, word


@pytest.mark.parametrize("word", ["hub", "halves", "dives", "worths", "making", "told"])
def test_private_words_are_no_names_in_the_search(word):
    """A name that has a usual one in operations research has that."""
    names = re.compile(rf"(?:def|class) \w*\b{word}\b|\b{word} =|self\.{word}\b")
    rooms = ("bounds", "enumeration", "assignment", "heuristics", "branching")
    found = [file.name for room in rooms for file in (PICK / room).glob("*.py") if names.search(file.read_text())]
    assert found == []
