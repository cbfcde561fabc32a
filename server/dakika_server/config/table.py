"""Every setting of an installation: its name, what it is for, what it is without one, and how it is read.

The one place where they are told: `settings.py` reads through it, `./dakika settings` prints it, docs/operations.md
shows it, and `./dakika serve` refuses a file with a name that is none of them. Run by itself it prints the table, or
with --check and names says which of them are none, and what of the environment cannot be.
"""

import difflib
import json
import os
import re
import sys
from base64 import b64decode
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from ipaddress import ip_network
from typing import Any
from urllib.parse import urlsplit

from dakika_server.jobs.places import places

# Of networks that are connected by an application of one's own, by the network's key.
NETWORK = re.compile(r"DAKIKA_NETWORK_[A-Z0-9_]+_(ID|SECRET)")
# Names beside ours that stand in an environment: libpq's own, and where the file is.
NOT_OURS = frozenset(
    {"DAKIKA_SETTINGS_FILE", "PGSSLMODE", "PGSSLROOTCERT", "PGSSLCERT", "PGSSLKEY", "PGPASSFILE", "PGSERVICE",
     "PGOPTIONS", "PGCONNECT_TIMEOUT", "PGAPPNAME", "PGDATA", "PGTZ"}
)  # fmt: skip
_BIND = re.compile(r"(?P<host>[0-9A-Za-z.:\[\]-]+):(?P<port>\d{1,5})")


class SettingError(RuntimeError):
    """A setting that cannot be, by its name and what it may be."""


def text(value: str) -> str:
    """As it is."""
    return value


def number(value: str) -> int:
    """A whole number, not below nought."""
    if not (value.isascii() and value.isdigit()):
        raise ValueError("a whole number")
    return int(value)


def switch(value: str) -> bool:
    """1 or nothing."""
    if value not in ("", "0", "1"):
        raise ValueError("1 for yes, or 0")
    return value == "1"


def address(value: str) -> str:
    """Scheme and host, with a port where there is one: what browsers are told. Nothing stays nothing."""
    if not value:
        return value
    parts = urlsplit(value)
    if parts.scheme not in ("http", "https") or not parts.hostname or parts.path.strip("/") or parts.query:
        raise ValueError("an address such as https://dakika.example.org, without a path")
    return value.rstrip("/")


def bind(value: str) -> tuple[str, int]:
    """Where a process listens."""
    found = _BIND.fullmatch(value)
    if not found or not 1 <= int(found["port"]) <= 65535:
        raise ValueError("an address of this machine and a port, such as 127.0.0.1:8000")
    return found["host"].strip("[]"), int(found["port"])


def hosts(value: str) -> list[str]:
    """Names with commas between them."""
    return [part.strip() for part in value.split(",") if part.strip()]


def proxies(value: str) -> frozenset[str]:
    """Addresses or networks with commas between them."""
    found = hosts(value)
    for one in found:
        try:
            ip_network(one, strict=False)
        except ValueError:
            raise ValueError(f"addresses or networks such as 10.0.0.0/8; {one} is none") from None
    return frozenset(found)


def hops(value: str) -> int | None:
    """How many proxies stand before us; None where they are told apart by their addresses."""
    return number(value) if value else None


def mail_server(value: str) -> tuple[str, int]:
    """Host and port."""
    host, _, port = value.partition(":")
    if not host or (port and not (port.isascii() and port.isdigit())):
        raise ValueError("a host and a port, such as mail.example.org:587")
    return host, int(port or 25)


def mail_security(value: str) -> str:
    """How letters are handed over."""
    if value not in ("", "starttls", "tls"):
        raise ValueError("starttls, tls, or nothing within a machine")
    return value


def worker_places(value: str) -> str:
    """As jobs/places.py reads it."""
    try:
        places(value)
    except ValueError as error:
        raise ValueError(f"such as collect=12,render=2; {error}") from None
    return value


def worker_only(value: str) -> list[str]:
    """Names of places."""
    found = hosts(value)
    if unknown := sorted({*found} - {*(name for name in _PLACE_NAMES)}):
        raise ValueError(f"some of {', '.join(_PLACE_NAMES)}; {unknown[0]} is none")
    return found


