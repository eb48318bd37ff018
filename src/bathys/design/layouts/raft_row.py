"""Rafts one behind the other, with one standpipe at the end."""

from bathys.design.brief import DesignBrief, shell_of
from bathys.design.draft import Draft
from bathys.parts.bores import PipeSize
from bathys.plan.shell import Shell

__all__ = ["add_raft_row", "row_rim"]

_UNDER_RIM = 0.08  # water under a raft's rim [m]


def row_rim(raft: Shell) -> float:
    """Height at which water stands in a row of rafts [m].

    Parameters
    ----------
    raft : Shell
        One of them

    Returns
    -------
    float
        Over its floor, [m]
    """
    return round(raft.height - _UNDER_RIM, 3)


def add_raft_row(
    draft: Draft,
    brief: DesignBrief,
    source: tuple[str, str],
    end: str,
    pipe: PipeSize,
    floor: float,
) -> list[str]:
    """Put down a row of rafts.

    Parameters
    ----------
    draft : Draft
        The draft
    brief : DesignBrief
        The brief
    source : (str, str)
        Where their water is from, and the name of the run from there
    end : str
        Where the last one drains to
    pipe : PipeSize
        Between them
    floor : float
        Height of their floors, [m]

    Returns
    -------
    list of str
        Their ids
    """
    raft, (place, words), ids = shell_of(brief.rafts), source, list[str]()
    rim = row_rim(raft)
    for number in range(1, brief.rafts.count + 1):
        id_ = draft.vessel(
            draft.named("G"), f"Raft {number}", "raft", raft, floor, crop={"kind": "leafy"}
        )
        draft.run(words, place, draft.port(id_, "inlet", rim), pipe, 0.6)
        ids.append(id_)
        if number < brief.rafts.count:
            place, words = draft.port(id_, "outlet", rim), f"Raft link {number}"
    last = draft.part(
        "outlets",
        kind="standpipe",
        id=draft.named("O"),
        name="Raft standpipe",
        stands_in=ids[-1],
        bore=pipe.as_data,
        rim_height=rim,
    )
    draft.run("Raft drain", f"{last}.out", end, pipe, 0.8, 2)
    return ids
