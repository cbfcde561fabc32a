"""Which instant does a cell name? Dates as people, tools and spreadsheets write them, in seven languages.

Month names by the Unicode CLDR (English, German, Portuguese, Greek, Spanish, French, Turkish), held
against babel in the tests.
"""

import re
import unicodedata
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from email.utils import parsedate_to_datetime
from zoneinfo import ZoneInfo

ORDERS = ("dmy", "mdy", "ymd")
_UTC = ZoneInfo("UTC")
_NAMES = """
ene enero jan janeiro januar january janv janvier oca ocak ιαν ιανουαριοσ ιανουαριου janner
feb febrero februar february fev fevereiro fevr fevrier sub subat φεβ φεβρουαριοσ φεβρουαριου
mar march marco mars mart marz marzo μαρ μαρτιοσ μαρτιου mrz
abr abril apr april avr avril nis nisan απρ απριλιοσ απριλιου
mai maio may mayis mayo μαι μαιοσ μαιου
haz haziran juin jun june junho juni junio ιουν ιουνιοσ ιουνιου
juil juillet jul julho juli julio july tem temmuz ιουλ ιουλιοσ ιουλιου
ago agosto agu agustos aout aug august αυγ αυγουστοσ αυγουστου
eyl eylul sep sept september septembre septiembre set setembro σεπ σεπτ σεπτεμβριοσ σεπτεμβριου
eki ekim oct october octobre octubre okt oktober out outubro οκτ οκτωβριοσ οκτωβριου
kas kasim nov november novembre novembro noviembre νοε νοεμβριοσ νοεμβριου
ara aralik dec decembre december dez dezembro dezember dic diciembre δεκ δεκεμβριοσ δεκεμβριου
"""
MONTHS = {name: number for number, line in enumerate(_NAMES.strip().splitlines(), 1) for name in line.split()}
_BEFORE_NOON = frozenset({"am", "πμ", "oo", "a"})
_AFTER_NOON = frozenset({"pm", "μμ", "os", "p"})
_NUMERIC = re.compile(r"^(\d{1,4})([./\- ])\s?(\d{1,2})\2\s?(\d{1,4})\.?$")
_WEEKDAY = re.compile(r"^[^\W\d_]{2,12}(?:-feira)?\.?,? ")
# A letter that is no digit, as in \w without figures and underscores.
_LETTER = r"[^\W\d_]"
_TIME = re.compile(
    rf"(?<![\d.:/\-])(\d{{1,2}})(?:[:h.](\d{{2}})(?:[:.](\d{{2}})(?:[.,](\d{{1,9}}))?)?)?"
    rf"\s*(?:({_LETTER}\.?\s?{_LETTER}\.?)(?!{_LETTER}))?\s*(?:uhr|h|hs|horas|h\.)?$",
    re.IGNORECASE,
)
_OFFSET = re.compile(r"\s*(?:\b(?:UTC|GMT)|\bZ|(?<=\d)Z)?\s*(?:([+-−])(\d{1,2}):?(\d{2})?)?$", re.IGNORECASE)
_HAS_OFFSET = re.compile(
    r"(?:\b(?:UTC|GMT)(?:\s*[+-−]\d{1,2}(?::?\d{2})?)?|(?<=\d)\s?Z|(?<=\d)\s?[+-]\d{2}:?\d{2})$", re.I
)
_COMMENT = re.compile(r"\s*\([^)]{1,40}\)$")
_NAMED_ZONE = re.compile(r"\d{1,2}:\d{2}(:\d{2})?\s+(EST|EDT|CST|CDT|MST|MDT|PST|PDT|UT|GMT|[+-]\d{4})$")
_ASCTIME = re.compile(r"^(\S{2,4} \S{3} \d{1,2}) (\d{1,2}:\d{2}:\d{2})( \S{1,5})? (\d{4})$")
# RFC 5322, 4.3, and Europe's own, from memory; held against zoneinfo in the tests.
_ZONES = {"EST": -5, "EDT": -4, "CST": -6, "CDT": -5, "MST": -7, "MDT": -6, "PST": -8, "PDT": -7, "WET": 0, "WEST": 1,
          "CET": 1, "CEST": 2, "MEZ": 1, "MESZ": 2, "EET": 2, "EEST": 3, "TRT": 3, "BRT": -3}  # fmt: skip
