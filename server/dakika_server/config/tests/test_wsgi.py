"""Promise: a web process has all its views when it begins, and no request waits for the collector to go through them."""

import os
import subprocess
import sys

SAID = """
import gc, sys
from dakika_server.config.wsgi import application
print(gc.get_freeze_count(), len(gc.get_objects()), "dakika_server.reports.api.reports" in sys.modules)
"""


def test_what_stands_from_the_start_is_left_out_of_the_collectors_rounds() -> None:
    done = subprocess.run(
        [sys.executable, "-c", SAID], env=dict(os.environ), capture_output=True, text=True, check=True
    )
    left_out, gone_through, has_views = done.stdout.split()[-3:]
    assert int(left_out) > 100_000
    assert int(gone_through) < int(left_out) / 10
    assert has_views == "True"
