"""Boards: what they may send, what is kept of it, what calls for somebody, and who is told."""

import contextlib
import io
import json
import queue
import re
import socket
import subprocess
import threading
import time
import uuid
import zipfile
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import pytest
from django.core import mail
from django.core.cache import cache
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test import Client
from django.urls import reverse
from django.utils import timezone
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from paho.mqtt import client as mqtt
from paho.mqtt.enums import CallbackAPIVersion

from bathys.instruments import RigFault, SimulatedRig, usual_channels
from bathys.plan import Plan
from bathys.scenarios.failures import Failure
from bathys.simulation import NotSimulated
from bathys_web.instruments.actions.keep_board import NewChannel, add_board, take_token_back
from bathys_web.instruments.actions.keep_watch import keep_watch
from bathys_web.instruments.actions.look_after import due_plans, look_after
from bathys_web.instruments.actions.take_readings import take_readings
from bathys_web.instruments.models import Board, BoardChannel, Incident, Reading, Rollup
from bathys_web.instruments.mqtt import ANSWERS, TOPIC, listener
from bathys_web.instruments.storage import drop_old, rolled_up, write_readings
from bathys_web.plans.models import LogEntry, SavedPlan
from bathys_web.plans.storing import assessment_of

pytestmark = pytest.mark.django_db(transaction=True)

_SEND = "/api/readings/"


@pytest.fixture
def board(saved: SavedPlan, owner: Any) -> tuple[Board, str]:
    """A board with everything that is usual."""
    found = assessment_of(saved.current).evaluation
    channels = [NewChannel(c.key.lower(), c.kind, c.part) for c in usual_channels(found)]
    return add_board(saved, owner, "Sump board", channels)


def _send(token: str, body: Any) -> Any:
    text = body if isinstance(body, str) else json.dumps(body)
    headers = {"Authorization": f"Bearer {token}"}
    return Client().post(_SEND, text, content_type="application/json", headers=headers)


def _level(value: float, at: Any = None) -> dict[str, Any]:
    return {"channel": "level-t1", "value": value} | ({"at": at} if at is not None else {})


def test_a_board_sends_and_each_reading_is_kept_once(board: tuple[Board, str]) -> None:
    _, token = board
    now = timezone.now().replace(microsecond=0)
    rows = [_level(560.0 + n, (now - timedelta(seconds=20 * n)).isoformat()) for n in range(6)]
    first = _send(token, {"readings": rows}).json()
    assert (first["kept"], first["known"], first["refused"]) == (6, 0, [])
    again = _send(token, {"readings": list(reversed(rows)) + rows[:1]}).json()
    assert (again["kept"], again["known"]) == (0, 7)
    assert Reading.objects.count() == 6
    row = Rollup.objects.get(step=86400) if now.hour else Rollup.objects.filter(step=86400).first()
    assert row is not None
    days = Rollup.objects.filter(step=86400)
    assert sum(r.count for r in days) == 6
    assert min(r.least for r in days) == pytest.approx(0.560)
    assert sum(r.total for r in days) == pytest.approx(6 * 0.5625)


@pytest.mark.parametrize(
    ("row", "why"),
    [
        ("no reading", "needs “channel”"),
        ({"channel": "nothing", "value": 1}, "no such channel"),
        ({"channel": "level-t1"}, "must be a number"),
        ({"channel": "level-t1", "value": "12"}, "must be a number"),
        ({"channel": "level-t1", "value": True}, "must be a number"),
        ({"channel": "level-t1", "value": 1e9}, "cannot be so"),
        ({"channel": "level-t1", "value": -900}, "cannot be so"),
        ({"channel": "level-t1", "value": 1, "at": "soon"}, "a time such as"),
        ({"channel": "level-t1", "value": 1, "at": "2030-02-30T00:00:00Z"}, "a time such as"),
        ({"channel": "level-t1", "value": 1, "at": "2026-05-17T08:30:00"}, "must name its zone"),
        ({"channel": "level-t1", "value": 1, "at": 9e18}, "a time such as"),
        ({"channel": "level-t1", "value": 1, "at": 4e9}, "lies ahead"),
        ({"channel": "level-t1", "value": 1, "at": 1}, "older than"),
    ],
)
def test_what_cannot_be_is_refused_with_its_reason_and_the_rest_kept(
    board: tuple[Board, str], row: Any, why: str
) -> None:
    _, token = board
    told = _send(token, {"readings": [row, _level(560.0)]}).json()
    assert told["kept"] == 1
    assert told["refused"][0]["row"] == 1
    assert why in told["refused"][0]["why"]


