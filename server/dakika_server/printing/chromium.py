"""A page of ours as a PDF: Debian's Chromium opens what the person would see, so screen and paper have one code path.

Chromium asks with a session of its own, which can only look and which ends with the printing.
"""

import os
import shutil
from collections.abc import Iterator
from contextlib import contextmanager
from importlib import import_module
from typing import Any
from urllib.parse import urljoin, urlsplit

from django.conf import settings
from django.contrib.auth import BACKEND_SESSION_KEY, HASH_SESSION_KEY, SESSION_KEY
from django.contrib.auth.base_user import AbstractBaseUser

from dakika_server.shared.errors import Unavailable
from dakika_server.shared.security import FOR_PRINT

LONGEST_SECONDS = 30
SESSION_SECONDS = 120
_ARGUMENTS = [
    "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
    "--disable-component-update", "--disable-sync",
]  # fmt: skip


def print_page(person: AbstractBaseUser, path: str) -> bytes:
    """The page at a path of ours as the person sees it: a PDF on A4.

    The page says when it is set by an element with data-page="ready", or "failed". Raises
    Unavailable, in words, when there is no Chromium or the page does not come.
    """
    program = shutil.which("chromium")
    if program is None:
        raise Unavailable("This server has no Chromium to make a PDF with. Print the page in your browser instead.")
    with _session_for_print(person) as key:
        return _printed(program, urljoin(settings.PUBLIC_ADDRESS, path), key)


@contextmanager
def _session_for_print(person: AbstractBaseUser) -> Iterator[str]:
    """A session that ends with the block. What it may do is said by shared.security."""
    session: Any = import_module(settings.SESSION_ENGINE).SessionStore()
    session[SESSION_KEY] = str(person.pk)
    session[BACKEND_SESSION_KEY] = settings.AUTHENTICATION_BACKENDS[-1]
    session[HASH_SESSION_KEY] = person.get_session_auth_hash()
    session[FOR_PRINT] = True
    session.set_expiry(SESSION_SECONDS)
    session.create()
    try:
        yield session.session_key
    finally:
        session.delete()


def _printed(program: str, address: str, session_key: str) -> bytes:
    # Half a second to import: only those who print wait for it.
    from playwright.sync_api import Error, sync_playwright

    root = urlsplit(address)
    # The sandbox cannot be had as root; the pages are our own.
    arguments = [*_ARGUMENTS, *(["--no-sandbox"] if os.geteuid() == 0 else [])]
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=program, args=arguments)
            try:
                context = browser.new_context(locale="en-GB", color_scheme="light", reduced_motion="reduce")
                context.set_default_timeout(LONGEST_SECONDS * 1000)
                context.add_cookies(
                    [
                        {
                            "name": settings.SESSION_COOKIE_NAME, "value": session_key, "httpOnly": True,
                            "url": f"{root.scheme}://{root.netloc}",
                        }
                    ]
                )  # fmt: skip
                page = context.new_page()
                page.goto(address)
                page.wait_for_selector("[data-page]", state="attached")
                if page.locator('[data-page="ready"]').count() == 0:
                    raise Unavailable("The page could not be set. Open it on the screen to see why.")
                return page.pdf(
                    format="A4", print_background=True, prefer_css_page_size=True, tagged=True, outline=True
                )
            finally:
                browser.close()
    except Error as error:
        raise Unavailable("The page did not come in time to be printed. Try again in a minute.") from error
