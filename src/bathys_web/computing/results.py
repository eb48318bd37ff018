"""Results on their way into the table and out of it.

A result is the engine's own objects, pickled. Unpickling runs code, so each is signed with the
server's key, and nothing unsigned is read: whoever could write to the table alone gains nothing.
"""

import hmac
import pickle
import zlib
from typing import Any

from django.utils.crypto import salted_hmac

__all__ = ["BadResult", "pack", "unpack"]

_SIGNATURE = 32


class BadResult(ValueError):
    """A stored result that this server did not write."""


def _signature(body: bytes) -> bytes:
    return salted_hmac("bathys.computing", body.hex(), algorithm="sha256").digest()


def pack(result: Any) -> bytes:
    """A result as it is stored.

    Parameters
    ----------
    result : object
        The result

    Returns
    -------
    bytes
        Signed bytes
    """
    body = zlib.compress(pickle.dumps(result, protocol=5), 1)
    return _signature(body) + body


def unpack(stored: bytes | memoryview) -> Any:
    """A stored result.

    Parameters
    ----------
    stored : bytes or memoryview
        What was stored

    Returns
    -------
    object
        The result

    Raises
    ------
    BadResult
        If its signature is not this server's
    """
    text = bytes(stored)
    signature, body = text[:_SIGNATURE], text[_SIGNATURE:]
    if not hmac.compare_digest(signature, _signature(body)):
        raise BadResult("the stored result is not signed by this server")
    return pickle.loads(zlib.decompress(body))  # noqa: S301 - signed