@pytest.mark.parametrize(
    ("body", "status"),
    [
        ("{", 400),
        ("[]", 400),
        ({"readings": {}}, 400),
        ({"readings": [_level(1.0)] * 501}, 400),
        ({"readings": ["x" * 300_000]}, 413),
        ('{"readings": [{"channel": "level-t1", "value": NaN}]}', 200),
    ],
)
def test_messages_that_are_none_are_told_apart(
    board: tuple[Board, str], body: Any, status: int
) -> None:
    answer = _send(board[1], body)
    assert answer.status_code == status
    assert not Reading.objects.exists()
    assert "error" in answer.json() or answer.json()["refused"]


def test_a_token_that_was_taken_back_sends_nothing(
    board: tuple[Board, str], browser: Client, saved: SavedPlan
) -> None:
    mine, token = board
    assert _send(token, {"readings": [_level(560.0)]}).status_code == 200
    address = reverse("board", args=[saved.key, mine.pk])
    browser.post(address, {"act": "take_back"})
    answer = _send(token, {"readings": [_level(560.0)]})
    assert answer.status_code == 401
    assert Reading.objects.count() == 1
    assert Client().get("/api/board/", headers={"Authorization": "Bearer "}).status_code == 401
    browser.post(address, {"act": "delete"})
    assert not Reading.objects.exists()
    assert not Rollup.objects.exists()


def test_a_board_is_told_what_to_send_in_which_unit(board: tuple[Board, str]) -> None:
    told = Client().get("/api/board/", headers={"Authorization": f"Bearer {board[1]}"}).json()
    assert {"channel": "level-t1", "measures": "Water level", "unit": "mm"} in told["channels"]
    assert told["send_to"].endswith(_SEND)
    assert datetime.fromisoformat(told["time"]).tzinfo is not None


def test_unit_and_offset_count_from_now_on(
    board: tuple[Board, str], browser: Client, saved: SavedPlan
) -> None:
    mine, token = board
    channel = mine.channels.get(key="level-t1")
    address = reverse("instrument", args=[saved.key, channel.pk])
    browser.post(address, {"unit": "in", "offset": "10 mm"})
    _send(token, {"readings": [_level(20.0)]})
    assert Reading.objects.get().value == pytest.approx(20.0 * 0.0254 + 0.010)
    wrong = browser.post(address, {"unit": "in", "offset": "much"})
    assert wrong.status_code == 422
    assert "much" in wrong.content.decode()


@settings(max_examples=15, deadline=None, suppress_health_check=list(HealthCheck))
@given(
    st.lists(st.tuples(st.integers(0, 200_000), st.floats(-1.0, 1.0)), min_size=1, max_size=40),
    st.integers(1, 7),
)
def test_rollups_are_what_the_readings_come_to_in_whatever_order(
    board: tuple[Board, str], rows: list[tuple[int, float]], parts: int
) -> None:
    """Sent in pieces, twice and in any order: the same as counting the readings themselves."""
    Rollup.objects.all().delete()
    Reading.objects.all().delete()
    channel = board[0].channels.all()[0]
    begin = timezone.now().replace(microsecond=0) - timedelta(days=20)
    sent = [(channel.pk, begin + timedelta(seconds=s), v) for s, v in rows]
    for part in range(parts):
        write_readings(sent[part::parts])
    write_readings(sent)
    kept = {r.at: r.value for r in Reading.objects.all()}
    assert set(kept) == {at for _, at, _ in sent}
    for step in (60, 3600, 86400):
        rolled = list(Rollup.objects.filter(step=step))
        assert sum(r.count for r in rolled) == len(kept)
        assert sum(r.total for r in rolled) == pytest.approx(sum(kept.values()), abs=1e-9)
        assert min(r.least for r in rolled) == min(kept.values())
        assert max(r.most for r in rolled) == max(kept.values())
        for row in rolled:
            ends = row.begin + timedelta(seconds=step)
            within = [v for at, v in kept.items() if row.begin <= at < ends]
            assert row.count == len(within)


