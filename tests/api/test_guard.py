"""Other pages, other names, other types and sizes: what the program answers, and what it does not do."""

import json
import socket
import time
from importlib import import_module
from pkgutil import iter_modules
from threading import Thread

import pytest
from fastapi.testclient import TestClient

from baugrund import api
from baugrund.api import uploads
from baugrund.api.app import create_app
from baugrund.launch import patience
from baugrund.launch.serve import choose_port, server_of

from ..conftest import ROOT

RENAME = {"seen_revision": 0, "edits": [{"type": "rename", "name": "Theirs"}]}


@pytest.fixture(scope="module")
def address(app, database_url, database, catalogue):
    """Host and port of a real server with the front end."""
    listening = choose_port(None)
    running = server_of(create_app(database, catalogue, database_url, ROOT / "web" / "dist"))
    thread = Thread(target=running.run, args=([listening],), daemon=True)
    thread.start()
    while not running.started:
        time.sleep(0.02)
    yield listening.getsockname()
    running.should_exit = True
    thread.join(5)


def told(address, text, wait_s=5.0):
    """What a server says to some bytes, up to the end of the connection."""
    with socket.create_connection(address, timeout=wait_s) as one:
        one.sendall(text)
        got = b""
        while more := one.recv(65536):
            got += more
        return got


def name_of(http, house):
    return http.get(f"/api/projects/{house}").json()["project"]["name"]


@pytest.mark.parametrize("host", ["evil.example", "evil.example:80", "127.0.0.1.evil.example", "h0.localhost:80", ""])
def test_a_name_that_is_not_this_machine_is_refused(http, host):
    assert http.get("/api/projects", headers={"Host": host}).status_code == 421


@pytest.mark.parametrize("host", ["127.0.0.1", "localhost:8000", "[::1]:8000"])
def test_the_names_of_this_machine_are_served(http, host):
    assert http.get("/api/projects", headers={"Host": host}).status_code == 200


@pytest.mark.parametrize(
    "headers",
    [
        {"Origin": "http://evil.example"},
        {"Origin": "null"},
        {"Origin": "http://127.0.0.1:9999"},
        {"Sec-Fetch-Site": "cross-site"},
        {"Sec-Fetch-Site": "same-site"},
        {"Sec-Fetch-Site": "cross-site", "Sec-Fetch-Mode": "navigate", "Sec-Fetch-Dest": "document"},
    ],
)
def test_a_foreign_page_changes_and_reads_nothing(http, house, headers):
    before = name_of(http, house)
    path = f"/api/projects/{house}"
    assert http.post(f"{path}/edits", json=RENAME, headers=headers).status_code == 403
    assert http.post(f"{path}/undo", headers=headers).status_code == 403
    assert http.post(f"{path}/drops/import", content=b"Room,What\nX,desk\n", headers=headers).status_code == 403
    assert http.delete(path, headers=headers).status_code == 403
    assert http.get(path, headers=headers).status_code == 403
    assert name_of(http, house) == before


def test_a_page_of_its_own_and_a_program_without_a_page_are_served(http, house):
    same = {"Origin": "http://127.0.0.1", "Sec-Fetch-Site": "same-origin"}
    assert http.post(f"/api/projects/{house}/edits", json=RENAME, headers=same).status_code == 200
    assert http.post(f"/api/projects/{house}/undo").status_code == 200


def test_no_foreign_page_is_given_leave_to_read(http):
    asked = {"Origin": "http://evil.example", "Access-Control-Request-Method": "DELETE"}
    answer = http.options("/api/projects/1", headers=asked)
    assert answer.status_code == 403
    assert "access-control-allow-origin" not in answer.headers


def test_a_link_from_elsewhere_opens_a_page_but_no_frame(database, catalogue, database_url):
    app = create_app(database, catalogue, database_url, ROOT / "web" / "dist")
    link = {"Sec-Fetch-Site": "cross-site", "Sec-Fetch-Mode": "navigate", "Sec-Fetch-Dest": "document"}
    with TestClient(app, base_url="http://127.0.0.1") as http:
        page = http.get("/projects", headers=link)
        assert page.status_code == 200
        assert "frame-ancestors 'none'" in page.headers["content-security-policy"]
        assert http.get("/projects", headers={**link, "Sec-Fetch-Dest": "iframe"}).status_code == 403


def test_every_page_has_a_nonce_of_its_own(database, catalogue, database_url):
    app = create_app(database, catalogue, database_url, ROOT / "web" / "dist")
    with TestClient(app, base_url="http://127.0.0.1") as http:
        first, second = http.get("/"), http.get("/")
    assert first.text != second.text
    nonce = first.headers["content-security-policy"].split("'nonce-")[1].split("'")[0]
    assert f'nonce="{nonce}"' in first.text
    assert "unsafe" not in first.headers["content-security-policy"]


