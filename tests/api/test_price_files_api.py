"""Price lists in and out as files: read on the queue, looked at line by line, taken in whole or not at all."""

import pytest

from baugrund.core.errors import Stopped
from baugrund.core.watch import watched
from baugrund.exchange.price_table import read_prices, write_prices_xlsx
from baugrund.store.catalogues import Catalogues
from baugrund.store.meanings import RememberedMeanings
from baugrund.store.price_files import PriceFiles
from baugrund.tasks.price_questions import Prices, TakeIn

from ..waiting import until
from .conftest import ended
from .test_catalogues_api import change, own, put, shipped

__all__ = ["own", "shipped"]


def kept(http, number, content):
    answer = http.post(f"/api/catalogues/{number}/files", content=content)
    assert answer.status_code == 201
    return answer.json()["file"]


def work(http, number, by="ann", **question):
    """What comes of a question about a catalogue, once nobody works on it any more."""

    def asked():
        answer = http.post(f"/api/catalogues/{number}/asked", json=question, headers={"X-Account": by})
        assert answer.status_code == 200, answer.json()
        return ended(answer.json())

    return until(asked)


def brought(http, number, content, kind="look", **more):
    given = {"seen": 1, "account": "ann"} if kind == "take" else {"seen": 1}
    found = work(http, number, type=kind, file=kept(http, number, content), **{**given, **more})
    assert found["underway"] is None, found
    return found["imported"]


def lines_of(http, own):
    return http.get(f"/api/catalogues/{own['id']}/prices.csv").text.splitlines()


def test_a_file_is_looked_at_then_taken_all_or_nothing(http, own, catalogue):
    lines = lines_of(http, own)
    lines[1] = lines[1].replace("95.00", "90.00")
    good = "\n".join(lines).encode()
    looked = brought(http, own["id"], good)
    assert (looked["wrong"], looked["taken"], looked["edition"], len(looked["differences"])) == (0, False, 1, 1)
    bad = "\n".join([*lines, "switch,,Nameless,abc"]).encode()
    refused = brought(http, own["id"], bad, "take")
    assert (refused["wrong"], refused["taken"]) == (1, False)
    taken = brought(http, own["id"], good, "take")
    assert (taken["taken"], taken["edition"]) == (True, 2)
    assert brought(http, own["id"], good, "take") == taken, "what was taken in is not taken in again"
    newest, _ = http.get(f"/api/catalogues/{own['id']}/editions").json()
    assert (newest["account"], newest["told"]) == ("ann", f"took in a list of {len(catalogue.models)} lines")


def test_a_file_in_place_of_all_lines_takes_out_what_it_does_not_have(http, own):
    two = "\n".join(lines_of(http, own)[:3]).encode()
    assert brought(http, own["id"], two)["differences"] == []
    taken = brought(http, own["id"], two, "take", replace=True)
    assert {one["what"] for one in taken["differences"]} == {"gone"}
    assert len(http.get(f"/api/catalogues/{own['id']}").json()["catalogue"]["models"]) == 2


def test_a_file_that_is_none_or_is_gone_is_told_in_a_sentence(http, own):
    number = own["id"]
    told = work(http, number, type="look", file=kept(http, number, b"name,price\nA,1"), seen=1)
    assert told["underway"]["told"] == "columns: No column is called “Kind”."
    gone = work(http, number, type="look", file="0" * 64, seen=1)
    assert gone["underway"]["told"] == "The file is no longer there; choose it again."
    asked = {"type": "write", "format": "csv", "edition": 1}
    for nowhere in (987654, 10**30):
        path = f"/api/catalogues/{nowhere}"
        assert http.post(f"{path}/files", content=b"x").status_code == 404
        assert [http.post(f"{path}/asked{more}", json=asked).status_code for more in ("", "/again")] == [404, 404]
        assert http.post(f"{path}/asked/stop", json=asked).status_code == 204, "nothing is there to be stopped"
        assert http.get(f"{path}/prices.csv").status_code == 404
    assert (
        http.post(f"/api/catalogues/{number}/asked", json={"type": "look", "file": "x", "seen": 1}).status_code == 422
    )


