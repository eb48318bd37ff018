"""Accounts: passwords, guesses, what a stranger can learn, what a browser keeps."""

import csv
import io
import json
import os
import subprocess
import sys
import threading
import zipfile
from collections import Counter
from datetime import timedelta
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.core.management import call_command
from django.http import HttpRequest, HttpResponse
from django.test import Client, RequestFactory
from django.urls import reverse
from django.utils import timezone

from bathys.plan import load_plan
from bathys_web.accounts.guesses import seconds_to_wait
from bathys_web.accounts.models import Guesses
from bathys_web.config.middleware import FairShare
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.models import OwnPump, SavedPlan
from bathys_web.plans.storing import plan_of
from tests.queue_worker import until

pytestmark = pytest.mark.django_db
PHRASE = "a long pass phrase"
EMAIL = "a@b.example"


@pytest.fixture
def account() -> Any:
    """Somebody with a password."""
    return get_user_model().objects.create_user("a", EMAIL, PHRASE)


def _sign_in(client: Client, password: str, address: str = "10.0.0.1") -> str:
    answer = client.post(
        reverse("account_login"), {"login": EMAIL, "password": password}, REMOTE_ADDR=address
    )
    return "in" if answer.status_code == 302 else answer.content.decode()


@pytest.mark.parametrize(
    "password", ["x", "a@b.example", "48210937465", "password1", "A@B.EXAMPLE"]
)
def test_a_weak_password_is_refused(password: str) -> None:
    """Short, the address itself, all digits, on every list; the address typed is kept."""
    page = Client().post(reverse("account_signup"), {"email": EMAIL, "password1": password})
    assert page.status_code == 200
    assert f'value="{EMAIL}"' in page.content.decode()
    assert not get_user_model().objects.exists()


def test_making_an_account_does_not_tell_which_addresses_exist(account: Any) -> None:
    """The answer is the same, and the account that was there is untouched."""
    answers = []
    for email in ("new@b.example", EMAIL, "A@B.example"):
        typed = {"email": email, "password1": "other phrase"}
        made = Client().post(reverse("account_signup"), typed, follow=True)
        answers.append((made.redirect_chain, made.content.decode().split("<main")[1][:600]))
    assert answers[0][0] == answers[1][0] == answers[2][0]
    assert "its old password holds" in answers[1][1]
    assert get_user_model().objects.count() == 2
    account.refresh_from_db()
    assert account.check_password(PHRASE)


def test_wrong_guesses_wait_longer_and_longer_and_lock_nobody_out(account: Any) -> None:
    """A stranger guesses on; the owner's own device signs in all the while, and any other as soon
    as the wait is over."""
    owner, stranger = Client(), Client()
    assert _sign_in(owner, PHRASE, "10.0.0.1") == "in"
    owner.post(reverse("account_logout"))
    told = [_sign_in(stranger, f"wrong {n}", "10.9.9.9") for n in range(8)]
    assert "do not go together" in told[0]
    assert any("then try again" in words for words in told[5:])
    for n in range(20):  # from everywhere
        _sign_in(Client(), f"wrong {n}", f"10.8.0.{n}")
    assert _sign_in(owner, PHRASE, "10.0.0.1") == "in"
    elsewhere = Client()
    seen = _sign_in(elsewhere, PHRASE, "10.7.0.1")
    assert seen == "in" or "Wait" in seen
    Guesses.objects.update(until=timezone.now() - timedelta(seconds=1))
    assert _sign_in(elsewhere, PHRASE, "10.7.0.1") == "in"


def test_waits_grow_to_a_cap_and_early_guesses_do_not_count() -> None:
    waits = []
    for _ in range(40):
        for _ in range(2):  # the second one is looked at only where the first was free
            wait = seconds_to_wait("10.0.0.1", EMAIL, is_known_device=False)
        waits.append(wait)
        Guesses.objects.update(until=None)
    assert waits[:3] == [0, 0, 1]
    assert waits == sorted(waits)
    assert waits[-1] == 900
    assert seconds_to_wait("10.0.0.2", "other@b.example", is_known_device=False) == 0


def test_a_forged_device_is_not_known(account: Any) -> None:
    client = Client()
    client.cookies["device"] = "anything:at:all"
    assert "do not go together" in _sign_in(client, "wrong")


def test_no_cache_keeps_what_somebody_signed_in_saw(browser: Client, saved: SavedPlan) -> None:
    """Not the pages, not the pieces, not the file."""
    for address in (
        reverse("plans"),
        reverse("plan", args=[saved.key]),
        reverse("inspector", args=[saved.key]),
        reverse("export", args=[saved.key]),
        reverse("offers", args=[saved.key, "gains"]),
    ):
        kept = browser.get(address)["Cache-Control"]
        assert "no-store" in kept
        assert "private" in kept


