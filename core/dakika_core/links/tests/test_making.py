"""Promise: parameters come out by the brand's rules, codes offend nobody, and hosts are shown as what they are."""

import contextlib
import random
from urllib.parse import parse_qsl, urlsplit

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.links.addresses import with_parameters
from dakika_core.links.codes import ALPHABET, OFFENSIVE, RESERVED, CodeError, chosen_code, new_code
from dakika_core.links.hosts import shown_host
from dakika_core.links.pasted import PasteError, read_pasted
from dakika_core.links.utm import PLACES, Existing, RuleError, UtmRules, filled, slug, written

KNOWN = {
    "network": "brevi", "medium": "social", "profile": "orreryhouse", "campaign": "The Repaired Hour", "post": "Sky tonight!",
    "brand": "Orrery House", "year": "2026", "month": "2026-11", "week": "2026-w48",
}  # fmt: skip


def test_the_ordinary_rules_fill_source_medium_and_campaign() -> None:
    assert filled(UtmRules(), KNOWN).as_parameters() == {
        "utm_source": "brevi", "utm_medium": "social", "utm_campaign": "the-repaired-hour", "utm_term": "",
        "utm_content": "",
    }  # fmt: skip


def test_rules_of_ones_own_hold_any_place_and_leave_out_what_is_unknown() -> None:
    rules = UtmRules(
        templates={"source": "{network}", "campaign": "{brand} {campaign} {year}", "content": "{week}/{post}"},
        separator="_", is_lower=False,
    )  # fmt: skip
    assert filled(rules, KNOWN).campaign == "Orrery_House_The_Repaired_Hour_2026"
    assert filled(rules, KNOWN).content == "2026_w48_Sky_tonight"
    assert filled(rules, {**KNOWN, "campaign": ""}).campaign == "Orrery_House_2026"


@pytest.mark.parametrize(
    ("text", "plain", "kept"),
    [
        ("Ώρα του ουρανού", "ora-toy-oyranoy", "ώρα-του-ουρανού"), ("Exposição São Paulo", "exposicao-sao-paulo", "exposição-são-paulo"),
        ("Größe & Maß", "grosse-mass", "größe-maß"), ("  --  ", "", ""), ("50 %_off", "50-off", "50-off"),
    ],
)  # fmt: skip
def test_other_scripts_are_transliterated_or_kept(text: str, plain: str, kept: str) -> None:
    assert written(text, UtmRules()) == plain == slug(text)
    assert written(text, UtmRules(is_transliterated=False)) == kept


@pytest.mark.parametrize(
    ("templates", "part"),
    [
        ({"source": "{netwrok}"}, "source"),
        ({"campaign": "{campaign"}, "campaign"),
        ({"term": "a}b"}, "term"),
        ({"id": "x"}, "id"),
    ],
)
def test_a_rule_that_cannot_be_filled_names_its_place(templates: dict[str, str], part: str) -> None:
    with pytest.raises(RuleError) as error:
        UtmRules(templates=templates)
    assert error.value.part == part


@given(st.text(max_size=200), st.sampled_from("-_."), st.booleans(), st.booleans())
def test_whatever_is_typed_stays_one_plain_value(text: str, separator: str, lower: bool, transliterated: bool) -> None:
    rules = UtmRules(separator=separator, is_lower=lower, is_transliterated=transliterated)
    value = written(text, rules)
    assert len(value) <= 100
    assert not value.startswith(separator)
    assert not value.endswith(separator)
    assert separator * 2 not in value
    assert written(value, rules) == value
    address = with_parameters("https://a.example/?q=1", {"utm_campaign": value})
    assert dict(parse_qsl(urlsplit(address).query)).get("utm_campaign", "") == value


