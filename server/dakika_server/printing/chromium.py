"""A page of ours as a PDF: Debian's Chromium opens what the person would see, so screen and paper have one code path.

Chromium asks with a session of its own, which can only look and which ends with the printing.
"""

import atexit
import os
import shutil
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager, suppress
from importlib import import_module
from threading import Timer
from typing import Any
from urllib.parse import urljoin, urlsplit

from django.conf import settings
from django.contrib.auth import BACKEND_SESSION_KEY, HASH_SESSION_KEY, SESSION_KEY
from django.contrib.auth.base_user import AbstractBaseUser

from dakika_server.shared.errors import Unavailable
from dakika_server.shared.security import FOR_PRINT

LONGEST_SECONDS = 30
SESSION_SECONDS = 120
# Pictures and fonts of a page are waited for so long; what a network does not give stays away.
PICTURES_SECONDS = 6
# A browser is kept for so long after a page, and for so many pages.
IDLE_SECONDS, MOST_PAGES = 60, 200
_ALL_THERE = """(most) => {
    const there = (image) => image.complete || new Promise((done) => (image.onload = image.onerror = done));
    const late = new Promise((done) => setTimeout(done, most));
    const all = Promise.all([document.fonts.ready, ...[...document.images].map(there)]);
    return Promise.race([late, all]).then(() => null);
}"""
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
        return _printed(program, urljoin(settings.PRINT_ADDRESS, path), key)


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
    from playwright.sync_api import Error

    try:
        return _press.run(program, lambda browser: _page_as_pdf(browser, address, session_key))
    except Error as error:
        raise Unavailable("The page did not come in time to be printed. Try again in a minute.") from error


def _page_as_pdf(browser: Any, address: str, session_key: str) -> bytes:
    """In a context of its own: no cookie, storage or answer of one page is there for the next."""
    root = urlsplit(address)
    # From within it comes without TLS where people come with it: it says that this is as it should be.
    told = {"X-Forwarded-Proto": "https"} if settings.IS_SECURE and root.scheme == "http" else {}
    context = browser.new_context(
        locale="en-GB", color_scheme="light", reduced_motion="reduce", extra_http_headers=told
    )
    try:
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
        page.evaluate(_ALL_THERE, PICTURES_SECONDS * 1000)
        return bytes(
            page.pdf(format="A4", print_background=True, prefer_css_page_size=True, tagged=True, outline=True)
        )  # fmt: skip
    finally:
        context.close()


class _Press:
    """One Chromium that stays for a while after a page, for the next: starting one takes as long as a page.

    What drives it belongs to the thread that began it, so all pages go through one thread. A browser that died is
    begun anew for the next page, one of many pages or that nobody needed for a while is closed.
    """

    def __init__(self) -> None:
        self._thread = ThreadPoolExecutor(1, thread_name_prefix="chromium")
        self._playwright: Any = None
        self._browser: Any = None
        self._pages = 0
        self._closing: Timer | None = None
        atexit.register(self.close)

    def run(self, program: str, job: Callable[[Any], bytes]) -> bytes:
        """Have a page made in its turn. Raises whatever it raises."""
        if self._closing:
            self._closing.cancel()
        try:
            return self._thread.submit(self._make, program, job).result()
        finally:
            self._closing = Timer(IDLE_SECONDS, self.close)
            self._closing.daemon = True
            self._closing.start()

    def close(self) -> None:
        """End the browser, after the page that is being made."""
        with suppress(RuntimeError):
            # The interpreter may be at its end already, and its threads with it; the browser then ends with its pipe.
            self._thread.submit(self._end).result()

    def _make(self, program: str, job: Callable[[Any], bytes]) -> bytes:
        if self._browser is not None and (self._pages >= MOST_PAGES or not self._browser.is_connected()):
            self._end()
        if self._browser is None:
            self._begin(program)
        self._pages += 1
        return job(self._browser)

    def _begin(self, program: str) -> None:
        # Half a second to import: only those who print wait for it.
        from playwright.sync_api import sync_playwright

        # The sandbox cannot be had as root; the pages are our own.
        arguments = [*_ARGUMENTS, *(["--no-sandbox"] if os.geteuid() == 0 else [])]
        self._playwright = sync_playwright().start()
        try:
            self._browser = self._playwright.chromium.launch(executable_path=program, args=arguments)
        except BaseException:
            self._end()
            raise
        self._pages = 0

    def _end(self) -> None:
        browser, playwright = self._browser, self._playwright
        self._browser = self._playwright = None
        # One that died cannot be closed any more; its driver still has to be.
        with suppress(Exception):
            if browser is not None:
                browser.close()
        with suppress(Exception):
            if playwright is not None:
                playwright.stop()


_press = _Press()
