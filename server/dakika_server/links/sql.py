"""What PostgreSQL does by itself for links: sums of clicks, and telling the redirect what changed.

Statement-level triggers see all rows of a statement at once, so a COPY of a thousand clicks
costs a few upserts. Rows are taken in one order everywhere, so that two who sum never wait for
each other in a circle.

In the trade's words: rollup, denormalised counters, triggers.
"""

_COUNTS = """count(*) FILTER (WHERE r.bot_reason = '' AND NOT r.is_over) AS people,
    count(*) FILTER (WHERE r.bot_reason <> '') AS bots,
    count(*) FILTER (WHERE r.bot_reason = '' AND r.is_over) AS over"""
_HOURS = f"""SELECT r.brand_id, l.link_id, date_trunc('hour', r.at, b.time_zone) AS hour, {_COUNTS}
    FROM {{rows}} r JOIN brands_brand b ON b.id = r.brand_id CROSS JOIN LATERAL (VALUES (r.link_id), (0)) l (link_id)
    GROUP BY 1, 2, 3 ORDER BY 1, 2, 3"""
_DAYS = f"""SELECT r.brand_id, (r.at AT TIME ZONE b.time_zone)::date AS day, r.link_id, {_COUNTS}
    FROM {{rows}} r JOIN brands_brand b ON b.id = r.brand_id GROUP BY 1, 2, 3 ORDER BY 1, 2, 3"""
_TOTALS = f"""SELECT r.link_id, {_COUNTS}, max(r.at) FILTER (WHERE r.bot_reason = '' AND NOT r.is_over) AS last_at
    FROM {{rows}} r {{which}} GROUP BY 1 ORDER BY 1"""
_SPREAD = """SELECT r.brand_id, l.link_id, d.dimension, (r.at AT TIME ZONE b.time_zone)::date AS day, d.value, count(*)
    FROM {rows} r JOIN brands_brand b ON b.id = r.brand_id
    CROSS JOIN LATERAL (VALUES (r.link_id), (0)) l (link_id)
    CROSS JOIN LATERAL (VALUES ('referrer', r.referrer), ('device', r.device), ('browser', r.browser),
        ('language', r.language), ('country', r.country), ('reason', r.bot_reason)) d (dimension, value)
    WHERE (r.bot_reason = '') = (d.dimension <> 'reason') AND NOT r.is_over
    GROUP BY 1, 2, 3, 4, 5 ORDER BY 1, 2, 3, 4, 5"""


def _grown(table: str, counts: tuple[str, ...], also: str = "") -> str:
    return ", ".join(f"{name} = {table}.{name} + excluded.{name}" for name in counts) + also


_THREE = ("people", "bots", "over")
_LATER = ", last_at = greatest(t.last_at, excluded.last_at)"


def _put_in(rows: str) -> str:
    return f"""
    INSERT INTO links_clickhour AS h (brand_id, link_id, hour, people, bots, over)
    {_HOURS.format(rows=rows)}
    ON CONFLICT (brand_id, link_id, hour) DO UPDATE SET {_grown("h", _THREE)};
    INSERT INTO links_clickday AS d (brand_id, day, link_id, people, bots, over)
    {_DAYS.format(rows=rows)}
    ON CONFLICT (brand_id, day, link_id) DO UPDATE SET {_grown("d", _THREE)};
    INSERT INTO links_clicktotal AS t (link_id, people, bots, over, last_at)
    {_TOTALS.format(rows=rows, which="")}
    ON CONFLICT (link_id) DO UPDATE SET {_grown("t", _THREE, _LATER)};
    INSERT INTO links_clickspread AS s (brand_id, link_id, dimension, day, value, count)
    {_SPREAD.format(rows=rows)}
    ON CONFLICT (brand_id, link_id, dimension, day, value) DO UPDATE SET {_grown("s", ("count",))};
    """


def _shrunk(table: str) -> str:
    return ", ".join(f"{name} = {table}.{name} - c.{name}" for name in _THREE)


_DIMENSIONS = (
    ("referrer", "referrer"), ("device", "device"), ("browser", "browser"), ("language", "language"),
    ("country", "country"), ("reason", "bot_reason"),
)  # fmt: skip


