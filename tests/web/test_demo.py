"""Demo accounts: each visitor's own, deleted after a day, kept on request."""

import re
from datetime import timedelta
from typing import Any

import pytest
from allauth.core.ratelimit import consume
from django.contrib.auth import get_user_model
from django.contrib.auth.models import AnonymousUser
from django.core.cache import cache
from django.test import Client, RequestFactory, override_settings
from django.urls import reverse
from django.utils import timezone

from bathys_web.accounts.models import DemoAccount
from bathys_web.computing.housekeeping import keep_house
from bathys_web.plans.models import OwnPump, SavedPlan

pytestmark = pytest.mark.django_db
PHRASE = "a long pass phrase"
EMAIL = "new@b.example"


def _visitor() -> Client:
    """Somebody in a demo account of their own."""
    client = Client()
    with override_settings(DEMO=True):
        assert client.post(reverse("demo_sign_in")).status_code == 302
    return client


def _page(client: Client, name: str = "plans") -> str:
    return client.get(reverse(name)).content.decode()


def _words(page: str) -> str:
    """What is read on a page."""
    return re.sub(r"<[^>]*>", "", page.split("<main")[1])


def _own_plan(client: Client) -> SavedPlan:
    return SavedPlan.objects.filter(owner_id=client.session["_auth_user_id"])[0]


def _change(client: Client, text: str = "1.3 m") -> SavedPlan:
    saved = _own_plan(client)
    edit = {"path": "vessels.B1.floor_height", "text": text, "base": 1, "part": "B1"}
    answer = client.post(reverse("edit", args=[saved.key]), edit, headers={"HX-Request": "true"})
    assert answer.status_code == 200
    return saved


def _keep(client: Client, email: str = EMAIL, password: str = PHRASE) -> str:
    typed = {"email": email, "password1": password}
    return client.post(reverse("keep_demo"), typed, follow=True).content.decode()


def _sign_in(client: Client, email: str, password: str = PHRASE) -> str:
    typed = {"login": email, "password": password}
    return client.post(reverse("account_login"), typed, follow=True).content.decode()


def test_each_visitor_has_a_copy_of_their_own() -> None:
    """What one changes, the other does not see, nor may open; the demo has no password."""
    one, other = _visitor(), _visitor()
    saved = _change(one)
    assert SavedPlan.objects.count() == 6
    assert other.get(reverse("plan", args=[saved.key])).status_code == 404
    assert _own_plan(other).current.number == 1
    assert "Heron Lane" in _page(other)
    assert "Keep this as my account" in _page(other)
    assert "Change password" not in _page(other)
    for name in ("account_change_password", "account_email", "delete_account"):
        assert other.get(reverse(name)).status_code == 404


def test_without_demo_mode_there_is_no_demo() -> None:
    with override_settings(DEMO=False):
        assert Client().post(reverse("demo_sign_in")).status_code == 404
        assert "demo account" not in _page(Client(), "account_login")


def test_one_address_starts_only_so_many() -> None:
    """Each takes room in the database for a day."""
    cache.clear()  # what other tests that end in the database have used up
    request = RequestFactory().post(reverse("demo_sign_in"))
    request.user = AnonymousUser()
    for _ in range(57):  # as if so many had come from there before
        assert consume(request, action="demo")
    for _ in range(3):
        _visitor()
    with override_settings(DEMO=True):
        told = Client().post(reverse("demo_sign_in"), follow=True).content.decode()
    assert "Try again in an hour" in told
    assert DemoAccount.objects.count() == 3


def test_a_demo_account_is_deleted_after_a_day() -> None:
    """By the workers; a younger one, and everybody else's plans, stay."""
    old, young = _visitor(), _visitor()
    made = timezone.now() - timedelta(hours=24, seconds=1)
    DemoAccount.objects.filter(user_id=old.session["_auth_user_id"]).update(created=made)
    keep_house()
    assert DemoAccount.objects.count() == 1
    assert SavedPlan.objects.count() == 3
    assert "Heron Lane" in _page(young)
    assert "Heron Lane" not in old.get("/", follow=True).content.decode()


def test_signing_out_deletes_a_demo_account_and_says_so_first() -> None:
    client = _visitor()
    assert "Signing out deletes it" in _page(client, "account_logout")
    assert SavedPlan.objects.count() == 3
    client.post(reverse("account_logout"))
    assert not SavedPlan.objects.exists()
    assert not DemoAccount.objects.exists()


def test_a_demo_is_kept_as_a_new_account() -> None:
    """With its changes, its history and its pumps, and not deleted any more."""
    client = _visitor()
    saved = _change(client)
    user = client.session["_auth_user_id"]
    OwnPump.objects.create(owner_id=user, name="Pond", max_flow=1e-3, max_head=3.0, power=40.0)
    assert "comes along when you sign in" in _keep(client)
    assert "3 plans are moved here" in _sign_in(client, EMAIL)
    owner = get_user_model().objects.get(email=EMAIL)
    saved.refresh_from_db()
    assert saved.owner == owner
    assert [r.author for r in saved.revisions.all()] == [owner, owner]
    assert OwnPump.objects.get().owner == owner
    assert get_user_model().objects.count() == 1
    assert not DemoAccount.objects.exists()
    assert "deleted with its plans" not in _page(client)


def test_a_demo_is_kept_in_an_account_there_is(saved: SavedPlan, owner: Any) -> None:
    """The answer does not tell that there is one; only its right password moves the plans."""
    owner.set_password(PHRASE)
    owner.save()
    client, other = _visitor(), _visitor()
    told = _keep(client, owner.email, "another phrase")
    assert _words(told) == _words(_keep(other))
    assert "do not go together" in _sign_in(client, owner.email, "another phrase")
    assert SavedPlan.objects.filter(owner=owner).count() == 1
    assert "3 plans are moved here" in _sign_in(client, owner.email)
    assert SavedPlan.objects.filter(owner=owner).count() == 4
    assert "moved here" not in _page(client)


def test_a_weak_password_keeps_nothing_and_leaves_the_demo_open() -> None:
    client = _visitor()
    told = _keep(client, password="x")
    assert 'aria-invalid="true"' in told
    assert 'aria-describedby="id_password1' in told
    assert f'value="{EMAIL}"' in told
    assert "Heron Lane" in _page(client)


def test_an_account_of_ones_own_is_not_kept_as_a_demo(browser: Client) -> None:
    assert browser.get(reverse("keep_demo")).status_code == 404
