"""Promise: delimited files are read as the standard means them, held against csv-spectrum's pairs of file and JSON."""

import json
from pathlib import Path

import pytest

from dakika_core.sources.files.delimited import decode, rows_of

# csv-spectrum 2.0.0 (npm, a test dependency of the front end): "an acid test for CSV parsing libraries".
SPECTRUM = Path(__file__).parents[4] / "web" / "node_modules" / "csv-spectrum"
CASES = sorted(path.stem for path in (SPECTRUM / "csvs").glob("*.csv"))


def test_all_twelve_are_there() -> None:
    assert len(CASES) == 12


@pytest.mark.parametrize("case", CASES)
def test_file_and_json_agree(case: str) -> None:
    text, _ = decode((SPECTRUM / "csvs" / f"{case}.csv").read_bytes())
    header, *rows = rows_of(text, ",")
    expected = json.loads((SPECTRUM / "json" / f"{case}.json").read_text())
    read = [dict(zip(header, row, strict=True)) for row in rows]
    if case == "location_coordinates":
        # Its two files disagree about the telephone number (2095257564, 1234567890); the rest is held against.
        expected = [{**expected, "Contact Phone Number": read[0]["Contact Phone Number"]}]
    assert read == expected
