"""Starting and stopping: the project's own PostgreSQL, the server, the command line."""

import json
import os
import re
import signal
import socket
import subprocess
import sys
import textwrap
import time

import httpx
import psycopg
import pytest

from baugrund.demo import PROJECTS
from baugrund.exchange.project_file import read_project
from baugrund.launch.postgres import Postgres, StartFailed, free_port, running
from baugrund.launch.serve import FIRST_PORT, choose_port, load_demo

from ..conftest import ROOT
from ..waiting import HTTP, PATIENCE_S

BAUGRUND = [sys.executable, "-m", "baugrund.cli"]


def run(*arguments, **more):
    return subprocess.run(
        [*BAUGRUND, *arguments], capture_output=True, text=True, timeout=PATIENCE_S, check=False, **more
    )


def test_a_cluster_starts_stops_and_keeps_its_data(tmp_path):
    server = Postgres(tmp_path / "pg")
    with psycopg.connect(server.start()) as connection:
        connection.execute("CREATE TABLE kept (x int)")
        connection.execute("INSERT INTO kept VALUES (42)")
    server.stop()
    again = Postgres(tmp_path / "pg")
    url = again.start()
    try:
        assert again.start() == url, "a server that runs over the folder already is used"
        with psycopg.connect(url) as connection:
            assert connection.execute("SELECT x FROM kept").fetchone() == (42,)
            addresses = connection.execute("SHOW listen_addresses").fetchone()
        assert addresses == ("127.0.0.1",)
        with pytest.raises(psycopg.OperationalError):
            psycopg.connect(re.sub(r":[0-9a-f]+@", ":wrong@", url))
    finally:
        again.stop()
    assert again._running_port() is None
    assert (tmp_path / "pg" / "password").stat().st_mode & 0o077 == 0


def test_a_cluster_that_cannot_start_says_why_and_what_to_do(tmp_path):
    server = Postgres(tmp_path / "pg")
    server.start()
    server.stop()
    (server.data / "postgresql.conf").write_text("port = many\n")
    with pytest.raises(StartFailed, match=r"Could not start PostgreSQL: .* run the command again"):
        server.start()


def test_the_port_asked_for_is_taken_or_told():
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        with pytest.raises(StartFailed, match=f"Port {port} is taken. Choose another one with --port"):
            choose_port(port)
    free = free_port()
    with choose_port(free) as one, choose_port(None) as other:
        assert one.getsockname() == ("127.0.0.1", free)
        assert other.getsockname()[1] >= FIRST_PORT
        with pytest.raises(StartFailed, match="is taken"):
            choose_port(free)


def test_a_cluster_whose_making_was_broken_off_is_made_again(tmp_path):
    broken = Postgres(tmp_path / "pg")
    unfinished = broken.folder / "cluster.unfinished"
    unfinished.mkdir(parents=True)
    (unfinished / "PG_VERSION").write_text("15\n")
    with running(tmp_path / "pg") as url, psycopg.connect(url) as connection:
        assert connection.execute("SELECT 1").fetchone() == (1,)


def test_programs_that_start_over_one_folder_share_the_server_and_the_last_one_stops_it(tmp_path):
    code = f"""
        import sys
        from pathlib import Path
        from baugrund.launch.postgres import running
        with running(Path({str(tmp_path / "pg")!r})) as url:
            print(url, flush=True)
            sys.stdin.readline()
    """
    both = [
        subprocess.Popen(
            [sys.executable, "-c", textwrap.dedent(code)], stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True
        )
        for _ in range(2)
    ]
    first, second = (one.stdout.readline().strip() for one in both)
    assert first == second
    both[0].communicate("end\n", timeout=PATIENCE_S)
    with psycopg.connect(second) as connection:
        assert connection.execute("SELECT 1").fetchone() == (1,)
    both[1].communicate("end\n", timeout=PATIENCE_S)
    with pytest.raises(psycopg.OperationalError):
        psycopg.connect(second)


def test_demo_data_is_loaded_once_and_anew_on_asking(database, projects, catalogue):
    for project in projects.all():
        projects.delete(project.id)
    assert load_demo(database, fresh=False, catalogue=catalogue) == 3
    assert [line.name for line in projects.all()] == ["Dye works pottery", "Row house with garden", "Orchard school"]
    assert load_demo(database, fresh=False, catalogue=catalogue) == 0
    first = {line.id for line in projects.all()}
    assert load_demo(database, fresh=True, catalogue=catalogue) == 3
    assert first.isdisjoint(line.id for line in projects.all())


