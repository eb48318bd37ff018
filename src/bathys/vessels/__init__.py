"""Level against volume. Public: :class:`Storage`, :func:`storage_of`, :func:`footprint`."""

from bathys.vessels.shapes import footprint
from bathys.vessels.storage import Storage, storage_of

__all__ = ["Storage", "footprint", "storage_of"]
