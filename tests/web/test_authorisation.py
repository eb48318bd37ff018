"""Who may do what: every address, asked in every way by nobody, by somebody else and by the owner.

The addresses come from the URL table; one without a row here fails.
"""

from typing import Any

import pytest
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from django.urls import URLPattern, get_resolver, reverse

from bathys_web.plans.models import OwnPump, SavedPlan

pytestmark = pytest.mark.django_db(transaction=True)

LOGIN, GONE, WRONG = "to sign in", "not found", "not allowed so"
NO_TOKEN = "a board's token is wanted"
PAGE, MOVED, FORM = "a page", "done, and on", "told what is wrong"
_SEEN = {200: PAGE, 302: MOVED, 401: NO_TOKEN, 404: GONE, 405: WRONG, 409: FORM, 422: FORM}

# By name: what a GET and a POST get. First nobody, then somebody else, then the owner.
Row = tuple[tuple[str, str, str], tuple[str, str, str]]
_OPEN: Row = ((PAGE, MOVED, MOVED), (PAGE, MOVED, MOVED))
_LOOK: Row = ((LOGIN, GONE, PAGE), (WRONG, WRONG, WRONG))
_DO: Row = ((WRONG, WRONG, WRONG), (LOGIN, GONE, MOVED))
_BOTH: Row = ((LOGIN, GONE, PAGE), (LOGIN, GONE, MOVED))
MATRIX: dict[str, Row] = {
    "plans": ((LOGIN, PAGE, PAGE), (WRONG, WRONG, WRONG)),
    "demo_sign_in": ((WRONG, WRONG, WRONG), (MOVED, MOVED, MOVED)),
    "keep_demo": ((LOGIN, GONE, GONE), (LOGIN, GONE, GONE)),
    "account_login": _OPEN,
    "account_signup": _OPEN,
    "account_logout": ((MOVED, PAGE, PAGE), (MOVED, MOVED, MOVED)),
    # Nobody here has a password; who has none, has none to change.
    "account_change_password": ((LOGIN, GONE, GONE), (LOGIN, GONE, GONE)),
    "account_email": ((LOGIN, GONE, GONE), (LOGIN, GONE, GONE)),
    "account_email_verification_sent": ((PAGE, PAGE, PAGE), (WRONG, WRONG, WRONG)),
    "account_confirm_email": ((PAGE, PAGE, PAGE), (GONE, GONE, GONE)),
    "account_reset_password": ((PAGE, PAGE, PAGE), (PAGE, PAGE, PAGE)),
    "account_reset_password_done": ((PAGE, PAGE, PAGE), (WRONG, WRONG, WRONG)),
    "account_reset_password_from_key": ((PAGE, PAGE, PAGE), (PAGE, PAGE, PAGE)),
    "account_reset_password_from_key_done": ((PAGE, PAGE, PAGE), (WRONG, WRONG, WRONG)),
    "mailbox": ((PAGE, PAGE, PAGE), (WRONG, WRONG, WRONG)),
    "own_data": ((LOGIN, PAGE, PAGE), (WRONG, WRONG, WRONG)),
    "delete_account": ((LOGIN, GONE, GONE), (LOGIN, GONE, GONE)),
    "switch_units": ((WRONG, WRONG, WRONG), (MOVED, MOVED, MOVED)),
    "glossary": ((PAGE, PAGE, PAGE), (WRONG, WRONG, WRONG)),
    "learn": ((PAGE, PAGE, PAGE), (WRONG, WRONG, WRONG)),
    "help": ((PAGE, PAGE, PAGE), (WRONG, WRONG, WRONG)),
    "validity": ((PAGE, PAGE, PAGE), (FORM, FORM, FORM)),
    "trial_file": ((PAGE, PAGE, PAGE), (WRONG, WRONG, WRONG)),
    "tour_steps": ((PAGE, PAGE, PAGE), (WRONG, WRONG, WRONG)),
    "start_tour": ((WRONG, WRONG, WRONG), (LOGIN, MOVED, MOVED)),
    "plan_schema": ((PAGE, PAGE, PAGE), (WRONG, WRONG, WRONG)),
    "new_plan": ((WRONG, WRONG, WRONG), (LOGIN, MOVED, MOVED)),
    "import_plan": ((WRONG, WRONG, WRONG), (LOGIN, FORM, FORM)),
    "plan": _LOOK,
    "inspector": ((LOGIN, GONE, MOVED), (WRONG, WRONG, WRONG)),
    "side_view": _LOOK,
    "joins": _LOOK,
    "pumps_to_choose": _LOOK,
    "edit": ((WRONG, WRONG, WRONG), (LOGIN, GONE, FORM)),
    "undo": _DO,
    "redo": _DO,
    "go_to": _DO,
    "take": _DO,
    "copy": _DO,
    "stop_computation": _DO,
    "history": _LOOK,
    "offers": _BOTH,
    "bench": _BOTH,
    "beside": ((LOGIN, GONE, PAGE), (LOGIN, GONE, PAGE)),
    "compare": _LOOK,
    "explained": _LOOK,
    "preview": _LOOK,
    "export": _LOOK,
    "picture": _LOOK,
    "archive": _DO,
    "label": _DO,
    "lock": _DO,
    "delete": _BOTH,
    "play": ((WRONG, WRONG, WRONG), (LOGIN, GONE, PAGE)),
    "keep_own_container": ((WRONG, WRONG, WRONG), (LOGIN, FORM, FORM)),
    "delete_own_container": ((WRONG, WRONG, WRONG), (LOGIN, GONE, GONE)),
    "brief": ((LOGIN, PAGE, PAGE), (LOGIN, MOVED, MOVED)),
    "brief_answers": ((LOGIN, MOVED, MOVED), (LOGIN, MOVED, MOVED)),
    "brief_tradeoffs": ((LOGIN, MOVED, MOVED), (LOGIN, MOVED, MOVED)),
    "plan_reasons": ((LOGIN, GONE, GONE), (WRONG, WRONG, WRONG)),
    "take_answer": ((WRONG, WRONG, WRONG), (LOGIN, MOVED, MOVED)),
    "keep_own_part": ((WRONG, WRONG, WRONG), (LOGIN, FORM, FORM)),
    "delete_own_part": ((WRONG, WRONG, WRONG), (LOGIN, GONE, GONE)),
    "own_parts_csv": ((LOGIN, PAGE, PAGE), (WRONG, WRONG, WRONG)),
    "read_own_part_file": ((WRONG, WRONG, WRONG), (LOGIN, FORM, FORM)),
    "take_own_part_file": ((WRONG, WRONG, WRONG), (LOGIN, MOVED, MOVED)),
    "shelf_prices": ((WRONG, WRONG, WRONG), (LOGIN, MOVED, MOVED)),
    "read_price_file": ((WRONG, WRONG, WRONG), (LOGIN, FORM, FORM)),
    "take_price_file": ((WRONG, WRONG, WRONG), (LOGIN, MOVED, MOVED)),
    "plan_prices": ((WRONG, WRONG, WRONG), (LOGIN, GONE, PAGE)),
    "prices_csv": ((LOGIN, PAGE, PAGE), (WRONG, WRONG, WRONG)),
    "shopping_csv": _LOOK,
    "build": _LOOK,
    "run": _LOOK,
    "log_csv": _LOOK,
    "take_stock": _DO,
    "enter": _BOTH,
    "calendar_feed": ((GONE, GONE, GONE), (WRONG, WRONG, WRONG)),
    "calendar_link": _DO,
    "log_chart": ((LOGIN, GONE, GONE), (WRONG, WRONG, WRONG)),
    "water_chart": ((LOGIN, GONE, GONE), (WRONG, WRONG, WRONG)),
    "away": _LOOK,
    "first_season": _BOTH,
    "first_season_ics": ((LOGIN, GONE, MOVED), (WRONG, WRONG, WRONG)),
    "season_report": _LOOK,
    "trials": ((LOGIN, GONE, PAGE), (LOGIN, GONE, FORM)),
    "delete_trial": ((WRONG, WRONG, WRONG), (LOGIN, GONE, GONE)),
    "season_report_xlsx": ((LOGIN, GONE, GONE), (WRONG, WRONG, WRONG)),
    "season_report_paper": _BOTH,
    "season_report_pdf": ((LOGIN, GONE, MOVED), (WRONG, WRONG, WRONG)),
    "as_built": ((LOGIN, GONE, PAGE), (LOGIN, GONE, PAGE)),
    "take_as_built": _DO,
    "offline_log": _LOOK,
    "offline_token": _LOOK,
    "offline_manifest": _LOOK,
    "send_entries": ((WRONG, WRONG, WRONG), (LOGIN, GONE, FORM)),
    "service_worker": ((PAGE, PAGE, PAGE), (WRONG, WRONG, WRONG)),
    "instruments": _LOOK,
    "instrument": ((LOGIN, GONE, GONE), (LOGIN, GONE, GONE)),
    "new_board": ((WRONG, WRONG, WRONG), (LOGIN, GONE, FORM)),
    "board": ((WRONG, WRONG, WRONG), (LOGIN, GONE, GONE)),
    "see_incident": _DO,
    "keep_watch": ((WRONG, WRONG, WRONG), (LOGIN, GONE, FORM)),
    "rig_fault": ((WRONG, WRONG, WRONG), (LOGIN, GONE, FORM)),
    "readings_file": ((LOGIN, GONE, PAGE), (LOGIN, GONE, FORM)),
    # Boards have no account: whoever has a token may send. Nobody here has one.
    "receive_readings": ((WRONG, WRONG, WRONG), (NO_TOKEN, NO_TOKEN, NO_TOKEN)),
    "describe_board": ((NO_TOKEN, NO_TOKEN, NO_TOKEN), (WRONG, WRONG, WRONG)),
    "entry_photo": ((LOGIN, GONE, GONE), (WRONG, WRONG, WRONG)),
    "delete_entry": ((WRONG, WRONG, WRONG), (LOGIN, GONE, GONE)),
    "build_file": _LOOK,
    "begin_building": _DO,
    "drilling_picture": _LOOK,
    "stands": ((LOGIN, GONE, PAGE), (LOGIN, GONE, FORM)),
    "holes": ((LOGIN, GONE, PAGE), (LOGIN, GONE, FORM)),
    "build_pdf": ((LOGIN, GONE, MOVED), (WRONG, WRONG, WRONG)),
    "build_paper": ((LOGIN, GONE, PAGE), (LOGIN, GONE, MOVED)),
    "tick_step": ((WRONG, WRONG, WRONG), (LOGIN, GONE, MOVED)),
    "ground": ((LOGIN, GONE, PAGE), (LOGIN, GONE, FORM)),
    "ground_picture": _LOOK,
    "isometric_picture": _LOOK,
    "better_place": _LOOK,
    "read_curve": ((WRONG, WRONG, WRONG), (LOGIN, FORM, FORM)),
    "own_pumps": ((LOGIN, PAGE, PAGE), (LOGIN, FORM, FORM)),
    "delete_own_pump": ((WRONG, WRONG, WRONG), (LOGIN, GONE, MOVED)),
}
WORDS = {
    "help": {"key": "design"},
    "trial_file": {"kind": "siphon"},
    "offers": {"kind": "dynamic"},
    "take": {"kind": "change"},
    "preview": {"kind": "change"},
    "bench": {"bench": "hours"},
    "beside": {"bench": "hours"},
    "build_file": {"kind": "xlsx"},
    "drilling_picture": {"vessel": "T1"},
    "build_pdf": {"paper": "A4"},
    "season_report_paper": {"paper": "A4"},
    "season_report_pdf": {"paper": "A4"},
    "build_paper": {"paper": "A4"},
    "keep_own_part": {"kind": "bore"},
    "enter": {"kind": "note"},
    "calendar_feed": {"secret": "00000000-0000-4000-8000-000000000000"},
    "log_chart": {"kind": "bucket", "part": "R1"},
    "water_chart": {"part": "T1"},
}
ASKED: dict[str, dict[str, str]] = {
    "tick_step": {"step": "bases", "done": "1"},
    "enter": {"part": "", "words": "dry"},
    "explained": {"figure": "P1.flow"},
    "bench": {"hours": "2", "cut": "", "lasts": ""},
}


