"""Days that move with today: what a report that comes every month is of."""

from datetime import date, timedelta

from dateutil.relativedelta import relativedelta

# As the trade counts them (common practice, no source); the last days end with yesterday, which is over.
LAST_DAYS = {"last_7": 7, "last_14": 14, "last_28": 28, "last_90": 90}
SPANS = (*LAST_DAYS, "last_week", "this_month", "last_month", "last_quarter", "this_year")


def span_days(span: str, today: date, first_weekday: int = 0) -> tuple[date, date]:
    """First and last day of a span as of a day, both included; weeks begin on first_weekday (0 is Monday).

    This month and this year end with yesterday, on their first day with that day itself. Raises ValueError for a name
    that is none.
    """
    yesterday = today - timedelta(days=1)
    if span in LAST_DAYS:
        return today - timedelta(days=LAST_DAYS[span]), yesterday
    if span == "last_week":
        begins = today - timedelta(days=(today.weekday() - first_weekday) % 7)
        return begins - timedelta(days=7), begins - timedelta(days=1)
    if span == "this_month":
        first = today.replace(day=1)
        return first, max(first, yesterday)
    if span == "last_month":
        first = today.replace(day=1)
        return first - relativedelta(months=1), first - timedelta(days=1)
    if span == "last_quarter":
        first = date(today.year, 3 * ((today.month - 1) // 3) + 1, 1)
        return first - relativedelta(months=3), first - timedelta(days=1)
    if span == "this_year":
        first = date(today.year, 1, 1)
        return first, max(first, yesterday)
    raise ValueError(f"{span} is no span of days")
