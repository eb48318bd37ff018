"""A simulated board on the demo plan that has run for a season."""

from bathys.instruments import usual_channels
from bathys_web.instruments.actions.keep_board import NewChannel, add_board
from bathys_web.plans.actions.start_demo import of_running_demo
from bathys_web.plans.models import SavedPlan
from bathys_web.plans.storing import assessment_of

__all__ = ["connect_demo"]


@of_running_demo
def connect_demo(saved: SavedPlan) -> None:
    """Connect it.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    """
    found = assessment_of(saved.current).evaluation
    channels = [NewChannel(c.key.lower(), c.kind, c.part) for c in usual_channels(found)]
    add_board(saved, saved.owner, "Simulated board", channels, is_simulated=True)
