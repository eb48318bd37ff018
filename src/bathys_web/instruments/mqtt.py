"""Boards that speak MQTT: a listener at a broker, which takes their messages as those by HTTP."""

import json
import logging
from typing import Any

from django.db import DatabaseError, connection
from paho.mqtt import client as mqtt
from paho.mqtt.enums import CallbackAPIVersion

from bathys_web.instruments.actions.take_message import take_message

__all__ = ["ANSWERS", "TOPIC", "listener"]

TOPIC = "bathys/readings"
"""Where boards publish: JSON with their ``token`` and ``readings``."""
ANSWERS = "bathys/answers/"
"""Under this they are answered, where a message names a ``reply``."""

_LONGEST = 60
log = logging.getLogger(__name__)


def listener(
    host: str, port: int, user: str = "", password: str = "", *, is_secure: bool = False
) -> mqtt.Client:
    """A client that takes what boards publish; ``loop_start`` or ``loop_forever`` runs it, and it
    connects again by itself.

    Parameters
    ----------
    host : str
        The broker
    port : int
        Its port
    user, password : str
        Of the broker; empty where it wants none
    is_secure : bool
        Whether it speaks TLS

    Returns
    -------
    Client
        Not connected yet: it does so as it runs
    """
    client = mqtt.Client(CallbackAPIVersion.VERSION2, clean_session=True)
    if user:
        client.username_pw_set(user, password)
    if is_secure:
        client.tls_set()
    client.on_connect = _subscribe
    client.on_message = _take
    client.reconnect_delay_set(1, 60)
    client.connect_async(host, port)
    return client


def _subscribe(client: mqtt.Client, *_: Any) -> None:
    client.subscribe(TOPIC, qos=1)


def _take(client: mqtt.Client, _: Any, message: mqtt.MQTTMessage) -> None:
    try:
        answer = take_message(bytes(message.payload))
    except DatabaseError:
        log.warning("the database was not reached: a message of a board is lost")
        return
    finally:
        connection.close()  # messages are a minute apart
    reply = _reply_of(bytes(message.payload))
    if reply:
        client.publish(f"{ANSWERS}{reply}", json.dumps({"status": answer.status, **answer.told}))


def _reply_of(payload: bytes) -> str:
    """Where the answer goes: one plain word, so that nothing else is written to."""
    try:
        told: Any = json.loads(payload)
    except (ValueError, RecursionError):
        return ""
    word = str(told.get("reply", "")) if isinstance(told, dict) else ""
    is_plain = word.replace("-", "").isalnum() and word.isascii() and len(word) <= _LONGEST
    return word if is_plain else ""
