"""Instruments on a layout that runs: what they should read, what calls for somebody, what failed.

Public: :func:`bands_of`, :func:`alarms_of`, :func:`signatures_of` and :func:`causes_of`, each of
the :class:`Channel` that a board measures; :class:`SimulatedRig` sends what a board would.
"""

from bathys.instruments.bands import Band, bands_of, level_reading
from bathys.instruments.causes import Cause, causes_of
from bathys.instruments.channels import (
    CHANNEL_KINDS,
    Channel,
    ChannelKind,
    unit_labels,
    unit_named,
    usual_channels,
)
from bathys.instruments.csv_file import (
    MOST_FILE_BYTES,
    CsvReading,
    CsvShape,
    read_csv,
    shape_of,
    text_of,
)
from bathys.instruments.missing import Missing, drying_of, missing_water
from bathys.instruments.noticing import noticed_after
from bathys.instruments.rig import RigFault, RigReading, RigTopUp, SimulatedRig
from bathys.instruments.series import Series
from bathys.instruments.signatures import Signature, signatures_of, usual_readings
from bathys.instruments.watching import ALARMS, Alarm, AlarmKind, alarms_of

__all__ = [
    "ALARMS",
    "CHANNEL_KINDS",
    "MOST_FILE_BYTES",
    "Alarm",
    "AlarmKind",
    "Band",
    "Cause",
    "Channel",
    "ChannelKind",
    "CsvReading",
    "CsvShape",
    "Missing",
    "RigFault",
    "RigReading",
    "RigTopUp",
    "Series",
    "Signature",
    "SimulatedRig",
    "alarms_of",
    "bands_of",
    "causes_of",
    "drying_of",
    "level_reading",
    "missing_water",
    "noticed_after",
    "read_csv",
    "shape_of",
    "signatures_of",
    "text_of",
    "unit_labels",
    "unit_named",
    "usual_channels",
    "usual_readings",
]