def test_what_failed_is_done_again_when_that_is_asked(http, own, database):
    number, text = own["id"], "\n".join(lines_of(http, own)).encode()
    question = {"type": "look", "file": kept(http, number, text), "seen": 1}
    with database.connection() as connection:
        connection.execute("DELETE FROM price_files WHERE catalogue_id = %s", (number,))
    assert work(http, number, **question)["underway"]["state"] == "failed"
    kept(http, number, text)
    assert work(http, number, **question)["underway"]["state"] == "failed", "nobody asked for it again"
    assert http.post(f"/api/catalogues/{number}/asked/again", json=question).status_code == 204
    assert work(http, number, **question)["imported"]["wrong"] == 0


def test_what_is_stopped_is_not_done(idle, catalogue):
    from baugrund.tasks.queue import Queue

    database, _ = idle
    lists, queue = Catalogues(database, catalogue), Queue(database)
    number = lists.keep_shipped()
    question = TakeIn(file=queue.files.keep(number, b"kind,name,price\nspare,Rail,5"), seen=1, account="ann")
    assert queue.ask_of_prices(number, question).state == "waiting"
    from baugrund.store.questions import About

    queue.stop(About(catalogue=number), question)
    assert queue.ask_of_prices(number, question).state == "stopped"
    assert lists.edition(number).number == 1


def test_a_list_that_another_changed_meanwhile_is_taken_in_where_it_does_not_clash(http, own):
    first, second, *_ = own["catalogue"]["models"]
    lines = lines_of(http, own)
    lines[1] = lines[1].replace("95.00", "90.00")
    change(http, own["id"], 1, put(second, price_minor=7), account="ben")
    taken = brought(http, own["id"], "\n".join(lines).encode(), "take")
    assert taken["edition"] == 3
    prices = [model["price_minor"] for model in http.get(f"/api/catalogues/{own['id']}").json()["catalogue"]["models"]]
    assert prices[:2] == [9000, 7]
    change(http, own["id"], 3, put(first, price_minor=8), account="ben")
    lines[1] = lines[1].replace("90.00", "89.00")
    file = kept(http, own["id"], "\n".join(lines).encode())
    refused = work(http, own["id"], type="take", file=file, seen=3, account="ann")
    assert refused["underway"]["state"] == "failed" and "router" in refused["underway"]["told"]


def test_a_worker_that_died_after_it_took_a_list_in_does_no_harm_by_doing_it_again(database, catalogue, http, own):
    lists, files = Catalogues(database, catalogue), PriceFiles(database)
    key = files.keep(own["id"], b"kind,name,price,completes\nspare,Long ears,9,ears")
    question, prices = (
        TakeIn(file=key, seen=1, account="ann"),
        Prices(own["id"], lists, files, RememberedMeanings(database)),
    )
    first, again = question.reply(prices), question.reply(prices)
    assert (first.edition, again.edition, again.taken) == (2, 2, True)


@pytest.mark.parametrize("kind", ["csv", "xlsx", "json"])
def test_a_list_goes_out_and_comes_in_again_as_it_is(http, own, kind, catalogue):
    assert work(http, own["id"], type="write", format=kind, edition=1)["written"] is True
    file = http.get(f"/api/catalogues/{own['id']}/prices.{kind}")
    assert file.headers["content-disposition"].endswith(f'prices-{own["id"]}-edition-1.{kind}"')
    again = brought(http, own["id"], file.content)
    assert (again["wrong"], again["differences"]) == (0, []) and len(again["lines"]) == len(catalogue.models)


def test_reading_and_writing_tell_how_far_they_are_and_can_be_stopped(catalogue):
    told = []
    with watched(lambda share: told.append(share.text)):
        content = write_prices_xlsx(catalogue)
        assert not read_prices(content, "EUR").wrong
    # every hundredth of them
    many = len(catalogue.models)
    line, row = ([f"{word} {n} of {of}" for n in (1, 101, 201)] for word, of in (("line", many), ("row", many + 1)))
    assert told == [*line, *row, "row 1", "row 101", "row 201", *line]

    def stop(_):
        raise Stopped("Enough.")

    with watched(stop), pytest.raises(Stopped):
        read_prices(content, "EUR")
