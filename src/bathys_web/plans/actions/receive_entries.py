"""Keep entries that waited on a device without signal."""

import base64
import io
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from typing import Annotated, Any, Literal
from uuid import UUID

from django.contrib.auth.models import User
from django.core.exceptions import PermissionDenied
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from bathys.evaluation import Evaluation
from bathys.fieldlog import ENTRY_KINDS, BadEntry, EntryKind, fish_bounds_of, read_entry
from bathys_web.plans.actions.keep_entry import BadMoment, keep_entry, spoon_of
from bathys_web.plans.actions.keep_photo import BadPhoto, keep_photo, small_photo
from bathys_web.plans.models import LogEntry, SavedPlan

__all__ = ["MOST_AT_ONCE", "Received", "WaitingEntry", "receive_entries"]

MOST_AT_ONCE = 200
_OLDEST = timedelta(days=5 * 365)
_DRIFT = timedelta(minutes=2)  # of a device's clock that is left alone
_SAME = timedelta(minutes=10)  # within which the same figures are most likely the same reading
_SAME_JOB = timedelta(hours=12)

_Short = Annotated[str, Field(max_length=40)]


class WaitingEntry(BaseModel):
    """An entry as a device sends it: what was typed, with the units it was typed in."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    key: UUID
    kind: _Short
    part: _Short = ""
    typed: Annotated[dict[_Short, Annotated[str, Field(max_length=500)]], Field(max_length=20)] = {}
    units: Annotated[str, Field(max_length=80, pattern=r"^(metric|us)(/[a-z,]+)?$")] = "metric"
    at: Annotated[float, Field(ge=0.0, le=1e11, allow_inf_nan=False)]  # since 1970 [s]
    is_at_typed: bool = False
    note: Annotated[str, Field(max_length=300)] = ""
    photo: Annotated[str, Field(max_length=2_800_000)] = ""  # base 64


@dataclass(frozen=True, slots=True)
class Received:
    """What became of an entry.

    Attributes
    ----------
    key : str
        Its name
    state : str
        ``kept``, ``known`` where it had come before, or ``refused``
    errors : dict of str to str
        A sentence by field of what is wrong with a refused one
    told : tuple of str
        What whoever sent it should know
    """

    key: str
    state: Literal["kept", "known", "refused"]
    errors: dict[str, str] = field(default_factory=dict)
    told: tuple[str, ...] = ()


def receive_entries(
    saved: SavedPlan,
    user: User,
    rows: Sequence[Any],
    found: Evaluation,
    clock: tuple[datetime, datetime],
) -> tuple[list[Received], str]:
    """Keep entries in the order in which they were made; each once, however often it is sent.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    user : User
        Who sends them
    rows : sequence of object
        Entries from JSON, at most :data:`MOST_AT_ONCE`
    found : Evaluation
        The numbers of the plan as it stands now
    clock : (datetime, datetime)
        What time it is, by the server and by the device

    Returns
    -------
    (list of Received, str)
        What became of each, and a sentence on the device's clock; empty if it goes right

    Raises
    ------
    PermissionDenied
        If the plan is not theirs
    """
    if saved.owner_id != user.pk:
        raise PermissionDenied
    now, device = clock
    drift = now - device
    is_off = abs(drift) > _DRIFT
    told = _clock_words(drift) if is_off else ""
    mended = drift if is_off else timedelta(0)
    received = [_receive(saved, user, row, found, (now, mended)) for row in rows]
    return received, told


def _clock_words(drift: timedelta) -> str:
    minutes = round(abs(drift.total_seconds()) / 60.0)
    way = "behind" if drift > timedelta(0) else "ahead"
    return (
        f"The clock of this device is {minutes} minutes {way}: the times of its entries were put "
        "right, but for those that were typed."
    )


def _receive(
    saved: SavedPlan,
    user: User,
    row: Any,
    found: Evaluation,
    clock: tuple[datetime, timedelta],
) -> Received:
    name = str(row.get("key", ""))[:40] if isinstance(row, Mapping) else ""
    try:
        entry = WaitingEntry.model_validate(row)
    except ValidationError:
        return Received(name, "refused", {"": "This entry cannot be read; write it again."})
    if LogEntry.objects.filter(plan=saved, key=entry.key).exists():
        return Received(name, "known")
    kind = ENTRY_KINDS.get(entry.kind)
    if kind is None:
        return Received(name, "refused", {"": "There is no such kind of entry any more."})
    errors, values = dict[str, str](), dict[str, Any]()
    try:
        spoon, bounds = spoon_of(saved, entry.part), fish_bounds_of(found.plan, entry.part)
        values = read_entry(kind, entry.typed, entry.units, spoon, bounds)
    except BadEntry as bad:
        errors = bad.errors
    try:
        photo = _photo(entry.photo)
    except BadPhoto as bad:
        errors["photo"] = str(bad)
    now, mended = clock
    at = datetime.fromtimestamp(entry.at, UTC) + (timedelta(0) if entry.is_at_typed else mended)
    if at < now - _OLDEST:
        errors["at"] = "That is more than five years ago: check date and time."
    if errors:
        return Received(name, "refused", errors)
    told = (*_place_words(kind, entry.part, found), *_twice_words(saved, entry, values, at))
    try:
        note = "".join(c for c in entry.note.strip() if c.isprintable())
        kept = keep_entry(saved, user, entry.key, (entry.kind, entry.part, values), at, note)
        if photo is not None:
            keep_photo(kept, photo)
    except BadMoment as bad:
        return Received(name, "refused", {"at": str(bad)})
    return Received(name, "kept", told=told)


def _photo(text: str) -> bytes | None:
    if not text:
        return None
    try:
        sent = base64.b64decode(text, validate=True)
    except ValueError:
        sent = b""
    return small_photo(io.BytesIO(sent), len(sent))


def _place_words(kind: EntryKind, part: str, found: Evaluation) -> tuple[str, ...]:
    """What is told of an entry whose part was taken out or became something else meanwhile."""
    if part in kind.parts(found):
        return ()
    if part in found.plan.names:
        name = found.plan.names[part]
        return (f"{kind.title} is not measured at {name} any more; the entry is kept.",)
    return (f"{part or 'Its part'} is no longer in the plan; the entry is kept.",)


def _twice_words(
    saved: SavedPlan, entry: WaitingEntry, values: Mapping[str, Any], at: datetime
) -> tuple[str, ...]:
    """What is told where somebody else wrote the same."""
    near = _SAME_JOB if entry.kind == "job" else _SAME
    others = LogEntry.objects.filter(
        plan=saved, kind=entry.kind, part=entry.part, at__range=(at - near, at + near)
    )
    if any(other.values == dict(values) for other in others):
        return ("The log says the same already, from another entry: delete one if it was one.",)
    return ()
