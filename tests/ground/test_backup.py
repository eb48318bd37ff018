"""Backups: written while it runs, restored into an empty database, and an older state upgraded."""

import importlib.util
import os
import shutil
import signal
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from tests.queue_worker import until

PROJECT = Path(__file__).parents[2]
OLDER = PROJECT / "tests" / "dumps" / "before-the-queue.dump"
"""The state before the queue, made with that version: a keeper with a plan of three revisions, a
pump of their own and a long run, beside the demo."""

BEFORE_VERSION_2 = OLDER.parent / "before-version-2.dump"
"""The state before plan files of version 2, made with that version: every example, every plan with
a fault and every kept plan, and one plan of six revisions; each with its figures of that day."""

_SAME = """
from bathys.plan import physics_hash
from bathys_web.plans.headlines import headlines_of_plan
from bathys_web.plans.models import Revision
from bathys_web.plans.storing import plan_of
for revision in Revision.objects.order_by("pk"):
    assert revision.document["version"] == 1
    assert revision.plan.last_number == max(r.number for r in revision.plan.revisions.all())
    assert revision.physics_hash == physics_hash(plan_of(revision))
    told = headlines_of_plan(plan_of(revision))
    assert told.get("fault") == revision.headlines.get("fault"), revision.document["name"]
    now = {key: value for key, _, value, _ in told.get("figures", ())}
    for key, _, old, _ in revision.headlines.get("figures", ()):
        near = old == now[key] or abs(old - now[key]) <= 1e-6 * abs(old)
        assert near, (revision.document["name"], key, old, now[key])
    print(revision.plan_id, revision.number, len(told.get("figures", ())), sep="|")
"""

_LOOK = """
from django.contrib.auth import get_user_model
from django.test import Client
for user in get_user_model().objects.order_by("pk"):
    client = Client()
    client.force_login(user)
    for saved in user.plans.order_by("pk"):
        page = client.get(f"/plans/{saved.key}/", SERVER_NAME="localhost")
        name = saved.head.document["name"]
        assert page.status_code == 200 and name in page.content.decode()
        pumps = ",".join(p.name for p in user.own_pumps.all())
        print(user.email, name, saved.revisions.count(), saved.head.number, pumps, sep="|")
"""


@pytest.fixture(scope="module")
def database(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Any]:
    """A server of the test's own, empty."""
    spec = importlib.util.spec_from_file_location("ground", PROJECT / "tools" / "ground.py")
    assert spec is not None
    assert spec.loader is not None
    ground = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(ground)
    # A project of the test's own: where data lies outside, it is named after the project.
    ground.PROJECT = tmp_path_factory.mktemp("backup")
    ground.DATA = ground.PROJECT / "data"
    found = ground.Database("postgres", durable=False)
    found.start()
    found.make_database(afresh=True)
    yield found
    found.stop()
    shutil.rmtree(found.home)


def _manage(database: Any, *words: str) -> str:
    environment = {**os.environ, **database.environment(), "BATHYS_DEMO": "1"}
    done = subprocess.run(
        [sys.executable, "tools/manage.py", *words],
        cwd=PROJECT,
        env=environment,
        capture_output=True,
        text=True,
        check=False,
    )
    assert done.returncode == 0, done.stderr
    return done.stdout


def _plans(database: Any) -> list[str]:
    lines = _manage(database, "shell", "-v", "0", "-c", _LOOK).splitlines()
    return [line for line in lines if "|" in line]


def test_an_older_state_is_restored_upgraded_backed_up_and_restored_again(
    database: Any, tmp_path: Path
) -> None:
    """Every plan opens, with its revisions and its owner's pumps, after each step."""
    database.restore(OLDER, "bathys_empty")
    _manage(database, "migrate", "-v", "0")
    before = _plans(database)
    assert "keeper@bathys.example|" in "".join(before)
    assert any(line.endswith("|3|3|Yard pump") for line in before)
    path = tmp_path / "all.dump"
    assert database.attach()
    database.dump(path)
    assert path.stat().st_mode & 0o077 == 0
    database.make_database(afresh=True)
    database.restore(path, "bathys_also_empty")
    _manage(database, "migrate", "-v", "0")
    assert _plans(database) == before


def test_a_file_that_is_no_backup_changes_nothing(database: Any, tmp_path: Path) -> None:
    """It is told, and what stood there stands."""
    before = _plans(database)
    bad = tmp_path / "bad.dump"
    bad.write_bytes(OLDER.read_bytes()[:4000])
    with pytest.raises(Exception, match="pg_restore failed"):
        database.restore(bad, "bathys_never")
    assert _plans(database) == before


def test_a_database_server_that_is_killed_is_started_where_it_was(database: Any) -> None:
    """With everything that was kept, and on the same port."""
    before, port = _plans(database), database.port
    pid = int((database.folder / "postmaster.pid").read_text().splitlines()[0])
    os.kill(pid, signal.SIGKILL)
    until(lambda: not database.is_up())
    database.start_again()
    assert database.port == port
    assert _plans(database) == before


def test_plans_of_the_first_version_open_with_the_figures_they_had(database: Any) -> None:
    """A state of before is restored and upgraded: each revision, stored as a plan of version 1,
    opens and tells the figures that were stored with it, whatever is told besides."""
    database.make_database(afresh=True)
    database.restore(BEFORE_VERSION_2, "bathys_older")
    _manage(database, "migrate", "-v", "0")
    told = [t for t in _manage(database, "shell", "-v", "0", "-c", _SAME).splitlines() if "|" in t]
    assert len(told) == 40
    assert sum(int(line.rpartition("|")[2]) for line in told) > 200
    assert len(_plans(database)) == 35
