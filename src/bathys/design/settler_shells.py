"""What a settler could be made of for a flow."""

from bathys.design.brief import Aim
from bathys.design.refusing import DesignRefused
from bathys.parts.containers import containers
from bathys.parts.practice import SETTLER_RATE, SETTLER_USUAL
from bathys.plan.shell import Shell, shell_from

__all__ = ["settler_shell"]

_GROUPS = ("Drums and buckets", "Round tanks")
_OPEN = 0.85  # of its area, where water rises [-]
_FULL = 0.83  # of its volume [-]


def settler_shell(flow: float, aim: Aim) -> Shell:
    """The smallest round container in which a flow rises slowly enough and stays long enough; the
    next larger one where most margin is wanted.

    Parameters
    ----------
    flow : float
        Flow, [m³/s]
    aim : Aim
        What matters most

    Returns
    -------
    Shell
        The container

    Raises
    ------
    DesignRefused
        If none is large enough
    """
    made = []
    for container in containers():
        if container.group in _GROUPS and container.shape["kind"] == "cylinder":
            made.append(shell_from(container.shape))
    made.sort(key=lambda shell: shell.capacity)
    does = [
        shell
        for shell in made
        if flow <= SETTLER_RATE * _OPEN * shell.footprint
        and flow * SETTLER_USUAL <= _FULL * shell.capacity
    ]
    if not does:
        most = max(
            min(SETTLER_RATE * _OPEN * s.footprint, _FULL * s.capacity / SETTLER_USUAL)
            for s in made
        )
        sentence = (
            "The fish tank asks for {flow:flow}, and the largest settler of one container takes "
            "{most:flow}. Take a smaller tank, or two plans side by side."
        )
        raise DesignRefused("tank", sentence, {"flow": flow, "most": most})
    return does[min(1 if aim == "margin" else 0, len(does) - 1)]
