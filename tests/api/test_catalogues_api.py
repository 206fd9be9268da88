"""Price lists: in editions, changed line by line, in and out as files, and what a project keeps of them."""

import pytest

from .conftest import picked
from .test_api import edit


@pytest.fixture
def shipped(http):
    return next(line for line in http.get("/api/catalogues").json() if line["shipped"])


@pytest.fixture
def own(http, shipped):
    """A list of one's own: a copy of the shipped one."""
    names = {line["name"] for line in http.get("/api/catalogues").json()}
    name = next(f"Own stock {n}" for n in range(1000) if f"Own stock {n}" not in names)
    made = http.post("/api/catalogues", json={"name": name, "from_id": shipped["id"]})
    assert made.status_code == 201
    return made.json()


def change(http, number, seen, *changes, account="ann"):
    body = {"seen_edition": seen, "changes": changes}
    return http.post(f"/api/catalogues/{number}/changes", json=body, headers={"X-Account": account})


def put(model, **fields):
    return {"type": "put_model", "model": {**model, **fields}}


def test_a_change_makes_an_edition_and_the_one_before_stays(http, own):
    model = own["catalogue"]["models"][0]
    now = change(http, own["id"], 1, put(model, price_minor=1)).json()
    assert (now["edition"], now["catalogue"]["models"][0]["price_minor"]) == (2, 1)
    before = http.get(f"/api/catalogues/{own['id']}", params={"edition": 1}).json()
    assert before["catalogue"] == own["catalogue"] and before["newest"] == 2
    told = http.get(f"/api/catalogues/{own['id']}/differences", params={"since": 1}).json()
    assert [(one["what"], one["told"]) for one in told] == [("changed", "price € 95 → € 0.01")]
    assert http.get(f"/api/catalogues/{own['id']}/editions").json()[0]["told"] == f"changed {model['name']}"


def test_lines_come_go_and_keep_their_place(http, own):
    first, second, *_ = own["catalogue"]["models"]
    new = {**first, "key": "new-router", "name": "New router"}
    now = change(
        http,
        own["id"],
        1,
        {"type": "remove_model", "key": second["key"]},
        {"type": "put_model", "model": new},
        put(first, price_minor=5),
    ).json()
    keys = [model["key"] for model in now["catalogue"]["models"]]
    assert keys[0] == first["key"] and keys[-1] == "new-router" and second["key"] not in keys
    assert change(http, own["id"], 2, {"type": "remove_model", "key": "nothing"}).status_code == 404


def test_a_change_that_changes_nothing_makes_no_edition(http, own):
    assert change(http, own["id"], 1, put(own["catalogue"]["models"][0])).json()["edition"] == 1


def test_changes_of_two_people_merge_unless_they_are_of_one_line(http, own):
    first, second, *_ = own["catalogue"]["models"]
    assert change(http, own["id"], 1, put(first, price_minor=1)).status_code == 200
    merged = change(http, own["id"], 1, put(second, price_minor=2), account="ben").json()
    assert [model["price_minor"] for model in merged["catalogue"]["models"][:2]] == [1, 2]
    clash = change(http, own["id"], 1, put(first, price_minor=3), account="ben")
    assert clash.status_code == 409


@pytest.mark.parametrize(
    ("fields", "told"),
    [
        ({"name": "Router, 1 WAN, 8 ports"}, "two models have the name 'Router, 1 WAN, 8 ports'"),
        ({"poe_budget_w": 50}, "a PoE budget of 50 W but no powered port"),
        ({"price_minor": -1}, "greater than or equal to 0"),
    ],
)
def test_an_impossible_line_is_refused_in_a_sentence(http, own, fields, told):
    answer = change(http, own["id"], 1, put(own["catalogue"]["models"][0], **fields))
    assert answer.status_code == 422 and told in answer.json()["detail"]
    assert http.get(f"/api/catalogues/{own['id']}").json()["edition"] == 1


def test_a_line_is_changed_as_cells_and_told_what_is_wrong_with_them(http, own):
    key = own["catalogue"]["models"][3]["key"]
    cells = http.get(f"/api/catalogues/{own['id']}/lines/{key}").json()
    now = change(http, own["id"], 1, {"type": "put_line", "cells": {**cells, "price_minor": "12.34"}}).json()
    assert now["catalogue"]["models"][3] == {**own["catalogue"]["models"][3], "price_minor": 1234}
    odd = change(http, own["id"], 2, {"type": "put_line", "cells": {**cells, "fanless": "perhaps", "units": "x"}})
    assert odd.json()["detail"] == "Units: “x” is not a number; Fanless: “perhaps” is neither yes nor no."


def test_name_and_price_date_change_and_a_name_is_given_once(http, own, shipped):
    head = {"type": "change_head", "name": f"{own['catalogue']['name']} of the van", "priced_on": "2027-02-28"}
    now = change(http, own["id"], 1, head).json()
    assert (now["catalogue"]["name"], now["catalogue"]["priced_on"]) == (head["name"], "2027-02-28")
    assert change(http, own["id"], 2, {**head, "priced_on": "2027-02-30"}).status_code == 422
    assert change(http, own["id"], 2, {**head, "name": shipped["name"]}).status_code == 422
    assert http.post("/api/catalogues", json={"name": shipped["name"]}).status_code == 422


