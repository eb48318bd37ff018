"""Plays the boards of plans that have a simulated one: sends what a real board would, by HTTP."""

import json
import logging
import os
import signal
import threading
import urllib.error
import urllib.request
import uuid
from datetime import UTC, datetime, timedelta
from typing import Any

from cachetools import LRUCache
from django.core.management.base import BaseCommand, CommandParser
from django.db import DatabaseError, connection
from django.utils import timezone

from bathys.instruments import RigFault, SimulatedRig, unit_named
from bathys.network import NotSolved
from bathys.scenarios.failures import Failure
from bathys.simulation import NotSimulated
from bathys_web.instruments.actions.keep_board import rig_token
from bathys_web.instruments.actions.take_readings import MOST_READINGS, hashed
from bathys_web.instruments.models import Board, BoardChannel
from bathys_web.plans.models import LogEntry
from bathys_web.plans.storing import plan_of

__all__ = ["Command"]

_EVERY = 20.0  # between rounds [s]
_MOST_BOARDS = 20
_BACK = timedelta(days=3)
_FINE = timedelta(days=1)  # before that it sends seldom
_OFTEN, _SELDOM = 60.0, 300.0  # [s]
_TOPPED_UP = uuid.UUID("6c1b6f0e-4c3b-4a57-9d8e-2f5d1b7c9a10")  # by which its entries are named
log = logging.getLogger(__name__)


class Command(BaseCommand):
    """``manage.py rig --to http://127.0.0.1:8000``."""

    help = "Sends what the simulated boards of all plans read."

    def add_arguments(self, parser: CommandParser) -> None:
        """Where to send it, and whether only once."""
        parser.add_argument("--to", required=True)
        parser.add_argument("--once", action="store_true")

    def handle(self, *args: Any, **options: Any) -> None:
        """Send until told to stop."""
        os.nice(15)
        ends = threading.Event()
        if not options["once"]:
            for number in (signal.SIGTERM, signal.SIGINT):
                signal.signal(number, lambda *_: ends.set())
        rigs = _Rigs(options["to"].rstrip("/"))
        while True:
            try:
                rigs.send_all(timezone.now(), ends)
            except DatabaseError:
                log.warning("the database was not reached; tried again in a moment")
                connection.close()
            if options["once"] or ends.wait(_EVERY):
                return


class _Rigs:
    """The simulated boards, each with its own layout."""

    def __init__(self, to: str) -> None:
        self._to = to
        self._made: LRUCache[tuple[Any, ...], SimulatedRig] = LRUCache(maxsize=_MOST_BOARDS)

    def send_all(self, now: datetime, ends: threading.Event) -> None:
        """Send what each has read since it was last heard."""
        rows = Board.objects.filter(is_simulated=True).exclude(token_hash=None)
        rows = rows.select_related("plan__head").order_by("-plan__touched")
        for board in rows[:_MOST_BOARDS]:
            if ends.is_set():
                return
            try:
                self._send(board, now, ends)
            except (NotSimulated, NotSolved) as why:
                log.warning("board %s is not simulated: %s", board.pk, why)

    def _send(self, board: Board, now: datetime, ends: threading.Event) -> None:
        if board.token_hash != hashed(rig_token(board)):
            return
        channels = {str(c.pk): c for c in board.channels.all()}
        rig = self._rig(board, channels)
        begin = max(board.heard or now - _BACK, now - _BACK)
        self._log_top_ups(board, rig, begin, now)
        fine = max(begin, now - _FINE)
        spans = ((begin, fine, _SELDOM), (fine, now, _OFTEN))
        rows = list[dict[str, Any]]()
        for since, until, every in spans:
            for reading in rig.readings(since.timestamp(), until.timestamp(), every):
                channel = channels[reading.channel]
                unit = unit_named(channel.kind, channel.unit)
                value = (reading.value - unit.offset) / unit.factor
                rows.append({"channel": channel.key, "at": reading.time, "value": round(value, 3)})
        for first in range(0, len(rows), MOST_READINGS):
            if ends.is_set() or not self._post(
                rig_token(board), rows[first : first + MOST_READINGS]
            ):
                return

    def _rig(self, board: Board, channels: dict[str, BoardChannel]) -> SimulatedRig:
        faults = tuple(
            RigFault(Failure(f.kind, f.place), f.begins.timestamp(), f.ends.timestamp())  # type: ignore[arg-type]
            for f in board.faults.all()
        )
        asked = tuple(c.as_channel() for c in channels.values())
        key = (board.pk, board.plan.current.physics_hash, asked, faults)
        if key not in self._made:
            self._made[key] = SimulatedRig(plan_of(board.plan.current), asked, board.pk, faults)
        return self._made[key]

    def _log_top_ups(
        self, board: Board, rig: SimulatedRig, begin: datetime, until: datetime
    ) -> None:
        """Whoever tops it up writes it down."""
        for top_up in rig.top_ups(begin.timestamp(), until.timestamp()):
            LogEntry.objects.get_or_create(
                plan=board.plan,
                key=uuid.uuid5(_TOPPED_UP, f"{board.pk} {top_up.vessel} {top_up.time}"),
                defaults={
                    "kind": "top_up",
                    "part": top_up.vessel,
                    "at": datetime.fromtimestamp(top_up.time, UTC),
                    "values": {"volume": top_up.volume},
                    "note": "simulated",
                },
            )

    def _post(self, token: str, rows: list[dict[str, Any]]) -> bool:
        request = urllib.request.Request(  # noqa: S310 - the address is the start command's own
            f"{self._to}/api/readings/",
            json.dumps({"readings": rows}).encode(),
            {"Authorization": f"Bearer {token}", "Content-Type": "application/json"},
        )
        try:
            with urllib.request.urlopen(request, timeout=30):  # noqa: S310
                return True
        except (urllib.error.URLError, TimeoutError, ConnectionError) as why:
            log.warning("a simulated board did not reach the application: %s", why)
            return False