def test_old_months_go_and_hours_stay(board: tuple[Board, str]) -> None:
    channel, now = board[0].channels.all()[0], timezone.now()
    write_readings([(channel.pk, now - timedelta(days=d), 0.5) for d in (0, 300)])
    with connection.cursor() as cursor:
        cursor.execute("SELECT count(*) FROM pg_inherits")
        before = cursor.fetchone()
    drop_old(now)
    with connection.cursor() as cursor:
        cursor.execute("SELECT count(*) FROM pg_inherits")
        after = cursor.fetchone()
    assert before is not None
    assert after is not None
    assert after[0] < before[0]
    assert Reading.objects.count() == 1
    hours = rolled_up(channel.pk, 3600, now - timedelta(days=399), now)
    assert len(hours) == 2
    write_readings([(channel.pk, now - timedelta(days=300), 0.6)])  # and its month is made again


def _log_top_up(saved: SavedPlan, at: datetime, volume: float) -> None:
    LogEntry.objects.get_or_create(
        plan=saved,
        key=uuid.uuid5(uuid.NAMESPACE_OID, f"{at} {volume}"),
        defaults={"kind": "top_up", "part": "T1", "at": at, "values": {"volume": volume}},
    )


def _play(
    board: Board, plan: Plan, now: datetime, failure: Failure | None = None, minutes: float = 40.0
) -> None:
    """Thirteen hours of the simulated board's readings, the last minutes with something failing."""
    channels = {str(c.pk): c for c in board.channels.all()}
    begins = now.timestamp() - 60.0 * minutes
    faults = (RigFault(failure, begins, now.timestamp() + 1.0),) if failure else ()
    rig = SimulatedRig(plan, [c.as_channel() for c in channels.values()], 4, faults)
    until = now.timestamp()
    since = until - 13 * 3600.0
    write_readings(
        [
            (int(r.channel), datetime.fromtimestamp(r.time, UTC), r.value)
            for r in rig.readings(since, until, 60.0)
        ]
    )
    for top_up in rig.top_ups(since, until):
        _log_top_up(board.plan, datetime.fromtimestamp(top_up.time, UTC), top_up.volume)
    Board.objects.filter(pk=board.pk).update(heard=now)


def test_nothing_is_wrong_while_all_is_well(
    board: tuple[Board, str], demo_plan: Plan, saved: SavedPlan, browser: Client
) -> None:
    now = timezone.now()
    _play(board[0], demo_plan, now)
    look_after(saved, now)
    assert look_after(saved, now) is None
    page = browser.get(reverse("instruments", args=[saved.key])).content.decode()
    assert "as expected" in page
    assert "less than expected" not in page
    assert not Incident.objects.exists()


def test_one_odd_reading_is_called_so_and_two_are_not(
    board: tuple[Board, str], demo_plan: Plan, saved: SavedPlan, browser: Client
) -> None:
    """The middle of the last three counts: a wire that was touched alarms nobody."""
    now = timezone.now()
    _play(board[0], demo_plan, now - timedelta(minutes=3))
    look_after(saved, now)
    level = board[0].channels.get(key="level-t1")
    held = Reading.objects.filter(channel=level).order_by("-at")[0].value
    page = reverse("instruments", args=[saved.key])
    for minutes, value, words, others in (
        (2.5, held, "as expected", "odd reading"),
        (1.5, 0.02, "one odd reading", "less than expected"),
        (0.5, 0.02, "less than expected", "one odd reading"),
    ):
        write_readings([(level.pk, now - timedelta(minutes=minutes), value)])
        told = browser.get(page).content.decode()
        row = re.search(rf'<tr[^>]*><td><a href="[^"]*/{level.pk}/".*?</tr>', told, re.DOTALL)
        assert row is not None
        assert words in row[0]
        assert others not in row[0]


