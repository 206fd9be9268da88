"""What is kept of a state for those who ask again: by revision and pick, whole, and no more than a few."""

import threading
import time

from baugrund.api.kept_of import KEPT, KeptOf
from baugrund.core.facts.project import empty_project
from baugrund.store.states import Stored

PROJECT = empty_project("P", 2026)


def counting():
    """A maker that tells how often it was asked."""
    made = []

    def make():
        made.append(None)
        return len(made)

    return make, made


def test_a_value_is_made_once_a_revision_a_pick_and_a_question():
    kept, (make, made) = KeptOf(), counting()
    stored = Stored(1, 5, PROJECT)
    assert [kept.of(stored, 3, make) for _ in range(3)] == [1, 1, 1] and len(made) == 1
    for other in (Stored(1, 6, PROJECT), Stored(2, 5, PROJECT)):
        assert kept.of(other, 3, make) == len(made)
    assert kept.of(stored, 4, make) == 4 and kept.of(stored, 3, make, True) == 5
    assert kept.of(stored, 3, make) == 1 and len(made) == 5


def test_the_ones_that_nobody_asked_for_longest_go_first():
    kept, (make, made) = KeptOf(), counting()
    for revision in range(KEPT):
        kept.of(Stored(1, revision, PROJECT), 0, make)
    assert kept.of(Stored(1, 0, PROJECT), 0, make) == 1, "all of them are there"
    kept.of(Stored(1, KEPT, PROJECT), 0, make)
    assert kept.of(Stored(1, 0, PROJECT), 0, make) == 1 and len(made) == KEPT + 1
    kept.of(Stored(1, 1, PROJECT), 0, make)
    assert len(made) == KEPT + 2, "the second one had to go"


def test_one_that_fails_is_not_kept():
    kept, stored = KeptOf(), Stored(1, 1, PROJECT)

    def fails():
        raise ValueError("no")

    for _ in range(2):
        try:
            kept.of(stored, 0, fails)
        except ValueError as error:
            assert str(error) == "no"
        else:
            raise AssertionError("it was kept")
    assert kept.of(stored, 0, lambda: 7) == 7


def test_threads_that_ask_at_once_get_whole_values():
    kept, stored = KeptOf(), Stored(1, 1, PROJECT)
    found = []

    def make():
        value = []
        for number in range(50):
            value.append(number)
            time.sleep(0)
        return value

    threads = [threading.Thread(target=lambda: found.append(list(kept.of(stored, 0, make)))) for _ in range(8)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert found == [list(range(50))] * 8


def test_the_latest_of_a_project_is_the_one_asked_for_last():
    kept = KeptOf(3)
    assert kept.latest(1) is None
    for revision in (1, 2):
        kept.of(Stored(1, revision, PROJECT), 0, lambda revision=revision: revision)
    kept.of(Stored(2, 9, PROJECT), 0, lambda: 9)
    assert (kept.latest(1), kept.latest(2), kept.latest(3)) == (2, 9, None)
    kept.of(Stored(1, 1, PROJECT), 0, lambda: None)
    assert kept.latest(1) == 1, "asked for again"
    kept.of(Stored(3, 1, PROJECT), 0, lambda: 5)
    assert (kept.latest(1), kept.latest(2)) == (1, 9) and kept.latest(3) == 5, "three are kept, the oldest went"


def test_of_what_is_large_only_the_last_of_each_project_is_kept():
    kept = KeptOf(2, one_each=True)
    for revision in (1, 2, 3):
        kept.of(Stored(1, revision, PROJECT), 0, lambda revision=revision: revision)
    kept.of(Stored(2, 7, PROJECT), 0, lambda: 7)
    assert (kept.latest(1), kept.latest(2)) == (3, 7)
    assert kept.of(Stored(1, 2, PROJECT), 0, lambda: "made anew") == "made anew", "an older one is gone"
    assert (kept.latest(1), kept.latest(2)) == ("made anew", 7)
