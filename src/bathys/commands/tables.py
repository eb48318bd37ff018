"""Tables in plain text."""

from collections.abc import Sequence

__all__ = ["table"]


def table(head: Sequence[str], rows: Sequence[Sequence[str]], left: int = 1) -> list[str]:
    """Rows under a head, columns lined up; the first ``left`` of them to the left."""
    lines = [list(head), *[list(r) for r in rows]]
    wide = [max(len(line[i]) for line in lines) for i in range(len(head))]
    return [
        "  ".join(
            word.ljust(w) if i < left else word.rjust(w)
            for i, (word, w) in enumerate(zip(line, wide, strict=True))
        ).rstrip()
        for line in lines
    ]
