"""Tables in plain text."""

from collections.abc import Sequence

__all__ = ["table"]


def table(head: Sequence[str], rows: Sequence[Sequence[str]], left: int = 1) -> list[str]:
    """Rows under a head, columns lined up; the first ``left`` of them to the left.

    Parameters
    ----------
    head : sequence of str
        What stands over each column
    rows : sequence of sequence of str
        Cells, row by row
    left : int
        How many columns are lined up at their left

    Returns
    -------
    list of str
        One line a row, the head first
    """
    lines = [list(head), *[list(r) for r in rows]]
    wide = [max(len(line[i]) for line in lines) for i in range(len(head))]
    return [
        "  ".join(
            word.ljust(w) if i < left else word.rjust(w)
            for i, (word, w) in enumerate(zip(line, wide, strict=True))
        ).rstrip()
        for line in lines
    ]