def _spread_anew(name: str, column: str) -> str:
    """One dimension of all clicks at once: for millions a scan for each is faster than six rows for each click."""
    return f"""
    INSERT INTO links_clickspread (brand_id, link_id, dimension, day, value, count)
    SELECT of_brand, CASE WHEN grouping(link_id) = 1 THEN 0 ELSE link_id END, '{name}', day, {column}, count(*)
    FROM (SELECT link_id, (at AT TIME ZONE zone)::date AS day, {column} FROM links_click
          WHERE brand_id = of_brand AND (bot_reason = '') = ('{name}' <> 'reason') AND NOT is_over) r
    GROUP BY GROUPING SETS ((link_id, day, {column}), (day, {column}));"""


_TAKEN_OUT = f"""    UPDATE links_clickhour h SET {_shrunk("h")} FROM ({_HOURS.format(rows="gone")}) c
    WHERE (h.brand_id, h.link_id, h.hour) = (c.brand_id, c.link_id, c.hour);
    UPDATE links_clickday d SET {_shrunk("d")} FROM ({_DAYS.format(rows="gone")}) c
    WHERE (d.brand_id, d.day, d.link_id) = (c.brand_id, c.day, c.link_id);
    UPDATE links_clicktotal t SET {_shrunk("t")}, last_at = (SELECT max(k.at) FROM links_click k
        WHERE k.link_id = t.link_id AND k.bot_reason = '' AND NOT k.is_over)
    FROM ({_TOTALS.format(rows="gone", which="")}) c WHERE t.link_id = c.link_id;
    UPDATE links_clickspread s SET count = s.count - c.count
    FROM ({_SPREAD.format(rows="gone")}) c
    WHERE (s.brand_id, s.link_id, s.dimension, s.day, s.value) = (c.brand_id, c.link_id, c.dimension, c.day, c.value);
    RETURN NULL;"""
_ANEW = f"""    DELETE FROM links_clickhour WHERE brand_id = of_brand;
    DELETE FROM links_clickday WHERE brand_id = of_brand;
    DELETE FROM links_clicktotal WHERE link_id IN (SELECT id FROM links_trackedlink WHERE brand_id = of_brand);
    DELETE FROM links_clickspread WHERE brand_id = of_brand;
    INSERT INTO links_clickhour (brand_id, link_id, hour, people, bots, over)
    SELECT of_brand, CASE WHEN grouping(r.link_id) = 1 THEN 0 ELSE r.link_id END, hour, {_COUNTS}
    FROM (SELECT *, date_trunc('hour', at, zone) AS hour FROM links_click WHERE brand_id = of_brand) r
    GROUP BY GROUPING SETS ((r.link_id, hour), (hour));
    INSERT INTO links_clickday (brand_id, day, link_id, people, bots, over)
    SELECT of_brand, day, r.link_id, {_COUNTS}
    FROM (SELECT *, (at AT TIME ZONE zone)::date AS day FROM links_click WHERE brand_id = of_brand) r GROUP BY 2, 3;
    INSERT INTO links_clicktotal (link_id, people, bots, over, last_at)
    {_TOTALS.format(rows="links_click", which="WHERE r.brand_id = of_brand")};
    {"".join(_spread_anew(name, column) for name, column in _DIMENSIONS)}"""
SUMS = f"""
CREATE FUNCTION links_sum_inserted() RETURNS trigger LANGUAGE plpgsql AS $body$
BEGIN
    {_put_in("changed")}
    RETURN NULL;
END $body$;

CREATE FUNCTION links_sum_taken_out() RETURNS trigger LANGUAGE plpgsql AS $body$
BEGIN
{_TAKEN_OUT}
END $body$;

CREATE TRIGGER clicks_in AFTER INSERT ON links_click REFERENCING NEW TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION links_sum_inserted();
CREATE TRIGGER clicks_changed_out AFTER UPDATE ON links_click REFERENCING OLD TABLE AS gone
    FOR EACH STATEMENT EXECUTE FUNCTION links_sum_taken_out();
CREATE TRIGGER clicks_changed_to AFTER UPDATE ON links_click REFERENCING NEW TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION links_sum_inserted();
CREATE TRIGGER clicks_out AFTER DELETE ON links_click REFERENCING OLD TABLE AS gone
    FOR EACH STATEMENT EXECUTE FUNCTION links_sum_taken_out();

CREATE FUNCTION links_sum_anew(of_brand bigint) RETURNS void LANGUAGE plpgsql SET work_mem = '256MB' AS $body$
DECLARE
    zone text := (SELECT time_zone FROM brands_brand WHERE id = of_brand);
BEGIN
{_ANEW}
END $body$;
"""

