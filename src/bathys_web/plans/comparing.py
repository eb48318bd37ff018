"""Two plans side by side: what differs, and what that does."""

from collections.abc import Container, Iterable
from typing import Any

from django.core.exceptions import ValidationError
from django.http import QueryDict

from bathys.drawing import draw_side_view
from bathys.drawing.stations import stations_of
from bathys.figures import Figure
from bathys.network import NotSolved
from bathys.pipeline import Assessment
from bathys.plan import Difference, Plan, differences
from bathys.units import System, fill_sentence, show
from bathys_web.plans.headlines import Headline
from bathys_web.plans.inspector import find_row, shown_value
from bathys_web.plans.models import Revision, SavedPlan
from bathys_web.plans.numbers import whole_number
from bathys_web.plans.storing import assessment_of

__all__ = ["compare_page", "counts_words", "difference_rows", "figure_rows", "headline_rows"]

_Told = Figure | Headline
_SAME = 5e-4  # figures that differ by less are the same, for the eye
_MOST_REVISIONS = 60
_MOST_FIGURES = 14  # told at once; the others are opened
_WHOLE = 1e9
_TENTH, _MANY = 0.1, 9.0


def _revision(saved: SavedPlan, text: str | None, default: Revision) -> Revision:
    """A revision by its number, or of another plan of the same owner by its key and number."""
    key, _, number = (text or "").rpartition("/")
    revisions = Revision.objects.filter(plan__owner=saved.owner, number=whole_number(number))
    try:
        found = (
            revisions.filter(plan__key=key).first() if key else revisions.filter(plan=saved).first()
        )
    except ValidationError:
        return default
    return found or default


def _choices(saved: SavedPlan) -> list[tuple[str, str]]:
    own = [
        (str(r.number), f"{r.number}: {r.what_changed}")
        for r in saved.revisions.order_by("-number")[:_MOST_REVISIONS]
    ]
    others = SavedPlan.objects.filter(owner=saved.owner).exclude(pk=saved.pk)[:20]
    beside = [
        (f"{o.key}/{o.head.number}", f"{o.head.document['name']}, current")
        for o in others
        if o.head is not None
    ]
    origin = saved.origin
    if origin is None:
        return own + beside
    name = origin.document["name"]
    copied = (_name(saved, origin), f"{name}, revision {origin.number}: copied from it")
    return [*own, copied, *(row for row in beside if row[0] != copied[0])]


def _path(plan: Plan, row: Difference) -> str:
    """The field's path in the inspector, where a fitting's box is its count."""
    path = f"{plan.group_of(row.part)}.{row.part}.{row.path}" if row.part else row.path
    return path.removesuffix(".count") if ".fittings." in path else path


def _value(plan: Plan, row: Difference, value: Any, units: System) -> str:
    """A field's value as the inspector would show it."""
    if value is None:
        return "none"
    shown = find_row(plan, _path(plan, row), units)
    if shown is not None:
        return shown.text.replace("\n", "; ") if shown.is_lines else shown_value(shown)
    if isinstance(value, float):
        return f"{value:.6g}"
    return str(value)


def _label(plans: tuple[Plan, Plan], row: Difference, units: System) -> tuple[str, str]:
    """Name of the part, and of the field."""
    known = [p for p in plans if not row.part or p.part(row.part) is not None]
    name = known[0].part(row.part).name if row.part else "Plan and site"
    if not row.path:
        return name, "is there"
    shown = next(filter(None, (find_row(p, _path(p, row), units) for p in known)), None)
    return name, shown.label if shown is not None else row.path.replace("_", " ").replace(".", ", ")


def difference_rows(one: Plan, two: Plan, units: System) -> list[dict[str, str]]:
    """Fields that differ between two plans.

    Parameters
    ----------
    one, two : Plan
        The plans
    units : System
        The reader's units

    Returns
    -------
    list of dict
        Part, field, and its value in each, in words
    """
    rows = []
    for row in differences(one, two):
        part, field = _label((one, two), row, units)
        if row.path:
            before, after = _value(one, row, row.before, units), _value(two, row, row.after, units)
        else:
            before, after = ("yes" if v is not None else "no" for v in (row.before, row.after))
        if before != after:
            rows.append({"part": part, "field": field, "before": before, "after": after})
    return rows


def figure_rows(one: Assessment, two: Assessment, units: System) -> list[dict[str, str]]:
    """Figures that differ between two plans, those that matter most first, then the greatest
    change.

    Parameters
    ----------
    one : Assessment
        The plan before
    two : Assessment
        The plan after
    units : System
        The reader's units

    Returns
    -------
    list of dict of str to str
        Rows of the template
    """
    leading = {f.key for a in (one, two) for f in a.headlines}
    return _moved(one.figures, two.figures, units, leading)


