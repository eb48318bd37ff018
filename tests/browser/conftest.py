"""The application on loopback, with its collected static files as they are served for real."""

from collections.abc import Iterator
from typing import Any

import pytest
from django.test.testcases import LiveServerThread, _StaticFilesHandler


class _Server:
    """A running server and its address."""

    def __init__(self, thread: LiveServerThread) -> None:
        self.url = f"http://{thread.host}:{thread.port}"


@pytest.fixture
def served_here(transactional_db: Any) -> Iterator[_Server]:
    """Serves on a free port until the test ends; a request's failure to start fails the test."""
    thread = LiveServerThread("127.0.0.1", _StaticFilesHandler)
    thread.daemon = True
    thread.start()
    thread.is_ready.wait()
    if thread.error:
        raise thread.error
    yield _Server(thread)
    thread.terminate()
