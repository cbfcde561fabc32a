"""Promise: money keeps its currency and its sign, a length of time is seconds, and what is no exact number is none."""

import pycountry
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.sources.files.cells import CellError, address_in, is_empty, says_nothing
from dakika_core.sources.files.numbers import (
    CURRENCIES,
    SIGNS,
    Money,
    currency_in,
    decimal_of,
    parse_count,
    parse_money,
    parse_number,
    parse_seconds,
)

# Codes of ISO 4217 that are no money one pays with: metals, units of account, tests, and funds.
_NO_MONEY = {"XAU", "XAG", "XPT", "XPD", "XBA", "XBB", "XBC", "XBD", "XDR", "XSU", "XUA", "XTS", "XXX", "BOV", "CHE",
             "CHW", "CLF", "COU", "MXV", "USN", "UYI", "UYW", "XAD"}  # fmt: skip


def test_currencies_are_those_of_iso_4217() -> None:
    """Held against pycountry, which carries the standard's list. What came or went in the last years may differ: Bulgaria's lev still stands in old files."""
    theirs = {currency.alpha_3 for currency in pycountry.currencies}
    assert theirs - _NO_MONEY - CURRENCIES <= {"ANG", "CUC", "HRK", "SLL", "VED", "ZWL"}
    assert CURRENCIES - theirs <= {"BGN", "ZWG", "SLE", "VES"}
    assert set(SIGNS.values()) <= CURRENCIES


@pytest.mark.parametrize(
    ("cell", "money"),
    [
        ("$ 9.99", Money(amount=9.99, currency="USD")), ("£9", Money(amount=9, currency="GBP")),
        ("€ 12,50", Money(amount=12.5, currency="EUR")), ("12,50 EUR", Money(amount=12.5, currency="EUR")),
        ("R$ 1.234,50", Money(amount=1234.5, currency="BRL")), ("1 234,50 €", Money(amount=1234.5, currency="EUR")),
        ("(9.99)", Money(amount=-9.99, currency="")), ("-£9", Money(amount=-9, currency="GBP")),
        ("9,99-", Money(amount=-9.99, currency="")), ("−4", Money(amount=-4, currency="")),
        ("CHF 12'345.60", Money(amount=12345.6, currency="CHF")), (12.5, Money(amount=12.5, currency="")),
        ("USD 1,000", Money(amount=1000, currency="USD")), ("₺ 5", Money(amount=5, currency="TRY")), ("", None),
        ("n/a", None),
    ],
)  # fmt: skip
def test_amounts_as_shops_write_them(cell: object, money: Money | None) -> None:
    assert parse_money(cell) == money


@pytest.mark.parametrize("cell", ["free", "12 pieces", "=A1", "1e99", float("nan"), "€"])
def test_what_is_no_amount_is_said(cell: object) -> None:
    with pytest.raises(CellError):
        parse_money(cell)


@given(st.integers(-(10**8), 10**8), st.sampled_from(sorted(CURRENCIES)), st.booleans())
def test_an_amount_with_its_code_is_that_amount(cents: int, code: str, is_before: bool) -> None:
    text = f"{code} {cents / 100:.2f}" if is_before else f"{cents / 100:.2f} {code}"
    assert parse_money(text, ".") == Money(amount=pytest.approx(cents / 100), currency=code)


def test_a_currency_beside_a_number_does_not_hide_its_decimal_sign() -> None:
    assert decimal_of("€ 12,50") == ","
    assert decimal_of("12.50 USD") == "."
    assert decimal_of("R$ 1.234,50") == ","
    assert decimal_of("1 234,50 €") == ","
    assert decimal_of("3,4 Mio.") == ","
    assert currency_in("Total (EUR)") == ("EUR", "Total ()")


@pytest.mark.parametrize(
    ("cell", "number"),
    [("12 Tsd.", 12_000), ("1,5 mil", 1500), ("12,3 χιλ.", 12_300), ("5 bin", 5000), ("3,4 Mio.", 3_400_000),
     ("2 milhões", 2_000_000), ("1.234k", 1_234_000 / 1000), ("1,2 Mrd", 1.2e9), ("3 apples", None)],
)  # fmt: skip
def test_units_in_seven_languages(cell: str, number: float | None) -> None:
    expected = 1234 if cell == "1.234k" else number
    assert parse_number(cell) == (pytest.approx(expected) if expected is not None else None)


@pytest.mark.parametrize(
    ("cell", "seconds"),
    [("1:02:03", 3723), ("62:03", 3723), ("3723", 3723), ("3723.4", 3723), (12.6, 13), ("--", None)],
)
def test_lengths_of_time_are_seconds(cell: object, seconds: int | None) -> None:
    assert parse_seconds(cell) == seconds


@pytest.mark.parametrize("cell", ["<5", "10+", "> 100", "~3", "about", "1:02:03", "12.5", "-4"])
def test_what_is_no_exact_count_is_said_and_is_none(cell: str) -> None:
    with pytest.raises(CellError):
        parse_count(cell)


@pytest.mark.parametrize("cell", ["--", "n.d.", "k.A.", "N/D", "#N/A", "–", "NULL", "n/a", "s/d", "#NV"])
def test_words_for_nothing_are_nothing_and_told(cell: str) -> None:
    assert is_empty(cell)
    assert says_nothing(cell)
    assert parse_count(cell) is None
    assert not says_nothing("")


@pytest.mark.parametrize(
    ("cell", "address"),
    [
        ("https://a.example/p/1", "https://a.example/p/1"), ("www.a.example/p/1", "https://www.a.example/p/1"),
        ("a.example/p/1", "https://a.example/p/1"), ('=HYPERLINK("https://a.example/1","see")', "https://a.example/1"),
        ("HTTPS://A.example/1", "HTTPS://A.example/1"), ("see here", ""), ("12/10/2026", ""), ("javascript:alert(1)", ""),
        ("", ""), (None, ""), ("a.b", ""), ("and/or", ""),
    ],
)  # fmt: skip
def test_addresses_with_and_without_a_scheme_and_in_hyperlinks(cell: object, address: str) -> None:
    assert address_in(cell) == address