def test_what_fails_is_told_once_by_one_message_with_its_cause(
    board: tuple[Board, str], demo_plan: Plan, saved: SavedPlan, browser: Client
) -> None:
    now = timezone.now()
    _play(board[0], demo_plan, now, Failure("blocked", "R2"))
    incident = look_after(saved, now) or look_after(saved, now)
    assert incident is not None
    assert incident.is_grave
    assert ["blocked", "R2"] in incident.causes
    assert len(mail.outbox) == 1
    assert saved.current.document["name"] in mail.outbox[0].subject
    look_after(saved, now + timedelta(minutes=1))
    assert len(mail.outbox) == 1
    page = browser.get(reverse("instruments", args=[saved.key])).content.decode()
    assert "What fits best" in page
    assert "clogs" in page
    # Nobody has seen it: told again, also to the other address; and then no more.
    keep_watch(saved, saved.owner, ["mail"], "other@bathys.example", (0, 0), "UTC")
    look_after(saved, now + timedelta(minutes=40))
    assert [m.to for m in mail.outbox[1:]] == [["owner@bathys.example"], ["other@bathys.example"]]
    look_after(saved, now + timedelta(minutes=50))
    assert len(mail.outbox) == 3
    browser.post(reverse("see_incident", args=[saved.key]))
    assert Incident.objects.get().seen is not None


def test_what_is_not_grave_waits_until_the_night_is_over(
    board: tuple[Board, str], saved: SavedPlan, demo_plan: Plan
) -> None:
    night = timezone.now().replace(hour=3, minute=0) - timedelta(days=1)
    _play(board[0], demo_plan, night - timedelta(hours=1))
    keep_watch(saved, saved.owner, ["mail"], "", (1320, 420), "UTC")
    look_after(saved, night)
    incident = look_after(saved, night)
    assert incident is not None
    assert {a.kind for a in incident.alarms.all()} == {"silent"}
    assert not incident.is_grave
    assert mail.outbox == []
    look_after(saved, night + timedelta(hours=5))
    assert len(mail.outbox) == 1


def test_an_alarm_ends_when_it_is_put_right_and_water_by_the_log_is_counted(
    board: tuple[Board, str], saved: SavedPlan, demo_plan: Plan
) -> None:
    now = timezone.now()
    _play(board[0], demo_plan, now - timedelta(hours=2), Failure("never_starts", "S1"))
    look_after(saved, now - timedelta(hours=2))
    incident = look_after(saved, now - timedelta(hours=2))
    assert incident is not None
    assert incident.ended is None
    Reading.objects.all().delete()
    Rollup.objects.all().delete()
    _play(board[0], demo_plan, now)
    look_after(saved, now)
    assert Incident.objects.get().ended is not None
    _log_top_up(saved, now - timedelta(minutes=85), 0.05)
    # Water that was put in and is not there has gone somewhere.
    missing = look_after(saved, now + timedelta(minutes=5))
    assert missing is not None
    assert {a.kind for a in missing.alarms.all()} == {"leak"}


def test_each_plan_is_looked_at_once_a_minute(board: tuple[Board, str], saved: SavedPlan) -> None:
    now = timezone.now()
    assert due_plans(now) == []
    Board.objects.update(heard=now)
    assert due_plans(now) == [saved]
    assert due_plans(now + timedelta(seconds=30)) == []
    assert due_plans(now + timedelta(seconds=61)) == [saved]
    assert due_plans(now + timedelta(days=4)) == []


