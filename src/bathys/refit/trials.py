"""A plan tried with other numbers, and what readings of it would come to then."""

from collections.abc import Collection, Iterator, Mapping, Sequence

import numpy as np
from numpy.typing import NDArray

from bathys.evaluation import Evaluation, evaluate
from bathys.network import NotSolved
from bathys.plan.model import Plan
from bathys.refit.measures import MEASURES, ammonia_of
from bathys.refit.parameters import METER, Parameter, with_values
from bathys.simulation import NotSimulated

__all__ = ["LIMIT", "Trials", "predicted_readings"]

Floats = NDArray[np.float64]

LIMIT = 3.5
"""So far a parameter is moved from its median [spreads]."""

_STEP = 0.05  # of a parameter, for slopes [spreads]
_ALONE = ("ammonia",)  # readings that take long, and that hardly move but with what they tell of


class Trials:
    """A plan tried with other parameters.

    Parameters
    ----------
    plan : Plan
        The plan
    parameters : sequence of Parameter
        What may be other than it says
    kinds : collection of str
        Kinds of readings that are made, beside those worth putting forward
    fed : float
        Share of the plan's feed that was given, [-]
    """

    def __init__(
        self,
        plan: Plan,
        parameters: Sequence[Parameter],
        kinds: Collection[str] = (),
        fed: float = 1.0,
    ) -> None:
        self.plan, self.parameters, self.kinds, self.fed = plan, parameters, kinds, fed

    def evaluation(self, z: Floats, grown: float = 1.0) -> Evaluation | None:
        """The numbers with other parameters.

        Parameters
        ----------
        z : array of shape (n,)
            How many spreads each lies from its median, [-]
        grown : float
            So many times as large as that is what grows until it is cleaned, [-]

        Returns
        -------
        Evaluation or None
            None where the balance does not settle
        """
        values = {
            field: min(grown * p.value(float(at)), p.high) if p.grows else p.value(float(at))
            for p, at in zip(self.parameters, z, strict=True)
            for field in p.fields
        }
        try:
            return evaluate(with_values(self.plan, values))
        except (NotSolved, NotSimulated):
            return None

    def read(
        self,
        z: Floats,
        found: Evaluation | None,
        near: Mapping[tuple[str, str], float] | None = None,
    ) -> dict[tuple[str, str], float]:
        """What readings should come to.

        Parameters
        ----------
        z : array of shape (n,)
            How many spreads each parameter lies from its median, [-]
        found : Evaluation or None
            The numbers with these
        near : mapping of (str, str) to float, optional
            What they come to near by, of which those that take long are taken over

        Returns
        -------
        dict of (str, str) to float
            By kind and part, in SI; empty where there are no numbers
        """
        kept = {key: value for key, value in (near or {}).items() if key[0] in _ALONE}
        kinds = set(self.kinds) - {kind for kind, _ in kept}
        rows = predicted_readings(found, kinds, self.fed)
        rows |= kept if rows else {}
        pairs = zip(self.parameters, z, strict=True)
        shown = next((p.value(float(at)) for p, at in pairs if p.key == METER), 1.0)
        return {key: value * (shown if key[0] == "watts" else 1.0) for key, value in rows.items()}

    def moved(
        self, z: Floats, near: Mapping[tuple[str, str], float]
    ) -> Iterator[tuple[float, Evaluation | None, dict[tuple[str, str], float]]]:
        """Each parameter moved by a step, inwards where it stands at its end.

        Parameters
        ----------
        z : array of shape (n,)
            How many spreads each parameter lies from its median, [-]
        near : mapping of (str, str) to float
            What readings come to there

        Yields
        ------
        (float, Evaluation or None, dict)
            The step, [spreads], the numbers with it, and what readings should come to
        """
        steps = np.where(z > LIMIT - 2.0 * _STEP, -_STEP, _STEP)
        for n, parameter in enumerate(self.parameters):
            there = z + np.eye(len(z))[n] * steps[n]
            found = self.evaluation(there)
            own = parameter.told_by in _ALONE
            yield float(steps[n]), found, self.read(there, found, None if own else near)


def predicted_readings(
    found: Evaluation | None, kinds: Collection[str] = (), fed: float = 1.0
) -> dict[tuple[str, str], float]:
    """What readings should come to by the numbers of a plan.

    Parameters
    ----------
    found : Evaluation or None
        The numbers
    kinds : collection of str
        Kinds of readings that are made, beside those worth putting forward
    fed : float
        Share of the plan's feed that was given, [-]

    Returns
    -------
    dict of (str, str) to float
        By kind and part, in SI; without what has no end, such as ammonia that climbs
    """
    if found is None:
        return {}
    return {
        (m.kind, part): at
        for m in MEASURES.values()
        if m.is_put_forward or m.kind in kinds
        for part, at in (ammonia_of(found, fed) if m.kind == "ammonia" else m.predicted(found))
        if np.isfinite(at)
    }
