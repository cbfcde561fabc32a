"""Settings. Everything that differs between installations comes from the environment, read as `config.table` says."""

import os
import re
from pathlib import Path
from urllib.parse import urlsplit

from dakika_core.networks.definition import Format
from dakika_core.plan.states import State
from dakika_core.results.tag_rules import RuleKind
from dakika_core.sources.files.kinds import KINDS

from dakika_server.accounts.permissions import Role
from dakika_server.config.table import SettingError, value_of
from dakika_server.monitoring.logs import logging_of

RUN_STATES = ["waiting", "running", "complete", "partial", "failed"]
SERVER = Path(__file__).resolve().parent.parent
ROOT = SERVER.parent.parent
DIST = Path(value_of("DAKIKA_DIST") or ROOT / "web" / "dist")


def secret(name: str, stand_in: str) -> str:
    """A secret from the environment; the stand-in serves only where DAKIKA_INSECURE says so (tests, tools)."""
    value: str = value_of(name)
    if value:
        return value
    if value_of("DAKIKA_INSECURE"):
        return stand_in
    raise SettingError(f"{name} is not set. `./dakika serve` makes one, and so does `./dakika start`.")


SECRET_KEY = secret("DAKIKA_SECRET_KEY", "only-for-tests-and-tools-" + "0" * 40)
TOKEN_KEY = secret("DAKIKA_TOKEN_KEY", "MDAwMDAwMDAwMDAwMDAwMDAwMDAwMDAwMDAwMDAwMDA=")
DEBUG = value_of("DAKIKA_DEBUG")
PUBLIC_ADDRESS = value_of("DAKIKA_PUBLIC_ADDRESS")
LINKS_ADDRESS = value_of("DAKIKA_LINKS_ADDRESS")
COUNTRIES_FILE = value_of("DAKIKA_COUNTRIES_FILE")
# Where browsers listen to what changed; without it they ask now and then.
EVENTS_ADDRESS = value_of("DAKIKA_EVENTS_ADDRESS")
# Where the browser that prints finds us.
PRINT_ADDRESS = value_of("DAKIKA_PRINT_ADDRESS") or PUBLIC_ADDRESS
# This machine asks itself whether it is well, and for pages to print, whatever it is called outside.
ALLOWED_HOSTS = [
    *value_of("DAKIKA_HOSTS"), *(str(urlsplit(one).hostname) for one in (PUBLIC_ADDRESS, PRINT_ADDRESS)),
    "127.0.0.1", "localhost", "[::1]",
]  # fmt: skip
# The mail server; without one letters stay in the outbox and are told to have failed.
EMAIL_HOST, EMAIL_PORT = value_of("DAKIKA_SMTP")
EMAIL_HOST_USER = value_of("DAKIKA_SMTP_USER")
EMAIL_HOST_PASSWORD = value_of("DAKIKA_SMTP_PASSWORD")
# "starttls", "tls" from the first byte, or nothing: within a machine alone.
EMAIL_USE_TLS = value_of("DAKIKA_SMTP_SECURITY") == "starttls"
EMAIL_USE_SSL = value_of("DAKIKA_SMTP_SECURITY") == "tls"
EMAIL_TIMEOUT = 20
DEFAULT_FROM_EMAIL = value_of("DAKIKA_MAIL_FROM")
# Places of the worker by queue, over the usual ones (jobs/places.py), and which of them this worker takes.
WORKER_PLACES = value_of("DAKIKA_WORKER_PLACES")
WORKER_ONLY = value_of("DAKIKA_WORKER_ONLY")
# Where the stand-ins run, and nowhere else: the one address inside that is called.
STANDINS_ADDRESS = value_of("DAKIKA_STANDINS_ADDRESS")
# A collection of pictures elsewhere that may be used; the demo's is a stand-in.
COLLECTION_ADDRESS = value_of("DAKIKA_COLLECTION_ADDRESS") or (
    f"{STANDINS_ADDRESS}/collection" if STANDINS_ADDRESS else ""
)
# Folders with definition files and connectors of further networks, beside our own.
NETWORK_FOLDERS: list[str] = value_of("DAKIKA_NETWORK_FOLDERS")
# By which networks know this installation: DAKIKA_NETWORK_BREVI_ID and DAKIKA_NETWORK_BREVI_SECRET, by key.
NETWORK_CLIENTS: dict[str, tuple[str, str]] = {
    found[1].lower().replace("_", "-"): (value, os.environ.get(f"DAKIKA_NETWORK_{found[1]}_SECRET", ""))
    for name, value in os.environ.items()
    if (found := re.fullmatch(r"DAKIKA_NETWORK_([A-Z0-9_]+)_ID", name))
}
# Proxies (addresses or networks) whose X-Forwarded-For is believed.
TRUSTED_PROXIES: frozenset[str] = value_of("DAKIKA_TRUSTED_PROXIES")
# How many there are, where that is told instead of who they are.
TRUSTED_HOPS: int | None = value_of("DAKIKA_TRUSTED_HOPS")

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "axes",
    "rest_framework",
    "drf_spectacular",
    "procrastinate.contrib.django",
    "dakika_server.shared",
    "dakika_server.accounts",
    "dakika_server.brands",
    "dakika_server.monitoring",
    "dakika_server.notices",
    "dakika_server.media",
    "dakika_server.printing",
    "dakika_server.networks",
    "dakika_server.webhooks",
    "dakika_server.sources",
    "dakika_server.measures",
    "dakika_server.figures",
    "dakika_server.results",
    "dakika_server.competitors",
    "dakika_server.reports",
    "dakika_server.links",
    "dakika_server.site",
    "dakika_server.timing",
    "dakika_server.foresight",
    "dakika_server.plan",
    "dakika_server.demo",
    "dakika_server.jobs",
]
MIDDLEWARE = [
    "dakika_server.monitoring.requests.note_request",
    "django.middleware.security.SecurityMiddleware",
    # Answers go out packed; the length is blurred and tokens are masked, so that neither tells of secrets (BREACH).
    "dakika_server.shared.packing.PackingMiddleware",
    "dakika_server.shared.security.content_security_policy",
    "dakika_server.shared.problems.readable_requests",
    "dakika_server.shared.audit.note_address",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "axes.middleware.AxesMiddleware",
]
ROOT_URLCONF = "dakika_server.config.urls"
WSGI_APPLICATION = "dakika_server.config.wsgi.application"
TEMPLATES: list[dict[str, object]] = []
DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "NAME": value_of("PGDATABASE"),
        "USER": value_of("PGUSER"),
        "PASSWORD": value_of("PGPASSWORD"),
        "HOST": value_of("PGHOST") or "127.0.0.1",
        "PORT": str(value_of("PGPORT")),
        "CONN_MAX_AGE": 600,
        "CONN_HEALTH_CHECKS": True,
        # The tests' databases are copies of a migrated one where there is one: migrating takes ten times as long.
        "TEST": {"TEMPLATE": value_of("DAKIKA_TABLES") or None},
    }
}
# What an empty database is given instead of the history of all migrations.
TABLES_FILE = Path(__file__).with_name("tables.sql")
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
USE_TZ = True
TIME_ZONE = "UTC"
LANGUAGE_CODE = "en-gb"
STATIC_URL = "/static/"
WHITENOISE_ROOT = DIST if DIST.exists() else None
WHITENOISE_INDEX_FILE = False