_KEEPS = "current_setting('dakika.keeps_sums', true) = 'on'"


# Single clicks go by their age while their sums stay (links/retention.py): those of before the horizon are left.
KEPT_SUMS = f"""
CREATE OR REPLACE FUNCTION links_sum_taken_out() RETURNS trigger LANGUAGE plpgsql AS $body$
BEGIN
    IF {_KEEPS} THEN
        RETURN NULL;
    END IF;
{_TAKEN_OUT}
END $body$;

CREATE OR REPLACE FUNCTION links_sum_anew(of_brand bigint) RETURNS void LANGUAGE plpgsql SET work_mem = '256MB'
AS $body$
DECLARE
    zone text := (SELECT time_zone FROM brands_brand WHERE id = of_brand);
    horizon timestamptz := (SELECT since FROM links_clickhorizon WHERE brand_id = of_brand);
    first_day date := (SELECT day FROM links_clickhorizon WHERE brand_id = of_brand);
BEGIN
    IF horizon IS NULL THEN
{_ANEW}
    ELSE
        DELETE FROM links_clickhour WHERE brand_id = of_brand AND hour >= horizon;
        DELETE FROM links_clickday WHERE brand_id = of_brand AND day >= first_day;
        DELETE FROM links_clickspread WHERE brand_id = of_brand AND day >= first_day;
        CREATE TEMP TABLE links_there ON COMMIT DROP AS
            SELECT * FROM links_click WHERE brand_id = of_brand AND at >= horizon;
        -- In another zone the first day may begin before the horizon: what is added lies beside what is there.
        {_put_in("links_there")}
        UPDATE links_clicktotal t SET people = d.people, bots = d.bots, over = d.over
        FROM (SELECT link_id, sum(people)::int AS people, sum(bots)::int AS bots, sum(over)::int AS over
              FROM links_clickday WHERE brand_id = of_brand GROUP BY 1) d
        WHERE t.link_id = d.link_id;
        DROP TABLE links_there;
    END IF;
END $body$;
"""

NOTIFICATIONS = """
CREATE FUNCTION links_tell() RETURNS trigger LANGUAGE plpgsql AS $body$
DECLARE
    old_name text; new_name text;
BEGIN
    IF TG_OP <> 'INSERT' THEN EXECUTE format('SELECT ($1).%I::text', TG_ARGV[1]) INTO old_name USING OLD; END IF;
    IF TG_OP <> 'DELETE' THEN EXECUTE format('SELECT ($1).%I::text', TG_ARGV[1]) INTO new_name USING NEW; END IF;
    IF old_name IS NOT NULL AND old_name IS DISTINCT FROM new_name THEN
        PERFORM pg_notify('dakika_links', TG_ARGV[0] || ' ' || old_name);
    END IF;
    IF new_name IS NOT NULL THEN PERFORM pg_notify('dakika_links', TG_ARGV[0] || ' ' || new_name); END IF;
    RETURN NULL;
END $body$;

CREATE FUNCTION links_tell_page() RETURNS trigger LANGUAGE plpgsql AS $body$
BEGIN
    PERFORM pg_notify('dakika_links', 'page ' || slug) FROM links_linkpage
    WHERE id = coalesce(NEW.page_id, OLD.page_id);
    RETURN NULL;
END $body$;

CREATE TRIGGER link_told AFTER INSERT OR UPDATE OR DELETE ON links_trackedlink
    FOR EACH ROW EXECUTE FUNCTION links_tell('link', 'code');
CREATE TRIGGER domain_told AFTER INSERT OR UPDATE OR DELETE ON links_linkdomain
    FOR EACH ROW EXECUTE FUNCTION links_tell('host', 'host');
CREATE TRIGGER page_told AFTER INSERT OR UPDATE OR DELETE ON links_linkpage
    FOR EACH ROW EXECUTE FUNCTION links_tell('page', 'slug');
CREATE TRIGGER settings_told AFTER INSERT OR UPDATE OR DELETE ON links_linksettings
    FOR EACH ROW EXECUTE FUNCTION links_tell('brand', 'brand_id');
CREATE TRIGGER brand_told AFTER INSERT OR UPDATE OF name ON brands_brand
    FOR EACH ROW EXECUTE FUNCTION links_tell('brand', 'id');
CREATE TRIGGER entry_told AFTER INSERT OR UPDATE OR DELETE ON links_linkpageentry
    FOR EACH ROW EXECUTE FUNCTION links_tell_page();
"""
