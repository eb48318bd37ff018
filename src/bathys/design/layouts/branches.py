"""Beds and rafts beside each other, each with a branch of its own and a drain to the sump."""

from bathys.design.air import raft_air
from bathys.design.amounts import raft_flow
from bathys.design.beds import add_flooded_bed
from bathys.design.brief import DesignBrief, shell_of
from bathys.design.draft import Draft, FreeEnd, drain_size
from bathys.design.falls import SUMP_UNDER_RIM, Fall, check_rim, floor_over
from bathys.design.parts import Choice
from bathys.plan.shell import Shell

__all__ = ["RAFT_RIM", "add_branch_beds", "add_branch_rafts", "air_of_rafts"]

RAFT_RIM = 0.07
"""A raft's standpipe under its rim [m]."""

_TAIL = 0.45  # of beds, from the floor to the tail's end (common practice: 0.3 to 0.6) [m]
_STAND = 0.3  # beds and rafts stand so high at the least, to be tended [m]
_LONGEST = 6.0  # drain from one bed [m]


def add_branch_beds(
    draft: Draft, brief: DesignBrief, choice: Choice, sump: tuple[str, Shell, float]
) -> tuple[list[FreeEnd], float]:
    """Beds that flood and drain by siphons, beside each other.

    Parameters
    ----------
    draft : Draft
        The draft
    brief : DesignBrief
        The brief
    choice : Choice
        What is chosen
    sump : (str, Shell, float)
        Id of the sump, what it is made of, and the height at which drains end in it, [m]

    Returns
    -------
    (list of FreeEnd, float)
        Where their water is to come in, and the height of their rims, 0 without beds, [m]

    Raises
    ------
    DesignRefused
        If they would stand too high, or no siphon works
    """
    if not brief.beds.count:
        return [], 0.0
    (sump_id, shell, ends), bed, inlets = sump, shell_of(brief.beds), list[FreeEnd]()
    floor = max(ends + _TAIL, _STAND)
    check_rim(brief, "beds", floor + bed.height, shell)
    for number in range(1, brief.beds.count + 1):
        end = draft.port(sump_id, f"bed{number}", shell.height - SUMP_UNDER_RIM)
        length = min(brief.apart * (0.5 + 0.7 * (number - 1)), _LONGEST)
        inlets.append(
            add_flooded_bed(draft, brief, choice, number, floor, end, floor - ends, length)
        )
    return inlets, floor + bed.height


def add_branch_rafts(
    draft: Draft, brief: DesignBrief, sump: tuple[str, Shell, float]
) -> list[FreeEnd]:
    """Rafts beside each other, each with a standpipe.

    Parameters
    ----------
    draft : Draft
        The draft
    brief : DesignBrief
        The brief
    sump : (str, Shell, float)
        Id of the sump, what it is made of, and the height at which drains end in it, [m]

    Returns
    -------
    list of FreeEnd
        Where their water is to come in

    Raises
    ------
    DesignRefused
        If they would stand too high
    """
    (sump_id, shell, ends), inlets = sump, list[FreeEnd]()
    for number in range(1, brief.rafts.count + 1):
        raft, length = shell_of(brief.rafts), min(brief.apart * (0.5 + number), _LONGEST)
        rim = round(raft.height - RAFT_RIM, 3)
        flow = raft_flow(raft.holds(rim))
        floor = floor_over(Fall(ends, length), 0.0, _STAND)
        check_rim(brief, "rafts", floor + raft.height, shell)
        id_ = draft.vessel(
            draft.named("G"), f"Raft {number}", "raft", raft, floor, crop={"kind": "leafy"}
        )
        size = drain_size(brief.pipe, 2.0 * flow, wider=1)
        pipe = draft.part(
            "outlets",
            kind="standpipe",
            id=draft.named("O"),
            name=f"Raft standpipe {number}",
            stands_in=id_,
            bore=size.as_data,
            rim_height=rim,
        )
        end = draft.port(sump_id, f"raft{number}", shell.height - SUMP_UNDER_RIM)
        draft.run(f"Raft drain {number}", f"{pipe}.out", end, size, length, 2)
        place = draft.port(id_, "inlet", raft.height + 0.03)
        inlets.append(FreeEnd(f"To raft {number}", place, flow))
    return inlets


def air_of_rafts(brief: DesignBrief, inlets: list[FreeEnd]) -> list[tuple[str, float]]:
    """Air for rafts by where their water comes in.

    Parameters
    ----------
    brief : DesignBrief
        The brief
    inlets : list of FreeEnd
        From :func:`add_branch_rafts`

    Returns
    -------
    list of (str, float)
        Id and air of each, [m³/s]
    """
    return [(i.place.partition(".")[0], raft_air(shell_of(brief.rafts))) for i in inlets]