# -- signing in
AUTH_USER_MODEL = "accounts.User"
AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "django.contrib.auth.backends.ModelBackend"]
PASSWORD_HASHERS = ["django.contrib.auth.hashers.Argon2PasswordHasher"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "dakika_server.accounts.passwords.LengthValidator"},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
    {"NAME": "dakika_server.accounts.passwords.GuessesValidator"},
]
# The address in a letter that sets a new password.
PASSWORD_RESET_TIMEOUT = 3600
AXES_FAILURE_LIMIT = 5
AXES_COOLOFF_TIME = 0.25  # hours
# A name is locked for the address that guessed at it only: whoever knows a name cannot lock its owner out.
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_CLIENT_IP_CALLABLE = "dakika_server.shared.security.client_address"
AXES_USERNAME_CALLABLE = "dakika_server.accounts.models.name_in_guess"
# Failures of one address over all names within the cool-off, until it waits whatever name it tries.
SIGN_IN_MOST_FAILURES = 50
AXES_RESET_ON_SUCCESS = True
AXES_VERBOSE = False
# Told as all else is: as a problem document.
AXES_LOCKOUT_CALLABLE = "dakika_server.shared.problems.locked_out"
AXES_USERNAME_FORM_FIELD = "username"
# Whoever does not come back for so long signs in again; records of signing in are kept as long as they help.
SESSION_COOKIE_NAME = value_of("DAKIKA_SESSION_COOKIE")
SESSION_COOKIE_AGE = max(1, value_of("DAKIKA_SESSION_DAYS") or 14) * 24 * 3600
SIGN_IN_RECORDS_DAYS = 90
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
IS_SECURE = PUBLIC_ADDRESS.startswith("https://")
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = IS_SECURE
# The proxy that speaks TLS for us says so, and takes away what others say of it (docs/operations.md).
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https") if IS_SECURE else None
CSRF_TRUSTED_ORIGINS = [PUBLIC_ADDRESS] if IS_SECURE else []
CSRF_FAILURE_VIEW = "dakika_server.shared.problems.csrf_failure"
SECURE_CONTENT_TYPE_NOSNIFF = True
# Told to browsers on secure addresses alone: for so many seconds they come by TLS only. A year is usual, once it works.
_HSTS: int | None = value_of("DAKIKA_HSTS_SECONDS")
SECURE_HSTS_SECONDS = (365 * 24 * 3600 if IS_SECURE else 0) if _HSTS is None else _HSTS
SECURE_HSTS_INCLUDE_SUBDOMAINS = value_of("DAKIKA_HSTS_SUBDOMAINS")
SECURE_HSTS_PRELOAD = value_of("DAKIKA_HSTS_PRELOAD")
SECURE_SSL_REDIRECT = value_of("DAKIKA_TLS_REDIRECT")
# Whoever watches over us asks from within, without TLS.
SECURE_REDIRECT_EXEMPT = [r"^health$", r"^ready$"]
# What stands below our host, and whether browsers know of it before they came, is for the owner of the domain to say
# (DAKIKA_HSTS_*); whether we or the proxy before us send people on to TLS, too.
SILENCED_SYSTEM_CHECKS = ["security.W005", "security.W008", "security.W021"]
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"