_ZONE = re.compile(rf"(?<=[\d\w]) ({'|'.join(_ZONES)})$")
# Words that stand in written dates beside the month: weekdays by CLDR, and of, the, at in seven languages.
_BESIDE = frozenset(
    """
car carsamba cmt cum cuma cumartesi di dienstag dim dimanche do dom domingo donnerstag fr freitag fri friday jeu
jeudi jue jueves lun lundi lunes mar mardi martes mer mercredi mi mie miercoles mittwoch mo mon monday montag paz
pazar pazartesi per persembe pzt qua quarta quartafeira qui quinta quintafeira sa sab sabado sal sali sam samedi
samstag sat saturday seg segunda segundafeira sex sexta sextafeira so sonntag sun sunday ter terca tercafeira thu
thursday tue tuesday tues thur thurs wed wednesday ven vendredi vie viernes δευ δευτερα κυρ κυριακη παρ παρασκευη
πεμ πεμπτη σαβ σαββατο τετ τεταρτη τρι τριτη feira de del of the le der den dem el am on στισ στην την τησ του
""".split()
)
_AT = re.compile(r"[ ,]*\b(?:at|um|à|às|a las|a la|a|στις)$", re.IGNORECASE)
_ORDINAL = re.compile(r"^(\d{1,4})(?:st|nd|rd|th|er|º|ª|\.)?$", re.IGNORECASE)
# A day of a spreadsheet: 1 January 1955 to 2119. Smaller numbers are more likely something else.
_SERIALS = (20_000.0, 80_000.0)


@dataclass(frozen=True, kw_only=True)
class Written:
    """A date as it is written: a local time without an offset, an instant with one; whether it tells a time of day."""

    at: datetime
    has_time: bool

    def instant(self, zone: ZoneInfo | None = None) -> datetime:
        """The instant in UTC; what has no offset is local in `zone`.

        A time that the clocks skipped is the instant an hour on; one that occurs twice, the first.
        """
        local = self.at if self.at.tzinfo else self.at.replace(tzinfo=zone or _UTC)
        try:
            return local.astimezone(UTC)
        except OverflowError:
            # The first and last days of the calendar have no UTC: they are dates, and impossible ones.
            return self.at.replace(tzinfo=UTC)


def fold(name: str) -> str:
    """A word without case, accents and punctuation; letters and digits of every script stay."""
    plain = unicodedata.normalize("NFKD", name.replace("ı", "i").replace("İ", "i")).casefold()
    return "".join(c for c in unicodedata.normalize("NFKD", plain) if c.isalnum())


def read_date(cell: object, order: str = "") -> Written | None:
    """The date in a cell, None if there is none.

    Reads ISO 8601 and RFC 5322, three numbers in the given order (day first without one; a year of
    four digits in front tells itself), month names in seven languages, two-digit years (69 to 99
    are of the twentieth century, POSIX), a time before or behind, am and pm, offsets and "UTC",
    epoch seconds and milliseconds, serial days of spreadsheets, also as text.
    """
    if isinstance(cell, bool) or cell is None:
        return None
    if isinstance(cell, datetime):
        return Written(at=cell, has_time=True)
    if isinstance(cell, date):
        return Written(at=datetime(cell.year, cell.month, cell.day), has_time=False)  # noqa: DTZ001 (local by meaning)
    if isinstance(cell, int | float):
        return _of_number(float(cell))
    text = str(cell)
    # What is plainly ISO 8601 needs no more looking at: a file holds a million of them.
    if text[4:5] == "-" and len(text) < 40 and (found := _iso(text)) is not None:
        return found
    text = _tidy(text)
    if not text or len(text) > 80:
        return None
    if re.fullmatch(r"\d+(?:[.,]\d+)?", text):
        return _of_number(float(text.replace(",", "."))) if not re.fullmatch(r"\d{1,2}[.,]\d{1,4}", text) else None
    return _plain(text, order or "dmy") or _iso(text) or _of_mail(text) or _taken_apart(text, order or "dmy")


_PLAIN = re.compile(r"^(\d{1,2})[./-](\d{1,2})[./-](\d{4})(?:,? (\d{1,2}):(\d{2})(?::(\d{2}))?)?$")


