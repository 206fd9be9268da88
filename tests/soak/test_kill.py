"""Server, workers and PostgreSQL killed under edits: nothing that was acknowledged is lost, nothing is done twice."""

import http.client
import json
import threading
import time
from collections import Counter
from random import Random
from uuid import uuid4

import httpx
import pytest

from ..waiting import HTTP

ROUNDS, ROUNDS_LONG = 3, 20
KILLS = ("server", "postgres", "workers")


class Client(threading.Thread):
    """Adds rooms with names of their own, one after the other; what got no answer, or lost it, is sent again."""

    def __init__(self, stand, project, name, seed):
        super().__init__(daemon=True)
        self.stand, self.project, self.account = stand, project, name
        self.random = Random(seed)
        self.ends = threading.Event()
        self.made, self.refused, self.dropped = [], [], 0

    def run(self):
        count = 0
        while not self.ends.is_set():
            count += 1
            self.add(f"{self.account} {count}")

    def add(self, room):
        body = {"seen_revision": 0, "edits": [{"type": "add_rooms", "rooms": [{"name": room}]}]}
        headers = {"X-Account": self.account, "Idempotency-Key": str(uuid4()), "Content-Type": "application/json"}
        while True:
            connection = http.client.HTTPConnection("127.0.0.1", self.stand.port, timeout=15)
            try:
                connection.request("POST", f"/api/projects/{self.project}/edits", json.dumps(body), headers)
                if self.random.random() < 0.2:
                    # the answer is lost, whether or not the edit was committed
                    time.sleep(0.05)
                    self.dropped += 1
                    continue
                status = connection.getresponse().status
            except (OSError, http.client.HTTPException):
                time.sleep(0.2)
                continue
            finally:
                connection.close()
            if status == 503:
                time.sleep(0.3)
                continue
            (self.made if status == 200 else self.refused).append(room)
            return


def test_acknowledged_edits_are_there_once_whatever_is_killed(stand, long):
    random = Random(1)
    first = HTTP.get(f"{stand.base}/api/projects").json()[0]["id"]
    file = HTTP.get(f"{stand.base}/api/projects/{first}/export").content
    for turn in range(ROUNDS_LONG if long else ROUNDS):
        project = httpx.post(f"{stand.base}/api/projects/import", content=file, timeout=30).json()["id"]
        clients = [Client(stand, project, f"c{turn}{letter}", turn) for letter in "ab"]
        for client in clients:
            client.start()
        time.sleep(0.5 + random.random())
        match KILLS[turn % len(KILLS)]:
            case "server":
                stand.kill_server()
                stand.start()
            case "postgres":
                stand.kill_postgres()
                away = httpx.get(f"{stand.base}/api/projects", timeout=30)
                assert (away.status_code, away.headers["retry-after"]) == (503, "2")
                stand.start_postgres()
            case "workers":
                stand.kill_workers()
        time.sleep(1.0)
        for client in clients:
            client.ends.set()
        for client in clients:
            client.join(60)
            assert not client.is_alive()
        state = httpx.get(f"{stand.base}/api/projects/{project}/state", timeout=30).json()
        names = Counter(room["name"] for room in state["project"]["rooms"])
        for client in clients:
            assert client.refused == []
            assert {names[room] for room in client.made} == {1}
        history = HTTP.get(f"{stand.base}/api/projects/{project}/history").json()
        assert history[0]["revision"] == state["revision"]
        assert all(count == 1 for name, count in names.items() if name.startswith(f"c{turn}"))
        # searches go on: workers are begun again
        stand.until(lambda: len(stand.workers()) == 3)
        path = f"{stand.base}/api/projects/{project}/picks/least_price"
        stand.until(lambda: not httpx.get(path, timeout=30).json().get("underway"))  # noqa: B023


@pytest.mark.parametrize("path", ["/api/projects", "/api/projects/import"])
def test_a_project_that_is_sent_twice_is_made_once(stand, path):
    headers = {"Idempotency-Key": str(uuid4())}
    first = HTTP.get(f"{stand.base}/api/projects").json()[0]["id"]
    file = HTTP.get(f"{stand.base}/api/projects/{first}/export").content
    sent = {"json": {"name": "Once"}} if path == "/api/projects" else {"content": file}
    numbers = {httpx.post(stand.base + path, headers=headers, timeout=30, **sent).json()["id"] for _ in range(3)}
    assert len(numbers) == 1
