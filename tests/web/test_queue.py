"""The queue: computed once however many ask, shared fairly, taken up again, kept apart, signed."""

import pickle
import re
import signal
import threading
from dataclasses import asdict
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.db import connection
from django.test import Client
from django.urls import reverse
from procrastinate.contrib.django.models import ProcrastinateJob

from bathys.plan import document_hash, load_plan
from bathys.simulation import Abandoned
from bathys_web.computing import working
from bathys_web.computing.asking import MOST_OPEN, Answer, answer_to, ask, so_far_of, stop
from bathys_web.computing.kinds import IsWanted, computation
from bathys_web.computing.models import Computation
from bathys_web.computing.results import BadResult, pack, unpack
from bathys_web.computing.working import prune, take_up_stalled, work_on
from bathys_web.plans import offers
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.benches.hours import ScenarioForm
from bathys_web.plans.models import SavedPlan
from bathys_web.plans.storing import plan_of
from tests.conftest import EXAMPLE
from tests.queue_worker import until, worker

HTMX = {"HX-Request": "true"}
pytestmark = [pytest.mark.django_db(transaction=True), pytest.mark.queued]


@computation("test")
def _test(plan: Any, words: Any, is_wanted: IsWanted) -> str:
    """Goes on as long as it is told to, then says what it was asked."""
    if words.get("breaks"):
        raise RuntimeError("broken on purpose")
    if words.get("shows"):
        is_wanted.show({"so": "far"})
        running = Computation.objects.get(state=Computation.State.RUNNING)
        return str(so_far_of(Answer("running", running.pk)))
    while words.get("waits"):
        if not is_wanted(0.4):
            raise Abandoned
        if not words.get("until"):
            break
    return f"{plan.name}: {words.get('say')}"


def _ask(saved: SavedPlan, words: dict[str, Any], user: Any = None, kind: str = "test") -> Any:
    plan = plan_of(saved.head)
    return ask(kind, document_hash(plan), plan, words, user or saved.owner, str(saved.key))


def _look(saved: SavedPlan, words: dict[str, Any], kind: str = "test") -> Any:
    return answer_to(kind, saved.head.content_hash, words)


def _hours(hours: str) -> dict[str, Any]:
    return {"form": asdict(ScenarioForm(hours=hours)), "units": "metric"}


def test_however_many_ask_it_is_computed_once(saved: SavedPlan, stranger: Any) -> None:
    """And each finds the same result; what two wait for neither can stop."""
    other = create_plan(stranger, plan_of(saved.head), "the same plan")
    one, two = _ask(saved, {"say": "a"}), _ask(other, {"say": "a"})
    assert one.number == two.number
    assert one.state == "waiting"
    stop(one.number, str(saved.key))
    assert _look(saved, {"say": "a"}).state == "waiting"
    row = Computation.objects.get()
    work_on(row.key, "first", "quick")
    work_on(row.key, "second", "quick")
    row.refresh_from_db()
    assert (row.state, row.worker) == ("done", "first")
    assert _look(other, {"say": "a"}).result == f"{plan_of(saved.head).name}: a"
    assert _ask(saved, {"say": "a"}).is_done


def test_what_is_found_so_far_can_be_seen_until_all_is(saved: SavedPlan) -> None:
    """Only while it runs, and only what this server wrote."""
    asked = _ask(saved, {"shows": True})
    row = Computation.objects.get()
    assert so_far_of(asked) is None
    work_on(row.key, "first", "quick")
    assert _look(saved, {"shows": True}).result == str({"so": "far"})
    assert so_far_of(asked) is None
    Computation.objects.update(state=Computation.State.RUNNING, result=b"x" * 60)
    assert so_far_of(asked) is None


