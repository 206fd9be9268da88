"""Catalogues in editions: lines with a beginning and an end, and projects that keep theirs."""

import random
import threading

import pytest

from baugrund.core.edits import AddEntry, ChangeEntry, RemoveEntry
from baugrund.core.errors import Conflict, InvalidInput, NotFound
from baugrund.core.facts.catalogue import LINES_MOST
from baugrund.core.prices.price_lists import catalogue_of
from baugrund.store.catalogues import Catalogues
from baugrund.store.projects import Projects

from ..core.small import catalogue as small
from ..core.small import ports, router, switch

HOME = router("home", ports(4))
EIGHT = switch("eight", ports(8))
NAMES = iter(range(10_000))


@pytest.fixture
def catalogues(database, catalogue):
    kept = Catalogues(database, catalogue)
    kept.keep_shipped()
    return kept


def listed(*models, **head):
    return small(*models).model_copy(update={"name": f"List {next(NAMES)}", **head})


@pytest.fixture
def own(catalogues):
    return catalogues.create(listed(HOME, EIGHT), "ann")


def dearer(catalogue, key, minor):
    models = (m.model_copy(update={"price_minor": minor}) if m.key == key else m for m in catalogue.models)
    return catalogue.model_copy(update={"models": tuple(models)})


def test_every_edition_stays_as_it_was(catalogues, own):
    """Changes at random; then every edition is read again and is what it was when it was made."""
    rng = random.Random(7)
    made = [catalogues.edition(own).catalogue]
    for step in range(25):
        now = made[-1]
        models = list(now.models)
        match rng.randrange(4):
            case 0 if len(models) > 1:
                models.pop(rng.randrange(len(models)))
            case 1:
                models.append(switch(f"new-{step}", ports(rng.randint(1, 48)), price=step + 1))
            case _:
                place = rng.randrange(len(models))
                models[place] = models[place].model_copy(update={"price_minor": 1000 + step})
        after = catalogues.change(own, len(made), now.model_copy(update={"models": tuple(models)}), "ann", "step")
        made.append(after.catalogue)
    fresh = Catalogues(catalogues.database, catalogues.shipped)
    for number, catalogue in enumerate(made, 1):
        assert fresh.edition(own, number).catalogue == catalogue
    assert [line.number for line in fresh.history(own)] == list(range(len(made), 0, -1))


def test_a_line_that_comes_back_stands_at_the_end(catalogues, own):
    first = catalogues.edition(own).catalogue
    catalogues.change(own, 1, first.model_copy(update={"models": (EIGHT,)}), "ann", "out")
    back = catalogues.change(own, 2, first.model_copy(update={"models": (EIGHT, HOME)}), "ann", "in")
    assert [model.key for model in back.catalogue.models] == ["eight", "home"]


def test_a_copy_is_of_the_edition_that_was_asked_for_in_its_order(catalogues, own):
    before = catalogues.edition(own)
    catalogues.change(own, 1, dearer(before.catalogue, "home", 7), "ann", "dearer")
    copied = catalogues.edition(catalogues.copy(before, f"List {next(NAMES)}", "2027-02-01", "ben"))
    assert copied.catalogue.models == before.catalogue.models
    assert (copied.number, copied.catalogue.priced_on, copied.shipped) == (1, "2027-02-01", False)
    catalogues.change(copied.id, 1, dearer(copied.catalogue, "home", 9), "ben", "dearer")
    assert [catalogues.edition(number).catalogue.models[0].price_minor for number in (own, copied.id)] == [7, 9]
    with pytest.raises(InvalidInput, match="already"):
        catalogues.copy(before, copied.catalogue.name, "2027-02-01", "ben")


def test_who_changes_a_line_as_another_did_does_not_clash_with_them(catalogues, own):
    seen = catalogues.edition(own).catalogue
    first = catalogues.change(own, 1, dearer(seen, "home", 7), "ann", "dearer")
    assert catalogues.change(own, 1, dearer(seen, "home", 7), "ben", "dearer").number == first.number
    with pytest.raises(Conflict):
        catalogues.change(own, 1, dearer(seen, "home", 8), "ben", "dearer still")


def test_two_who_change_different_lines_at_once_both_keep_theirs(catalogues, own):
    first = catalogues.edition(own).catalogue
    changes = [("home", 11), ("eight", 22)]
    threads = [
        threading.Thread(target=catalogues.change, args=(own, 1, dearer(first, key, minor), "ann", key))
        for key, minor in changes
    ]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert {m.key: m.price_minor for m in catalogues.edition(own).catalogue.models} == dict(changes)


def test_two_who_change_one_line_are_told(catalogues, own):
    first = catalogues.edition(own).catalogue
    catalogues.change(own, 1, dearer(first, "home", 11), "ann", "ann's")
    with pytest.raises(Conflict):
        catalogues.change(own, 1, dearer(first, "home", 12), "ben", "ben's")
    with pytest.raises(Conflict):
        catalogues.change(own, 1, first.model_copy(update={"models": (EIGHT,)}), "ben", "out")
    assert catalogues.edition(own).catalogue.get("home").price_minor == 11


