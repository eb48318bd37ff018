"""How inner functions are compiled, and how what was compiled is kept.

Every module that compiles something imports this one. It changes two things of numba's that it
calls private, so numba's version is pinned.
"""

import fcntl
import itertools
import secrets
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import wraps
from pathlib import Path
from typing import Any, TypeVar, cast

import numpy as np
from numba import njit
from numba.core.bytecode import FunctionIdentity
from numba.core.caching import IndexDataCacheFile
from numpy.typing import NDArray

__all__ = ["njit_borrowing", "njit_inlined", "over_arrays", "record_of"]

Floats = NDArray[np.float64]
Function = TypeVar("Function", bound=Callable[..., Any])

_borrowing: Any = njit(cache=True, **{"_nrt": False})  # type: ignore[call-overload]


def njit_borrowing(function: Function) -> Function:
    """Compile a function that makes no array of its own and only borrows its caller's.

    Parameters
    ----------
    function : callable
        Of numbers and arrays

    Returns
    -------
    callable
        The same, compiled

    Notes
    -----
    numba then keeps no counts of references to the arrays, which otherwise takes more time than a
    short law itself. The tests compare the results with and without.
    """
    return cast(Function, _borrowing(function))


def record_of(fields: list[tuple[str, Any]]) -> Any:
    """A type of rows with named fields, for arrays that compiled code reads by name.

    Parameters
    ----------
    fields : list of (str, type)
        Each field's name and type

    Returns
    -------
    dtype
        Whose rows know their fields by name also where nothing is compiled
    """
    return np.dtype((np.record, fields))


def over_arrays(
    law: Callable[..., tuple[Floats, Floats]], *values: Floats | float
) -> tuple[Floats, Floats]:
    """A compiled law of flat arrays, over arrays that broadcast against each other.

    Used instead of numba's own compiled array functions, which it keeps in two files that two
    processes starting at once may write in turns; whoever reads them then dies.

    Parameters
    ----------
    law : callable
        From flat arrays of one size to two more
    values : arrays
        In the law's order

    Returns
    -------
    (array, array)
        What the law gives, in the shape that the values have together
    """
    wide = np.broadcast_arrays(*values)
    one, two = law(*(np.array(v, dtype=np.float64).ravel() for v in wide))
    return one.reshape(wide[0].shape), two.reshape(wide[0].shape)


_inlined: Any = njit(cache=True, forceinline=True, **{"_nrt": False})  # type: ignore[call-overload]


def njit_inlined(function: Function) -> Function:
    """As :func:`njit_borrowing`, put into its callers whole.

    Parameters
    ----------
    function : callable
        Of numbers, arrays and tuples of arrays

    Returns
    -------
    callable
        The same, compiled

    Notes
    -----
    A tuple of many arrays is otherwise handed over word by word, which takes longer than a short
    function itself.
    """
    return cast(Function, _inlined(function))


@contextmanager
def _held(folder: str, how: int) -> Iterator[None]:
    try:
        file = (Path(folder) / ".lock").open("a")
    except OSError:  # nothing is kept there yet, or nothing may be
        yield
        return
    with file:
        fcntl.flock(file, how)
        yield


def _one_at_a_time(work: Callable[..., Any], how: int) -> Callable[..., Any]:
    @wraps(work)
    def held(self: Any, *rest: Any) -> Any:
        with _held(self._cache_path, how):
            return work(self, *rest)

    return held


# numba numbers what it keeps of one function by an index it reads before and writes after: two
# processes that start cold would each write number 1, for different arguments.
setattr(IndexDataCacheFile, "save", _one_at_a_time(IndexDataCacheFile.save, fcntl.LOCK_EX))  # noqa: B010
setattr(IndexDataCacheFile, "load", _one_at_a_time(IndexDataCacheFile.load, fcntl.LOCK_SH))  # noqa: B010

# Inner functions are told apart in compiled code by a count that each process begins at 1, so that
# code kept by one process may name another function as code of the next one does, and the first
# that is loaded answers for both. Counts that begin anywhere do not meet.
FunctionIdentity._unique_ids = itertools.count(secrets.randbits(40) << 20)
