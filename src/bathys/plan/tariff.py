"""What electricity costs by day and by night."""

from bathys.plan.site import Site
from bathys.plan.switch import Clock

__all__ = ["ALL_DAY", "Spell", "mean_price", "night_hours", "spells_of"]

_HOUR, _DAY = 3600.0, 86400.0

Spell = tuple[tuple[float, float], float]
"""From when and for how long in the day [s], and the share of that it runs [-]."""

ALL_DAY: tuple[Spell, ...] = (((0.0, _DAY), 1.0),)
"""Running round the clock."""


def spells_of(clock: Clock | None, share: float) -> tuple[Spell, ...]:
    """When in the day a pump runs.

    Parameters
    ----------
    clock : Clock or None
        Its turns, if it goes by the clock
    share : float
        Of the time that it runs, [-]

    Returns
    -------
    tuple of Spell
        Its spells, if its clock goes by the day; else alike through day and night
    """
    if clock is None or clock.turn != _DAY or not clock.share:
        return (((0.0, _DAY), share),)
    thinned = min(share / clock.share, 1.0)
    return tuple(((begin, end - begin), thinned) for begin, end in clock.spells)


def night_hours(site: Site, spells: tuple[Spell, ...]) -> float:
    """Hours a day at the night price, 0 where there is none.

    Parameters
    ----------
    site : Site
        With its prices
    spells : tuple of Spell
        When something runs

    Returns
    -------
    float
        Time, [h]
    """
    if site.night_tariff is None:
        return 0.0
    return sum(_at_night(site, *spell) * share for spell, share in spells) / _HOUR


def mean_price(site: Site, spells: tuple[Spell, ...]) -> float:
    """What a kilowatt-hour costs something that runs at these times.

    Parameters
    ----------
    site : Site
        With its prices
    spells : tuple of Spell
        When it runs

    Returns
    -------
    float
        Price, [money/kWh]
    """
    hours = sum(lasts * share for (_, lasts), share in spells) / _HOUR
    if site.night_tariff is None or hours <= 0.0:
        return float(site.tariff)
    night = night_hours(site, spells) / hours
    return float((1.0 - night) * site.tariff + night * site.night_tariff)


def _at_night(site: Site, begins: float, lasts: float) -> float:
    """How much of a spell lies in the hours of the night price [s]."""
    start = site.night_begins
    night = (site.night_ends - start) % _DAY
    into = (begins - start) % _DAY
    first = max(min(night, into + lasts) - into, 0.0)
    again = max(min(into + lasts - _DAY, night), 0.0)
    return first + again
