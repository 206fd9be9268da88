"""Walk over HTTP: layout, room lists, lists of drops in and out, pictures, names of accounts."""

import io
import json
from urllib.parse import quote

import pytest
from PIL import Image

from baugrund.exchange import pictures, tables
from baugrund.exchange.project_file import read_project_file

from .test_api import edit


def png(size=(30, 20)):
    out = io.BytesIO()
    Image.new("RGB", size, "white").save(out, "PNG")
    return out.getvalue()


def test_the_layout_places_everything_and_tells_the_ways(http, works):
    found = http.get(f"/api/projects/{works}/layout").json()
    project = http.get(f"/api/projects/{works}").json()["project"]
    assert {drop["id"] for drop in found["layout"]["drops"]} == {drop["id"] for drop in project["drops"]}
    assert {room["id"] for room in found["layout"]["rooms"]} == {room["id"] for room in project["rooms"]}
    assert len(found["ways"]) == len(project["drops"])


def test_rooms_are_understood_as_a_list_and_added(http, house):
    body = {"text": "Pantry 2x3, Porch", "floor": "Ground floor"}
    heard = http.post(f"/api/projects/{house}/room-list", json=body).json()
    assert heard["told"] == "2 rooms, 1 with their size"
    after = edit(http, house, 0, heard["edit"]).json()["project"]
    assert [(r["name"], r["width_m"]) for r in after["rooms"][-2:]] == [("Pantry", 2), ("Porch", None)]


def test_a_list_goes_out_and_comes_in_again(http, house, projects):
    from baugrund.core.facts.project import empty_project

    for kind in ("csv", "xlsx"):
        data = http.get(f"/api/projects/{house}/drops.{kind}").content
        number = projects.create(empty_project("Copy", 2026))
        looked = http.post(f"/api/projects/{number}/drops/preview", content=data).json()
        assert (looked["drops"], looked["wrong"]) == (18, 0)
        added = http.post(f"/api/projects/{number}/drops/import?name=copy.{kind}", content=data).json()
        assert len(added["project"]["drops"]) == 18
        assert added["undo"] == f"add 18 drops from copy.{kind}"


def test_a_list_with_a_wrong_line_changes_nothing(http, house):
    data = b"Room,What\nHall,desk\nHall,blob\n"
    answer = http.post(f"/api/projects/{house}/drops/import", content=data)
    assert answer.status_code == 422
    assert answer.json()["detail"] == "Nothing was added: line 3: What: “blob” is no kind of drop."
    assert http.get(f"/api/projects/{house}/state").json()["revision"] == 0


@pytest.mark.parametrize(
    ("path", "most"),
    [("drops/preview", tables.MAX_BYTES), ("drops/import", tables.MAX_BYTES), ("pictures", pictures.MAX_BYTES)],
)
def test_a_file_of_fifty_megabytes_is_refused(http, house, path, most):
    answer = http.post(f"/api/projects/{house}/{path}", content=b"x" * 50_000_000)
    assert (answer.status_code, f"{most:,} bytes" in answer.json()["detail"]) == (422, True)


def test_a_picture_is_kept_once_and_shown_harmlessly(http, house):
    kept = http.post(f"/api/projects/{house}/pictures", content=png())
    assert (kept.status_code, kept.json()["width_px"]) == (201, 30)
    assert http.post(f"/api/projects/{house}/pictures", content=png()).json() == kept.json()
    shown = http.get(f"/api/projects/{house}/pictures/{kept.json()['key']}")
    assert shown.headers["content-type"] == "image/png"
    assert "sandbox" in shown.headers["content-security-policy"]
    assert shown.headers["x-content-type-options"] == "nosniff"


def test_a_picture_belongs_to_its_project(http, house, works):
    key = http.post(f"/api/projects/{house}/pictures", content=png()).json()["key"]
    assert http.get(f"/api/projects/{works}/pictures/{key}").status_code == 404
    assert http.get(f"/api/projects/{house}/pictures/nothing").status_code == 422
    assert http.post("/api/projects/999999/pictures", content=png()).status_code == 404


def test_a_project_holds_so_many_bytes_of_pictures_and_no_more(http, house, monkeypatch):
    from baugrund.store import pictures as store

    size = len(http.get(f"/api/projects/{house}/pictures/" + http.post(
        f"/api/projects/{house}/pictures", content=png()).json()["key"]).content)  # fmt: skip
    more = png((31, 20))
    monkeypatch.setattr(store, "MAX_BYTES_A_PROJECT", size)
    answer = http.post(f"/api/projects/{house}/pictures", content=more)
    assert (answer.status_code, "the most" in answer.json()["detail"]) == (422, True)


