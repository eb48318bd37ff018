"""The application on loopback, with its collected static files as they are served for real."""

import os
from collections.abc import Iterator
from typing import Any

import pytest
from django.core.cache import cache
from django.test.testcases import LiveServerThread, _StaticFilesHandler
from playwright.sync_api import Browser, Page, expect, sync_playwright

from tests.emptied import write_nothing_after_emptying
from tests.queue_worker import worker

os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"  # Playwright keeps a loop in the test's thread

expect.set_options(timeout=15_000)  # what is waited for comes late on a machine that is busy
FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-background-networking"]


class _Server:
    """A running server and its address."""

    def __init__(self, thread: LiveServerThread) -> None:
        self.url = f"http://{thread.host}:{thread.port}"


@pytest.fixture(scope="session", autouse=True)
def quick_emptying(django_db_setup: Any) -> None:
    """For all that is tested here."""
    write_nothing_after_emptying()


@pytest.fixture
def served_here(transactional_db: Any) -> Iterator[_Server]:
    """Serves on a free port until the test ends; a request's failure to start fails the test.

    What the cache counts begins anew: a visitor may start so many demo accounts an hour, and each
    test is another visitor.
    """
    cache.clear()
    thread = LiveServerThread("127.0.0.1", _StaticFilesHandler)
    thread.daemon = True
    thread.start()
    thread.is_ready.wait()
    if thread.error:
        raise thread.error
    yield _Server(thread)
    thread.terminate()


@pytest.fixture(scope="package")
def chromium() -> Iterator[Browser]:
    """Debian's Chromium."""
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        yield browser
        browser.close()


@pytest.fixture(scope="package")
def workers(django_db_setup: Any, django_db_blocker: Any) -> Iterator[None]:
    """A worker for each lane, as the start command starts them; gone with the browser, since tests
    of the queue have workers of their own."""
    with django_db_blocker.unblock(), worker("quick"), worker("long"):
        yield


@pytest.fixture
def page(
    chromium: Browser, served_here: Any, transactional_db: Any, workers: None
) -> Iterator[Page]:
    """A fresh visitor at the sign-in page; no request may leave the host."""
    context = chromium.new_context(viewport={"width": 1280, "height": 800}, accept_downloads=True)
    visitor = context.new_page()
    strays: list[str] = []
    faults: list[str] = []
    visitor.on(
        "request",
        lambda r: None if r.url.startswith((served_here.url, "data:")) else strays.append(r.url),
    )
    visitor.on("pageerror", lambda error: faults.append(str(error)))
    visitor.on("console", lambda m: faults.append(m.text) if "Content Security" in m.text else None)
    visitor.goto(served_here.url)
    yield visitor
    assert strays == []
    assert faults == []
    context.close()
