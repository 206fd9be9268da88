"""Price lists as they came: kept by their content for a day, beside the catalogue that they came for."""

import pytest

from baugrund.core.errors import NotFound
from baugrund.store.catalogues import Catalogues
from baugrund.store.price_files import PriceFiles


@pytest.fixture
def files(idle):
    return PriceFiles(idle[0])


@pytest.fixture
def lists(idle, catalogue):
    lists = Catalogues(idle[0], catalogue)
    names = {line.name for line in lists.all()}
    free = (f"Bus {n}" for n in range(100) if f"Bus {n}" not in names)
    return [lists.create(catalogue.model_copy(update={"name": next(free)}), "ann") for _ in range(2)]


def test_a_file_is_there_for_its_own_catalogue_by_its_content(files, lists):
    mine, other = lists
    key = files.keep(mine, b"kind,name")
    assert files.keep(mine, b"kind,name") == key != files.keep(mine, b"kind,name,price")
    assert files.load(mine, key) == b"kind,name"
    with pytest.raises(NotFound, match="choose it again"):
        files.load(other, key)


def test_a_catalogue_that_is_not_there_keeps_no_file(files):
    with pytest.raises(NotFound, match="no catalogue 987654"):
        files.keep(987654, b"kind")


@pytest.mark.parametrize(("hours", "there"), [(23, True), (25, False)])
def test_a_file_of_another_day_goes_when_the_next_one_comes(files, lists, hours, there):
    key = files.keep(lists[0], b"old")
    with files.database.connection() as connection:
        connection.execute(
            "UPDATE price_files SET at = now() - make_interval(hours => %s) WHERE key = %s", (hours, key)
        )
    files.keep(lists[0], b"new")
    if there:
        assert files.load(lists[0], key) == b"old"
    else:
        with pytest.raises(NotFound):
            files.load(lists[0], key)