# -- what is kept
# Days for which networks' answers stand beside their counts, in their own words.
ANSWERS_KEPT_DAYS = value_of("DAKIKA_ANSWERS_KEPT_DAYS")
# And for which it is kept who changed what.
LOG_KEPT_DAYS = value_of("DAKIKA_LOG_KEPT_DAYS")
CLICKS_KEPT_DAYS: int | None = value_of("DAKIKA_CLICKS_KEPT_DAYS")
READINGS_THINNED_DAYS: int | None = value_of("DAKIKA_READINGS_THINNED_DAYS")

# -- files of people: one of Django's storages. Another backend (S3-compatible, say) is named by its class and options.
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.InMemoryStorage"},
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
    "media": {
        "BACKEND": value_of("DAKIKA_MEDIA_STORAGE"),
        "OPTIONS": value_of("DAKIKA_MEDIA_OPTIONS")
        or {"location": value_of("DAKIKA_MEDIA_FOLDER") or str(ROOT / ".dakika" / "media"),
            "file_permissions_mode": 0o600, "directory_permissions_mode": 0o700},
    },
}  # fmt: skip
MEDIA_LARGEST_BYTES = value_of("DAKIKA_MEDIA_LARGEST_BYTES")
MEDIA_MOST_BYTES = value_of("DAKIKA_MEDIA_MOST_BYTES")