def test_a_project_keeps_its_edition_and_is_offered_the_newer_one(http, house, own):
    seen = http.get(f"/api/projects/{house}").json()["project"]
    (row,) = seen["price_lists"]
    add = {"type": "add_entry", "list": "price_lists", "values": {"catalogue_id": own["id"], "edition": 1}}
    remove = {"type": "remove_entry", "list": "price_lists", "id": row["id"]}
    swapped = edit(http, house, 0, add, remove)
    assert swapped.status_code == 200, swapped.json()
    before = picked(http, house)["answer"]["price_minor"]
    dearer = [put(model, price_minor=model["price_minor"] * 2) for model in own["catalogue"]["models"]]
    assert change(http, own["id"], 1, *dearer).status_code == 200
    (offer,) = http.get(f"/api/projects/{house}/price-lists").json()
    assert (offer["edition"], offer["newest"]) == (1, 2) and len(offer["differences"]) == len(dearer)
    assert picked(http, house)["answer"]["price_minor"] == before, "nothing changed under the project"
    take = {"type": "change_entry", "list": "price_lists", "id": offer["id"], "changes": {"edition": 2}}
    assert edit(http, house, 1, take).status_code == 200
    assert picked(http, house)["answer"]["price_minor"] == 2 * before
    assert http.delete(f"/api/catalogues/{own['id']}").status_code == 422, "a project is priced with it"
    http.post(f"/api/projects/{house}/undo", headers={"X-Account": "ann"})
    assert picked(http, house)["answer"]["price_minor"] == before


def test_lists_of_two_currencies_are_not_mixed(http, house):
    other = http.post("/api/catalogues", json={"name": f"Frankish list {house}", "currency": "CHF"}).json()
    add = {"type": "add_entry", "list": "price_lists", "values": {"catalogue_id": other["id"], "edition": 1}}
    refused = edit(http, house, 0, add)
    assert refused.status_code == 422 and "share a currency" in refused.json()["detail"]
    add["values"]["edition"] = 7
    assert edit(http, house, 0, add).status_code == 404
    assert http.get(f"/api/projects/{house}").json()["revision"] == 0


def test_of_a_model_in_two_lists_the_cheaper_one_is_taken(http, house, own):
    first, second, *_ = own["catalogue"]["models"]
    change(http, own["id"], 1, put(first, price_minor=1), put(second, price_minor=second["price_minor"] + 1))
    add = {"type": "add_entry", "list": "price_lists", "values": {"catalogue_id": own["id"], "edition": 2}}
    assert edit(http, house, 0, add).status_code == 200
    models = {model["key"]: model for model in http.get(f"/api/projects/{house}/catalogue").json()["models"]}
    assert (models[first["key"]]["price_minor"], models[second["key"]]["price_minor"]) == (1, second["price_minor"])


def test_a_project_file_carries_the_prices_that_are_not_shipped(http, house, own):
    first = own["catalogue"]["models"][0]
    change(http, own["id"], 1, put(first, price_minor=1))
    add = {"type": "add_entry", "list": "price_lists", "values": {"catalogue_id": own["id"], "edition": 2}}
    edit(http, house, 0, add)
    file = http.get(f"/api/projects/{house}/export")
    before = len(http.get("/api/catalogues").json())
    again = http.post("/api/projects/import", content=file.content).json()["id"]
    assert len(http.get("/api/catalogues").json()) == before, "a list that is there to the line is not kept twice"
    assert http.get(f"/api/projects/{again}/catalogue").json() == http.get(f"/api/projects/{house}/catalogue").json()
    changed = file.text.replace('"price_minor": 1,', '"price_minor": 2,', 1)
    third = http.post("/api/projects/import", content=changed.encode()).json()["id"]
    assert len(http.get("/api/catalogues").json()) == before + 1
    models = http.get(f"/api/projects/{third}/catalogue").json()["models"]
    assert next(model for model in models if model["key"] == first["key"])["price_minor"] == 2


def test_the_shipped_list_stays_and_one_that_nobody_uses_goes(http, own, shipped):
    assert http.delete(f"/api/catalogues/{shipped['id']}").status_code == 422
    assert http.delete(f"/api/catalogues/{own['id']}").status_code == 204
    assert http.get(f"/api/catalogues/{own['id']}").status_code == 404


def test_a_newer_shipped_list_becomes_an_edition_of_it(database, catalogue):
    from baugrund.store.catalogues import Catalogues

    now = Catalogues(database, catalogue)
    number = now.keep_shipped()
    first = now.edition(number)
    newer = catalogue.model_copy(update={"priced_on": "2027-01-01"})
    assert Catalogues(database, newer).keep_shipped() == number
    assert now.edition(number).number == first.number + 1
    assert now.edition(number, first.number).catalogue == catalogue
    Catalogues(database, catalogue).keep_shipped()
