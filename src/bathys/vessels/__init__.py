"""Level against volume. Public: :class:`Storage`, :func:`storage_of`, :func:`joined`,
:func:`spans_of`."""

from bathys.vessels.layout_positions import GAP, spans_of
from bathys.vessels.storage import Storage, joined, storage_of

__all__ = [
    "GAP",
    "Storage",
    "joined",
    "spans_of",
    "storage_of",
]
