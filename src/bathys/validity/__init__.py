"""How far the figures are known to be true: what was checked by computation, and by trials.

Public: :data:`CHECKED`, :data:`TRIAL_KINDS`, :func:`read_trials`, :func:`trial_template`,
:func:`pool`.
"""

from bathys.validity.checked import CHECKED, Checked
from bathys.validity.pooling import Pooled, pool
from bathys.validity.trials import (
    TRIAL_KINDS,
    TrialKind,
    TrialRow,
    read_trials,
    trial_template,
)

__all__ = [
    "CHECKED",
    "TRIAL_KINDS",
    "Checked",
    "Pooled",
    "TrialKind",
    "TrialRow",
    "pool",
    "read_trials",
    "trial_template",
]
