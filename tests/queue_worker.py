"""Workers of the tests' own: the command that the start command runs, on the tests' database."""

import contextlib
import os
import signal
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from pathlib import Path

from django.db import connection

__all__ = ["until", "worker"]

_PROJECT = Path(__file__).parent.parent


@contextlib.contextmanager
def worker(*lanes: str) -> Iterator[subprocess.Popen[bytes]]:
    """A worker for these lanes, or for all, until the block ends."""
    environment = {**os.environ, "BATHYS_DB_NAME": str(connection.settings_dict["NAME"])}
    words = [w for lane in lanes for w in ("--lane", lane)]
    process = subprocess.Popen(
        [sys.executable, "tools/manage.py", "work", *words], cwd=_PROJECT, env=environment
    )
    try:
        yield process
    finally:
        if process.poll() is None:
            process.send_signal(signal.SIGTERM)
            with contextlib.suppress(subprocess.TimeoutExpired):
                process.wait(10)
            process.kill()
            process.wait()


def until(is_so: Callable[[], bool], most: float = 240.0) -> None:
    """Wait until something is so; fail if it does not come."""
    end = time.monotonic() + most
    while not is_so():
        assert time.monotonic() < end, "it did not come"
        time.sleep(0.05)
