"""What is wrong, in words that page and message share."""

from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.instruments import ALARMS, CHANNEL_KINDS
from bathys.rules import FAILURES
from bathys.units import System, fill_sentence, show
from bathys_web.instruments.models import Incident, RaisedAlarm

__all__ = ["IncidentWords", "alarm_words", "incident_words"]


@dataclass(frozen=True, slots=True)
class IncidentWords:
    """Something that went wrong, in words.

    Attributes
    ----------
    title : str
        The gravest of it
    alarms, causes, acts : tuple of str
        What is read, which failures fit, what to do first
    """

    title: str
    alarms: tuple[str, ...]
    causes: tuple[str, ...]
    acts: tuple[str, ...]


def alarm_words(alarm: RaisedAlarm, found: Evaluation, units: System) -> str:
    """An alarm as a sentence without its full stop.

    Parameters
    ----------
    alarm : RaisedAlarm
        The alarm
    found : Evaluation
        The numbers of the plan
    units : System
        The reader's units

    Returns
    -------
    str
        What is wrong, and what was read
    """
    name = found.plan.names.get(alarm.part, alarm.part)
    about = ALARMS[alarm.kind]  # type: ignore[index]
    title = fill_sentence(about.title, {"part": name}, units, {})
    if alarm.kind in ("leak", "gain"):
        return f"{title}: {show(alarm.value, 'volume', units)}"
    kind = CHANNEL_KINDS.get(alarm.measured)
    if kind is None or alarm.kind in ("silent", "contact", "still"):
        return title
    value, limit = (show(v, kind.quantity, units) for v in (alarm.value, alarm.limit))
    return f"{title}: {value}, the limit is {limit}"


def incident_words(incident: Incident, found: Evaluation, units: System) -> IncidentWords:
    """What went wrong.

    Parameters
    ----------
    incident : Incident
        The incident
    found : Evaluation
        The numbers of the plan
    units : System
        The reader's units

    Returns
    -------
    IncidentWords
        In words
    """
    rows = sorted(incident.alarms.all(), key=lambda a: not ALARMS[a.kind].is_grave)  # type: ignore[index]
    titles = [alarm_words(a, found, units) for a in rows]
    names = found.plan.names
    causes = [
        FAILURES[kind].format(name=names[place])
        for kind, place in incident.causes
        if place in names and kind in FAILURES
    ]
    acts = dict.fromkeys(ALARMS[a.kind].act for a in rows)  # type: ignore[index]
    first = titles[0] if titles else "Something was wrong"
    return IncidentWords(
        first,
        tuple(titles),
        tuple(words[:1].upper() + words[1:] for words in causes),
        tuple(acts),
    )