def test_who_wins_when_the_destination_has_a_parameter_already() -> None:
    there = "https://a.example/x?utm_source=own&q=a%2Fb#part"
    ours = {"utm_source": "brevi", "utm_medium": "social"}
    assert with_parameters(there, ours) == "https://a.example/x?utm_source=own&q=a%2Fb&utm_medium=social#part"
    replaced = "https://a.example/x?q=a%2Fb&utm_source=brevi&utm_medium=social#part"
    assert with_parameters(there, ours, is_replacing=True) == replaced
    assert [e.value for e in Existing] == ["keep", "replace"]
    assert set(KNOWN) == set(PLACES)


def test_codes_are_unambiguous_and_offend_nobody() -> None:
    assert not set(ALPHABET) & set("aeiouyAEIOUY0O1lI3457")
    chance = random.Random(1)
    codes = [new_code(chance.randrange) for _ in range(20_000)]
    assert len(set(codes)) == len(codes)
    assert {len(code) for code in codes} == {7}
    assert not [code for code in codes if any(bad in code for bad in OFFENSIVE)]
    draws = iter([ALPHABET.index(c) for c in "kkkbbbb" + "2692692"])
    assert new_code(lambda n: next(draws)) == "2692692"


def test_chosen_words_are_checked() -> None:
    assert chosen_code("  Night-Openings ") == "night-openings"
    for word in ("ab", "-abc", "abc-", "a b c", "x" * 33, "täg", "../x", *sorted(RESERVED)):
        with pytest.raises(CodeError):
            chosen_code(word)


def test_hosts_are_shown_as_people_read_them_unless_they_mislead() -> None:
    assert shown_host("https://orrery.example/x").shown == "orrery.example"
    munich = shown_host("https://xn--mnchen-3ya.example/")
    assert (munich.shown, munich.ascii) == ("münchen.example", "xn--mnchen-3ya.example")
    assert "xn--mnchen-3ya" in munich.warning
    # A Cyrillic letter among Latin ones (UTS #39): shown as it is called, with the reason.
    mixed = shown_host("https://xn--orrry-hxe.example/")
    assert mixed.shown == "xn--orrry-hxe.example"
    assert "Cyrillic and Latin" in mixed.warning
    # Japanese writes three scripts together, and Latin beside them.
    assert shown_host("https://xn--abc-ge4b9cwb.example/").shown != ""


@pytest.mark.parametrize(
    ("text", "columns", "rows"),
    [
        ("https://a.example/\nhttps://b.example/?x=1,2", ["destination", "name"],
         [{"destination": "https://a.example/"}, {"destination": "https://b.example/?x=1,2"}]),
        ("https://a.example/\tTickets", ["destination", "name"], [{"destination": "https://a.example/", "name": "Tickets"}]),
        ("Name;URL;Campaign\nA;https://a.example/;Night\n\n", ["name", "destination", "campaign"],
         [{"name": "A", "destination": "https://a.example/", "campaign": "Night"}]),
        ('url,title\n"https://a.example/?q=1,2","He said ""now"""', ["destination", "name"],
         [{"destination": "https://a.example/?q=1,2", "name": 'He said "now"'}]),
        ("\ufeffaddress\r\nhttps://a.example/\r\n", ["destination"], [{"destination": "https://a.example/"}]),
    ],
)  # fmt: skip
def test_lists_and_tables_are_understood(text: str, columns: list[str], rows: list[dict[str, str]]) -> None:
    pasted = read_pasted(text)
    assert (pasted.columns, pasted.rows) == (columns, rows)


@pytest.mark.parametrize(
    "text", ["", "  \n ", "hello", "name,campaign\na,b", "https://a.example/\n" * 501, 'url\n"' + "x" * 200_000]
)
def test_what_is_no_list_is_said_in_words(text: str) -> None:
    with pytest.raises(PasteError):
        read_pasted(text)


@given(st.text(max_size=300))
def test_any_text_is_read_or_refused(text: str) -> None:
    with contextlib.suppress(PasteError):
        assert len(read_pasted(text).rows) <= 500
