"""The area links."""

from typing import Any

from django.apps import AppConfig


class LinksConfig(AppConfig):
    """Django's handle."""

    name = "dakika_server.links"

    def ready(self) -> None:
        """Files of clicks come in through sources, which stand below; so do posts that are forgotten."""
        from dakika_server.brands.actions import AFTER_ZONE_CHANGED
        from dakika_server.brands.models import Brand
        from dakika_server.links import jobs
        from dakika_server.links.imports import recount_click, take_clicks_batch, take_conversions_batch
        from dakika_server.results.brought import COUNTS
        from dakika_server.results.related import MORE_RELATED
        from dakika_server.sources.collect import AFTER_COLLECTING
        from dakika_server.sources.files.exporting import TABLES
        from dakika_server.sources.files.rows_in import INTAKES, RECOUNTS
        from dakika_server.sources.files.undoing import ALSO_UNDONE
        from dakika_server.sources.forget import FORGET_POSTS
        from dakika_server.sources.models import Profile

        def forget_posts(post_ids: list[int]) -> None:
            from dakika_server.links.models import LinkUse

            LinkUse.objects.filter(post_id__in=post_ids)._raw_delete("default")

        def take_out_clicks(cursor: Any, import_id: int) -> int:
            from dakika_server.links.jobs import forget_people_since

            cursor.execute("SELECT brand_id, min(at) FROM links_click WHERE import_id = %s GROUP BY 1", [import_id])
            touched = cursor.fetchall()
            cursor.execute("DELETE FROM links_click WHERE import_id = %s", [import_id])
            count = int(cursor.rowcount)
            for brand_id, first in touched:
                forget_people_since(brand_id, first.date())
            return count

        def take_out_conversions(cursor: Any, import_id: int) -> int:
            cursor.execute(
                "DELETE FROM links_conversionstage s USING links_conversion c "
                "WHERE s.conversion_id = c.id AND c.import_id = %s",
                [import_id],
            )
            cursor.execute("DELETE FROM links_conversion WHERE import_id = %s", [import_id])
            return int(cursor.rowcount)

        def find_uses_now(profile: Profile) -> None:
            from dakika_server.links.uses import find_uses

            if profile.kind == "own":
                find_uses(profile.brand_id, profile)

        def sum_anew(brand: Brand) -> None:
            from dakika_server.links.jobs import sum_clicks_anew

            sum_clicks_anew.defer(brand_id=brand.pk)

        from dakika_server.links.brought import brought, related_visits
        from dakika_server.links.exports import CLICKS, CONVERSIONS, LINKS

        jobs.register()
        COUNTS.append(brought)
        MORE_RELATED.append(related_visits)
        INTAKES["clicks"] = take_clicks_batch
        RECOUNTS["clicks"] = recount_click
        INTAKES["conversions"] = take_conversions_batch
        ALSO_UNDONE.extend([take_out_clicks, take_out_conversions])
        FORGET_POSTS.append(forget_posts)
        AFTER_COLLECTING.append(find_uses_now)
        AFTER_ZONE_CHANGED.append(sum_anew)
        TABLES.update({"links": LINKS, "clicks": CLICKS, "conversions": CONVERSIONS})