def _plain(text: str, order: str) -> Written | None:
    """The commonest shape, quickly: a file holds a million of them."""
    found = _PLAIN.match(text)
    day = in_order((found[1], found[2], found[3]), order) if found else None
    if not found or day is None:
        return None
    try:
        at = datetime(*day, int(found[4] or 0), int(found[5] or 0), int(found[6] or 0))  # noqa: DTZ001 (local by meaning)
    except ValueError:
        return None
    return Written(at=at, has_time=found[4] is not None)


def _tidy(text: str) -> str:
    figures = (
        text
        if text.isascii()
        else "".join(str(unicodedata.digit(c)) if c.isdigit() and not c.isascii() else c for c in text)
    )
    return re.sub(r"\s+", " ", figures.replace("\u200e", "").replace("\u200f", "")).strip(" ,;'\"")


def _of_number(number: float) -> Written | None:
    if number != number or abs(number) == float("inf"):
        return None
    for low, high, unit in ((6e8, 4.2e9, 1.0), (6e11, 4.2e12, 1e3), (6e14, 4.2e15, 1e6)):
        if low < number < high:
            return Written(at=datetime.fromtimestamp(number / unit, tz=UTC), has_time=True)
    if _SERIALS[0] <= number < _SERIALS[1]:
        return Written(at=from_serial(round(number * 86_400) / 86_400), has_time=number != int(number))
    text = str(int(number))
    return _iso(text) if len(text) == 8 and text[:2] in ("19", "20") else None


def _iso(text: str) -> Written | None:
    try:
        read = datetime.fromisoformat(text)
    except (ValueError, OverflowError):
        return None
    return Written(at=read, has_time=len(text) > 10 and (":" in text or "T" in text.upper() or len(text) > 12))


def _of_mail(text: str) -> Written | None:
    """RFC 5322, 3.3, with the obsolete zones of its 4.3."""
    if not _NAMED_ZONE.search(_COMMENT.sub("", text)):
        return None
    try:
        return Written(at=parsedate_to_datetime(text), has_time=True)
    except (ValueError, TypeError, IndexError):
        return None


def _taken_apart(text: str, order: str) -> Written | None:
    text = _ASCTIME.sub(r"\1 \4 \2\3", _COMMENT.sub("", text))
    named = _ZONE.search(text)
    offset = timedelta(hours=_ZONES[named[1]]) if named else None
    text = text[: named.start()] if named else text
    found = _OFFSET.search(text) if _HAS_OFFSET.search(text) and ":" in text else None
    if found:
        sign = -1 if found[1] in ("-", "−") else 1
        minutes = (int(found[2]) * 60 + int(found[3] or 0)) * sign if found[2] else 0
        if abs(minutes) > 16 * 60:
            return None
        offset, text = timedelta(minutes=minutes), text[: found.start()].strip(" ,")
    for day_text, time_text in _splits(text):
        day = _day_of(day_text, order)
        clock = _clock_of(time_text) if time_text else (0, 0, 0, 0)
        if day is None or clock is None:
            continue
        try:
            read = datetime(*day, *clock)  # noqa: DTZ001 (local by meaning)
        except ValueError:
            continue
        if offset is not None:
            return Written(at=(read - offset).replace(tzinfo=UTC), has_time=True)
        return Written(at=read, has_time=bool(time_text))
    return None


def _splits(text: str) -> Iterable[tuple[str, str]]:
    """Ways of taking a text for a day and a time: all of it a day, the time behind, the time in front."""
    yield text, ""
    places = [m.start() for m in re.finditer(r"[ ,T]", text)]
    for place in reversed(places[-5:]):
        yield _AT.sub("", text[:place]).rstrip(" ,"), text[place + 1 :].strip(" ,")
    for place in places[:4]:
        yield text[place + 1 :].strip(" ,"), text[:place].rstrip(" ,")


def _clock_of(text: str) -> tuple[int, int, int, int] | None:
    found = _TIME.match(text)
    if not found:
        return None
    half = fold(found[5] or "")
    if half and half not in _BEFORE_NOON | _AFTER_NOON:
        return None
    hour, has_minutes = int(found[1]), found[2] is not None
    if not has_minutes and not half and not re.search(r"(?i)(uhr|h)", text):
        return None
    if half:
        if not 1 <= hour <= 12:
            return None if half in _BEFORE_NOON or hour > 23 else (hour, int(found[2] or 0), int(found[3] or 0), 0)
        hour = hour % 12 + (12 if half in _AFTER_NOON else 0)
    micro = int((found[4] or "0").ljust(6, "0")[:6])
    clock = (hour, int(found[2] or 0), int(found[3] or 0), micro)
    return clock if hour < 24 and clock[1] < 60 and clock[2] < 60 else None


