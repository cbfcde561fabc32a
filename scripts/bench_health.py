"""Two hundred profiles with ninety days each, for the health page; run inside Django by `scripts.bench`."""

import django

PROFILES = 200


def prepare_health() -> None:
    """Two hundred profiles with ninety days each."""
    from dakika_server.accounts.models import User
    from dakika_server.brands.models import Brand, Membership
    from dakika_server.sources.models import Competitor
    from django.db import connection

    brand = Brand.objects.create(name="Bench Health", slug="bench-health", time_zone="Europe/Lisbon")
    Membership.objects.create(user=User.objects.get(email="mira@ninthbell.example"), brand=brand, role="admin")
    rival = Competitor.objects.create(brand=brand, name="Many")
    with connection.cursor() as cursor:
        cursor.execute(
            "INSERT INTO sources_profile (brand_id, competitor_id, network, external_id, handle, name, kind, picture, "
            "is_followed, added_at, history_cursor) SELECT %s, %s, 'commons', 'h' || i, 'h' || i, 'Profile ' || i, "
            "'competitor', '', true, now() - interval '80 days', '' FROM generate_series(1, %s) i",
            [brand.pk, rival.pk, PROFILES],
        )
        cursor.execute(
            "INSERT INTO sources_profilereading (brand_id, profile_id, day, taken_at, followers) SELECT p.brand_id, p.id, "
            "current_date - d, now(), 1000 + d FROM sources_profile p, generate_series(0, 89) d WHERE p.brand_id = %s "
            "AND (p.id + d) %% 17 <> 0",
            [brand.pk],
        )
        cursor.execute(
            "INSERT INTO sources_collectionrun (brand_id, profile_id, state, asked_at, started_at, ended_at, turns, step, "
            "posts_seen, posts_new, readings_new, comments_new, requests, slow, refused, message, missing) "
            "SELECT p.brand_id, p.id, CASE WHEN d %% 19 = 0 THEN 'partial' ELSE 'complete' END, now() - make_interval(days => d), "
            "now(), now() - make_interval(days => d), 1, '', 9, 0, 9, 0, 3, 0, 0, '', '' FROM sources_profile p, "
            "generate_series(0, 79) d WHERE p.brand_id = %s",
            [brand.pk],
        )
        cursor.execute(
            "INSERT INTO sources_post (brand_id, profile_id, external_id, published_at, format, text, url, hashtags, "
            "language, picture) SELECT p.brand_id, p.id, 'x' || i, now() - make_interval(hours => i * 20), 'text', '', '', '{}', '', '' "
            "FROM sources_profile p, generate_series(1, 100) i WHERE p.brand_id = %s",
            [brand.pk],
        )
        cursor.execute("ANALYZE")


def main() -> None:
    """Fill; the page itself is asked over HTTP by scripts.bench."""
    django.setup()
    prepare_health()


if __name__ == "__main__":
    main()