def test_a_newcomer_adds_boards_and_is_told_what_is_wrong(
    browser: Client, saved: SavedPlan
) -> None:
    page, new = (reverse(n, args=[saved.key]) for n in ("instruments", "new_board"))
    assert "Nothing is measured yet" in browser.get(page).content.decode()
    nameless = browser.post(new, {"name": " ", "measures": ["level T1"]})
    assert "Give the board a name" in nameless.content.decode()
    nothing = browser.post(new, {"name": "<b>Mine</b>"})
    assert nothing.status_code == 422
    assert "&lt;b&gt;Mine" in nothing.content.decode()
    told = browser.post(new, {"name": "Mine", "measures": ["level T1"]}, follow=True)
    assert "It is shown only now" in told.content.decode()
    assert "It is shown only now" not in browser.get(page).content.decode()
    mine = reverse("board", args=[saved.key, Board.objects.get().pk])
    twice = browser.post(mine, {"act": "channel", "key": "level-t1", "what": "watts P1"})
    assert "of that name already" in twice.content.decode()
    bad = browser.post(mine, {"act": "channel", "key": "k", "what": "level P1"})
    assert "Choose what it measures" in bad.content.decode()
    contact = {"act": "channel", "key": "float", "what": "contact T1", "mark": "900 mm"}
    assert browser.post(mine, contact).status_code == 302
    assert BoardChannel.objects.get(key="float").mark == pytest.approx(0.9)
    watch = reverse("keep_watch", args=[saved.key])
    wrong = {"quiet_from": "25:00", "quiet_until": "07:00", "also_to": "nobody"}
    assert "a time of the day" in browser.post(watch, wrong).content.decode()
    wrong = {"quiet_from": "22:00", "quiet_until": "07:00", "also_to": "nobody"}
    assert "no e-mail address" in browser.post(watch, wrong).content.decode()
    right = {"quiet_from": "21:30", "quiet_until": "06:00", "also_to": "", "ways": ["mail"]}
    assert browser.post(watch, right).status_code == 302
    assert 'value="21:30"' in browser.get(page).content.decode()


def test_only_a_simulated_board_fails_on_demand(browser: Client, saved: SavedPlan) -> None:
    fault = reverse("rig_fault", args=[saved.key])
    assert browser.post(fault, {"failure": "blocked R2"}).status_code == 422
    browser.post(reverse("new_board", args=[saved.key]), {"simulated": "1"})
    assert browser.post(fault, {"failure": "blocked X9"}).status_code == 422
    assert browser.post(fault, {"failure": "blocked R2"}).status_code == 302
    page = browser.get(reverse("instruments", args=[saved.key])).content.decode()
    assert "Failing until" in page
    again = browser.post(reverse("new_board", args=[saved.key]), {"simulated": "1"})
    assert "a simulated board already" in again.content.decode()


_FILE = (
    "\ufeffDatum;level-t1;Pumpe\r\n"
    "28.03.2026 00:59;561,5;18,1\r\n"
    "28.03.2026 01:04;=1+1;18,2\r\n"
    "29.03.2026 02:30;562,0;18,0\r\n"
    "morgen;1;2\r\n"
    "30.03.2026 10:00;99999,0;\r\n"
)


def test_readings_out_of_a_file_are_looked_at_and_then_taken(
    board: tuple[Board, str], browser: Client, saved: SavedPlan
) -> None:
    address = reverse("readings_file", args=[saved.key])
    sent = SimpleUploadedFile("log.csv", _FILE.encode("utf-8"), "text/csv")
    assert browser.post(address, {"file": sent}).status_code == 302
    page = browser.get(address).content.decode()
    assert "decimals with a comma" in page
    assert not Reading.objects.exists()
    watts = board[0].channels.get(key="watts-p1")
    level = board[0].channels.get(key="level-t1")
    asked = {
        "times": "0",
        "zone": "Europe/Berlin",
        "order": "day",
        "column-1": str(level.pk),
        "column-2": str(watts.pk),
    }
    looked = browser.post(address, asked | {"act": "look"}).content.decode()
    assert "is a formula" in looked
    taken = browser.post(address, asked | {"act": "take"}).content.decode()
    assert "3 readings taken" in taken
    assert "clocks are put forward" in taken
    assert "cannot be so" in taken
    first = Reading.objects.filter(channel=level).earliest("at")
    assert first.at == datetime(2026, 3, 27, 23, 59, tzinfo=UTC)
    assert first.value == pytest.approx(0.5615)
    assert "at most 2 MB" in browser.get(address).content.decode()  # it is kept no longer