@pytest.fixture
def served(postgres_url, tmp_path):
    """Start the program on a database of its own; gives a function that does so, as often as it is called."""
    name = f"baugrund_served_{os.getpid()}"
    with psycopg.connect(postgres_url, autocommit=True) as connection:
        connection.execute(f"CREATE DATABASE {name}")
    started = []

    def start():
        port = free_port()
        environment = os.environ | {"DATABASE_URL": postgres_url.rsplit("/", 1)[0] + f"/{name}"}
        child = subprocess.Popen(
            [*BAUGRUND, "demo", "--port", str(port)], env=environment, stdout=subprocess.PIPE, text=True
        )
        started.append(child)
        for line in child.stdout:
            if "Baugrund is at" in line:
                break
        address = f"http://127.0.0.1:{port}"
        for _ in range(100):
            try:
                HTTP.get(f"{address}/api/projects")
                return child, address
            except httpx.TransportError:
                time.sleep(0.05)
        raise AssertionError("the server did not answer")

    yield start
    for child in started:
        child.kill()
        child.wait()
        child.stdout.close()
    with psycopg.connect(postgres_url, autocommit=True) as connection:
        connection.execute(f"DROP DATABASE {name} WITH (FORCE)")


def test_a_killed_server_loses_no_acknowledged_edit_and_a_second_start_keeps_the_data(served):
    child, address = served()
    number = next(p["id"] for p in HTTP.get(f"{address}/api/projects").json() if p["drops"] == 18)
    room = HTTP.get(f"{address}/api/projects/{number}").json()["project"]["rooms"][0]["id"]
    for count in range(1, 8):
        edit = {"type": "set_tally", "room_id": room, "kind": "desk", "count": count}
        answer = HTTP.post(f"{address}/api/projects/{number}/edits", json={"seen_revision": count - 1, "edits": [edit]})
        assert answer.status_code == 200
    child.send_signal(signal.SIGKILL)
    child.wait()
    child, address = served()
    project = HTTP.get(f"{address}/api/projects/{number}").json()
    assert project["revision"] == 7
    assert sum(d["room_id"] == room and d["kind"] == "desk" for d in project["project"]["drops"]) == 7
    assert len(HTTP.get(f"{address}/api/projects").json()) == 3
    child.send_signal(signal.SIGINT)
    assert child.wait(timeout=PATIENCE_S) == 0


def test_the_front_end_is_served_and_a_term_ends_the_server_in_order(served):
    child, address = served()
    page = HTTP.get(f"{address}/projects/1/walk")
    assert '<div id="root">' in page.text
    assert HTTP.get(f"{address}/api/nothing").status_code == 404
    assert '<div id="root">' in HTTP.get(f"{address}/../../pyproject.toml").text
    script = re.search(r'src="(/assets/[^"]+\.js)"', page.text)[1]
    assert HTTP.get(f"{address}{script}").headers["content-encoding"] == "gzip"
    assert "http://" not in page.text.replace("http://www.w3.org", "")
    child.send_signal(signal.SIGTERM)
    assert child.wait(timeout=PATIENCE_S) == 0


def test_plan_prints_json_without_server_or_database():
    done = run("plan", str(PROJECTS[1]), env={"PATH": "/usr/bin"})
    assert done.returncode == 0
    plan = json.loads(done.stdout)
    assert plan["project"] == read_project(PROJECTS[1].read_bytes()).name
    assert [answer["proven"] for answer in plan["pick"]["picks"]["answers"]] == [True] * 4
    assert len(plan["pick"]["why_not"]) > 50


@pytest.mark.parametrize(
    ("content", "said"),
    [(None, "No such file"), ("{", "not JSON"), ('{"format": "baugrund-project", "version": 3}', "reads version 1")],
)
def test_plan_of_a_bad_file_is_one_sentence(tmp_path, content, said):
    file = tmp_path / "p.json"
    if content is not None:
        file.write_text(content)
    done = run("plan", str(file))
    assert done.returncode == 1
    assert said in done.stderr
    assert done.stderr.count("\n") == 1


@pytest.mark.parametrize("command", [[], ["demo"], ["serve"], ["plan"], ["bench"]])
def test_help_is_everywhere(command):
    done = run(*command, "--help")
    assert done.returncode == 0
    assert "Usage" in done.stdout


def test_the_one_command_tells_what_it_can_do():
    usage = subprocess.run([str(ROOT / "baugrund"), "--help"], capture_output=True, text=True, check=False)
    for command in ("demo", "serve", "test", "check", "soak", "plan", "bench"):
        assert f"\n  {command}" in usage.stdout
    wrong = subprocess.run([str(ROOT / "baugrund"), "fly"], capture_output=True, text=True, check=False)
    assert wrong.returncode == 2
    assert 'there is no command "fly"' in wrong.stderr