def test_names_of_any_script_act(http, house):
    edit(http, house, 0, {"type": "rename", "name": "N", "site": ""}, account=quote("Žofie Nováková"))
    assert http.get(f"/api/projects/{house}/history").json()[0]["account"] == "Žofie Nováková"


def test_a_bill_carries_the_small_parts(http, house):
    bill = http.get(f"/api/projects/{house}/picks/least_price/parts.csv").text
    assert "field plug,small part" in bill
    parts = http.get(f"/api/projects/{house}/small-parts").json()
    assert all(f"{part['count']},{part['name']}" in bill.replace('"', "") for part in parts)


def test_every_kind_of_goal_says_how_it_is_tested(http):
    goals = http.get("/api/goal-kinds").json()
    assert {goal["key"] for goal in goals} >= {"coverage", "line_speed", "footage", "battery"}
    assert all(goal["test"] for goal in goals)


def test_pictures_travel_with_the_project_file(http, house):
    kept = http.post(f"/api/projects/{house}/pictures", content=png()).json()
    project = http.get(f"/api/projects/{house}").json()["project"]
    under = {"picture": kept["key"], "picture_width_px": 30, "picture_height_px": 20}
    floor = {"type": "change_entry", "list": "floors", "id": project["floors"][0]["id"], "changes": under}
    photo = {"type": "change_drops", "ids": [project["drops"][0]["id"]], "changes": {"photos": [kept["key"]]}}
    assert edit(http, house, 0, floor, photo).status_code == 200
    file = http.get(f"/api/projects/{house}/export").text
    copy = http.post("/api/projects/import", content=file).json()["id"]
    again = read_project_file(http.get(f"/api/projects/{copy}/export").content)
    assert len(again.pictures) == 1
    assert again.pictures == read_project_file(file.encode()).pictures
    assert again.project.drops == read_project_file(file.encode()).project.drops
    shown = [http.get(f"/api/projects/{number}/pictures/{kept['key']}").content for number in (house, copy)]
    assert shown[0] == shown[1]


@pytest.mark.parametrize("place", ["run_tests", "views"])
def test_photos_of_tests_and_stills_of_cameras_travel_with_the_project_file(http, house, place):
    kept = http.post(f"/api/projects/{house}/pictures", content=png()).json()["key"]
    project = http.get(f"/api/projects/{house}").json()["project"]
    if place == "run_tests":
        values = {"drop_id": project["drops"][0]["id"], "photos": [kept]}
    else:
        camera = next(drop["id"] for drop in project["drops"] if drop["kind"] == "camera")
        values = {"drop_id": camera, "still": kept}
        known = [row["id"] for row in project["views"] if row["drop_id"] == camera]
        gone = [{"type": "remove_entry", "list": "views", "id": number} for number in known]
        assert edit(http, house, 0, *gone).status_code == 200
    revision = http.get(f"/api/projects/{house}").json()["revision"]
    added = edit(http, house, revision, {"type": "add_entry", "list": place, "values": values})
    assert added.status_code == 200
    copy = http.post("/api/projects/import", content=http.get(f"/api/projects/{house}/export").text).json()["id"]
    shown = [http.get(f"/api/projects/{number}/pictures/{kept}") for number in (house, copy)]
    assert [answer.status_code for answer in shown] == [200, 200]
    assert shown[0].content == shown[1].content


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"key": "0" * 64}, "does not have its key"), ({"media_type": "image/jpeg"}, "is not image/jpeg"),
        ({"media_type": "text/html"}, "pictures"), ({"content": "not base 64!"}, "pictures"), ({"width_px": 0}, "width_px"),
    ],
)  # fmt: skip
def test_a_picture_in_a_file_that_is_not_what_it_says_is_refused(http, house, change, said):
    kept = http.post(f"/api/projects/{house}/pictures", content=png()).json()
    drop = http.get(f"/api/projects/{house}").json()["project"]["drops"][0]["id"]
    edit(http, house, 0, {"type": "change_drops", "ids": [drop], "changes": {"photos": [kept["key"]]}})
    file = json.loads(http.get(f"/api/projects/{house}/export").text)
    file["pictures"][0] |= change
    before = len(http.get("/api/projects").json())
    answer = http.post("/api/projects/import", content=json.dumps(file))
    assert (answer.status_code, said in answer.json()["detail"]) == (422, True)
    assert len(http.get("/api/projects").json()) == before