def headline_rows(
    one: Iterable[Headline], two: Iterable[Headline], units: System
) -> list[dict[str, str]]:
    """Figures at the head of the page that read otherwise in two plans, the greatest change
    first.

    Parameters
    ----------
    one : iterable of Headline
        Headlines of the plan before
    two : iterable of Headline
        Headlines of the plan after
    units : System
        The reader's units

    Returns
    -------
    list of dict of str to str
        Rows of the template
    """
    return [row for row in _moved(one, two, units) if row["before"] != row["after"]]


def _moved(
    one: Iterable[_Told],
    two: Iterable[_Told],
    units: System,
    leading: Container[str] = frozenset(),
) -> list[dict[str, str]]:
    before, after = {f.key: f for f in one}, {f.key: f for f in two}
    rows: list[tuple[float, dict[str, str]]] = []
    for key in {**before, **after}:
        a, b = before.get(key), after.get(key)
        told = a or b
        if told is None or _is_same(a, b):
            continue
        change = _change(a, b)
        rows.append(
            (
                abs(change) + (_WHOLE * 10.0 if key in leading else 0.0),
                {
                    "label": told.label,
                    "before": _shown(a, units),
                    "after": _shown(b, units),
                    "by": _by(change),
                },
            )
        )
    return [row for _, row in sorted(rows, key=lambda r: -r[0])]


def counts_words(fault: int, warning: int) -> str:
    """How many problems and warnings there are.

    Parameters
    ----------
    fault : int
        How many problems
    warning : int
        How many warnings

    Returns
    -------
    str
        The words
    """
    counts = {"problem": fault, "warning": warning}
    said = [f"{count} {kind}{'s' * (count > 1)}" for kind, count in counts.items() if count]
    return " and ".join(said) or "no problems"


def _by(change: float) -> str:
    """A change in words: a share, or how many times as much where it more than doubles."""
    if change in (0.0, _WHOLE):
        return ""
    if change >= 1.0:
        return f"{1.0 + change:,.0f} ×" if change >= _MANY else f"{1.0 + change:.1f} ×"
    return f"{100.0 * change:+.0f}%" if abs(change) >= _TENTH else f"{100.0 * change:+.1f}%"


def _is_same(a: _Told | None, b: _Told | None) -> bool:
    if a is None or b is None or a.value is None or b.value is None:
        return (a is None or a.value is None) and (b is None or b.value is None)
    return abs(a.value - b.value) <= _SAME * max(abs(a.value), abs(b.value))


def _shown(figure: _Told | None, units: System) -> str:
    return "–" if figure is None else show(figure.value, figure.quantity, units)


def _change(a: _Told | None, b: _Told | None) -> float:
    """Share by which a figure moves; a figure that only one of them has moves most."""
    if a is None or b is None or not a.value or b.value is None:
        return _WHOLE
    return b.value / a.value - 1.0


def _findings(one: Assessment, two: Assessment, units: System) -> list[dict[str, str]]:
    """Findings that only one of the two has."""
    names = [{(f.rule.id, f.place) for f in x.findings} for x in (one, two)]
    rows = []
    for found, others, where in ((one, names[1], "left"), (two, names[0], "right")):
        rows += [
            {
                "where": where,
                "severity": f.severity,
                "sentence": fill_sentence(
                    f.sentence, f.figures, units, found.evaluation.plan.names
                ),
            }
            for f in found.findings
            if (f.rule.id, f.place) not in others
        ]
    return rows


def compare_page(saved: SavedPlan, asked: QueryDict, units: System) -> dict[str, Any]:
    """Everything on the page that compares two revisions or plans.

    Parameters
    ----------
    saved : SavedPlan
        The plan it is asked for
    asked : QueryDict
        ``one`` and ``two``: a revision's number, or another plan's key, a stroke and a number
    units : {"metric", "us"}
        The system shown

    Returns
    -------
    dict
        For the template
    """
    head = saved.head
    assert head is not None  # noqa: S101 - every stored plan has a revision
    one = _revision(saved, asked.get("one"), saved.origin or head.parent or head)
    two = _revision(saved, asked.get("two"), head)
    page: dict[str, Any] = {
        "saved": saved,
        "choices": _choices(saved),
        "one": _name(saved, one),
        "two": _name(saved, two),
        "units": units,
    }
    try:
        left, right = assessment_of(one), assessment_of(two)
    except NotSolved as error:
        return {**page, "refusal": f"One of them cannot be worked out: {error}."}
    plans = (left.evaluation.plan, right.evaluation.plan)
    figures = figure_rows(left, right, units)
    return {
        **page,
        "left": plans[0],
        "right": plans[1],
        "left_scene": draw_side_view(left.evaluation, stations_of(plans[0]), units),
        "right_scene": draw_side_view(right.evaluation, stations_of(plans[1]), units),
        "rows": difference_rows(*plans, units),
        "figures": figures[:_MOST_FIGURES],
        "more_figures": figures[_MOST_FIGURES:],
        "findings": _findings(left, right, units),
    }


def _name(saved: SavedPlan, revision: Revision) -> str:
    if revision.plan_id == saved.pk:
        return str(revision.number)
    return f"{revision.plan.key}/{revision.number}"