def _day_of(text: str, order: str) -> tuple[int, int, int] | None:
    numbers = _numbers_of(text)
    if numbers is not None:
        return in_order(numbers, order)
    return _day_with_month_name(text)


def _numbers_of(text: str) -> tuple[str, str, str] | None:
    found = _NUMERIC.match(_WEEKDAY.sub("", text))
    return (found[1], found[3], found[4]) if found else None


def in_order(numbers: tuple[str, str, str], order: str) -> tuple[int, int, int] | None:
    """Year, month and day of three numbers as they stand, read in an order; None where that is no day."""
    first, second, third = numbers
    if len(first) >= 3:
        return _checked(first, second, third) if len(first) == 4 else None
    if order == "ymd":
        return _checked(first, second, third) if len(third) <= 2 else None
    if len(third) not in (2, 4):
        return None
    return _checked(third, second, first) if order == "dmy" else _checked(third, first, second)


def _checked(year: str, month: str, day: str) -> tuple[int, int, int] | None:
    full = int(year) if len(year) == 4 else int(year) + (1900 if int(year) >= 69 else 2000)
    try:
        date(full, int(month), int(day))
    except ValueError:
        return None
    return full, int(month), int(day)


def _day_with_month_name(text: str) -> tuple[int, int, int] | None:
    words = [word for word in re.split(r"[\s,/\-]+|(?<=\d)\.(?=\s|$)|\.(?=[^\W\d_])", text) if word]
    months, numbers = [], []
    for word in words:
        found = _ORDINAL.match(word)
        if found:
            numbers.append(found[1])
        elif fold(word) in MONTHS:
            months.append(fold(word))
        elif fold(word) not in _BESIDE:
            return None
    # "mar." is a Tuesday in Spanish and French, and March elsewhere: another month in the date decides.
    named = [name for name in months if name != "mar"] or months
    if len(numbers) != 2 or not named or len({MONTHS[name] for name in named}) != 1:
        return None
    month = str(MONTHS[named[0]])
    if len(numbers[0]) == 4:
        return _checked(numbers[0], month, numbers[1]) if len(numbers[1]) <= 2 else None
    return _checked(numbers[1], month, numbers[0]) if len(numbers[1]) in (2, 4) else None


def from_serial(serial: float) -> datetime:
    """A spreadsheet's serial date (1900 system) as a local datetime.

    The system counts a 29 February 1900 that never was: serials up to 59 are one day further on.
    Raises ValueError for serials below 1.
    """
    if serial < 1:
        raise ValueError("is no date")
    base = datetime(1899, 12, 30) if serial >= 60 else datetime(1899, 12, 31)  # noqa: DTZ001 (local by meaning)
    return base + timedelta(days=serial)


def has_offset(cell: object) -> bool:
    """Whether a written date says by itself which instant it is."""
    if isinstance(cell, int | float):
        return cell > 6e8
    text = _COMMENT.sub("", _tidy(str(cell)))
    if re.fullmatch(r"\d+", text):
        return float(text) > 6e8 and len(text) != 8
    return bool(_HAS_OFFSET.search(text) or _NAMED_ZONE.search(text)) and ":" in text


def numeric_part(cell: str) -> tuple[str, str, str] | None:
    """The three numbers of a date whose order does not tell itself; None where there are none."""
    text = _COMMENT.sub("", _tidy(cell))
    for day_text, time_text in _splits(_OFFSET.sub("", text) if _HAS_OFFSET.search(text) and ":" in text else text):
        numbers = _numbers_of(day_text)
        if numbers is not None and len(numbers[0]) < 3 and (not time_text or _clock_of(time_text) is not None):
            return numbers
    return None


def parse_instant(cell: object, *, zone: ZoneInfo | None = None, order: str = "dmy") -> datetime | None:
    """The instant in a cell in UTC, None if there is none; local times are read in `zone` (UTC if None)."""
    read = read_date(cell, order)
    return read.instant(zone) if read else None
