"""A worker: takes computations off the queue, one at a time, until it is told to stop."""

import asyncio
import contextlib
import logging
import os
import signal
import threading
from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from django.db import DatabaseError, connection
from procrastinate.contrib.django import app

from bathys_web.computing.housekeeping import keep_house
from bathys_web.computing.models import Computation
from bathys_web.computing.working import closing, prune, take_up_stalled

__all__ = ["Command"]

_LOOK = 2.0  # between two looks for computations that lost their worker [s]
_LAST = 6.0  # from being told to stop until it does [s]
_NICE = 10
_PRUNE_EVERY = 150  # looks
log = logging.getLogger(__name__)


class Command(BaseCommand):
    """``manage.py work``."""

    help = "Computes what is on the queue, in one lane or in both."

    def add_arguments(self, parser: CommandParser) -> None:
        """Which lanes."""
        parser.add_argument("--lane", choices=Computation.Lane.values, action="append")

    def handle(self, *args: Any, **options: Any) -> None:
        """Work until told to stop."""
        with contextlib.suppress(OSError):
            os.nice(_NICE)  # whoever serves a page goes first
        asyncio.run(_work(options["lane"] or list(Computation.Lane.values)))
        os._exit(0)  # not held up by the timer


async def _work(lanes: list[str]) -> None:
    connector = app.connector.get_worker_connector()  # type: ignore[attr-defined]
    # A second application on the same tasks: what computations put on the queue themselves goes
    # through Django's connection, in the transaction that is open.
    worker = app.with_connector(connector)
    async with worker.open_async():
        running = asyncio.create_task(
            worker.run_worker_async(
                queues=lanes,
                concurrency=1,
                delete_jobs="always",
                fetch_job_polling_interval=1.0,
                install_signal_handlers=False,
            )
        )
        keeper = asyncio.create_task(_keep_house())

        def end() -> None:
            closing.set()
            running.cancel()
            # What does not hear in time is cut off, and taken up by another worker.
            threading.Timer(_LAST, os._exit, (0,)).start()

        for number in (signal.SIGTERM, signal.SIGINT):
            asyncio.get_running_loop().add_signal_handler(number, end)
        try:
            await running
        except asyncio.CancelledError:
            if not closing.is_set():
                raise
        finally:
            keeper.cancel()
            with contextlib.suppress(asyncio.CancelledError):
                await keeper


async def _keep_house() -> None:
    """Take up what lost its worker, and drop what is old, every now and then."""
    looks = 0
    while True:
        await asyncio.to_thread(_look, looks % _PRUNE_EVERY == 0)
        looks += 1
        await asyncio.sleep(_LOOK)


def _look(prunes: bool) -> None:
    try:
        take_up_stalled()
        keep_house()
        if prunes:
            prune()
    except DatabaseError:
        log.warning("the database was not reached; tried again in a moment")
    finally:
        connection.close()
