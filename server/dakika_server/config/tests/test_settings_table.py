"""Promise: every setting is told in one table, and one that cannot be is refused by its name before anything starts."""

import os
import re
import subprocess
import sys
from pathlib import Path

import pytest

from dakika_server.config.table import SETTINGS, SettingError, as_markdown, problems, unknown, value_of

ROOT = Path(__file__).parents[4]
HTTPS = {
    "DAKIKA_PUBLIC_ADDRESS": "https://dakika.example.org", "DAKIKA_LINKS_ADDRESS": "https://go.example.org",
    "DAKIKA_SECRET_KEY": "a" * 30 + "0123456789bcdefghijklmnopqrstuvwxyz", "DAKIKA_TOKEN_KEY": "MDEyMzQ1Njc4OTAxMjM0NTY3ODkwMTIzNDU2Nzg5MDE=",
}  # fmt: skip


def manage(environment: dict[str, str], *arguments: str) -> subprocess.CompletedProcess[str]:
    kept = {name: os.environ[name] for name in os.environ if not name.startswith("DAKIKA_")}
    return subprocess.run(
        [sys.executable, ROOT / "server" / "manage.py", *arguments], env={**kept, **environment}, capture_output=True,
        text=True, cwd=ROOT,
    )  # fmt: skip


def test_without_any_all_are_what_the_table_says() -> None:
    assert problems({}) == []
    assert value_of("DAKIKA_WEB_BIND", {}) == ("127.0.0.1", 8000)
    assert value_of("DAKIKA_SMTP", {"DAKIKA_SMTP": "mail.example.org"}) == ("mail.example.org", 25)
    # Said to be nothing is as good as not said.
    assert value_of("DAKIKA_SMTP", {"DAKIKA_SMTP": ""}) == ("localhost", 25)
    assert value_of("DAKIKA_TRUSTED_HOPS", {}) is None


@pytest.mark.parametrize(
    ("name", "value"),
    [("DAKIKA_PUBLIC_ADDRESS", "dakika.example.org"), ("DAKIKA_PUBLIC_ADDRESS", "https://x.example/path"),
     ("DAKIKA_PUBLIC_ADDRESS", "ftp://x.example"), ("DAKIKA_WEB_BIND", "8000"), ("DAKIKA_WEB_BIND", "127.0.0.1:99999"),
     ("DAKIKA_TRUSTED_PROXIES", "10.0.0.0/8,nobody"), ("DAKIKA_TRUSTED_HOPS", "-1"), ("DAKIKA_TRUSTED_HOPS", "\u0661"),
     ("DAKIKA_SMTP", ":25"), ("DAKIKA_SMTP_SECURITY", "ssl"), ("DAKIKA_WORKER_PLACES", "collect=0"),
     ("DAKIKA_WORKER_ONLY", "collect,nothing"), ("DAKIKA_MEDIA_OPTIONS", "[1]"), ("DAKIKA_TLS_REDIRECT", "yes"),
     ("PGPORT", "many"), ("DAKIKA_SECRET_KEY", "short"), ("DAKIKA_TOKEN_KEY", "bm90IDMyIGJ5dGVz")],
)  # fmt: skip
def test_what_cannot_be_is_refused_by_its_name_and_says_what_may_be(name: str, value: str) -> None:
    (said,) = problems({name: value})
    assert said.startswith(name)
    assert "It is " in said
    # A secret is not repeated, where others may read along.
    assert (value in said) is not SETTINGS[name].is_secret
    with pytest.raises(SettingError):
        value_of(name, {name: value})


def test_a_name_that_is_none_is_told_with_the_one_that_may_be_meant() -> None:
    assert unknown(["DAKIKA_HOST"]) == ["There is no setting DAKIKA_HOST. DAKIKA_HOSTS may be meant."]
    assert unknown(["DAKIKA_NETWORK_BREVI_ID", "DAKIKA_NETWORK_MY_NET_SECRET", "PGHOST"]) == []


def test_the_documentation_shows_the_table_as_it_is() -> None:
    assert as_markdown() in (ROOT / "docs" / "operations.md").read_text()


def test_no_setting_is_read_past_the_table() -> None:
    """Names in the code are those of the table; what belongs to a tool of ours alone is named beside it there."""
    found: set[str] = set()
    for room in ("server", "redirect", "core"):
        for file in (ROOT / room).rglob("*.py"):
            if "tests" not in file.parts:
                found |= set(re.findall(r"[\"'](DAKIKA_[A-Z_]+)[\"']", file.read_text()))
    assert found - {*SETTINGS} - {"DAKIKA_SETTINGS_FILE"} == set()


def test_behind_a_proxy_with_tls_djangos_own_check_finds_nothing() -> None:
    """Held against Django's deployment checks, which are somebody else's list of what is to be so."""
    done = manage(HTTPS, "check", "--deploy", "--fail-level", "INFO")
    assert done.returncode == 0, done.stderr
    # It finds what would be wrong: the same without TLS.
    wrong = manage({**HTTPS, "DAKIKA_PUBLIC_ADDRESS": "http://dakika.example.org"}, "check", "--deploy", "--fail-level", "INFO")  # fmt: skip
    assert wrong.returncode != 0
    assert "security.W012" in wrong.stderr


def test_it_does_not_start_with_what_cannot_be_or_without_its_keys() -> None:
    done = manage({**HTTPS, "DAKIKA_TRUSTED_HOPS": "two"}, "check")
    assert "DAKIKA_TRUSTED_HOPS (two) cannot be" in done.stderr
    without = manage({name: value for name, value in HTTPS.items() if name != "DAKIKA_SECRET_KEY"}, "check")
    assert "DAKIKA_SECRET_KEY is not set" in without.stderr


def test_run_by_itself_it_checks_names_and_values() -> None:
    command = [sys.executable, "-m", "dakika_server.config.table"]
    environment = {**os.environ, "DAKIKA_WEB_BIND": "nowhere"}
    done = subprocess.run([*command, "--check", "DAKIKA_WEB_BIND", "DAKIKA_HOST", "PGSSLMODE"], env=environment, capture_output=True, text=True)  # fmt: skip
    assert done.returncode == 1
    assert [line.split()[0] for line in done.stderr.splitlines()] == ["There", "DAKIKA_WEB_BIND"]
    shown = subprocess.run(command, capture_output=True, text=True, check=True)
    assert shown.stdout == as_markdown()