@pytest.mark.parametrize("path", ["/api/projects", "/openapi.json", "/api/nothing"])
def test_every_answer_carries_the_protective_headers(http, path):
    headers = http.get(path).headers
    assert headers["x-content-type-options"] == "nosniff"
    assert "frame-ancestors 'none'" in headers["content-security-policy"]
    assert headers["cross-origin-resource-policy"] == "same-origin"


@pytest.mark.parametrize(
    "form", ["text/plain", "application/x-www-form-urlencoded", "multipart/form-data; boundary=x", ""]
)
def test_json_is_taken_as_json_only(http, house, form):
    answer = http.post(f"/api/projects/{house}/edits", content=json.dumps(RENAME), headers={"Content-Type": form})
    assert answer.status_code == 415
    assert answer.headers["content-type"] == "application/problem+json"


def test_no_route_takes_json_in_another_way():
    modules = [import_module(f"baugrund.api.{found.name}") for found in iter_modules(api.__path__)]
    routes = [route for module in modules if hasattr(module, "router") for route in module.router.routes]
    taking = [route for route in routes if route.body_field]
    assert len(taking) > 5
    assert [route.path for route in taking if not isinstance(route, uploads.JsonRoute)] == []


def test_json_has_a_limit_of_size(http, house, monkeypatch):
    body = json.dumps(RENAME).encode()
    headers = {"Content-Type": "application/json"}
    monkeypatch.setattr(uploads, "MOST_JSON_BYTES", len(body))
    assert http.post(f"/api/projects/{house}/edits", content=body, headers=headers).status_code == 200
    answer = http.post(f"/api/projects/{house}/edits", content=body + b" ", headers=headers)
    assert (answer.status_code, answer.json()["detail"]) == (422, f"What was sent is larger than {len(body):,} bytes.")


@pytest.mark.parametrize(
    "path", ["/" + "a" * 5000, "/" + "a/" * 3000, "/api/projects/" + "9" * 3000, "/assets/" + "a" * 300]
)
def test_an_address_that_is_far_too_long_is_not_there(address, path):
    answer = told(address, f"GET {path} HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n\r\n".encode())
    assert answer.startswith(b"HTTP/1.1 404")


@pytest.mark.parametrize(
    "path", ["/%00", "/%ff", "/..%5c..%5cpyproject.toml", "//etc/passwd", "/%2e%2e/%2e%2e/pyproject.toml"]
)
def test_no_address_leads_out_of_the_front_end(address, path):
    answer = told(address, f"GET {path} HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n\r\n".encode())
    assert answer.split()[1] in (b"200", b"400", b"404")
    assert b"root:" not in answer
    assert b"[project]" not in answer


def test_a_request_that_is_sent_by_half_ends(address, monkeypatch, house):
    monkeypatch.setattr(patience, "HEAD_WITHIN_S", 0.5)
    assert told(address, b"GET /api/projects HTTP/1.1\r\nHost: 127.0.0.1\r\nX-A: ") == b""
    monkeypatch.setattr(uploads, "PATIENCE_S", 0.5)
    head = b"POST /api/projects/import HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 50000000\r\n\r\n{"
    assert told(address, head).startswith(b"HTTP/1.1 408")
    head = f"POST /api/projects/{house}/undo HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 50\r\n\r\n".encode()
    assert told(address, head, 8).startswith(b"HTTP/1.1 409")


def test_edits_have_a_limit_of_rows_from_both_sides(http, house):
    def answer(counts):
        edits = [{"type": "add_drops", "room": "Hall", "kind": "desk", "count": count} for count in counts]
        return http.post(f"/api/projects/{house}/edits", json={"seen_revision": 0, "edits": edits})

    assert answer([500] * 40).json()["detail"].endswith("a project holds 10,000 at most.")
    assert "These edits touch 20,001 rows; 20,000 are the most at once" in answer([500] * 40 + [1]).json()["detail"]


def test_hundred_thousand_rooms_at_once_are_refused_soon(http, house):
    rooms = [[{"name": f"r{n}-{m}"} for m in range(200)] for n in range(100)]
    edits = [{"type": "add_rooms", "rooms": some} for some in rooms]
    begun = time.monotonic()
    answer = http.post(f"/api/projects/{house}/edits", json={"seen_revision": 0, "edits": edits})
    assert (answer.status_code, "a project holds 2,000 at most" in answer.json()["detail"]) == (422, True)
    assert time.monotonic() - begun < 60, "one by one they would take minutes"
