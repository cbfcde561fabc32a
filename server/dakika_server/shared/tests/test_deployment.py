"""Promise: set up for the open, nothing that the framework warns of is left; and no change of a model lacks its migration."""

import os
import subprocess
import sys
from io import StringIO

import pytest
from django.core.management import call_command

from scripts.paths import ROOT

OPEN = {
    "DAKIKA_PUBLIC_ADDRESS": "https://dakika.example", "DAKIKA_HOSTS": "dakika.example", "DAKIKA_HSTS_SECONDS": "31536000",
    "DAKIKA_HSTS_SUBDOMAINS": "1", "DAKIKA_HSTS_PRELOAD": "1", "DAKIKA_TLS_REDIRECT": "1",
    "DAKIKA_SECRET_KEY": "z" * 12 + "0aB9" * 16, "DAKIKA_TOKEN_KEY": "MDAwMDAwMDAwMDAwMDAwMDAwMDAwMDAwMDAwMDAwMDA=",
}  # fmt: skip


def test_the_frameworks_own_check_of_a_deployment_finds_nothing() -> None:
    """check --deploy, with what an installation on an address of its own sets."""
    done = subprocess.run(
        [sys.executable, str(ROOT / "server" / "manage.py"), "check", "--deploy", "--fail-level", "WARNING"],
        env=os.environ | OPEN, capture_output=True, text=True,
    )  # fmt: skip
    assert done.returncode == 0, done.stderr[-3000:]


@pytest.mark.django_db
def test_no_change_of_a_model_lacks_its_migration() -> None:
    out = StringIO()
    call_command("makemigrations", check=True, dry_run=True, stdout=out)
    assert "No changes detected" in out.getvalue()