@pytest.mark.parametrize(
    ("data", "why"),
    [
        (b"", "It needs a first row"),
        (b"only heads\n", "It needs a first row"),
        (b"\xff\x00\xfe", "letters cannot be read"),
        (b"a,b\n" * 600_000, "at most 2 MB"),
    ],
)
def test_a_file_that_is_none_is_told(
    browser: Client, saved: SavedPlan, board: tuple[Board, str], data: bytes, why: str
) -> None:
    address = reverse("readings_file", args=[saved.key])
    answer = browser.post(address, {"file": SimpleUploadedFile("x.csv", data, "text/csv")})
    assert answer.status_code == 422
    assert why in answer.content.decode()


def test_a_zone_that_is_none_is_told(
    browser: Client, saved: SavedPlan, board: tuple[Board, str]
) -> None:
    address = reverse("readings_file", args=[saved.key])
    browser.post(address, {"file": SimpleUploadedFile("x.csv", _FILE.encode(), "text/csv")})
    answer = browser.post(address, {"act": "look", "zone": "Nowhere/Town", "times": "0"})
    assert "is no time zone" in answer.content.decode()


def test_charts_of_each_span_are_drawn(
    board: tuple[Board, str], browser: Client, saved: SavedPlan, demo_plan: Plan
) -> None:
    now = timezone.now()
    _play(board[0], demo_plan, now)
    channel = board[0].channels.get(key="level-t1")
    address = reverse("instrument", args=[saved.key, channel.pk])
    for span in ("day", "week", "month", "year", "else"):
        page = browser.get(address, {"span": span}).content.decode()
        assert "data-plot" in page
    cache.clear()


def test_tidying_takes_turns(board: tuple[Board, str]) -> None:
    from bathys_web.instruments.actions.tidy import tidy_readings

    cache.delete("instruments.tidied")
    tidy_readings()
    assert cache.get("instruments.tidied") == 1
    assert take_readings(board[0], []).kept == 0


