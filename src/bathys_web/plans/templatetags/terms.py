"""What the terms of a label mean."""

from django import template

from bathys.wording.glossary import Term, term_in

__all__ = ["term_of"]

register = template.Library()


@register.filter
def term_of(label: str) -> Term | None:
    """The term in a label that a newcomer may not know.

    Parameters
    ----------
    label : str
        The label

    Returns
    -------
    Term or None
        The term, or none
    """
    return term_in(label)