def test_the_deployed_settings_have_no_warning() -> None:
    """As they are behind HTTPS."""
    environment = {**os.environ, "BATHYS_HTTPS": "1", "BATHYS_DEMO": "0"}
    environment.pop("DJANGO_ALLOW_ASYNC_UNSAFE", None)  # the browser's tests want it
    done = subprocess.run(
        [sys.executable, "tools/manage.py", "check", "--deploy", "--fail-level", "WARNING"],
        env=environment,
        capture_output=True,
        text=True,
        check=False,
    )
    assert done.returncode == 0, done.stderr
    call_command("makemigrations", "--check", "--dry-run", verbosity=0)


def test_one_visitor_does_not_hold_every_thread() -> None:
    """Three at work at a time, more wait for their own, very many are told; others come through."""
    go, entered, answered = threading.Event(), Counter[str](), list[int]()

    def slow(request: HttpRequest) -> HttpResponse:
        entered[request.COOKIES["sessionid"]] += 1
        go.wait(20.0)
        return HttpResponse("done")

    share = FairShare(slow)

    def ask(who: str) -> None:
        request = RequestFactory().get("/")
        request.COOKIES["sessionid"] = who
        answered.append(share(request).status_code)

    threads = [threading.Thread(target=ask, args=("busy",)) for _ in range(15)]
    threads.append(threading.Thread(target=ask, args=("quiet",)))
    for thread in threads:
        thread.start()
    until(lambda: entered["quiet"] == 1 and len(answered) == 3)
    assert entered["busy"] == 3
    go.set()
    for thread in threads:
        thread.join(20.0)
    assert Counter(answered) == {200: 13, 429: 3}


def test_all_my_data_come_in_one_archive(browser: Client, owner: Any, saved: SavedPlan) -> None:
    """Account, pumps, and each plan with its history; a plan in it is imported as it was."""
    OwnPump.objects.create(owner=owner, name="=Pond", max_flow=1e-3, max_head=3.0, power=40.0)
    edit = {"path": "vessels.B1.floor_height", "text": "1.3 m", "base": 1, "part": "B1"}
    browser.post(reverse("edit", args=[saved.key]), edit, headers={"HX-Request": "true"})
    browser.post(reverse("label", args=[saved.key]), {"labels": "yard"})
    note = {"part": "", "words": "water in"}
    browser.post(reverse("enter", args=[saved.key, "note"]), note)
    answer = browser.get(reverse("own_data"))
    archive = zipfile.ZipFile(io.BytesIO(answer.content))
    names = archive.namelist()
    folder = next(n for n in names if n.endswith("/plan.json")).removesuffix("plan.json")
    assert {"README.txt", "account.json", "pumps.json"} < set(names)
    assert json.loads(archive.read("account.json"))["email"] == owner.email
    assert json.loads(archive.read("pumps.json"))[0]["name"] == "=Pond"
    assert json.loads(archive.read(f"{folder}about.json"))["labels"] == ["yard"]
    log = json.loads(archive.read(f"{folder}log.json"))
    assert [(row["kind"], row["values"]) for row in log] == [("note", {"words": "water in"})]
    assert len([n for n in names if n.startswith(f"{folder}revisions/")]) == 2
    history = list(csv.reader(io.StringIO(archive.read(f"{folder}history.csv").decode())))
    assert [row[0] for row in history] == ["number", "1", "2"]
    assert "1.3 m (1,300 mm)" in history[2][3]
    saved.refresh_from_db()
    assert load_plan(archive.read(f"{folder}plan.json")) == plan_of(saved.current)


def test_an_account_is_deleted_with_all_that_is_its_own(account: Any, demo_plan: Any) -> None:
    """Only with its password; nobody else's plan goes, and one cannot sign in any more."""
    other = get_user_model().objects.create_user("o", "o@b.example", PHRASE)
    kept = create_plan(other, demo_plan, "made for a test")
    create_plan(account, demo_plan, "made for a test")
    OwnPump.objects.create(owner=account, name="Pond", max_flow=1e-3, max_head=3.0, power=40.0)
    client = Client()
    client.force_login(account)
    wrong = client.post(reverse("delete_account"), {"password": "not it"})
    assert wrong.status_code == 422
    assert "Nothing was deleted" in wrong.content.decode()
    assert SavedPlan.objects.count() == 2
    gone = client.post(reverse("delete_account"), {"password": PHRASE}, follow=True)
    assert "are deleted" in gone.content.decode()
    assert list(SavedPlan.objects.all()) == [kept]
    assert not OwnPump.objects.exists()
    assert _sign_in(Client(), PHRASE) != "in"
