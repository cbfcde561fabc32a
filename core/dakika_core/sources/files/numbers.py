"""Which number does a cell hold? Counts, shares, amounts of money, lengths of time, as people and tools write them."""

import re
from dataclasses import dataclass

from dakika_core.sources.files.cells import CellError, is_empty, shorten
from dakika_core.sources.files.dates import fold

LARGEST_COUNT = 2**53
LARGEST_AMOUNT = 1e10
_GROUPED = re.compile(r"^[+-]?\d{1,3}(?:([.,' \u00a0\u202f])\d{3})(?:\1\d{3})*(?:[.,]\d+)?$")
_PLAIN = re.compile(r"[+-]?\d+(\.\d+)?")
_WITH_WORD = re.compile(r"^([+-]?\d[\d.,' \u00a0\u202f]*)\s*([^\W\d_]+)\.?$")
_SPACES = str.maketrans("", "", " \u00a0\u202f'")
# Units by their folded words: en, de, pt, el, es, fr, tr (CLDR's compact forms, and what tools write).
_UNITS = {
    **dict.fromkeys(("k", "tsd", "mil", "χιλ", "χιλιαδεσ", "bin", "thousand", "tausend", "tys"), 1e3),
    **dict.fromkeys(("m", "mm", "mio", "mi", "mn", "εκ", "million", "millions", "millionen", "milhoes", "milhao",
                     "millones", "millon", "milyon", "mln"), 1e6),
    **dict.fromkeys(("mrd", "bn", "md", "mlrd", "billion", "milyar", "δισ", "bi"), 1e9),
}  # fmt: skip
# Signs of money and what they stand for; ISO 4217 codes. A dollar sign alone is taken for the dollar of the
# United States (common practice, no source); signs of several countries' money are not guessed.
SIGNS = {
    "US$": "USD", "R$": "BRL", "A$": "AUD", "AU$": "AUD", "C$": "CAD", "CA$": "CAD", "NZ$": "NZD", "HK$": "HKD",
    "MX$": "MXN", "€": "EUR", "£": "GBP", "¥": "JPY", "₺": "TRY", "TL": "TRY", "₹": "INR", "₽": "RUB", "₩": "KRW",
    "₪": "ILS", "₴": "UAH", "₫": "VND", "₦": "NGN", "zł": "PLN", "Kč": "CZK", "Ft": "HUF", "CHF": "CHF", "$": "USD",
    "Euro": "EUR", "euro": "EUR", "euros": "EUR", "Euros": "EUR",
}  # fmt: skip
# ISO 4217, active codes of 2026, held against pycountry in the tests.
CURRENCIES = frozenset(
    """
AED AFN ALL AMD AOA ARS AUD AWG AZN BAM BBD BDT BGN BHD BIF BMD BND BOB BRL BSD BTN BWP BYN BZD CAD CDF CHF CLP CNY
COP CRC CUP CVE CZK DJF DKK DOP DZD EGP ERN ETB EUR FJD FKP GBP GEL GHS GIP GMD GNF GTQ GYD HKD HNL HTG HUF IDR ILS
INR IQD IRR ISK JMD JOD JPY KES KGS KHR KMF KPW KRW KWD KYD KZT LAK LBP LKR LRD LSL LYD MAD MDL MGA MKD MMK MNT MOP
MRU MUR MVR MWK MXN MYR MZN NAD NGN NIO NOK NPR NZD OMR PAB PEN PGK PHP PKR PLN PYG QAR RON RSD RUB RWF SAR SBD SCR
SDG SEK SGD SHP SLE SOS SRD SSP STN SVC SYP SZL THB TJS TMT TND TOP TRY TTD TWD TZS UAH UGX USD UYU UZS VES VND VUV
WST XAF XCD XCG XOF XPF YER ZAR ZMW ZWG
""".split()
)
_SIGN = re.compile("|".join(sorted(map(re.escape, SIGNS), key=len, reverse=True)))
_CODE = re.compile(r"(?<![A-Za-z])([A-Z]{3})(?![A-Za-z])")
_CLOCK = re.compile(r"^(?:(\d{1,4}):)?(\d{1,4}):(\d{2})(?:[.,]\d+)?$")
_INEXACT = re.compile(r"^\s*[<>~≈≤≥±]|\+\s*$")


def parse_number(cell: object, decimal: str = "") -> float | None:
    """A number as written with any usual grouping, decimal sign, or unit (k, Tsd, mil, Mio); None if it is none.

    decimal is "." or "," where the file's way is known; without it a cell is read by its own looks.
    """
    if isinstance(cell, bool) or cell is None:
        return None
    if isinstance(cell, int | float):
        try:
            exact = float(cell)
        except OverflowError:
            return None
        return exact if exact == exact and abs(exact) != float("inf") else None
    text = str(cell).strip().replace("−", "-")
    if _PLAIN.fullmatch(text) and "." not in text:
        return float(text) if len(text) < 400 else None
    worded = _WITH_WORD.match(text)
    if worded:
        unit = _UNITS.get(fold(worded[2]))
        figures = worded[1].strip()
        signs = re.findall(r"[.,]", figures)
        # Before a unit a lone sign is the decimal sign: nobody writes 1.234k for over a million.
        number = _figures(figures, signs[0] if len(signs) == 1 else decimal)
        return number * unit if unit and number is not None else None
    return _figures(text, decimal)


