"""The figures of timing."""

from dakika_server.timing.kinds.held import NewerWeeks
from dakika_server.timing.kinds.hours import WeekHours
from dakika_server.timing.kinds.trials import Trials

KINDS = (WeekHours(), NewerWeeks(), Trials())
