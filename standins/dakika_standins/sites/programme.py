"""A house's programme as a calendar (RFC 5545), for who plans beside it."""

from datetime import timedelta

from starlette.requests import Request
from starlette.responses import Response

from dakika_standins.http import state_of
from dakika_standins.world.scenario import ACCOUNTS


async def programme(request: Request) -> Response:
    """Night openings every Thursday, and a guided tour on the first Sunday of the month, since two months ago."""
    site = request.path_params["site"]
    if not any(account.website == site for account in ACCOUNTS):
        return Response(status_code=404)
    today = state_of(request).now().date()
    begun = (today - timedelta(days=60)).replace(day=1)
    thursday = begun + timedelta(days=(3 - begun.weekday()) % 7)
    sunday = begun + timedelta(days=(6 - begun.weekday()) % 7)
    lines = [
        "BEGIN:VCALENDAR", "VERSION:2.0", f"PRODID:-//{site}//programme//EN", "NAME:Programme of the house",
        "BEGIN:VEVENT", f"UID:night@{site}.example", f"DTSTAMP:{begun:%Y%m%d}T000000Z", "SUMMARY:Open until midnight",
        f"DTSTART;TZID=Europe/Lisbon:{thursday:%Y%m%d}T180000", "DURATION:PT6H", "RRULE:FREQ=WEEKLY", "END:VEVENT",
        "BEGIN:VEVENT", f"UID:tour@{site}.example", f"DTSTAMP:{begun:%Y%m%d}T000000Z", "SUMMARY:Tour of the roof",
        f"DTSTART;VALUE=DATE:{sunday:%Y%m%d}", "RRULE:FREQ=MONTHLY;BYDAY=1SU", "END:VEVENT", "END:VCALENDAR", "",
    ]  # fmt: skip
    mark = f'"programme-{begun:%Y%m}"'
    if request.headers.get("if-none-match") == mark:
        return Response(status_code=304, headers={"ETag": mark})
    return Response("\r\n".join(lines), media_type="text/calendar", headers={"ETag": mark})