def _names() -> list[str]:
    patterns = get_resolver().url_patterns
    assert all(isinstance(p, URLPattern) for p in patterns)
    return [str(p.name) for p in patterns if isinstance(p, URLPattern)]


def _address(name: str, saved: SavedPlan, pump: OwnPump) -> str:
    pattern: Any = next(p for p in get_resolver().url_patterns if p.name == name).pattern
    known: dict[str, Any] = {"key": saved.key, "pk": pump.pk, "number": 1, "uidb36": "1"}
    known |= WORDS.get(name, {})
    fields = pattern.converters or pattern.regex.groupindex
    return reverse(name, kwargs={k: known[k] for k in fields})


def _seen(answer: Any) -> str:
    if answer.status_code == 302 and answer.url.startswith("/accounts/login/?next"):
        return LOGIN
    return _SEEN[answer.status_code]


def test_every_address_has_its_row() -> None:
    assert sorted(_names()) == sorted(MATRIX)


@pytest.mark.parametrize("name", sorted(MATRIX))
def test_who_may_do_what(name: str, saved: SavedPlan, owner: Any, stranger: Any) -> None:
    pump = OwnPump.objects.create(owner=owner, name="Mine", max_flow=1e-3, max_head=2.0, power=20.0)
    address, asked = _address(name, saved, pump), ASKED.get(name, {})
    for told, method in zip(MATRIX[name], ("get", "post"), strict=True):
        for who, expected in zip((None, stranger, owner), told, strict=True):
            client = Client()
            if who is not None:
                client.force_login(who)
            answer = getattr(client, method)(address, asked)
            assert _seen(answer) == expected, (name, method, who, answer.status_code)
            if expected not in (PAGE, MOVED) or who is not owner:
                assert SavedPlan.objects.filter(pk=saved.pk, owner=owner).exists()
    for method in ("put", "patch", "delete"):
        client = Client()
        client.force_login(stranger)
        assert getattr(client, method)(address).status_code in (302, 404, 405), (name, method)


