"""A program of its own to be fuzzed, killed and flooded: shortly with all tests, for long by ``./baugrund soak``."""

import os
import signal
import subprocess
import sys
import time

import httpx
import psycopg
import pytest

from baugrund.launch.postgres import Postgres, free_port

from ..waiting import until

LONG = bool(os.environ.get("SOAK"))


@pytest.fixture(scope="session")
def long():
    """Whether the long form was asked for."""
    return LONG


class Stand:
    """A server with its workers over a PostgreSQL of its own; each can be killed and started again."""

    def __init__(self, folder):
        self.postgres = Postgres(folder / "postgres")
        self.url = self.postgres.start()
        self.port = free_port()
        self.base = f"http://127.0.0.1:{self.port}"
        self.log = (folder / "server.log").open("ab")
        self.process = None

    def start(self):
        self.process = subprocess.Popen(
            [sys.executable, "-m", "baugrund.cli", "demo", "--port", str(self.port)],
            env={**os.environ, "DATABASE_URL": self.url}, stdout=self.log, stderr=self.log, start_new_session=True,
        )  # fmt: skip
        self.until(lambda: httpx.get(f"{self.base}/api/kinds", timeout=2).status_code == 200)

    def until(self, is_so):
        return until(is_so, passing=(httpx.TransportError, psycopg.OperationalError))

    def kill_server(self):
        self.process.kill()
        self.process.wait()

    def workers(self):
        """Processes of workers that this server began, by their number."""
        children = subprocess.run(
            ["pgrep", "-P", str(self.process.pid), "-f", "baugrund.cli worker"],
            capture_output=True,
            text=True,
            check=False,
        )
        return [int(line) for line in children.stdout.split()]

    def kill_workers(self):
        for worker in self.workers():
            os.kill(worker, signal.SIGKILL)

    def kill_postgres(self):
        pid = int((self.postgres.data / "postmaster.pid").read_text().split()[0])
        os.kill(pid, signal.SIGKILL)
        time.sleep(0.5)

    def start_postgres(self):
        """Again at the port that it had."""
        assert self.postgres.start(int(self.url.rsplit(":", 1)[1].split("/")[0])) == self.url

    def stop(self):
        if self.process:
            self.process.terminate()
            self.process.wait(30)
        self.postgres.stop()
        self.log.close()


@pytest.fixture(scope="module")
def stand(tmp_path_factory):
    folder = tmp_path_factory.mktemp("stand")
    folder.chmod(0o755)
    made = Stand(folder)
    made.start()
    yield made
    made.stop()