def folders(value: str) -> list[str]:
    """Folders with the system's separator between them."""
    return [part for part in value.split(os.pathsep) if part]


def options(value: str) -> dict[str, Any] | None:
    """A JSON object, or nothing."""
    if not value:
        return None
    try:
        read = json.loads(value)
    except ValueError:
        read = None
    if not isinstance(read, dict):
        raise ValueError('a JSON object, such as {"bucket_name": "dakika"}')
    return read


def log_form(value: str) -> str:
    """How logs are written."""
    if value not in ("text", "json"):
        raise ValueError("text or json")
    return value


def key_of_tokens(value: str) -> str:
    """32 bytes as base64 for the web (RFC 4648, 5)."""
    if value:
        try:
            found = b64decode(value.replace("-", "+").replace("_", "/") + "=" * (-len(value) % 4), validate=True)
        except ValueError:
            found = b""
        if len(found) != 32:
            raise ValueError("32 random bytes in base64; without one, ./dakika serve makes it")
    return value


def secret_key(value: str) -> str:
    """Long enough that nobody guesses it."""
    if value and len(value) < 32:
        raise ValueError("at least 32 characters of chance; without one, ./dakika serve makes it")
    return value


_PLACE_NAMES = ("now", "collect", "files", "measure", "bulk", "render")


@dataclass(frozen=True, kw_only=True)
class Setting:
    """A setting. words: what it is for, in one sentence. is_for_tools: of tests and tools, in no table."""

    name: str
    words: str
    default: str = ""
    read: Callable[[str], Any] = text
    is_secret: bool = False
    is_for_tools: bool = False


