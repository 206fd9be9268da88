"""Many streams, many who wait, large files at once: others are answered meanwhile, and no connection is taken each."""

import io
import os
import signal
import socket
import threading
import time
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress

import httpx
import psycopg
import pytest
from PIL import Image

from ..exchange.test_apart import pdf_that_draws_itself
from ..waiting import HTTP

STREAMS = 120
WAITING = 45
OPENING = 20


def connections(stand):
    with psycopg.connect(stand.url) as connection:
        return connection.execute(
            "SELECT count(*) FROM pg_stat_activity WHERE backend_type = 'client backend'"
        ).fetchone()[0]


def first_project(stand):
    return HTTP.get(f"{stand.base}/api/projects").json()[0]["id"]


def stream(stand, project):
    """An open stream of events, once it says that it listens."""
    one = socket.create_connection(("127.0.0.1", stand.port), timeout=10)
    one.sendall(f"GET /api/projects/{project}/events HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n".encode())
    got = b""
    while b"listening" not in got:
        got += one.recv(4096)
    return one


def answered_before(others, stand, path="/api/projects"):
    """A request is answered while all of some others still wait for their answer."""
    assert httpx.get(stand.base + path, timeout=30).status_code == 200
    assert all(one.is_alive() for one in others)


def test_streams_take_no_connection_each_and_all_hear_of_an_edit(stand):
    project = first_project(stand)
    before = connections(stand)
    streams = [stream(stand, project) for _ in range(STREAMS)]
    assert connections(stand) - before <= 2
    edit = {"seen_revision": 0, "edits": [{"type": "rename", "name": "Heard by all"}]}
    assert HTTP.post(f"{stand.base}/api/projects/{project}/edits", json=edit).status_code == 200
    answered_before([], stand)
    for one in streams:
        got = b""
        while b"Heard by all" not in got:
            got += one.recv(4096)
        one.close()


@pytest.mark.parametrize("view", ["state", "reach", "layout", "load"])
def test_many_who_open_a_project_first_at_once_see_the_same(stand, view):
    file = HTTP.get(f"{stand.base}/api/projects/{first_project(stand)}/export").content
    project = httpx.post(f"{stand.base}/api/projects/import", content=file, timeout=60).json()["id"]
    path = f"{stand.base}/api/projects/{project}/{view}"
    with ThreadPoolExecutor(OPENING) as pool:
        answers = [*pool.map(lambda _: httpx.get(path, timeout=60), range(OPENING))]
    assert {answer.status_code for answer in answers} == {200}
    assert len({answer.content for answer in answers}) == 1


def test_a_project_that_is_not_there_has_no_stream(stand):
    assert HTTP.get(f"{stand.base}/api/projects/999999/events").status_code == 404


def test_whoever_waits_for_a_reply_holds_up_nobody(stand):
    """Workers are stopped, so that no reply comes; more wait than the server has threads."""
    project = first_project(stand)
    edit = {"seen_revision": 0, "edits": [{"type": "rename", "name": "Asked anew"}]}
    HTTP.post(f"{stand.base}/api/projects/{project}/edits", json=edit)
    stopped = stand.workers()
    for worker in stopped:
        os.kill(worker, signal.SIGSTOP)
    try:
        path = f"/api/projects/{project}/picks/most_room/parts.csv"
        waiting = [threading.Thread(target=_ask, args=(stand, path), daemon=True) for _ in range(WAITING)]
        for one in waiting:
            one.start()
        time.sleep(1.5)
        for _ in range(5):
            answered_before(waiting, stand)
        answered_before(waiting, stand, f"/api/projects/{project}/state")
    finally:
        for worker in stopped:
            os.kill(worker, signal.SIGCONT)
    for one in waiting:
        one.join(70)


def _ask(stand, path):
    httpx.get(stand.base + path, timeout=80)


@pytest.fixture(scope="module")
def large():
    out = io.BytesIO()
    Image.new("RGB", (12_000, 5_000), "white").save(out, "PNG")
    return out.getvalue()


def test_large_pictures_at_once_are_read_and_nobody_waits_for_them(stand, large):
    project = first_project(stand)
    found = []

    def send():
        answer = httpx.post(f"{stand.base}/api/projects/{project}/pictures", content=large, timeout=120)
        found.append(answer.status_code)

    senders = [threading.Thread(target=send) for _ in range(4)]
    for one in senders:
        one.start()
    time.sleep(0.5)
    answered_before(senders[-1:], stand)
    for one in senders:
        one.join()
    assert found == [201] * 4


def long_edit(stand, project):
    room = HTTP.get(f"{stand.base}/api/projects/{project}").json()["project"]["rooms"][0]["name"]
    edits = [{"type": "add_drops", "room": room, "kind": "desk", "count": 500} for _ in range(18)]
    return "edits", {"json": {"seen_revision": 0, "edits": edits}}


def file_without_end(stand, project):
    return "pictures", {"content": pdf_that_draws_itself()}


@pytest.mark.parametrize("asked", [long_edit, file_without_end])
def test_a_term_ends_the_server_whatever_it_is_at(stand, asked):
    project = first_project(stand)
    path, sent = asked(stand, project)

    def send():
        with suppress(httpx.TransportError):
            httpx.post(f"{stand.base}/api/projects/{project}/{path}", timeout=60, **sent)

    sender = threading.Thread(target=send, daemon=True)
    sender.start()
    time.sleep(1.0)
    stand.process.terminate()
    stand.process.wait(30)
    assert stand.workers() == []
    stand.start()
