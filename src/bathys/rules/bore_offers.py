"""Offers of another bore for a run."""

from bathys.edits import Edit
from bathys.parts.bores import PipeSize, pipe_sizes
from bathys.plan.naming import named
from bathys.plan.pipes import Run
from bathys.rules.registry import Offer

__all__ = ["wider", "wider_bores"]

_STANDARD = "ASTM D1785 Schedule 40"


def _in_sizes(run: Run, sizes: list[PipeSize], watch: str) -> tuple[Offer, ...]:
    offers = []
    for size in sizes:
        edit = Edit(f"runs.{run.id}.bore", size.as_data)
        offers.append(Offer(f"“{named(run)}” in {size.nominal}", (edit,), watch))
    return tuple(offers)


def wider(run: Run, size: PipeSize | None, watch: str) -> tuple[Offer, ...]:
    """The run in a size that would do, if it is a wider one, and in the one after that: what comes
    through a wider pipe may be more. ``watch`` is a figure of the run.

    Parameters
    ----------
    run : Run
        The run
    size : PipeSize or None
        The size that would do, if there is one
    watch : str
        Key of the figure that shows what it does

    Returns
    -------
    tuple of Offer
        Up to two changes, each with its words
    """
    if size is None:
        return ()
    sizes = [s for s in pipe_sizes(size.standard) if s.bore >= max(size.bore, run.bore.inside)]
    return _in_sizes(run, [s for s in sizes if s.bore > run.bore.inside][:2], f"{run.id}.{watch}")


def wider_bores(run: Run, watch: str) -> tuple[Offer, ...]:
    """The run in each of the next three sizes; ``watch`` is the whole key of a figure.

    Parameters
    ----------
    run : Run
        The run
    watch : str
        Key of the figure that shows what it does

    Returns
    -------
    tuple of Offer
        Up to three changes, each with its words
    """
    standard = run.bore.size.standard if run.bore.size is not None else _STANDARD
    sizes = [s for s in pipe_sizes(standard) if s.bore > 1.02 * run.bore.inside]
    return _in_sizes(run, sizes[:3], watch)
