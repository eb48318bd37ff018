"""E-mail: confirming an address, changing it, a new password, and what stands in for a server."""

import re
from collections.abc import Iterator
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.core import mail
from django.core.cache import cache
from django.core.mail.backends.base import BaseEmailBackend
from django.test import Client, override_settings
from django.urls import reverse

from bathys_web.accounts.mailbox import MailboxBackend
from bathys_web.accounts.models import KeptEmail

pytestmark = pytest.mark.django_db
PHRASE = "a long pass phrase"
NEXT = "quite another phrase"
EMAIL = "a@b.example"


@pytest.fixture(autouse=True)
def sends() -> Iterator[None]:
    """A server that sends e-mail, with no memory of earlier tests’ rates."""
    cache.clear()
    with override_settings(SENDS_MAIL=True, ACCOUNT_EMAIL_VERIFICATION="optional"):
        yield


@pytest.fixture
def account() -> Any:
    """Somebody with a password."""
    return get_user_model().objects.create_user("a", EMAIL, PHRASE)


@pytest.fixture
def signed_in(account: Any) -> Client:
    """Their browser."""
    client = Client()
    client.force_login(account)
    return client


def _link(number: int = -1) -> str:
    """The address in an e-mail."""
    found = re.search(r"https?://testserver(\S+)", str(mail.outbox[number].body))
    assert found is not None
    return found[1]


def _sign_in(email: str, password: str) -> bool:
    typed = {"login": email, "password": password}
    return Client().post(reverse("account_login"), typed).status_code == 302


def _confirm(client: Client) -> str:
    page = client.get(_link())
    assert "confirm it" in page.content.decode()
    return client.post(_link(), follow=True).content.decode()


def test_a_new_accounts_address_is_confirmed_by_its_link() -> None:
    client = Client()
    client.post(reverse("account_signup"), {"email": EMAIL, "password1": PHRASE})
    assert [m.to for m in mail.outbox] == [[EMAIL]]
    assert mail.outbox[0].subject == "Bathys: Confirm your address"
    client.post(reverse("account_login"), {"login": EMAIL, "password": PHRASE})
    assert "not confirmed yet" in client.get(reverse("account_email")).content.decode()
    assert f"{EMAIL} is confirmed" in _confirm(client)
    assert "address is confirmed" in client.get(reverse("account_email")).content.decode()
    assert "used already" in client.get(_link().replace(_link()[-9:-1], "x" * 8)).content.decode()


def test_a_taken_address_is_told_by_e_mail_alone(account: Any) -> None:
    """The page is that of a new account; the owner learns of it and where to reset."""
    Client().post(reverse("account_signup"), {"email": EMAIL, "password1": NEXT})
    assert mail.outbox[0].subject == "Bathys: You have an account already"
    assert _link() == reverse("account_reset_password")


def test_a_password_is_reset_once_by_its_link(account: Any) -> None:
    """The address of no account gets an e-mail, too, and the page says the same."""
    pages = []
    for email in (EMAIL, "no@b.example"):
        done = Client().post(reverse("account_reset_password"), {"email": email}, follow=True)
        pages.append(done.content.decode().split("<main")[1])
    assert pages[0] == pages[1]
    assert mail.outbox[1].subject == "Bathys: There is no account of this address"
    client, link = Client(), _link(0)
    form = client.get(link, follow=True)
    place = form.redirect_chain[-1][0]
    assert "key/" in place
    assert link not in form.content.decode()
    assert client.post(place, {"password1": "x", "password2": "x"}).status_code == 200
    saved = client.post(place, {"password1": NEXT, "password2": NEXT}, follow=True)
    assert "Your password is changed" in saved.content.decode()
    assert _sign_in(EMAIL, NEXT)
    assert not _sign_in(EMAIL, PHRASE)
    assert "used already" in Client().get(link, follow=True).content.decode()


def test_an_address_changes_when_the_new_one_is_confirmed(signed_in: Client, account: Any) -> None:
    """Not before, and not without the password."""
    change = reverse("account_email")
    typed = {"email": "next@b.example", "action_add": "1"}
    wrong = signed_in.post(change, typed | {"password": "not it"})
    assert "This is not your password" in wrong.content.decode()
    assert 'value="next@b.example"' in wrong.content.decode()
    assert mail.outbox == []
    page = signed_in.post(change, typed | {"password": PHRASE}, follow=True).content.decode()
    assert "next@b.example becomes your address" in page
    account.refresh_from_db()
    assert account.email == EMAIL
    other = typed | {"email": "third@b.example", "password": PHRASE}
    signed_in.post(change, other)  # the link of the second attempt is the one that counts
    _confirm(signed_in)
    account.refresh_from_db()
    assert account.email == "third@b.example"
    assert _sign_in("third@b.example", PHRASE)
    assert not _sign_in(EMAIL, PHRASE)


def test_where_no_e_mail_is_sent_nothing_offers_it(signed_in: Client) -> None:
    with override_settings(SENDS_MAIL=False, HAS_MAILBOX=False):
        for name in ("account_email", "account_reset_password", "mailbox"):
            assert signed_in.get(reverse(name)).status_code == 404
        page = signed_in.get(reverse("plans")).content.decode()
        page += Client().get(reverse("account_login")).content.decode()
    assert "/accounts/email/" not in page
    assert "Reset password" not in page
    assert "mailbox" not in page


class _Broken(BaseEmailBackend):
    """A mail server that does not answer."""

    def send_messages(self, email_messages: Any) -> int:
        """Refuse."""
        raise ConnectionRefusedError


def test_a_mail_server_that_fails_is_told(account: Any) -> None:
    with override_settings(EMAIL_BACKEND=f"{__name__}._Broken"):
        done = Client().post(reverse("account_reset_password"), {"email": EMAIL}, follow=True)
    assert "The e-mail was not sent" in done.content.decode()


def test_the_local_mailbox_shows_what_would_be_sent(account: Any) -> None:
    """With its link to press; it holds a few hundred at most."""
    backend = "bathys_web.accounts.mailbox.MailboxBackend"
    with override_settings(EMAIL_BACKEND=backend, HAS_MAILBOX=True):
        Client().post(reverse("account_reset_password"), {"email": EMAIL})
        page = Client().get(reverse("mailbox")).content.decode()
    assert "Set a new password" in page
    assert re.search(r'href="http://testserver/accounts/password/reset/key/\S+"', page)
    for _ in range(3):
        MailboxBackend().send_messages([mail.EmailMessage("s", "b", to=["c@d"])] * 90)
    assert KeptEmail.objects.count() == 200
