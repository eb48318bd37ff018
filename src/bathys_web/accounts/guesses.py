"""Guesses at passwords wait longer and longer; nobody is ever locked out.

Each wrong guess counts against the address it came from, against the account, and against the two
together. After a few, the next must wait: a second, two, four and so on up to a cap. A guess made
before its time is not looked at and does not count. A device that has signed in to an account
before does not wait for what strangers guess at it.
"""

import math
from datetime import timedelta
from typing import NamedTuple

from django.db import transaction
from django.db.models import F
from django.utils import timezone
from django.utils.crypto import salted_hmac

from bathys_web.accounts.models import Guesses

__all__ = ["forget", "seconds_to_wait"]


class _Patience(NamedTuple):
    """How many guesses are free, and how long the longest wait is [s]."""

    free: int
    most: float


_SIDES = {
    "pair": _Patience(5, 900.0),
    "address": _Patience(20, 900.0),
    "account": _Patience(10, 60.0),
}
_FORGOTTEN = timedelta(hours=1)


def _keys(address: str, account: str, is_known_device: bool) -> dict[str, _Patience]:
    named = {"pair": f"{address} {account}", "address": address, "account": account}
    if is_known_device:
        named.pop("account")
    return {_key(side, what): _SIDES[side] for side, what in named.items()}


def _key(side: str, what: str) -> str:
    return salted_hmac(f"bathys.guesses.{side}", what, algorithm="sha256").hexdigest()


@transaction.atomic
def seconds_to_wait(address: str, account: str, is_known_device: bool) -> int:
    """How long a guess must wait [s]; 0 if it may be looked at, which then counts as wrong until
    :func:`forget` says otherwise.

    Parameters
    ----------
    address : str
        Where it comes from
    account : str
        At which account, whether there is one or not
    is_known_device : bool
        Whether this device has signed in to the account before

    Returns
    -------
    int
        Seconds, rounded up
    """
    sides, now = _keys(address, account, is_known_device), timezone.now()
    for key in sides:
        Guesses.objects.get_or_create(key=key)
    # In one order for all, so that two never wait for each other.
    rows = list(Guesses.objects.select_for_update().filter(key__in=sides).order_by("key"))
    waits = [(r.until - now).total_seconds() for r in rows if r.until is not None]
    if max(waits, default=0.0) > 0.0:
        return math.ceil(max(waits))
    for row in rows:
        patience = sides[row.key]
        row.count = 1 if now - row.last > _FORGOTTEN else row.count + 1
        over = row.count - patience.free
        delay = min(2.0 ** min(over, 20), patience.most) if over >= 0 else 0.0
        row.until = now + timedelta(seconds=delay)
        row.save()
    return 0


def forget(address: str, account: str) -> None:
    """The guess was right: what was counted at this account from here is forgotten, and one guess
    is given back to the address.

    Parameters
    ----------
    address : str
        Address of the visitor
    account : str
        Name of the account
    """
    keys = [_key("pair", f"{address} {account}"), _key("account", account)]
    Guesses.objects.filter(key__in=keys).delete()
    own = Guesses.objects.filter(key=_key("address", address))
    own.filter(count__gt=0).update(count=F("count") - 1)
    own.filter(count__lt=_SIDES["address"].free).update(until=None)
    Guesses.objects.filter(last__lt=timezone.now() - _FORGOTTEN).delete()