GROUPS: tuple[tuple[str, tuple[Setting, ...]], ...] = (
    ("Addresses", (
        Setting(name="DAKIKA_PUBLIC_ADDRESS", read=address, default="http://127.0.0.1:8000",
                words="Where people reach it; with https, cookies go by TLS alone. `./dakika serve` wants it told."),
        Setting(name="DAKIKA_LINKS_ADDRESS", read=address, default="http://127.0.0.1:8200",
                words="Where short addresses stand: a short host of its own. `./dakika serve` wants it told."),
        Setting(name="DAKIKA_EVENTS_ADDRESS", read=address,
                words="Where browsers listen to what changed; without one, `./dakika serve` takes the public address "
                "behind a proxy, else the port itself."),
        Setting(name="DAKIKA_PRINT_ADDRESS", read=address,
                words="Where the browser that makes PDFs finds the web server; without one, where it listens."),
        Setting(name="DAKIKA_HOSTS", read=hosts,
                words="Names that are answered to besides that of the public address."),
        Setting(name="DAKIKA_WEB_BIND", read=bind, default="127.0.0.1:8000", words="Where the web server listens."),
        Setting(name="DAKIKA_LINKS_BIND", read=bind, default="127.0.0.1:8200", words="Where the redirect listens."),
        Setting(name="DAKIKA_EVENTS_BIND", read=bind, default="127.0.0.1:8060",
                words="Where the stream of changes listens."),
    )),
    ("Behind a proxy", (
        Setting(name="DAKIKA_TRUSTED_PROXIES", read=proxies, default="127.0.0.1",
                words="Proxies (addresses or networks) whose X-Forwarded-For is believed."),
        Setting(name="DAKIKA_TRUSTED_HOPS", read=hops,
                words="Instead of their addresses: how many proxies of ours each request comes through."),
        Setting(name="DAKIKA_TLS_REDIRECT", read=switch, default="0",
                words="1: whoever comes without TLS is sent on to it."),
        Setting(name="DAKIKA_HSTS_SECONDS", read=number,
                words="For how long browsers come by TLS only; without one, a year where the public address is https."),
        Setting(name="DAKIKA_HSTS_SUBDOMAINS", read=switch, default="0",
                words="1: so do they for every host below it."),
        Setting(name="DAKIKA_HSTS_PRELOAD", read=switch, default="0",
                words="1: browsers may be told before they ever came."),
    )),
    ("Database", (
        Setting(name="PGHOST", default="",
                words="PostgreSQL's host; without one, `./dakika serve` runs a server of its own."),
        Setting(name="PGPORT", read=number, default="5432", words="Its port."),
        Setting(name="PGUSER", default="dakika", words="Who signs in there."),
        Setting(name="PGPASSWORD", default="", is_secret=True, words="With which password."),
        Setting(name="PGDATABASE", default="dakika", words="Which database."),
    )),
    ("Keys", (
        Setting(name="DAKIKA_SECRET_KEY", read=secret_key, is_secret=True,
                words="Signs sessions; without one, `./dakika serve` makes it and keeps it in `.dakika/secrets.json`."),
        Setting(name="DAKIKA_TOKEN_KEY", read=key_of_tokens, is_secret=True,
                words="Seals what networks trust us with; without one, made and kept in the same place."),
    )),
    ("Mail", (
        Setting(name="DAKIKA_SMTP", read=mail_server, default="localhost:25", words="The server that takes letters."),
        Setting(name="DAKIKA_SMTP_USER", words="Who signs in there."),
        Setting(name="DAKIKA_SMTP_PASSWORD", is_secret=True, words="With which password."),
        Setting(name="DAKIKA_SMTP_SECURITY", read=mail_security,
                words="`starttls`, `tls`, or nothing within a machine."),
        Setting(name="DAKIKA_MAIL_FROM", default="Dakika <dakika@localhost>", words="Whom letters are from."),
    )),
    ("Processes", (
        Setting(name="DAKIKA_WEB_PROCESSES", read=number, default="2", words="Processes of the web server."),
        Setting(name="DAKIKA_WEB_THREADS", read=number, default="6", words="Threads of each."),
        Setting(name="DAKIKA_WORKER_PLACES", read=worker_places,
                words="How many jobs run at once, by queue: `collect=12,render=2` over the usual ones."),
        Setting(name="DAKIKA_WORKER_ONLY", read=worker_only,
                words="Which queues a worker takes, with commas between them: others run on other machines."),
    )),
    ("Files", (
        Setting(name="DAKIKA_STATE",
                words="Where everything lies that is made at run time; without one, `.dakika`. From the environment "
                "alone."),
        Setting(name="DAKIKA_MEDIA_FOLDER", words="Where files of people lie; without one, `.dakika/media`."),
        Setting(name="DAKIKA_MEDIA_STORAGE", default="django.core.files.storage.FileSystemStorage",
                words="Another of Django's storages, by its class."),
        Setting(name="DAKIKA_MEDIA_OPTIONS", read=options, is_secret=True,
                words="What that class is told, as a JSON object."),
        Setting(name="DAKIKA_MEDIA_LARGEST_BYTES", read=number, default="600000000", words="The largest file."),
        Setting(name="DAKIKA_MEDIA_MOST_BYTES", read=number, default="20000000000",
                words="All files of a brand together."),
        Setting(name="DAKIKA_LINKS_FOLDER",
                words="The redirect's journal and its copy of the links; without one, `.dakika/links`."),
    )),
    ("Networks", (
        Setting(name="DAKIKA_NETWORK_FOLDERS", read=folders,
                words="Folders with definitions and connectors of further networks."),
        Setting(name="DAKIKA_COUNTRIES_FILE", words="A newer table of countries by address than the packaged one."),
        Setting(name="DAKIKA_COLLECTION_ADDRESS", read=address, words="A collection of pictures that may be used."),
    )),
    ("Kept", (
        Setting(name="DAKIKA_LOG_KEPT_DAYS", read=number, default="1095",
                words="Days for which it is kept who changed what."),
        Setting(name="DAKIKA_CLICKS_KEPT_DAYS", read=number, default="0",
                words="Days for which single clicks are kept; their sums stay. 0: for ever."),
        Setting(name="DAKIKA_READINGS_THINNED_DAYS", read=number, default="0",
                words="Age in days from which posts keep those readings alone from which their values at equal ages "
                "and their days follow. 0: all are kept."),
        Setting(name="DAKIKA_SESSION_DAYS", read=number, default="14",
                words="Days after which whoever signed in must do it again."),
        Setting(name="DAKIKA_ANSWERS_KEPT_DAYS", read=number, default="60",
                words="Days for which networks' answers stand beside their counts, in their own words."),
    )),
    ("Watching", (
        Setting(name="DAKIKA_LOGS", read=log_form, default="text",
                words="`json`: an object a line, for machines. Otherwise a line of text."),
        Setting(name="DAKIKA_METRICS_TOKEN", is_secret=True,
                words="With which `/metrics` is asked (`Authorization: Bearer`); without one there is nothing there."),
        Setting(name="DAKIKA_ERRORS_ADDRESS", is_secret=True,
                words="Where errors of ours are told, as a DSN (`https://key@host/number`)."),
        Setting(name="DAKIKA_SLOW_QUERY_MS", read=number, default="1000",
                words="Queries that take so long stand in the log, without what they were asked with; 0 for none."),
    )),
    ("Backup", (
        Setting(name="DAKIKA_BACKUP_PASSPHRASE", is_secret=True,
                words="Seals backups, and opens them: without it a sealed one is lost."),
    )),
    ("For tests and tools", tuple(
        Setting(name=name, words="", default=default, read=read, is_for_tools=True)
        for name, default, read in (
            ("DAKIKA_INSECURE", "0", switch), ("DAKIKA_DEBUG", "0", switch), ("DAKIKA_FIXED_NOW", "", text),
            ("DAKIKA_TABLES", "", text), ("DAKIKA_DIST", "", text), ("DAKIKA_SESSION_COOKIE", "sessionid", text),
            ("DAKIKA_STANDINS_ADDRESS", "", address), ("DAKIKA_STANDINS_STATE", "", text),
            ("DAKIKA_STANDINS_MAIL_PORT", "", text),
        )
    )),
)  # fmt: skip
SETTINGS: Mapping[str, Setting] = {one.name: one for _, group in GROUPS for one in group}