def test_what_two_did_together_must_still_be_a_catalogue(catalogues, own):
    first = catalogues.edition(own).catalogue
    one, other = switch("one", ports(5)), switch("other", ports(5)).model_copy(update={"name": "one"})
    catalogues.change(own, 1, first.model_copy(update={"models": (*first.models, one)}), "ann", "one")
    with pytest.raises(InvalidInput, match="two models have the name 'one'"):
        catalogues.change(own, 1, first.model_copy(update={"models": (*first.models, other)}), "ben", "other")


def test_a_list_holds_so_many_lines_and_no_more(catalogues, own):
    seen = catalogues.edition(own).catalogue
    many = [seen.models[1].model_copy(update={"key": f"b{n}", "name": f"B {n}"}) for n in range(LINES_MOST)]
    full = catalogue_of(many, name=seen.name, currency=seen.currency, priced_on=seen.priced_on)
    assert len(catalogues.edition(catalogues.change(own, 1, full, "ann", "many").id).catalogue.models) == LINES_MOST
    more = seen.model_copy(update={"models": (HOME, *full.models)})
    with pytest.raises(InvalidInput, match="would have 5,001 lines; a catalogue holds 5,000 at most"):
        catalogues.change(own, 2, more, "ann", "one more")


def test_the_currency_of_a_list_stays(catalogues, own):
    first = catalogues.edition(own).catalogue
    with pytest.raises(InvalidInput, match="in EUR; a new list is one of its own"):
        catalogues.change(own, 1, first.model_copy(update={"currency": "CHF"}), "ann", "francs")


@pytest.mark.parametrize("number", [0, 2, 10**6])
def test_an_edition_that_is_not_there_is_told(catalogues, own, number):
    with pytest.raises(NotFound, match="There is no catalogue"):
        catalogues.edition(own, number or 99)
    with pytest.raises(NotFound):
        catalogues.edition(10**9)


def test_a_project_without_lists_is_priced_with_what_ships(catalogues, row_house, catalogue):
    assert catalogues.of(row_house) is catalogue


def test_a_project_names_lists_that_are_there_in_one_currency(catalogues, database, row_house, own):
    projects = Projects(database, catalogues.of)
    number = projects.create(catalogues.priced(row_house, [], "ann"))
    francs = catalogues.create(listed(HOME, currency="CHF"), "ann")

    def add(of, edition):
        return AddEntry(list="price_lists", values={"catalogue_id": of, "edition": edition})

    for edit, error in ((add(francs, 1), InvalidInput), (add(own, 2), NotFound), (add(10**6, 1), NotFound)):
        with pytest.raises(error):
            projects.edit(number, [edit], 0, "ann")
    with pytest.raises(InvalidInput):
        projects.edit(number, [add(own, 1), add(own, 1)], 0, "ann")
    stored = projects.edit(number, [add(own, 1)], 0, "ann")
    assert {"home", "eight"} <= {model.key for model in catalogues.of(stored.project).models}


def test_taking_a_newer_edition_is_undone_like_any_edit(catalogues, database, row_house, own):
    projects = Projects(database, catalogues.of)
    number = projects.create(catalogues.priced(row_house, [catalogues.edition(own).catalogue], "ann"))
    catalogues.change(own, 1, dearer(catalogues.edition(own).catalogue, "home", 999), "ann", "dearer")
    (row,) = projects.load(number).project.price_lists
    taken = projects.edit(number, [ChangeEntry(list="price_lists", id=row.id, changes={"edition": 2})], 0, "ann")
    assert catalogues.of(taken.project).get("home").price_minor == 999
    back = projects.undo(number, "ann")
    assert catalogues.of(back.project).get("home").price_minor == HOME.price_minor


def test_the_last_list_taken_out_leaves_what_ships(catalogues, database, row_house, own, catalogue):
    projects = Projects(database, catalogues.of)
    number = projects.create(catalogues.priced(row_house, [catalogues.edition(own).catalogue], "ann"))
    (row,) = projects.load(number).project.price_lists
    left = projects.edit(number, [RemoveEntry(list="price_lists", id=row.id)], 0, "ann")
    assert catalogues.of(left.project) is catalogue


def test_lists_that_a_project_brings_are_kept_under_a_name_of_their_own(catalogues, row_house, own):
    there = catalogues.edition(own).catalogue
    same = catalogues.priced(row_house, [there], "ann").price_lists[0]
    assert (same.catalogue_id, same.edition) == (own, 1)
    other = catalogues.priced(row_house, [dearer(there, "home", 5)], "ann").price_lists[0]
    assert catalogues.edition(other.catalogue_id).catalogue.name == f"{there.name} (2)"
    third = catalogues.priced(row_house, [dearer(there, "home", 6)], "ann").price_lists[0]
    assert catalogues.edition(third.catalogue_id).catalogue.name == f"{there.name} (3)"