# -- bounded input
DATA_UPLOAD_MAX_MEMORY_SIZE = 2 * 1024 * 1024
FILE_UPLOAD_MAX_MEMORY_SIZE = 1024 * 1024
# A ZIP archive of pictures for a table of posts.
PICTURES_MAX_BYTES = 512 * 1024 * 1024
IMPORT_MAX_BYTES = 1024 * 1024 * 1024
IMPORT_MAX_ROWS = 10_000_000

REST_FRAMEWORK = {
    "DEFAULT_AUTHENTICATION_CLASSES": [
        "dakika_server.shared.security.SessionAuthentication",
        "dakika_server.shared.security.TokenAuthentication",
    ],
    "DEFAULT_PERMISSION_CLASSES": ["rest_framework.permissions.IsAuthenticated"],
    "DEFAULT_RENDERER_CLASSES": ["rest_framework.renderers.JSONRenderer"],
    "DEFAULT_PARSER_CLASSES": ["dakika_server.shared.parsers.JSONParser"],
    "DEFAULT_SCHEMA_CLASS": "dakika_server.shared.schema.Schema",
    "EXCEPTION_HANDLER": "dakika_server.shared.errors.problem_response",
    "UNAUTHENTICATED_USER": None,
    # `format` is the format of a post here, not of an answer.
    "URL_FORMAT_OVERRIDE": None,
}
SPECTACULAR_SETTINGS = {
    "TITLE": "Dakika",
    "DESCRIPTION": "Collect, measure, compare, trace, time, plan. Errors are RFC 9457 problem documents.",
    "VERSION": "1",
    "SERVE_INCLUDE_SCHEMA": False,
    "COMPONENT_SPLIT_REQUEST": True,
    "SORT_OPERATIONS": True,
    "ENUM_NAME_OVERRIDES": {
        "RoleEnum": [role.value for role in Role],
        "PlanStateEnum": [state.value for state in State],
        "RunStateEnum": RUN_STATES,
        "PrintingStateEnum": ["waiting", "printing", "done", "failed"],
        "ImportStateEnum": ["looking", "waiting", "running", "done", "failed", "undoing", "undone", "discarded"],
        "FileKindEnum": list(KINDS),
        "FileFormEnum": ["csv", "json", "xlsx", "ods", "zip"],
        "DateOrderEnum": ["dmy", "mdy", "ymd"],
        "GroupVerdictEnum": ["better", "worse", "open", "few"],
        "FormatEnum": [kind.value for kind in Format],
        "FeedRuleBecomesEnum": ["idea", "draft", "scheduled"],
        "BatchStateEnum": ["checked", "making", "made", "undone"],
        "FindingStateEnum": ["new", "pinned", "dismissed"],
        "RuleKindEnum": [kind.value for kind in RuleKind],
        "FirstCommentStateEnum": ["waiting", "done", "failed"],
    },
    "POSTPROCESSING_HOOKS": [
        "drf_spectacular.hooks.postprocess_schema_enums",
        "dakika_server.shared.schema.with_problems",
    ],
}
PROCRASTINATE_AUTODISCOVER_MODULE_NAME = "jobs"
LOGGING = logging_of(value_of("DAKIKA_LOGS"))
# The redirect's journal, where it is on this machine.
LINKS_FOLDER: str = value_of("DAKIKA_LINKS_FOLDER") or str(ROOT / ".dakika" / "links")
METRICS_TOKEN: str = value_of("DAKIKA_METRICS_TOKEN")
ERRORS_ADDRESS: str = value_of("DAKIKA_ERRORS_ADDRESS")
SLOW_QUERY_MS: int | None = value_of("DAKIKA_SLOW_QUERY_MS")
