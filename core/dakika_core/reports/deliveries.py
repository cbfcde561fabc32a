"""When a report goes out: rules of RFC 5545 from what people choose."""

from enum import StrEnum

WEEKDAYS = ("MO", "TU", "WE", "TH", "FR", "SA", "SU")
# More often than once a day nobody reads a report.
_TOO_OFTEN = ("FREQ=HOURLY", "FREQ=MINUTELY", "FREQ=SECONDLY", "BYHOUR", "BYMINUTE", "BYSECOND")


class Every(StrEnum):
    """How often."""

    DAY = "day"
    WEEK = "week"
    TWO_WEEKS = "two_weeks"
    MONTH = "month"
    RULE = "rule"


def rule_of(every: Every, *, weekday: int = 0, day: int = 1, rule: str = "") -> str:
    """The rule (RFC 5545, 3.3.10). weekday: 0 is Monday; day: of the month, in a shorter month its last.

    Raises ValueError for a rule that comes more often than daily, or is none by its look.
    """
    if every is Every.DAY:
        return "FREQ=DAILY"
    if every is Every.WEEK:
        return f"FREQ=WEEKLY;BYDAY={WEEKDAYS[weekday]}"
    if every is Every.TWO_WEEKS:
        return f"FREQ=WEEKLY;INTERVAL=2;BYDAY={WEEKDAYS[weekday]}"
    if every is Every.MONTH:
        if not 1 <= day <= 31:
            raise ValueError("A month has days from 1 to 31.")
        # A day that a month does not have would be skipped (3.3.10): the last of those that it has is taken.
        days = ",".join(str(one) for one in range(28, day + 1)) if day > 28 else str(day)
        return f"FREQ=MONTHLY;BYMONTHDAY={days}" + (";BYSETPOS=-1" if day > 28 else "")
    own = rule.strip().upper().removeprefix("RRULE:")
    if any(part in own for part in _TOO_OFTEN):
        raise ValueError("A report goes out once a day at most, at its hour.")
    if "FREQ=" not in own or "\n" in own or len(own) > 200:
        raise ValueError("Write a rule of RFC 5545, such as FREQ=MONTHLY;BYDAY=1MO.")
    return own
