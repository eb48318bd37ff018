"""Cautions that belong to a build as such, whatever the figures say (common practice)."""

from dataclasses import dataclass

from bathys.plan.model import Brief

__all__ = ["CAUTIONS", "Caution", "cautions_for"]


@dataclass(frozen=True, slots=True)
class Caution:
    """A caution.

    Attributes
    ----------
    topic : str
        What it is about
    rules : tuple of str
        Rules of the trade it stands for, that no figure of a plan can decide
    sentence : str
        What to mind, deferring to local codes and licensed practice
    way : (str, str) or None
        The practice and the way of it that it belongs to: a plan that has chosen another is not
        told
    """

    topic: str
    sentence: str
    rules: tuple[str, ...] = ()
    way: tuple[str, str] | None = None


CAUTIONS = (
    Caution(
        "Electricity",
        "Residual-current protection on each circuit, drip loops on each cord, "
        "boxes off the floor; a licensed electrician for anything fixed. Pumps and heaters off "
        "before hands go in.",
        ("E2",),
    ),
    Caution(
        "Air",
        "Fish need air within the hour in a power cut: a backup for the air pump, "
        "tried under load.",
        ("E3",),
    ),
    Caution(
        "Beds",
        "Let the water in at the corner farthest from the siphon or standpipe, so "
        "that it passes the whole bed.",
        ("P7",),
        ("feed_place", "corner"),
    ),
    Caution(
        "Clean-outs",
        "A valve ahead of the settler, a clean-out where a drain turns, a union "
        "on either side of a pump.",
        ("P6",),
    ),
    Caution(
        "Weight",
        "A full tank weighs over half a tonne. On a deck, roof or home-made stand "
        "have a structural engineer check it, and never stand under a bed being filled.",
    ),
    Caution(
        "Containers",
        "Use second-hand containers only from a known, non-toxic past, and wash "
        "them. Gloves and eye protection when cutting shells and cages.",
    ),
    Caution(
        "Solvent cement",
        "Glue in moving air, and let it cure as its label says before water and fish go in.",
    ),
    Caution(
        "Tails",
        "Leave the tail’s last elbow dry, so that it can be turned.",
        (),
        ("tail_joints", "dry"),
    ),
    Caution("Metals", "No brass, copper or galvanised parts in fish water.", ("P8",)),
    Caution(
        "Mains water",
        "Keep an air gap on any top-up, dechlorinate, and follow the local plumbing code.",
    ),
    Caution("Children", "Open water drowns small children: cover or fence it."),
    Caution(
        "Fish and food",
        "Some species may not be kept: check local law. Wash produce; salt or "
        "medicine given to the fish reaches the plants.",
    ),
)


def cautions_for(brief: Brief) -> tuple[Caution, ...]:
    """What a plan's builder is told.

    Parameters
    ----------
    brief : Brief
        The plan's brief, with the ways that were chosen

    Returns
    -------
    tuple of Caution
        All but those of a way that it has decided against
    """
    return tuple(
        c for c in CAUTIONS if c.way is None or getattr(brief, c.way[0]) in ("open", c.way[1])
    )