def value_of(name: str, environment: Mapping[str, str] | None = None) -> Any:
    """A setting's value, read. Raises SettingError, with its name and what it may be, for one that cannot be."""
    setting = SETTINGS[name]
    told = (os.environ if environment is None else environment).get(name)
    # Said to be nothing is as good as not said.
    value = told if told else setting.default
    if not value and setting.read is number:
        return None
    try:
        return setting.read(value)
    except ValueError as error:
        shown = "" if setting.is_secret else f" ({value[:80]})"
        raise SettingError(f"{name}{shown} cannot be. It is {error}.") from None


def problems(environment: Mapping[str, str]) -> list[str]:
    """What is wrong with an environment's settings, a sentence each."""
    found = []
    for name in SETTINGS:
        try:
            value_of(name, environment)
        except SettingError as error:
            found.append(str(error))
    return found


def unknown(names: Iterable[str]) -> list[str]:
    """Names that are no settings, each with the one that may be meant."""
    found = []
    for name in names:
        if name in SETTINGS or NETWORK.fullmatch(name):
            continue
        near = difflib.get_close_matches(name, SETTINGS, 1)
        found.append(f"There is no setting {name}." + (f" {near[0]} may be meant." if near else ""))
    return found


def as_markdown() -> str:
    """The table for docs/operations.md."""
    lines = []
    for title, group in GROUPS:
        shown = [one for one in group if not one.is_for_tools]
        if not shown:
            continue
        lines += [f"**{title}**", "", "| Setting | Without one | What it is for |", "|---|---|---|"]
        lines += [f"| `{one.name}` | {_told(one.default)} | {one.words} |" for one in shown]
        lines.append("")
    return "\n".join(lines).rstrip() + "\n"


def _told(default: str) -> str:
    return f"`{default}`" if default else "\u2013"


def main() -> int:
    """Print the table, or what is wrong: nothing of Django is needed, which such settings would keep from starting."""
    if sys.argv[1:2] != ["--check"]:
        print(as_markdown(), end="")
        return 0
    found = [*unknown(name for name in sys.argv[2:] if name not in NOT_OURS), *problems(os.environ)]
    for line in found:
        print(line, file=sys.stderr)
    return 1 if found else 0


if __name__ == "__main__":
    raise SystemExit(main())
