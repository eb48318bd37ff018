"""The log without signal, with the network really cut: a line to the server that can be pulled."""

import contextlib
import re
import socket
import threading
from collections.abc import Iterator
from typing import Any

import pytest
from django.db.models import QuerySet
from playwright.sync_api import Browser, BrowserContext, Page, expect

from bathys_web.plans.models import LogEntry, SavedPlan
from tests.browser.steps import open_file


class Line:
    """A line to the server: cut, nothing answers and what goes on breaks off."""

    def __init__(self, port: int) -> None:
        self._to = port
        self._listener = socket.create_server(("127.0.0.1", 0))
        self.port = self._listener.getsockname()[1]
        self._open: set[socket.socket] = set()
        self._is_cut = False
        threading.Thread(target=self._accept, daemon=True).start()

    def _accept(self) -> None:
        with contextlib.suppress(OSError):
            while True:
                near, _ = self._listener.accept()
                if self._is_cut:
                    near.close()
                    continue
                far = socket.create_connection(("127.0.0.1", self._to))
                self._open |= {near, far}
                for one, two in ((near, far), (far, near)):
                    threading.Thread(target=self._pass_on, args=(one, two), daemon=True).start()

    @staticmethod
    def _pass_on(one: socket.socket, two: socket.socket) -> None:
        with contextlib.suppress(OSError):
            while data := one.recv(65536):
                two.sendall(data)
        for end in (one, two):
            with contextlib.suppress(OSError):
                end.shutdown(socket.SHUT_RDWR)

    def cut(self) -> None:
        """Cut it."""
        self._is_cut = True
        for end in self._open:
            with contextlib.suppress(OSError):
                end.shutdown(socket.SHUT_RDWR)

    def mend(self) -> None:
        """Join it again."""
        self._is_cut = False

    def close(self) -> None:
        """Take it down."""
        self.cut()
        self._listener.close()


@pytest.fixture
def line(served_here: Any) -> Iterator[Line]:
    """A line to the served site."""
    line = Line(int(served_here.url.rpartition(":")[2]))
    yield line
    line.close()


@pytest.fixture
def phone(chromium: Browser, line: Line, workers: None) -> Iterator[BrowserContext]:
    """A phone whose only way to the site is that line."""
    context = chromium.new_context(viewport={"width": 390, "height": 844}, has_touch=True)
    yield context
    context.close()


def _bucket(page: Page, times: str) -> None:
    page.locator("summary", has_text="Flow, by a bucket").click()
    form = page.locator('form[data-kind="bucket"]')
    form.locator("input[name=part]").nth(1).check()
    form.get_by_label(re.compile("^Seconds")).fill(times)
    form.get_by_role("button", name="Keep it").click()


def _log() -> QuerySet[LogEntry]:
    """The log of the plan that was imported last; a demo plan has one of its own."""
    return LogEntry.objects.filter(plan=SavedPlan.objects.latest("pk"))


def test_a_day_without_signal_is_in_the_log_once_there_is_signal(
    phone: BrowserContext, line: Line
) -> None:
    """Kept on the phone the page opens with the line cut; entries survive a page that is closed,
    go in their order once each, and from two devices at once; what is refused is mended there."""
    page = phone.new_page()
    page.goto(f"http://127.0.0.1:{line.port}/")
    open_file(page, "split-flow")
    page.get_by_role("link", name="Run", exact=True).click()
    page.get_by_role("link", name="Log without signal").click()
    state = page.locator("#offline-state")
    expect(state).to_contain_text("Nothing waits")
    page.get_by_role("button", name="Keep this page on this device").click()
    expect(page.locator("#offline-kept")).to_be_visible()
    address = page.url
    line.cut()
    page.reload()
    expect(page.get_by_role("heading", name="Log without signal")).to_be_visible()
    assert page.evaluate("getComputedStyle(document.querySelector('.masthead')).display") != ""
    _bucket(page, "43.1 43.6")
    expect(state).to_contain_text("1 entry waits on this device. There is no signal")
    page.close()

    page = phone.new_page()  # days later, in another page
    page.goto(address)
    state = page.locator("#offline-state")
    expect(state).to_contain_text("1 entry waits")
    _bucket(page, "0.1")
    page.get_by_role("button", name=re.compile("^Done: ")).first.click()
    expect(page.locator("#offline-waiting li")).to_have_count(3)
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")
    second = phone.new_page()  # the same entries, looked at in two pages
    second.goto(address)
    expect(second.locator("#offline-waiting li")).to_have_count(3)
    assert not _log().exists()

    line.mend()
    page.get_by_role("button", name="Send now").click()
    second.get_by_role("button", name="Send now").click()
    expect(page.locator("#offline-waiting li")).to_have_count(1)
    expect(state).to_contain_text("1 entry must be changed")
    expect(page.locator("#offline-waiting .row-error")).to_contain_text("between")
    page.get_by_role("button", name="Change").click()
    page.locator('form[data-kind="bucket"]').get_by_label(re.compile("^Seconds")).fill("44.2")
    page.locator('form[data-kind="bucket"]').get_by_role("button", name="Keep it").click()
    expect(state).to_contain_text("Nothing waits")
    made = _log().order_by("pk").values_list("kind", flat=True)
    assert list(made) == ["bucket", "job", "bucket"]
    page.get_by_role("link", name="To the log").click()
    expect(page.locator(".run-log li")).to_have_count(3)


def test_who_is_signed_out_keeps_what_was_entered(phone: BrowserContext, line: Line) -> None:
    page = phone.new_page()
    page.goto(f"http://127.0.0.1:{line.port}/")
    open_file(page, "split-flow")
    page.get_by_role("link", name="Run", exact=True).click()
    page.get_by_role("link", name="Log without signal").click()
    expect(page.locator("#offline-state")).to_contain_text("Nothing waits")
    session = phone.cookies()
    phone.clear_cookies(name="sessionid")
    _bucket(page, "43.1")
    expect(page.locator("#offline-state")).to_contain_text("You are signed out")
    expect(page.get_by_role("link", name="Sign in").last).to_be_visible()
    phone.add_cookies(session)
    page.reload()
    expect(page.locator("#offline-state")).to_contain_text("Nothing waits")
    expect(page.locator("#offline-news")).to_contain_text("1 entry went into the log.")
    assert _log().count() == 1
