"""Promise: whoever searches the code for the usual word of the trade or the field finds where it is done."""

import ast
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
ROOMS = ("core/dakika_core", "server/dakika_server", "redirect/dakika_redirect")
WORDS = """
A/B test · account enumeration · adaptive polling · aggregation · anomaly detection · API token · approval workflow ·
audit log · authorisation · autosave · backfill · backtest · baseline · benchmark · best time to post · bot detection ·
bulk scheduling · cache invalidation · campaign parameters · circuit breaker · confidence interval · conformal ·
content calendar · content security policy · conversion funnel · credible interval · cron · custom metric ·
data portability · data retention · deduplication · drafts · encryption at rest · engagement rate · exactly once ·
exponential backoff · export · false discovery · first comment · forecast · graceful shutdown · growth curve ·
hashtag research · idempotency key · ingest · invalid traffic · invitation · key rotation · landing page · magic bytes ·
mentions · multi-factor · multi-touch attribution · OAuth · onboarding · optimistic locking · outlier · pagination ·
paid promotion · partial pooling · password reset · pseudonymisation · push updates · quiet hours · rate limit · rebuild ·
redirect · refresh token · rendition · resumable upload · right to erasure · role-based access · rollup · sample size ·
sandbox · scheduled report · seasonality · sequential testing · server-sent events · sessions · share link ·
share of voice · slow query · slot · SSRF · state machine · statistical power · thread pool · throttling · thumbnail ·
topic analysis · transactional outbox · transcoding · trusted proxies · upsert · URL shortener · UTM · webhook ·
write-ahead log
"""


@pytest.fixture(scope="module")
def said() -> str:
    """What the docstrings of all rooms say, in one piece."""
    found = []
    for room in ROOMS:
        for path in sorted((ROOT / room).rglob("*.py")):
            if "tests" in path.parts or "migrations" in path.parts:
                continue
            for node in ast.walk(ast.parse(path.read_text())):
                if isinstance(node, ast.Module | ast.ClassDef | ast.FunctionDef | ast.AsyncFunctionDef):
                    found.append(" ".join((ast.get_docstring(node) or "").split()))
    return "\n".join(found).lower()


def test_the_usual_words_are_there(said: str) -> None:
    words = [word.strip() for word in WORDS.replace("\n", " ").split("·")]
    assert len(words) > 90
    assert [word for word in words if word.lower() not in said] == []
