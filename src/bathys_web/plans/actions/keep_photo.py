"""Keep a photo with an entry of the log: small, upright, and without place or camera data."""

import io
import warnings
from typing import IO

from PIL import Image, ImageOps, UnidentifiedImageError

from bathys_web.plans.models import LogEntry, LogPhoto

__all__ = ["BadPhoto", "keep_photo", "small_photo"]

_MOST_BYTES = 20_000_000
_MOST_PIXELS = 80_000_000
_SIDE = 1280
_QUALITY = 80
_KINDS = ("JPEG", "PNG", "WEBP")


class BadPhoto(ValueError):
    """What was sent is no picture that is taken; its message is a sentence."""


def small_photo(file: IO[bytes], size: int) -> bytes:
    """A picture as it is kept.

    Parameters
    ----------
    file : binary file
        What was sent
    size : int
        How large it is, [bytes]

    Returns
    -------
    bytes
        A JPEG whose longer side has at most 1,280 pixels, upright, with nothing else in it

    Raises
    ------
    BadPhoto
        If it is too large, or no JPEG, PNG or WebP
    """
    if size > _MOST_BYTES:
        raise BadPhoto("This picture has over 20 MB: take a smaller one.")
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            with Image.open(file, formats=_KINDS) as picture:
                if picture.width * picture.height > _MOST_PIXELS:
                    raise BadPhoto("This picture has over 80 million points: take a smaller one.")
                picture.draft("RGB", (_SIDE, _SIDE))
                upright = ImageOps.exif_transpose(picture).convert("RGB")
    except (
        UnidentifiedImageError,
        Image.DecompressionBombError,
        Image.DecompressionBombWarning,
        OSError,
        SyntaxError,
        ValueError,
    ) as error:
        if isinstance(error, BadPhoto):
            raise
        raise BadPhoto(
            "This is no picture that can be read. Take a JPEG, PNG or WebP file."
        ) from None
    upright.thumbnail((_SIDE, _SIDE))
    kept = io.BytesIO()
    bare = Image.new("RGB", upright.size)
    bare.paste(upright)
    bare.save(kept, "JPEG", quality=_QUALITY, optimize=True)
    return kept.getvalue()


def keep_photo(entry: LogEntry, image: bytes) -> None:
    """Keep it with its entry; sent again, the first one stays.

    Parameters
    ----------
    entry : LogEntry
        The entry
    image : bytes
        From :func:`small_photo`
    """
    LogPhoto.objects.get_or_create(entry=entry, defaults={"image": image})