def _figures(text: str, decimal: str) -> float | None:
    if decimal:
        text = text.translate(_SPACES).replace("," if decimal == "." else ".", "").replace(decimal, ".")
    else:
        grouped = _GROUPED.match(text)
        if grouped:
            text = text.replace(grouped[1], "")
        text = text.replace("\u00a0", "").replace("\u202f", "")
        if text.count(",") == 1 and "." not in text:
            text = text.replace(",", ".")
    return float(text) if _PLAIN.fullmatch(text) and len(text) < 400 else None


def parse_count(cell: object, decimal: str = "") -> int | None:
    """A count, or None for an empty cell: missing is not zero.

    Raises CellError for anything that is not a whole number of things, 0 to 2^53.
    """
    if isinstance(cell, str) and cell.isdigit() and cell.isascii() and len(cell) < 16:
        return int(cell)
    if is_empty(cell):
        return None
    _refuse_formula(cell)
    if isinstance(cell, str) and _INEXACT.search(cell):
        raise CellError(f"“{shorten(cell)}” is no exact number")
    number = parse_number(cell, decimal)
    if number is None:
        raise CellError(f"“{shorten(cell)}” is not a number")
    if number < 0:
        raise CellError("is negative")
    if number > LARGEST_COUNT:
        raise CellError("is larger than any count can be")
    if abs(number - round(number)) > 1e-6:
        raise CellError(f"“{shorten(cell)}” is not a whole number")
    return round(number)


def _refuse_formula(cell: object) -> None:
    if isinstance(cell, str) and cell.lstrip()[:1] in ("=", "@"):
        raise CellError("holds a formula; save the file with its values instead")


def parse_seconds(cell: object, decimal: str = "") -> int | None:
    """A length of time in whole seconds: as a number, or as 1:02:03 or 62:03. None when empty.

    Raises CellError for anything else.
    """
    found = _CLOCK.match(cell.strip()) if isinstance(cell, str) else None
    if found:
        return int(found[1] or 0) * 3600 + int(found[2]) * 60 + int(found[3])
    number = parse_number(cell, decimal)
    return parse_count(round(number) if number is not None and number >= 0 else cell, decimal)


def parse_share(cell: object, decimal: str = "") -> float | None:
    """A share, percentage or count of a group, 0 or more; a percent sign divides by a hundred. None when empty.

    Raises CellError for anything else.
    """
    if is_empty(cell):
        return None
    text = str(cell).strip() if isinstance(cell, str) else cell
    is_percent = isinstance(text, str) and text.endswith("%")
    number = parse_number(text[:-1] if isinstance(text, str) and is_percent else text, decimal)
    if number is None:
        raise CellError(f"“{shorten(cell)}” is not a number")
    if number < 0 or number > LARGEST_COUNT:
        raise CellError("is negative" if number < 0 else "is larger than any count can be")
    return number / 100 if is_percent else number


@dataclass(frozen=True, kw_only=True)
class Money:
    """An amount and its currency by ISO 4217, empty where the cell does not say. A refund is negative."""

    amount: float
    currency: str


def parse_money(cell: object, decimal: str = "") -> Money | None:
    """An amount with its sign or code before or behind it (€ 12.50, 12,50 EUR, -£9, (9.99)). None when empty.

    Raises CellError for what is none, and for amounts beyond any till.
    """
    if is_empty(cell):
        return None
    _refuse_formula(cell)
    currency, text = currency_in(str(cell)) if isinstance(cell, str) else ("", "")
    if isinstance(cell, str):
        is_refund = bool(re.fullmatch(r"\(.*\)|.*\d\s*[-−]", text))
        text = re.sub(r"^([-−+])\s+", r"\1", text.strip("() ")).rstrip("-− ")
        read = parse_number(text, decimal)
        amount = -abs(read) if read is not None and is_refund else read
    else:
        amount = parse_number(cell)
    if amount is None or abs(amount) >= LARGEST_AMOUNT:
        raise CellError(f"“{shorten(cell)}” is no amount of money")
    return Money(amount=amount, currency=currency)


def currency_in(text: str) -> tuple[str, str]:
    """The currency that a text names by code or sign, empty if none, and the text without it."""
    code = next((found for found in _CODE.finditer(text) if found[1] in CURRENCIES), None)
    if code:
        rest = text[: code.start()] + text[code.end() :]
        return code[1], _SIGN.sub("", rest).strip()
    sign = _SIGN.search(text)
    if sign:
        return SIGNS[sign[0]], (text[: sign.start()] + text[sign.end() :]).strip()
    return "", text.strip()


def decimal_of(cell: object) -> str | None:
    """The decimal sign that a written number shows, by itself or by its grouping; None when it does not tell.

    The sign or code of a currency, a percent sign and a unit beside the number do not hide it.
    """
    if not isinstance(cell, str):
        return None
    text = currency_in(cell.strip().removesuffix("%"))[1].strip("()-−+ ")
    worded = _WITH_WORD.match(text)
    text = worded[1].strip() if worded and fold(worded[2]) in _UNITS else text
    if re.fullmatch(
        r"\d{1,3}([.' \u00a0\u202f]\d{3})+,\d{1,2}|\d{1,3}(\.\d{3})+,\d+|\d{1,3}(\.\d{3}){2,}|\d+,\d{1,2}|\d+,\d{4,}",
        text,
    ):
        return ","
    if re.fullmatch(
        r"\d{1,3}([,' \u00a0\u202f]\d{3})+\.\d{1,2}|\d{1,3}(,\d{3})+\.\d+|\d{1,3}(,\d{3}){2,}|\d+\.\d{1,2}|\d+\.\d{4,}",
        text,
    ):
        return "."
    return None