def test_looking_writes_nothing(browser: Client, saved: SavedPlan) -> None:
    """Not one page that is got puts anything on the queue."""
    for name, more in (
        ("offers", "dynamic"),
        ("bench", "hours"),
        ("bench", "levels"),
        ("bench", "siphon"),
    ):
        page = browser.get(reverse(name, args=[saved.key, more]), headers=HTMX).content.decode()
        assert 'class="ask-for"' in page
    assert browser.get(reverse("play", args=[saved.key])).status_code == 405
    assert not Computation.objects.exists()


def test_a_user_has_a_cap_and_later_turns(saved: SavedPlan, stranger: Any) -> None:
    """The thirteenth is refused with a sentence; somebody else is not, and comes before."""
    for number in range(MOST_OPEN):
        assert _ask(saved, {"say": number}).is_open
    refused = _ask(saved, {"say": "more"})
    assert refused.state == "refused"
    assert "stop one" in refused.why
    assert _ask(saved, {"say": 3}).is_open
    other = create_plan(stranger, plan_of(saved.head), "the same plan")
    assert _ask(other, {"say": "mine"}, stranger).is_open
    keys = set(Computation.objects.values_list("key", flat=True))
    jobs = ProcrastinateJob.objects.values_list("args", "priority")
    turns = sorted(priority for args, priority in jobs if args["key"] in keys)
    assert turns == sorted([*range(1 - MOST_OPEN, 1), 0])


def test_what_a_page_asked_of_the_plan_before_is_given_up(
    saved: SavedPlan, browser: Client
) -> None:
    """Also while it runs; what it asked of the plan as it is stays."""
    first, second = _ask(saved, {"say": "a"}), _ask(saved, {"say": "b"})
    assert _look(saved, {"say": "a"}).is_open
    edit = {"base": "1", "path": "vessels.T1.freeboard", "text": "7 cm", "part": "T1"}
    browser.post(reverse("edit", args=[saved.key]), edit, headers=HTMX)
    saved.refresh_from_db()
    _ask(saved, {"say": "a"})
    states = dict(Computation.objects.values_list("pk", "state"))
    assert (states[first.number], states[second.number]) == ("stopped", "stopped")
    assert _look(saved, {"say": "a"}).is_open


