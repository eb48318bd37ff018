"""Names of the engine as it is installed, and where its compiled code is kept."""

import hashlib
import os
import sys
from functools import cache
from pathlib import Path

__all__ = ["engine_name", "keep_compiled_code"]

_HERE = Path(__file__).parent
_COMPILED = (b"njit", b"vectorize")


@cache
def engine_name() -> str:
    """A name for the engine as it is installed.

    Returns
    -------
    str
        Another one for every change of its source, so that what an older engine told is never
        shown as this one's
    """
    name = hashlib.sha256()
    for path in sorted(_HERE.rglob("*.py")):
        name.update(path.read_bytes())
    return name.hexdigest()[:16]


def keep_compiled_code() -> None:
    """Keep compiled code in a folder that is named after all the source it was compiled from.

    numba looks at one file only, but the kernel holds within it the laws of other files: an update
    of those alone would leave old figures in compiled code that looks new. Does nothing where
    ``NUMBA_CACHE_DIR`` is set or numba is there already.
    """
    if "numba" in sys.modules or "NUMBA_CACHE_DIR" in os.environ:
        return
    name = hashlib.sha256()
    for folder in (".", "physics", "network", "simulation"):
        for path in sorted((_HERE / folder).glob("*.py")):
            source = path.read_bytes()
            if any(word in source for word in _COMPILED):
                name.update(source)
    here = _HERE / "__pycache__"
    home = (
        here
        if os.access(here if here.exists() else _HERE, os.W_OK)
        else (Path.home() / ".cache" / "bathys")
    )
    os.environ["NUMBA_CACHE_DIR"] = str(home / f"compiled-{name.hexdigest()[:12]}")