def test_nothing_is_done_without_the_forms_own_token(saved: SavedPlan, owner: Any) -> None:
    """A page elsewhere cannot post for somebody who is signed in here."""
    pump = OwnPump.objects.create(owner=owner, name="Mine", max_flow=1e-3, max_head=2.0, power=20.0)
    client = Client(enforce_csrf_checks=True)
    client.force_login(owner)
    for name, (_, posts) in MATRIX.items():
        if posts[2] not in (WRONG, NO_TOKEN):  # no browser sends a token by itself
            assert client.post(_address(name, saved, pump)).status_code in (403, 404), name
    assert SavedPlan.objects.filter(pk=saved.pk).exists()
    assert OwnPump.objects.exists()


@pytest.mark.parametrize("name", sorted(n for n, (gets, _) in MATRIX.items() if gets[2] != WRONG))
def test_what_is_got_writes_nothing(name: str, saved: SavedPlan, owner: Any) -> None:
    """Looking at a page changes no row of the application's own, however often; but the messages
    that it shows are gone then, with the session that held them."""
    pump = OwnPump.objects.create(owner=owner, name="Mine", max_flow=1e-3, max_head=2.0, power=20.0)
    client = Client()
    client.force_login(owner)
    with CaptureQueriesContext(connection) as seen:
        client.get(_address(name, saved, pump), ASKED.get(name, {}))
    written = [
        q["sql"]
        for q in seen.captured_queries
        if q["sql"].startswith(("INSERT", "UPDATE", "DELETE"))
        and "django_session" not in q["sql"]
        and "bathys_cache" not in q["sql"]
    ]
    assert written == []
