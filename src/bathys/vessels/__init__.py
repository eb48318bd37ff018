"""Level against volume. Public: :class:`Storage`, :func:`storage_of`, :func:`footprint`,
:func:`perimeter`, :func:`shell_volume`, :func:`width_at`, :func:`spans_of`."""

from bathys.vessels.shapes import footprint, perimeter, width_at
from bathys.vessels.standing import GAP, spans_of
from bathys.vessels.storage import Storage, joined, shell_volume, storage_of

__all__ = [
    "GAP", "Storage", "footprint", "joined", "perimeter", "shell_volume", "spans_of", "storage_of",
    "width_at",
]  # fmt: skip