def test_what_is_stopped_or_outlived_while_it_runs_publishes_nothing(
    saved: SavedPlan, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Its heart finds out; asked for again it begins again."""
    monkeypatch.setattr(working, "_BEAT", 0.01)
    number = _ask(saved, {"waits": True, "until": "unwanted"}).number
    row = Computation.objects.get(pk=number)
    threading.Timer(0.5, lambda: _stop_elsewhere(number, str(saved.key))).start()
    work_on(row.key, "a worker", "quick")
    assert _look(saved, {"waits": True, "until": "unwanted"}).state == "stopped"
    assert _ask(saved, {"waits": True, "until": "unwanted"}).state == "waiting"


def _stop_elsewhere(number: int, desk: str) -> None:
    stop(number, desk)
    connection.close()


def test_what_breaks_is_told_and_may_be_asked_for_again(saved: SavedPlan) -> None:
    """In a sentence; the words of the error stay in the log."""
    row = Computation.objects.get(pk=_ask(saved, {"breaks": True}).number)
    work_on(row.key, "a worker", "quick")
    found = _look(saved, {"breaks": True})
    assert found.state == "failed"
    assert "on purpose" not in found.why
    assert _ask(saved, {"breaks": True}).state == "waiting"


def test_a_result_is_taken_from_this_server_only(saved: SavedPlan, settings: Any) -> None:
    """Whoever can write to the table cannot have code run: what is not signed is not read."""
    good = pack({"a": 1})
    assert unpack(good) == {"a": 1}
    for bad in (pickle.dumps({"a": 1}), good[:-1] + b"x", b"", good[32:]):
        with pytest.raises(BadResult):
            unpack(bad)
    number = _ask(saved, {"say": "forged"}).number
    Computation.objects.filter(pk=number).update(state="done", result=b"0" * 80)
    assert _look(saved, {"say": "forged"}).state == "unasked"
    assert _ask(saved, {"say": "forged"}).state == "waiting"
    settings.SECRET_KEY = "another"
    with pytest.raises(BadResult):
        unpack(good)


def test_old_results_are_dropped(saved: SavedPlan, monkeypatch: pytest.MonkeyPatch) -> None:
    for number in range(5):
        row = Computation.objects.get(pk=_ask(saved, {"say": number}).number)
        work_on(row.key, "a worker", "quick")
    monkeypatch.setattr(working, "_MOST_ROWS", 3)
    assert prune() == 2
    assert not _look(saved, {"say": 0}).is_done
    assert Computation.objects.count() == 3


def test_a_worker_killed_in_mid_job_loses_nothing(saved: SavedPlan, owner: Any) -> None:
    """Another takes it up, and its result is published once; a worker that is told to stop gives
    its work back at once."""
    beds = create_plan(owner, load_plan((EXAMPLE.parent / "twelve-beds.json").read_bytes()), "made")
    row = Computation.objects.get(pk=_ask(beds, {}, kind="resilience").number)
    assert row.lane == "long"

    def state() -> str:
        row.refresh_from_db()
        return row.state

    with worker("long") as first:
        until(lambda: state() == "running")
        first.send_signal(signal.SIGTERM)
        until(lambda: state() == "waiting")
        assert first.wait(10) == 0
    with worker("long") as second:
        until(lambda: state() == "running")
        second.kill()
        second.wait()
        with worker("long"):
            claimed = row.worker
            until(lambda: state() == "running" and row.worker != claimed)
            assert row.attempts == 1
            until(lambda: state() == "done")
    found = _look(beds, {}, "resilience")
    assert found.result.resilience.sumps
    assert take_up_stalled() == 0


def test_long_runs_of_one_do_not_hold_up_a_short_one_of_another(
    saved: SavedPlan, owner: Any, stranger: Any
) -> None:
    """Eight months of twelve beds lie in a lane of their own."""
    beds = create_plan(owner, load_plan((EXAMPLE.parent / "twelve-beds.json").read_bytes()), "made")
    months = [_hours(str(744 - n)) for n in range(8)]
    for form in months:
        assert _ask(beds, form, kind="hours").is_open
    other = create_plan(stranger, plan_of(saved.head), "the same plan")
    with worker("quick"), worker("long"):
        until(lambda: Computation.objects.filter(state="running").exists())
        _ask(other, _hours("48"), stranger, "hours")
        until(lambda: _look(other, _hours("48"), "hours").is_done)
        assert not any(_look(beds, form, "hours").is_done for form in months)
        Computation.objects.filter(state__in=("waiting", "running")).update(state="stopped")


def test_a_run_of_minutes_lets_others_in_between(
    saved: SavedPlan, stranger: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Once another user's lies in the same lane, it is worked on within it, and both come."""
    monkeypatch.setattr(working, "_TURN", -1.0)
    other = create_plan(stranger, plan_of(saved.head), "the same plan")
    mine = Computation.objects.get(pk=_ask(saved, {"waits": True, "say": "mine"}).number)
    again = Computation.objects.get(pk=_ask(saved, {"say": "mine too"}).number)
    theirs = Computation.objects.get(pk=_ask(other, {"say": "theirs"}, stranger).number)
    Computation.objects.update(lane="long")
    work_on(mine.key, "a worker", "long")
    ended = list(Computation.objects.filter(state="done").order_by("ended").values_list("key"))
    assert ended == [(theirs.key,), (mine.key,)]
    assert _look(saved, {"say": "mine too"}).state == "waiting"
    work_on(again.key, "a worker", "long")
    assert _look(saved, {"say": "mine too"}).is_done


def test_a_worker_leaves_alone_what_another_engine_is_to_compute(saved: SavedPlan) -> None:
    """While an update is under way, nothing of the old engine is told as the new one's."""
    row = Computation.objects.get(pk=_ask(saved, {"say": "new"}).number)
    Computation.objects.update(engine="another")
    work_on(row.key, "an old worker", "quick")
    assert _look(saved, {"say": "new"}).state == "waiting"
    jobs = ProcrastinateJob.objects.filter(args__key=row.key, scheduled_at__isnull=False)
    assert jobs.count() == 1


def test_what_takes_too_long_is_given_up(saved: SavedPlan, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(working, "_MOST", -1.0)
    row = Computation.objects.get(pk=_ask(saved, {"waits": True}).number)
    work_on(row.key, "a worker", "long")
    assert "fewer hours" in _look(saved, {"waits": True}).why


def test_what_turns_out_long_goes_on_in_the_long_lane(
    saved: SavedPlan, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(working, "_QUICK", -1.0)
    row = Computation.objects.get(pk=_ask(saved, {"waits": True}).number)
    work_on(row.key, "a worker", "quick")
    row.refresh_from_db()
    assert (row.state, row.lane) == ("waiting", "long")
    work_on(row.key, "a worker", "long")
    assert _look(saved, {"waits": True}).is_done


def test_a_page_that_cannot_wait_is_told_to_ask_again(browser: Client, saved: SavedPlan) -> None:
    """Findings, what the sumps must hold, the beds together and hours; each says so, can be looked
    at again without a script, and hours can be stopped."""
    dynamic = reverse("offers", args=[saved.key, "dynamic"])
    page = browser.post(dynamic, headers=HTMX).content.decode()
    assert 'hx-target="closest .dynamic"' in page
    assert "waiting in the queue" in page
    for bench, part in (("levels", "levels-dynamic"), ("siphon", "cycles")):
        address = reverse("bench", args=[saved.key, bench])
        page = browser.post(address, headers=HTMX).content.decode()
        assert f'hx-select="#{part}"' in page
        assert f'id="{part}"' in page
    hours = reverse("bench", args=[saved.key, "hours"])
    plain = browser.post(hours, {"hours": "168", "cut": "", "lasts": "", "event": ""})
    assert plain.status_code == 302
    assert "hours=168" in plain.url
    page = browser.get(plain.url).content.decode()
    assert "waiting in the queue" in page
    number = Computation.objects.get(kind="hours").pk
    address = reverse("stop_computation", args=[saved.key, number])
    answer = browser.post(address, {"query": "hours=168&cut=&lasts=&event="}, follow=True)
    told = answer.content.decode()
    assert "Stopped." in told
    assert 'value="168"' in told


def test_a_strangers_computation_cannot_be_stopped(saved: SavedPlan, stranger: Any) -> None:
    number = _ask(saved, {"say": "a"}).number
    client = Client()
    client.force_login(stranger)
    other = create_plan(stranger, plan_of(saved.head), "another")
    for key in (saved.key, other.key):
        client.post(reverse("stop_computation", args=[key, number]))
        assert _look(saved, {"say": "a"}).is_open
    assert get_user_model().objects.count() == 2


def test_searches_through_a_large_plan_are_left_to_the_workers(
    browser: Client, owner: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The same list comes out as where it is searched at once."""
    plan = load_plan((EXAMPLE.parent / "split-flow.json").read_bytes())
    saved = create_plan(owner, plan, "made")
    address = reverse("offers", args=[saved.key, "gains"])
    at_once = _plain(browser.get(address, headers=HTMX).content.decode())
    monkeypatch.setattr(offers, "_FEW_RUNS", 3)
    assert "Search" in browser.get(address, headers=HTMX).content.decode()
    assert "waiting in the queue" in browser.post(address, headers=HTMX).content.decode()
    work_on(Computation.objects.get().key, "a worker", "quick")
    assert _plain(browser.get(address, headers=HTMX).content.decode()) == at_once


def _plain(page: str) -> str:
    """A page without the tokens of its forms and the seals of its offers, which tell the second."""
    return re.sub(r'((?:csrfmiddlewaretoken|offer)" value=")[^"]*', r"\1", page)
