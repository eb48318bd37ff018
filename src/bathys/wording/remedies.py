"""What a remedy does, in words."""

from bathys.pipeline import Remedy
from bathys.plan import Plan
from bathys.units import System, fill_sentence, show

__all__ = ["remedy_words"]


def remedy_words(remedy: Remedy, plan: Plan, units: System) -> str:
    """A remedy and what it does, as a sentence without its full stop.

    Parameters
    ----------
    remedy : Remedy
        The remedy
    plan : Plan
        The plan
    units : System
        The reader's units

    Returns
    -------
    str
        The sentence
    """
    words = fill_sentence(remedy.offer.label, remedy.offer.figures, units, plan.names)
    one, two = remedy.before, remedy.after
    if one is not None and two is not None:
        before, after = (show(f.value, f.quantity, units) for f in (one, two))
        if before != after:
            words += f": {one.label[0].lower()}{one.label[1:]} {before} → {after}"
    if remedy.cures:
        words += " (fixes it)"
    if remedy.raised:
        titles = dict.fromkeys(
            f"{f.rule.title[:1].lower()}{f.rule.title[1:]}" for f in remedy.raised
        )
        words += f"; but it causes: {', '.join(titles)}"
    return words
