"""Losses where a pipe changes its bore, as K on the narrower bore."""

__all__ = ["contraction_loss", "expansion_loss"]


def expansion_loss(narrow: float, wide: float) -> float:
    """K of a sudden widening: (1 − β²)², β the ratio of the bores.

    Parameters
    ----------
    narrow : float
        Bore before, [m]
    wide : float
        Bore after, no less than ``narrow``, [m]

    Returns
    -------
    float
        K on the narrow bore, [-]

    References
    ----------
    Borda–Carnot, as in Crane TP-410 (2018), eq. 2-24 (memory).

    Examples
    --------
    >>> expansion_loss(0.02, 0.04)
    0.5625
    """
    return float((1.0 - (narrow / wide) ** 2) ** 2)


def contraction_loss(narrow: float, wide: float) -> float:
    """K of a sudden narrowing: 0.5 (1 − β²), β the ratio of the bores.

    Parameters
    ----------
    narrow : float
        Bore after, [m]
    wide : float
        Bore before, no less than ``narrow``, [m]

    Returns
    -------
    float
        K on the narrow bore, [-]

    References
    ----------
    Crane TP-410 (2018), eq. 2-25 (memory).

    Examples
    --------
    >>> contraction_loss(0.02, 0.04)
    0.375
    """
    return float(0.5 * (1.0 - (narrow / wide) ** 2))