@pytest.fixture
def broker(tmp_path: Path) -> Iterator[int]:
    """A real broker on loopback; its port."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = int(probe.getsockname()[1])
    rules = tmp_path / "broker.conf"
    rules.write_text(f"listener {port} 127.0.0.1\nallow_anonymous true\n")
    server = subprocess.Popen(["/usr/sbin/mosquitto", "-c", str(rules)], stderr=subprocess.DEVNULL)
    try:
        for _ in range(100):
            with contextlib.suppress(OSError), socket.create_connection(("127.0.0.1", port), 1.0):
                break
            time.sleep(0.05)
        yield port
    finally:
        server.terminate()
        server.wait()


def test_boards_publish_at_a_broker_and_are_answered(broker: int, board: tuple[Board, str]) -> None:
    answers: queue.Queue[dict[str, Any]] = queue.Queue()
    ready = threading.Event()
    heard = listener("127.0.0.1", broker)
    heard.on_subscribe = lambda *_: ready.set()
    mine = mqtt.Client(CallbackAPIVersion.VERSION2)
    mine.on_message = lambda _c, _u, message: answers.put(json.loads(message.payload))
    mine.connect("127.0.0.1", broker)
    mine.subscribe(f"{ANSWERS}#")
    mine.loop_start()
    heard.loop_start()
    try:
        assert ready.wait(10.0)

        def publish(**body: Any) -> dict[str, Any]:
            mine.publish(TOPIC, json.dumps({"reply": "sump-1", **body}), qos=1)
            return answers.get(timeout=10.0)

        told = publish(token=board[1], readings=[_level(560.0)])
        assert (told["status"], told["kept"]) == (200, 1)
        assert publish(token="another", readings=[_level(561.0)])["status"] == 401
        assert publish(token=board[1], readings=7)["status"] == 400
        mine.publish(TOPIC, b"{", qos=1)  # nobody is answered, and nothing ends
        mine.publish(TOPIC, json.dumps({"token": board[1], "reply": "../#"}), qos=1)
        assert publish(token=board[1], readings=[_level(562.0)])["kept"] == 1
        assert Reading.objects.count() == 2
    finally:
        heard.loop_stop()
        mine.loop_stop()


def test_boards_and_readings_are_in_the_archive_of_ones_own_data(
    board: tuple[Board, str], browser: Client
) -> None:
    _send(board[1], {"readings": [_level(560.0)]})
    content = browser.get(reverse("own_data")).content
    with zipfile.ZipFile(io.BytesIO(content)) as archive:
        names = {name.rpartition("/")[2]: name for name in archive.namelist()}
        told = json.loads(archive.read(names["boards.json"]))
        assert told["boards"][0]["name"] == "Sump board"
        assert "token" not in archive.read(names["boards.json"]).decode()
        assert "level-t1" in archive.read(names["readings.csv"]).decode()
        assert "trials.json" in names


def test_what_turns_grave_is_told_though_something_else_was_seen(
    board: tuple[Board, str], saved: SavedPlan, demo_plan: Plan, owner: Any
) -> None:
    """Somebody has seen that one gauge is silent; then a drain clogs while it still is."""
    now = timezone.now()
    keep_watch(saved, owner, ["mail"], "", (0, 0), "UTC")
    _play(board[0], demo_plan, now - timedelta(hours=1))
    look_after(saved, now)
    first = look_after(saved, now)
    assert first is not None
    assert not first.is_grave
    Incident.objects.update(seen=now)
    sent = len(mail.outbox)
    Reading.objects.all().delete()
    Rollup.objects.all().delete()
    later = now + timedelta(hours=2)
    _play(board[0], demo_plan, later, Failure("blocked", "R2"))
    level = board[0].channels.get(key="ph-t1")
    Rollup.objects.filter(channel=level, begin__gt=later - timedelta(hours=1)).delete()
    grave = look_after(saved, later)
    assert grave is not None
    assert grave.pk == first.pk
    assert grave.is_grave
    assert grave.seen is None
    assert len(mail.outbox) == sent + 1


def test_where_nothing_is_measured_any_longer_nothing_is_wrong(
    board: tuple[Board, str], saved: SavedPlan, owner: Any
) -> None:
    Incident.objects.create(plan=saved, began=timezone.now())
    take_token_back(board[0], owner)
    assert Incident.objects.get().ended is not None


def test_a_month_that_another_process_dropped_is_made_again(board: tuple[Board, str]) -> None:
    channel, old = board[0].channels.all()[0], timezone.now() - timedelta(days=200)
    write_readings([(channel.pk, old, 0.5)])
    with connection.cursor() as cursor:
        cursor.execute(f"DROP TABLE instruments_reading_{old:%Y_%m}")
    assert write_readings([(channel.pk, old + timedelta(seconds=1), 0.5)]) == 1


def test_every_refused_row_is_told(board: tuple[Board, str]) -> None:
    told = _send(board[1], {"readings": ["x"] * 120}).json()
    assert [row["row"] for row in told["refused"]] == list(range(1, 121))


def test_a_plan_that_is_not_followed_is_watched_for_what_needs_no_levels(
    board: tuple[Board, str],
    demo_plan: Plan,
    saved: SavedPlan,
    browser: Client,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    """Why is told on the page; nothing is expected of levels; a pump that stopped and a board that
    fell silent give alarm all the same, without a cause."""

    def refuses(*_: Any) -> Any:
        raise NotSimulated("its two pumps hunt.")

    for module in ("computations", "expecting"):
        monkeypatch.setattr(f"bathys_web.instruments.{module}.find_periodic_state", refuses)
    now = timezone.now()
    watts = board[0].channels.get(key="watts-p1")
    level = board[0].channels.get(key="level-t1")
    rows = [(watts.pk, now - timedelta(minutes=m), 0.0) for m in range(30)]
    rows += [(level.pk, now - timedelta(minutes=m), 99.0) for m in range(300, 330)]
    write_readings(rows)
    Board.objects.update(heard=now)
    incident = look_after(saved, now) or look_after(saved, now)
    assert incident is not None
    assert {a.kind for a in incident.alarms.all()} == {"stopped", "silent"}
    assert incident.causes == []
    page = browser.get(reverse("instruments", args=[saved.key])).content.decode()
    assert "its two pumps hunt." in page
    assert "no failure is recognised" in page
    assert "Every failure that is simulated" not in page
