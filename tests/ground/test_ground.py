"""The start command's manners when the ground is not as it should be."""

import importlib.util
import json
import os
import signal
import socket
import subprocess
import sys
import time
from pathlib import Path
from types import ModuleType
from typing import Any

import pytest

TOOL = Path(__file__).parents[2] / "tools" / "ground.py"


@pytest.fixture
def ground(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> ModuleType:
    """The start command's module, with its data in a folder of the test's own."""
    spec = importlib.util.spec_from_file_location("ground", TOOL)
    assert spec is not None
    assert spec.loader is not None
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    monkeypatch.setattr(module, "DATA", tmp_path / "data")
    return module


def test_a_second_start_is_told_where_the_first_runs(ground: ModuleType) -> None:
    """And holds nothing once the first has ended."""
    with ground.only_one("demo"):
        (ground.DATA / "demo.running").write_text("Open http://127.0.0.1:8000")
        with pytest.raises(ground.Trouble, match="Open http"), ground.only_one("demo"):
            pass
    with ground.only_one("demo"):
        pass


def test_a_taken_port_is_passed_over(ground: ModuleType) -> None:
    """Another is found."""
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        assert ground._free_port(port) not in (0, port)
    assert ground._free_port() > 0


def _old_folder(database: Any, version: str, control: bool, password: bool) -> None:
    (database.folder / "global").mkdir(parents=True)
    (database.folder / "PG_VERSION").write_text(version)
    if control:
        (database.folder / "global" / "pg_control").touch()
    if password:
        database.secret.write_text("secret")


@pytest.mark.parametrize(
    ("version", "control", "password", "words"),
    [
        ("9", True, True, "of PostgreSQL 9"),
        (None, False, True, "half made"),
        (None, True, False, "lost its password"),
        (None, True, True, ""),
    ],
)
def test_an_unusable_data_folder_is_set_aside_and_kept(
    ground: ModuleType,
    capsys: pytest.CaptureFixture[str],
    version: str | None,
    control: bool,
    password: bool,
    words: str,
) -> None:
    """In a sentence; a good one is left alone."""
    database = ground.Database("postgres", durable=True)
    if not database.home.is_relative_to(ground.DATA):
        database.home = ground.DATA / "postgres"
        database.folder, database.secret = database.home / "data", database.home / "password"
    _old_folder(database, version or database.programs.parent.name, control, password)
    database._check_old()
    said = capsys.readouterr().out
    assert words in said
    assert database.folder.exists() is (words == "")
    if words:
        assert list(database.home.parent.glob("postgres-kept-*/data/PG_VERSION"))


def test_too_little_room_is_said(ground: ModuleType, monkeypatch: pytest.MonkeyPatch) -> None:
    """Before anything is written to the data folder."""
    monkeypatch.setattr(ground, "LEAST_DISK", 10**18)
    with pytest.raises(ground.Trouble, match="too little room"):
        ground.Database("postgres", durable=True).start()


def test_a_server_left_behind_is_ended_and_a_stranger_is_not(
    ground: ModuleType,
) -> None:
    """Only a process of this project's environment that serves this application."""
    ground.DATA.mkdir()
    note = ground.DATA / "demo-server.json"
    sleep = "import time; time.sleep(60)"
    stranger = subprocess.Popen(["/usr/bin/sleep", "60"])
    ours = subprocess.Popen([sys.executable, "-c", sleep, f"{sys.prefix} bathys_web"])
    try:
        time.sleep(0.2)
        for process in (stranger, ours):
            note.write_text(json.dumps({"pids": [process.pid]}))
            words = [sys.executable, "-c", _STOP, str(TOOL), str(note), sys.prefix]
            subprocess.run(words, check=True, timeout=30)
        assert stranger.poll() is None
        assert ours.wait(10) == -signal.SIGTERM
    finally:
        for process in (stranger, ours):
            process.kill()
            process.wait()


_STOP = """
import pathlib, runpy, sys
tool = runpy.run_path(sys.argv[1])
tool["_stop_leftovers"].__globals__["VENV"] = pathlib.Path(sys.argv[3])
tool["_stop_leftovers"](pathlib.Path(sys.argv[2]))
"""


def test_what_stops_is_started_again_and_nothing_is_left_behind(
    ground: ModuleType, capfd: pytest.CaptureFixture[str]
) -> None:
    """It is said; stopping ends all of them, also one that does not listen."""
    ground.DATA.mkdir()
    ground.PYTHON = Path(sys.executable)
    note = ground.DATA / "crew.json"
    crew = ground.Crew(note, dict(os.environ))
    deaf = "import signal, time; signal.signal(signal.SIGTERM, signal.SIG_IGN); time.sleep(60)"
    first = crew.start("web server", "-c", "import time; time.sleep(60)")
    other = crew.start("worker", "-c", deaf)
    first.kill()
    first.wait()
    crew.look_after()
    assert "The web server stopped; it is started again." in capfd.readouterr().out
    pids = json.loads(note.read_text())["pids"]
    assert first.pid not in pids
    assert other.pid in pids
    time.sleep(0.5)
    crew.stop()
    assert not note.exists()
    for pid in pids:
        assert not Path(f"/proc/{pid}").exists() or "Z" in Path(f"/proc/{pid}/stat").read_text()
