-- Written by `manage.py describe_tables`; not to be changed by hand.
-- The tables of an empty database, with these migrations applied:
--   accounts.0001_initial
--   accounts.0002_first_key
--   accounts.0003_people_and_keys
--   accounts.0004_programs
--   contenttypes.0001_initial
--   contenttypes.0002_remove_content_type_name
--   auth.0001_initial
--   auth.0002_alter_permission_name_max_length
--   auth.0003_alter_user_email_max_length
--   auth.0004_alter_user_username_opts
--   auth.0005_alter_user_last_login_null
--   auth.0006_require_contenttypes_0002
--   auth.0007_alter_validators_add_error_messages
--   auth.0008_alter_user_username_max_length
--   auth.0009_alter_user_last_name_max_length
--   auth.0010_alter_group_name_max_length
--   auth.0011_update_proxy_permissions
--   auth.0012_alter_user_first_name_max_length
--   axes.0001_initial
--   axes.0002_auto_20151217_2044
--   axes.0003_auto_20160322_0929
--   axes.0004_auto_20181024_1538
--   axes.0005_remove_accessattempt_trusted
--   axes.0006_remove_accesslog_trusted
--   axes.0007_alter_accessattempt_unique_together
--   axes.0008_accessfailurelog
--   axes.0009_add_session_hash
--   axes.0010_accessattemptexpiration
--   brands.0001_initial
--   brands.0002_brand_picture_brand_picture_from
--   brands.0003_preferences
--   brands.0004_roles_of_a_team
--   brands.0005_indexes_that_others_hold
--   brands.0006_campaign_goals
--   brands.0007_invitations
--   brands.0008_tokens
--   brands.0009_demo_brands
--   sources.0001_initial
--   sources.0002_audiencereading_comment_feed_feeditem_importchunk_and_more
--   sources.0003_tags_findings
--   sources.0004_post_picture
--   sources.0005_real_files
--   sources.0006_looked_into_by_a_worker
--   sources.0007_indexes_that_others_hold
--   sources.0008_answers_go_in_time
--   sources.0009_reactions_by_kind_and_more
--   sources.0010_peerset
--   competitors.0001_initial
--   demo.0001_demo_brands
--   figures.0001_initial
--   foresight.0001_initial
--   links.0001_initial
--   links.0002_click_import_id_click_click_by_import
--   links.0003_redirect_beside_django
--   links.0004_sums_and_notifications
--   links.0005_a_link_stands_in_many_posts
--   links.0006_visits_and_conversions
--   links.0007_access_logs
--   links.0008_what_is_of_the_site_moves_out
--   links.0009_bursts_of_what_is_new
--   links.0010_indexes_that_others_hold
--   links.0011_page_views
--   links.0012_paid_links
--   links.0013_kept_sums
--   links.0014_brand_and_instant_in_keys
--   results.0001_initial
--   results.0002_postmeasure_readings_and_more
--   results.0003_tags_findings
--   results.0004_fill_measures
--   results.0005_final_age
--   results.0006_monotone_and_drawn
--   results.0007_how_posts_begin
--   results.0008_measures_move_out
--   measures.0001_by_post_and_day
--   measures.0002_what_came_since
--   measures.0003_readings_as_counted
--   measures.0004_reactions_by_kind_and_more
--   measures.0005_what_is_told_of_everybody
--   measures.0006_brand_and_instant_in_keys
--   media.0001_initial
--   media.0002_worked_on
--   media.0003_uploads_in_parts
--   notices.0001_initial
--   notices.0002_mail_headers
--   notices.0003_mail_files
--   notices.0004_confidential_letters
--   notices.0005_choices
--   notices.0006_browsers
--   notices.0007_brand_and_instant_in_keys
--   plan.0001_initial
--   plan.0002_indexes_that_others_hold
--   plan.0003_plannedpost_from_post_plannedpost_note
--   plan.0004_common_and_own
--   plan.0005_what_was_written
--   plan.0006_review_channels_calendars
--   plan.0007_batches
--   plan.0008_calendar_keys
--   plan.0009_ideas
--   plan.0010_hashtags
--   plan.0011_repetition
--   plan.0012_season_returns
--   plan.0013_several_changes
--   plan.0014_feed_rules
--   plan.0015_boosts
--   plan.0016_own_feed
--   plan.0017_web_push
--   plan.0018_shapes_of_channels
--   plan.0019_brand_and_instant_in_keys
--   printing.0001_printed_pages
--   procrastinate.0001_initial
--   procrastinate.0002_drop_started_at_column
--   procrastinate.0003_drop_started_at_column
--   procrastinate.0004_drop_procrastinate_version_table
--   procrastinate.0005_fix_procrastinate_fetch_job
--   procrastinate.0006_fix_trigger_status_events_insert
--   procrastinate.0007_add_queueing_lock_column
--   procrastinate.0008_close_fetch_job_race_condition
--   procrastinate.0009_add_defer_job_function
--   procrastinate.0010_add_procrastinate_periodic_defers
--   procrastinate.0011_add_foreign_key_index
--   procrastinate.0012_add_locks_to_periodic_defer
--   procrastinate.0013_fix_procrastinate_defer_periodic_job
--   procrastinate.0014_add_finish_job_and_retry_job_functions
--   procrastinate.0015_add_trigger_on_job_deletion
--   procrastinate.0016_delete_finished_jobs
--   procrastinate.0017_add_checks_to_finish_job
--   procrastinate.0018_add_checks_to_retry_job
--   procrastinate.0019_fix_finish_job_compat_issue
--   procrastinate.0020_add_index_on_procrastinate_jobs
--   procrastinate.0021_add_kwargs_to_defer_periodic_job
--   procrastinate.0022_null_locks_excluded
--   procrastinate.0023_remove_old_finish_job_function
--   procrastinate.0024_job_id_bigint
--   procrastinate.0025_add_models
--   procrastinate.0026_add_job_priority
--   procrastinate.0027_add_periodic_job_priority
--   procrastinate.0028_add_cancel_states
--   procrastinate.0029_add_additional_params_to_retry_job
--   procrastinate.0030_alter_procrastinateevent_options
--   procrastinate.0031_add_indexes_for_fetch_job
--   procrastinate.0032_pre_cancel_notification
--   procrastinate.0033_post_cancel_notification
--   procrastinate.0034_pre_add_heartbeat
--   procrastinate.0035_post_add_heartbeat
--   procrastinate.0036_add_worker_model
--   procrastinate.0037_pre_batch_defer_jobs
--   procrastinate.0038_post_batch_defer_jobs
--   procrastinate.0039_pre_priority_lock_fetch_job
--   procrastinate.0040_pre_retry_failed_job
--   procrastinate.0041_post_retry_failed_job
--   reports.0001_initial
--   reports.0002_deliveries
--   reports.0003_delivery_waits_and_people
--   results.0009_indexes_that_others_hold
--   results.0010_target
--   sessions.0001_initial
--   shared.0001_initial
--   shared.0002_audit_by_subject
--   shared.0003_before_and_after
--   shared.0004_calls_of_a_minute
--   site.0001_visits_and_conversions
--   site.0002_indexes_that_others_hold
--   site.0003_brand_and_instant_in_keys
--   sources.0011_brand_and_instant_in_keys
--   timing.0001_initial
--   timing.0002_trials_of_rhythms
--   webhooks.0001_initial


CREATE TYPE public.procrastinate_job_event_type AS ENUM (
    'deferred',
    'started',
    'deferred_for_retry',
    'failed',
    'succeeded',
    'cancelled',
    'abort_requested',
    'aborted',
    'scheduled',
    'retried'
);

CREATE TYPE public.procrastinate_job_status AS ENUM (
    'todo',
    'doing',
    'succeeded',
    'failed',
    'cancelled',
    'aborting',
    'aborted'
);

CREATE TYPE public.procrastinate_job_to_defer_v1 AS (
	queue_name character varying,
	task_name character varying,
	priority integer,
	lock text,
	queueing_lock text,
	args jsonb,
	scheduled_at timestamp with time zone
);

CREATE FUNCTION public.links_note_clicks() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    INSERT INTO links_unseenclicks (brand_id, first_at, last_at)
    SELECT brand_id, min(at), max(at) FROM changed WHERE import_id IS NULL GROUP BY brand_id;
    RETURN NULL;
END $$;

CREATE FUNCTION public.links_sum_anew(of_brand bigint) RETURNS void
    LANGUAGE plpgsql
    SET work_mem TO '256MB'
    AS $$
DECLARE
    zone text := (SELECT time_zone FROM brands_brand WHERE id = of_brand);
    horizon timestamptz := (SELECT since FROM links_clickhorizon WHERE brand_id = of_brand);
    first_day date := (SELECT day FROM links_clickhorizon WHERE brand_id = of_brand);
BEGIN
    IF horizon IS NULL THEN
    DELETE FROM links_clickhour WHERE brand_id = of_brand;
    DELETE FROM links_clickday WHERE brand_id = of_brand;
    DELETE FROM links_clicktotal WHERE link_id IN (SELECT id FROM links_trackedlink WHERE brand_id = of_brand);
    DELETE FROM links_clickspread WHERE brand_id = of_brand;
    INSERT INTO links_clickhour (brand_id, link_id, hour, people, bots, over)
    SELECT of_brand, CASE WHEN grouping(r.link_id) = 1 THEN 0 ELSE r.link_id END, hour, count(*) FILTER (WHERE r.bot_reason = '' AND NOT r.is_over) AS people,
    count(*) FILTER (WHERE r.bot_reason <> '') AS bots,
    count(*) FILTER (WHERE r.bot_reason = '' AND r.is_over) AS over
    FROM (SELECT *, date_trunc('hour', at, zone) AS hour FROM links_click WHERE brand_id = of_brand) r
    GROUP BY GROUPING SETS ((r.link_id, hour), (hour));
    INSERT INTO links_clickday (brand_id, day, link_id, people, bots, over)
    SELECT of_brand, day, r.link_id, count(*) FILTER (WHERE r.bot_reason = '' AND NOT r.is_over) AS people,
    count(*) FILTER (WHERE r.bot_reason <> '') AS bots,
    count(*) FILTER (WHERE r.bot_reason = '' AND r.is_over) AS over
    FROM (SELECT *, (at AT TIME ZONE zone)::date AS day FROM links_click WHERE brand_id = of_brand) r GROUP BY 2, 3;
    INSERT INTO links_clicktotal (link_id, people, bots, over, last_at)
    SELECT r.link_id, count(*) FILTER (WHERE r.bot_reason = '' AND NOT r.is_over) AS people,
    count(*) FILTER (WHERE r.bot_reason <> '') AS bots,
    count(*) FILTER (WHERE r.bot_reason = '' AND r.is_over) AS over, max(r.at) FILTER (WHERE r.bot_reason = '' AND NOT r.is_over) AS last_at
    FROM links_click r WHERE r.brand_id = of_brand GROUP BY 1 ORDER BY 1;
    
    INSERT INTO links_clickspread (brand_id, link_id, dimension, day, value, count)
    SELECT of_brand, CASE WHEN grouping(link_id) = 1 THEN 0 ELSE link_id END, 'referrer', day, referrer, count(*)
    FROM (SELECT link_id, (at AT TIME ZONE zone)::date AS day, referrer FROM links_click
          WHERE brand_id = of_brand AND (bot_reason = '') = ('referrer' <> 'reason') AND NOT is_over) r
    GROUP BY GROUPING SETS ((link_id, day, referrer), (day, referrer));
    INSERT INTO links_clickspread (brand_id, link_id, dimension, day, value, count)
    SELECT of_brand, CASE WHEN grouping(link_id) = 1 THEN 0 ELSE link_id END, 'device', day, device, count(*)
    FROM (SELECT link_id, (at AT TIME ZONE zone)::date AS day, device FROM links_click
          WHERE brand_id = of_brand AND (bot_reason = '') = ('device' <> 'reason') AND NOT is_over) r
    GROUP BY GROUPING SETS ((link_id, day, device), (day, device));
    INSERT INTO links_clickspread (brand_id, link_id, dimension, day, value, count)
    SELECT of_brand, CASE WHEN grouping(link_id) = 1 THEN 0 ELSE link_id END, 'browser', day, browser, count(*)
    FROM (SELECT link_id, (at AT TIME ZONE zone)::date AS day, browser FROM links_click
          WHERE brand_id = of_brand AND (bot_reason = '') = ('browser' <> 'reason') AND NOT is_over) r
    GROUP BY GROUPING SETS ((link_id, day, browser), (day, browser));
    INSERT INTO links_clickspread (brand_id, link_id, dimension, day, value, count)
    SELECT of_brand, CASE WHEN grouping(link_id) = 1 THEN 0 ELSE link_id END, 'language', day, language, count(*)
    FROM (SELECT link_id, (at AT TIME ZONE zone)::date AS day, language FROM links_click
          WHERE brand_id = of_brand AND (bot_reason = '') = ('language' <> 'reason') AND NOT is_over) r
    GROUP BY GROUPING SETS ((link_id, day, language), (day, language));
    INSERT INTO links_clickspread (brand_id, link_id, dimension, day, value, count)
    SELECT of_brand, CASE WHEN grouping(link_id) = 1 THEN 0 ELSE link_id END, 'country', day, country, count(*)
    FROM (SELECT link_id, (at AT TIME ZONE zone)::date AS day, country FROM links_click
          WHERE brand_id = of_brand AND (bot_reason = '') = ('country' <> 'reason') AND NOT is_over) r
    GROUP BY GROUPING SETS ((link_id, day, country), (day, country));
    INSERT INTO links_clickspread (brand_id, link_id, dimension, day, value, count)
    SELECT of_brand, CASE WHEN grouping(link_id) = 1 THEN 0 ELSE link_id END, 'reason', day, bot_reason, count(*)
    FROM (SELECT link_id, (at AT TIME ZONE zone)::date AS day, bot_reason FROM links_click
          WHERE brand_id = of_brand AND (bot_reason = '') = ('reason' <> 'reason') AND NOT is_over) r
    GROUP BY GROUPING SETS ((link_id, day, bot_reason), (day, bot_reason));
    ELSE
        DELETE FROM links_clickhour WHERE brand_id = of_brand AND hour >= horizon;
        DELETE FROM links_clickday WHERE brand_id = of_brand AND day >= first_day;
        DELETE FROM links_clickspread WHERE brand_id = of_brand AND day >= first_day;
        CREATE TEMP TABLE links_there ON COMMIT DROP AS
            SELECT * FROM links_click WHERE brand_id = of_brand AND at >= horizon;
        -- In another zone the first day may begin before the horizon: what is added lies beside what is there.
        
    INSERT INTO links_clickhour AS h (brand_id, link_id, hour, people, bots, over)
    SELECT r.brand_id, l.link_id, date_trunc('hour', r.at, b.time_zone) AS hour, count(*) FILTER (WHERE r.bot_reason = '' AND NOT r.is_over) AS people,
    count(*) FILTER (WHERE r.bot_reason <> '') AS bots,
    count(*) FILTER (WHERE r.bot_reason = '' AND r.is_over) AS over
    FROM links_there r JOIN brands_brand b ON b.id = r.brand_id CROSS JOIN LATERAL (VALUES (r.link_id), (0)) l (link_id)
    GROUP BY 1, 2, 3 ORDER BY 1, 2, 3
    ON CONFLICT (brand_id, link_id, hour) DO UPDATE SET people = h.people + excluded.people, bots = h.bots + excluded.bots, over = h.over + excluded.over;
    INSERT INTO links_clickday AS d (brand_id, day, link_id, people, bots, over)
    SELECT r.brand_id, (r.at AT TIME ZONE b.time_zone)::date AS day, r.link_id, count(*) FILTER (WHERE r.bot_reason = '' AND NOT r.is_over) AS people,
    count(*) FILTER (WHERE r.bot_reason <> '') AS bots,
    count(*) FILTER (WHERE r.bot_reason = '' AND r.is_over) AS over
    FROM links_there r JOIN brands_brand b ON b.id = r.brand_id GROUP BY 1, 2, 3 ORDER BY 1, 2, 3
    ON CONFLICT (brand_id, day, link_id) DO UPDATE SET people = d.people + excluded.people, bots = d.bots + excluded.bots, over = d.over + excluded.over;
    INSERT INTO links_clicktotal AS t (link_id, people, bots, over, last_at)
    SELECT r.link_id, count(*) FILTER (WHERE r.bot_reason = '' AND NOT r.is_over) AS people,
    count(*) FILTER (WHERE r.bot_reason <> '') AS bots,
    count(*) FILTER (WHERE r.bot_reason = '' AND r.is_over) AS over, max(r.at) FILTER (WHERE r.bot_reason = '' AND NOT r.is_over) AS last_at
    FROM links_there r  GROUP BY 1 ORDER BY 1
    ON CONFLICT (link_id) DO UPDATE SET people = t.people + excluded.people, bots = t.bots + excluded.bots, over = t.over + excluded.over, last_at = greatest(t.last_at, excluded.last_at);
    INSERT INTO links_clickspread AS s (brand_id, link_id, dimension, day, value, count)
    SELECT r.brand_id, l.link_id, d.dimension, (r.at AT TIME ZONE b.time_zone)::date AS day, d.value, count(*)
    FROM links_there r JOIN brands_brand b ON b.id = r.brand_id
    CROSS JOIN LATERAL (VALUES (r.link_id), (0)) l (link_id)
    CROSS JOIN LATERAL (VALUES ('referrer', r.referrer), ('device', r.device), ('browser', r.browser),
        ('language', r.language), ('country', r.country), ('reason', r.bot_reason)) d (dimension, value)
    WHERE (r.bot_reason = '') = (d.dimension <> 'reason') AND NOT r.is_over
    GROUP BY 1, 2, 3, 4, 5 ORDER BY 1, 2, 3, 4, 5
    ON CONFLICT (brand_id, link_id, dimension, day, value) DO UPDATE SET count = s.count + excluded.count;
    
        UPDATE links_clicktotal t SET people = d.people, bots = d.bots, over = d.over
        FROM (SELECT link_id, sum(people)::int AS people, sum(bots)::int AS bots, sum(over)::int AS over
              FROM links_clickday WHERE brand_id = of_brand GROUP BY 1) d
        WHERE t.link_id = d.link_id;
        DROP TABLE links_there;
    END IF;
END $$;

CREATE FUNCTION public.links_sum_inserted() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    
    INSERT INTO links_clickhour AS h (brand_id, link_id, hour, people, bots, over)
    SELECT r.brand_id, l.link_id, date_trunc('hour', r.at, b.time_zone) AS hour, count(*) FILTER (WHERE r.bot_reason = '' AND NOT r.is_over) AS people,
    count(*) FILTER (WHERE r.bot_reason <> '') AS bots,
    count(*) FILTER (WHERE r.bot_reason = '' AND r.is_over) AS over
    FROM changed r JOIN brands_brand b ON b.id = r.brand_id CROSS JOIN LATERAL (VALUES (r.link_id), (0)) l (link_id)
    GROUP BY 1, 2, 3 ORDER BY 1, 2, 3
    ON CONFLICT (brand_id, link_id, hour) DO UPDATE SET people = h.people + excluded.people, bots = h.bots + excluded.bots, over = h.over + excluded.over;
    INSERT INTO links_clickday AS d (brand_id, day, link_id, people, bots, over)
    SELECT r.brand_id, (r.at AT TIME ZONE b.time_zone)::date AS day, r.link_id, count(*) FILTER (WHERE r.bot_reason = '' AND NOT r.is_over) AS people,
    count(*) FILTER (WHERE r.bot_reason <> '') AS bots,
    count(*) FILTER (WHERE r.bot_reason = '' AND r.is_over) AS over
    FROM changed r JOIN brands_brand b ON b.id = r.brand_id GROUP BY 1, 2, 3 ORDER BY 1, 2, 3
    ON CONFLICT (brand_id, day, link_id) DO UPDATE SET people = d.people + excluded.people, bots = d.bots + excluded.bots, over = d.over + excluded.over;
    INSERT INTO links_clicktotal AS t (link_id, people, bots, over, last_at)
    SELECT r.link_id, count(*) FILTER (WHERE r.bot_reason = '' AND NOT r.is_over) AS people,
    count(*) FILTER (WHERE r.bot_reason <> '') AS bots,
    count(*) FILTER (WHERE r.bot_reason = '' AND r.is_over) AS over, max(r.at) FILTER (WHERE r.bot_reason = '' AND NOT r.is_over) AS last_at
    FROM changed r  GROUP BY 1 ORDER BY 1
    ON CONFLICT (link_id) DO UPDATE SET people = t.people + excluded.people, bots = t.bots + excluded.bots, over = t.over + excluded.over, last_at = greatest(t.last_at, excluded.last_at);
    INSERT INTO links_clickspread AS s (brand_id, link_id, dimension, day, value, count)
    SELECT r.brand_id, l.link_id, d.dimension, (r.at AT TIME ZONE b.time_zone)::date AS day, d.value, count(*)
    FROM changed r JOIN brands_brand b ON b.id = r.brand_id
    CROSS JOIN LATERAL (VALUES (r.link_id), (0)) l (link_id)
    CROSS JOIN LATERAL (VALUES ('referrer', r.referrer), ('device', r.device), ('browser', r.browser),
        ('language', r.language), ('country', r.country), ('reason', r.bot_reason)) d (dimension, value)
    WHERE (r.bot_reason = '') = (d.dimension <> 'reason') AND NOT r.is_over
    GROUP BY 1, 2, 3, 4, 5 ORDER BY 1, 2, 3, 4, 5
    ON CONFLICT (brand_id, link_id, dimension, day, value) DO UPDATE SET count = s.count + excluded.count;
    
    RETURN NULL;
END $$;

CREATE FUNCTION public.links_sum_taken_out() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    IF current_setting('dakika.keeps_sums', true) = 'on' THEN
        RETURN NULL;
    END IF;
    UPDATE links_clickhour h SET people = h.people - c.people, bots = h.bots - c.bots, over = h.over - c.over FROM (SELECT r.brand_id, l.link_id, date_trunc('hour', r.at, b.time_zone) AS hour, count(*) FILTER (WHERE r.bot_reason = '' AND NOT r.is_over) AS people,
    count(*) FILTER (WHERE r.bot_reason <> '') AS bots,
    count(*) FILTER (WHERE r.bot_reason = '' AND r.is_over) AS over
    FROM gone r JOIN brands_brand b ON b.id = r.brand_id CROSS JOIN LATERAL (VALUES (r.link_id), (0)) l (link_id)
    GROUP BY 1, 2, 3 ORDER BY 1, 2, 3) c
    WHERE (h.brand_id, h.link_id, h.hour) = (c.brand_id, c.link_id, c.hour);
    UPDATE links_clickday d SET people = d.people - c.people, bots = d.bots - c.bots, over = d.over - c.over FROM (SELECT r.brand_id, (r.at AT TIME ZONE b.time_zone)::date AS day, r.link_id, count(*) FILTER (WHERE r.bot_reason = '' AND NOT r.is_over) AS people,
    count(*) FILTER (WHERE r.bot_reason <> '') AS bots,
    count(*) FILTER (WHERE r.bot_reason = '' AND r.is_over) AS over
    FROM gone r JOIN brands_brand b ON b.id = r.brand_id GROUP BY 1, 2, 3 ORDER BY 1, 2, 3) c
    WHERE (d.brand_id, d.day, d.link_id) = (c.brand_id, c.day, c.link_id);
    UPDATE links_clicktotal t SET people = t.people - c.people, bots = t.bots - c.bots, over = t.over - c.over, last_at = (SELECT max(k.at) FROM links_click k
        WHERE k.link_id = t.link_id AND k.bot_reason = '' AND NOT k.is_over)
    FROM (SELECT r.link_id, count(*) FILTER (WHERE r.bot_reason = '' AND NOT r.is_over) AS people,
    count(*) FILTER (WHERE r.bot_reason <> '') AS bots,
    count(*) FILTER (WHERE r.bot_reason = '' AND r.is_over) AS over, max(r.at) FILTER (WHERE r.bot_reason = '' AND NOT r.is_over) AS last_at
    FROM gone r  GROUP BY 1 ORDER BY 1) c WHERE t.link_id = c.link_id;
    UPDATE links_clickspread s SET count = s.count - c.count
    FROM (SELECT r.brand_id, l.link_id, d.dimension, (r.at AT TIME ZONE b.time_zone)::date AS day, d.value, count(*)
    FROM gone r JOIN brands_brand b ON b.id = r.brand_id
    CROSS JOIN LATERAL (VALUES (r.link_id), (0)) l (link_id)
    CROSS JOIN LATERAL (VALUES ('referrer', r.referrer), ('device', r.device), ('browser', r.browser),
        ('language', r.language), ('country', r.country), ('reason', r.bot_reason)) d (dimension, value)
    WHERE (r.bot_reason = '') = (d.dimension <> 'reason') AND NOT r.is_over
    GROUP BY 1, 2, 3, 4, 5 ORDER BY 1, 2, 3, 4, 5) c
    WHERE (s.brand_id, s.link_id, s.dimension, s.day, s.value) = (c.brand_id, c.link_id, c.dimension, c.day, c.value);
    RETURN NULL;
END $$;

CREATE FUNCTION public.links_tell() RETURNS trigger
    LANGUAGE plpgsql
    AS $_$
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
END $_$;

CREATE FUNCTION public.links_tell_page() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    PERFORM pg_notify('dakika_links', 'page ' || slug) FROM links_linkpage
    WHERE id = coalesce(NEW.page_id, OLD.page_id);
    RETURN NULL;
END $$;

CREATE FUNCTION public.measures_note_followers_changed() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    INSERT INTO measures_measurechange (brand_id, profile_id, post_id, day)
    
    SELECT changed.brand_id, changed.profile_id, NULL::bigint, min(least(was.day, changed.day))
    FROM was JOIN changed USING (id)
    WHERE (was.profile_id, was.day, was.followers) IS DISTINCT FROM (changed.profile_id, changed.day, changed.followers)
    GROUP BY 1, 2;
    RETURN NULL;
END $$;

CREATE FUNCTION public.measures_note_followers_in() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    INSERT INTO measures_measurechange (brand_id, profile_id, post_id, day)
    SELECT brand_id, profile_id, NULL::bigint, min(day) FROM changed
    WHERE followers IS NOT NULL GROUP BY 1, 2;
    RETURN NULL;
END $$;

CREATE FUNCTION public.measures_note_followers_out() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    INSERT INTO measures_measurechange (brand_id, profile_id, post_id, day)
    SELECT brand_id, profile_id, NULL::bigint, min(day) FROM changed
    WHERE followers IS NOT NULL GROUP BY 1, 2;
    RETURN NULL;
END $$;

CREATE FUNCTION public.measures_note_post_changed() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    INSERT INTO measures_measurechange (brand_id, profile_id, post_id, day)
    
    SELECT v.brand_id, v.profile_id, v.id, NULL::date
    FROM was JOIN changed USING (id) CROSS JOIN LATERAL (
        VALUES (was.brand_id, was.profile_id, id), (changed.brand_id, changed.profile_id, id)
    ) v (brand_id, profile_id, id)
    WHERE (was.profile_id, was.published_at, was.format, was.language)
        IS DISTINCT FROM (changed.profile_id, changed.published_at, changed.format, changed.language);
    RETURN NULL;
END $$;

CREATE FUNCTION public.measures_note_post_in() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    INSERT INTO measures_measurechange (brand_id, profile_id, post_id, day)
    SELECT brand_id, profile_id, id, NULL::date FROM changed;
    RETURN NULL;
END $$;

CREATE FUNCTION public.measures_note_post_out() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    INSERT INTO measures_measurechange (brand_id, profile_id, post_id, day)
    SELECT brand_id, profile_id, id, NULL::date FROM changed;
    RETURN NULL;
END $$;

CREATE FUNCTION public.measures_note_profile_out() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    DELETE FROM measures_measurechange WHERE profile_id IN (SELECT id FROM changed);
    RETURN NULL;
END $$;

CREATE FUNCTION public.measures_note_reading_changed() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    INSERT INTO measures_measurechange (brand_id, profile_id, post_id, day)
    
    SELECT DISTINCT p.brand_id, p.profile_id, p.id, NULL::date
    FROM was JOIN changed USING (id) JOIN sources_post p ON p.id IN (was.post_id, changed.post_id)
    WHERE (was.post_id, was.taken_at, was.impressions, was.reach, was.reactions, was.comments, was.shares, was.saves, was.link_clicks, was.profile_visits, was.video_views, was.video_seconds, was.video_completions, was.calls, was.directions, was.negative, was.reactions_like, was.reactions_warmth, was.reactions_amusement, was.reactions_wonder, was.reactions_dismay, was.shares_with_words, was.follows, was.unfollows, was.bookings)
        IS DISTINCT FROM (changed.post_id, changed.taken_at, changed.impressions, changed.reach, changed.reactions, changed.comments, changed.shares, changed.saves, changed.link_clicks, changed.profile_visits, changed.video_views, changed.video_seconds, changed.video_completions, changed.calls, changed.directions, changed.negative, changed.reactions_like, changed.reactions_warmth, changed.reactions_amusement, changed.reactions_wonder, changed.reactions_dismay, changed.shares_with_words, changed.follows, changed.unfollows, changed.bookings);
    RETURN NULL;
END $$;

CREATE FUNCTION public.measures_note_reading_in() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    INSERT INTO measures_measurechange (brand_id, profile_id, post_id, day)
    SELECT DISTINCT p.brand_id, p.profile_id, p.id, NULL::date
    FROM sources_post p WHERE p.id IN (SELECT post_id FROM changed);
    RETURN NULL;
END $$;

CREATE FUNCTION public.measures_note_reading_out() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    INSERT INTO measures_measurechange (brand_id, profile_id, post_id, day)
    SELECT DISTINCT p.brand_id, p.profile_id, p.id, NULL::date
    FROM sources_post p WHERE p.id IN (SELECT post_id FROM changed);
    RETURN NULL;
END $$;

CREATE FUNCTION public.procrastinate_cancel_job_v1(job_id bigint, abort boolean, delete_job boolean) RETURNS bigint
    LANGUAGE plpgsql
    AS $$
DECLARE
    _job_id bigint;
BEGIN
    IF delete_job THEN
        DELETE FROM procrastinate_jobs
        WHERE id = job_id AND status = 'todo'
        RETURNING id INTO _job_id;
    END IF;
    IF _job_id IS NULL THEN
        IF abort THEN
            UPDATE procrastinate_jobs
            SET abort_requested = true,
                status = CASE status
                    WHEN 'todo' THEN 'cancelled'::procrastinate_job_status ELSE status
                END
            WHERE id = job_id AND status IN ('todo', 'doing')
            RETURNING id INTO _job_id;
        ELSE
            UPDATE procrastinate_jobs
            SET status = 'cancelled'::procrastinate_job_status
            WHERE id = job_id AND status = 'todo'
            RETURNING id INTO _job_id;
        END IF;
    END IF;
    RETURN _job_id;
END;
$$;

CREATE FUNCTION public.procrastinate_defer_jobs_v1(jobs public.procrastinate_job_to_defer_v1[]) RETURNS bigint[]
    LANGUAGE plpgsql
    AS $$
DECLARE
    job_ids bigint[];
BEGIN
    WITH inserted_jobs AS (
        INSERT INTO procrastinate_jobs (queue_name, task_name, priority, lock, queueing_lock, args, scheduled_at)
        SELECT (job).queue_name,
               (job).task_name,
               (job).priority,
               (job).lock,
               (job).queueing_lock,
               (job).args,
               (job).scheduled_at
        FROM unnest(jobs) AS job
        RETURNING id
    )
    SELECT array_agg(id) FROM inserted_jobs INTO job_ids;

    RETURN job_ids;
END;
$$;

CREATE FUNCTION public.procrastinate_defer_periodic_job_v2(_queue_name character varying, _lock character varying, _queueing_lock character varying, _task_name character varying, _priority integer, _periodic_id character varying, _defer_timestamp bigint, _args jsonb) RETURNS bigint
    LANGUAGE plpgsql
    AS $$
DECLARE
	_job_id bigint;
	_defer_id bigint;
BEGIN
    INSERT
        INTO procrastinate_periodic_defers (task_name, periodic_id, defer_timestamp)
        VALUES (_task_name, _periodic_id, _defer_timestamp)
        ON CONFLICT DO NOTHING
        RETURNING id into _defer_id;

    IF _defer_id IS NULL THEN
        RETURN NULL;
    END IF;

    UPDATE procrastinate_periodic_defers
        SET job_id = (
            SELECT COALESCE((
                SELECT unnest(procrastinate_defer_jobs_v1(
                    ARRAY[
                        ROW(
                            _queue_name,
                            _task_name,
                            _priority,
                            _lock,
                            _queueing_lock,
                            _args,
                            NULL::timestamptz
                        )
                    ]::procrastinate_job_to_defer_v1[]
                ))
            ), NULL)
        )
        WHERE id = _defer_id
        RETURNING job_id INTO _job_id;

    DELETE
        FROM procrastinate_periodic_defers
        USING (
            SELECT id
            FROM procrastinate_periodic_defers
            WHERE procrastinate_periodic_defers.task_name = _task_name
            AND procrastinate_periodic_defers.periodic_id = _periodic_id
            AND procrastinate_periodic_defers.defer_timestamp < _defer_timestamp
            ORDER BY id
            FOR UPDATE
        ) to_delete
        WHERE procrastinate_periodic_defers.id = to_delete.id;

    RETURN _job_id;
END;
$$;

CREATE TABLE public.procrastinate_jobs (
    id bigint NOT NULL,
    queue_name character varying(128) NOT NULL,
    task_name character varying(128) NOT NULL,
    lock text,
    args jsonb DEFAULT '{}'::jsonb NOT NULL,
    status public.procrastinate_job_status DEFAULT 'todo'::public.procrastinate_job_status NOT NULL,
    scheduled_at timestamp with time zone,
    attempts integer DEFAULT 0 NOT NULL,
    queueing_lock text,
    priority integer DEFAULT 0 NOT NULL,
    abort_requested boolean DEFAULT false NOT NULL,
    worker_id bigint,
    CONSTRAINT check_not_todo_abort_requested CHECK ((NOT ((status = 'todo'::public.procrastinate_job_status) AND (abort_requested = true))))
);

CREATE FUNCTION public.procrastinate_fetch_job_v2(target_queue_names character varying[], p_worker_id bigint) RETURNS public.procrastinate_jobs
    LANGUAGE plpgsql
    AS $$
DECLARE
	found_jobs procrastinate_jobs;
BEGIN
    WITH candidate AS (
        SELECT jobs.*
            FROM procrastinate_jobs AS jobs
            WHERE
                -- reject the job if its lock has earlier or higher priority jobs
                NOT EXISTS (
                    SELECT 1
                        FROM procrastinate_jobs AS other_jobs
                        WHERE
                            jobs.lock IS NOT NULL
                            AND other_jobs.lock = jobs.lock
                            AND (
                                -- job with same lock is already running
                                other_jobs.status = 'doing'
                                OR
                                -- job with same lock is waiting and has higher priority (or same priority but was queued first)
                                (
                                    other_jobs.status = 'todo'
                                    AND (
                                        other_jobs.priority > jobs.priority
                                        OR (
                                        other_jobs.priority = jobs.priority
                                        AND other_jobs.id < jobs.id
                                        )
                                    )
                                )
                            )
                )
                AND jobs.status = 'todo'
                AND (target_queue_names IS NULL OR jobs.queue_name = ANY( target_queue_names ))
                AND (jobs.scheduled_at IS NULL OR jobs.scheduled_at <= now())
            ORDER BY jobs.priority DESC, jobs.id ASC LIMIT 1
            FOR UPDATE OF jobs SKIP LOCKED
    )
    UPDATE procrastinate_jobs
        SET status = 'doing', worker_id = p_worker_id
        FROM candidate
        WHERE procrastinate_jobs.id = candidate.id
        RETURNING procrastinate_jobs.* INTO found_jobs;

 RETURN found_jobs;
END;
$$;

CREATE FUNCTION public.procrastinate_finish_job_v1(job_id bigint, end_status public.procrastinate_job_status, delete_job boolean) RETURNS void
    LANGUAGE plpgsql
    AS $$
DECLARE
    _job_id bigint;
BEGIN
    IF end_status NOT IN ('succeeded', 'failed', 'aborted') THEN
        RAISE 'End status should be either "succeeded", "failed" or "aborted" (job id: %)', job_id;
    END IF;
    IF delete_job THEN
        DELETE FROM procrastinate_jobs
        WHERE id = job_id AND status IN ('todo', 'doing')
        RETURNING id INTO _job_id;
    ELSE
        UPDATE procrastinate_jobs
        SET status = end_status,
            abort_requested = false,
            attempts = CASE status
                WHEN 'doing' THEN attempts + 1 ELSE attempts
            END
        WHERE id = job_id AND status IN ('todo', 'doing')
        RETURNING id INTO _job_id;
    END IF;
    IF _job_id IS NULL THEN
        RAISE 'Job was not found or not in "doing" or "todo" status (job id: %)', job_id;
    END IF;
END;
$$;

CREATE FUNCTION public.procrastinate_notify_queue_abort_job_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
DECLARE
    payload TEXT;
BEGIN
    SELECT json_build_object('type', 'abort_job_requested', 'job_id', NEW.id)::text INTO payload;
	PERFORM pg_notify('procrastinate_queue_v1#' || NEW.queue_name, payload);
	PERFORM pg_notify('procrastinate_any_queue_v1', payload);
	RETURN NEW;
END;
$$;

CREATE FUNCTION public.procrastinate_notify_queue_job_inserted_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
DECLARE
    payload TEXT;
BEGIN
    SELECT json_build_object('type', 'job_inserted', 'job_id', NEW.id)::text INTO payload;
	PERFORM pg_notify('procrastinate_queue_v1#' || NEW.queue_name, payload);
	PERFORM pg_notify('procrastinate_any_queue_v1', payload);
	RETURN NEW;
END;
$$;

CREATE FUNCTION public.procrastinate_prune_stalled_workers_v1(seconds_since_heartbeat double precision) RETURNS TABLE(worker_id bigint)
    LANGUAGE plpgsql
    AS $$
BEGIN
    RETURN QUERY
    DELETE FROM procrastinate_workers
    WHERE last_heartbeat < NOW() - (seconds_since_heartbeat || 'SECOND')::INTERVAL
    RETURNING procrastinate_workers.id;
END;
$$;

CREATE FUNCTION public.procrastinate_register_worker_v1() RETURNS TABLE(worker_id bigint)
    LANGUAGE plpgsql
    AS $$
BEGIN
    RETURN QUERY
    INSERT INTO procrastinate_workers DEFAULT VALUES
    RETURNING procrastinate_workers.id;
END;
$$;

CREATE FUNCTION public.procrastinate_retry_job_v1(job_id bigint, retry_at timestamp with time zone, new_priority integer, new_queue_name character varying, new_lock character varying) RETURNS void
    LANGUAGE plpgsql
    AS $$
DECLARE
    _job_id bigint;
    _abort_requested boolean;
BEGIN
    SELECT abort_requested FROM procrastinate_jobs
    WHERE id = job_id AND status = 'doing'
    FOR UPDATE
    INTO _abort_requested;
    IF _abort_requested THEN
        UPDATE procrastinate_jobs
        SET status = 'failed'::procrastinate_job_status
        WHERE id = job_id AND status = 'doing'
        RETURNING id INTO _job_id;
    ELSE
        UPDATE procrastinate_jobs
        SET status = 'todo'::procrastinate_job_status,
            attempts = attempts + 1,
            scheduled_at = retry_at,
            priority = COALESCE(new_priority, priority),
            queue_name = COALESCE(new_queue_name, queue_name),
            lock = COALESCE(new_lock, lock)
        WHERE id = job_id AND status = 'doing'
        RETURNING id INTO _job_id;
    END IF;

    IF _job_id IS NULL THEN
        RAISE 'Job was not found or not in "doing" status (job id: %)', job_id;
    END IF;
END;
$$;

CREATE FUNCTION public.procrastinate_retry_job_v2(job_id bigint, retry_at timestamp with time zone, new_priority integer, new_queue_name character varying, new_lock character varying) RETURNS void
    LANGUAGE plpgsql
    AS $$
DECLARE
    _job_id bigint;
    _abort_requested boolean;
    _current_status procrastinate_job_status;
BEGIN
    SELECT status, abort_requested FROM procrastinate_jobs
    WHERE id = job_id AND status IN ('doing', 'failed')
    FOR UPDATE
    INTO _current_status, _abort_requested;
    IF _current_status = 'doing' AND _abort_requested THEN
        UPDATE procrastinate_jobs
        SET status = 'failed'::procrastinate_job_status
        WHERE id = job_id AND status = 'doing'
        RETURNING id INTO _job_id;
    ELSE
        UPDATE procrastinate_jobs
        SET status = 'todo'::procrastinate_job_status,
            attempts = attempts + 1,
            scheduled_at = retry_at,
            priority = COALESCE(new_priority, priority),
            queue_name = COALESCE(new_queue_name, queue_name),
            lock = COALESCE(new_lock, lock)
        WHERE id = job_id AND status IN ('doing', 'failed')
        RETURNING id INTO _job_id;
    END IF;

    IF _job_id IS NULL THEN
        RAISE 'Job was not found or has an invalid status to retry (job id: %)', job_id;
    END IF;

END;
$$;

CREATE FUNCTION public.procrastinate_trigger_abort_requested_events_procedure_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    INSERT INTO procrastinate_events(job_id, type)
        VALUES (NEW.id, 'abort_requested'::procrastinate_job_event_type);
    RETURN NEW;
END;
$$;

CREATE FUNCTION public.procrastinate_trigger_function_scheduled_events_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    INSERT INTO procrastinate_events(job_id, type, at)
        VALUES (NEW.id, 'scheduled'::procrastinate_job_event_type, NEW.scheduled_at);

	RETURN NEW;
END;
$$;

CREATE FUNCTION public.procrastinate_trigger_function_status_events_insert_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    INSERT INTO procrastinate_events(job_id, type)
        VALUES (NEW.id, 'deferred'::procrastinate_job_event_type);
	RETURN NEW;
END;
$$;

CREATE FUNCTION public.procrastinate_trigger_function_status_events_update_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    WITH t AS (
        SELECT CASE
            WHEN OLD.status = 'todo'::procrastinate_job_status
                AND NEW.status = 'doing'::procrastinate_job_status
                THEN 'started'::procrastinate_job_event_type
            WHEN OLD.status = 'doing'::procrastinate_job_status
                AND NEW.status = 'todo'::procrastinate_job_status
                THEN 'deferred_for_retry'::procrastinate_job_event_type
            WHEN OLD.status = 'doing'::procrastinate_job_status
                AND NEW.status = 'failed'::procrastinate_job_status
                THEN 'failed'::procrastinate_job_event_type
            WHEN OLD.status = 'doing'::procrastinate_job_status
                AND NEW.status = 'succeeded'::procrastinate_job_status
                THEN 'succeeded'::procrastinate_job_event_type
            WHEN OLD.status = 'todo'::procrastinate_job_status
                AND (
                    NEW.status = 'cancelled'::procrastinate_job_status
                    OR NEW.status = 'failed'::procrastinate_job_status
                    OR NEW.status = 'succeeded'::procrastinate_job_status
                )
                THEN 'cancelled'::procrastinate_job_event_type
            WHEN OLD.status = 'doing'::procrastinate_job_status
                AND NEW.status = 'aborted'::procrastinate_job_status
                THEN 'aborted'::procrastinate_job_event_type
            WHEN OLD.status = 'failed'::procrastinate_job_status
                AND NEW.status = 'todo'::procrastinate_job_status
                THEN 'retried'::procrastinate_job_event_type
            ELSE NULL
        END as event_type
    )
    INSERT INTO procrastinate_events(job_id, type)
        SELECT NEW.id, t.event_type
        FROM t
        WHERE t.event_type IS NOT NULL;
	RETURN NEW;
END;
$$;

CREATE FUNCTION public.procrastinate_unlink_periodic_defers_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    UPDATE procrastinate_periodic_defers
    SET job_id = NULL
    WHERE job_id = OLD.id;
    RETURN OLD;
END;
$$;

CREATE FUNCTION public.procrastinate_unregister_worker_v1(worker_id bigint) RETURNS void
    LANGUAGE plpgsql
    AS $$
BEGIN
    DELETE FROM procrastinate_workers
    WHERE id = worker_id;
END;
$$;

CREATE FUNCTION public.procrastinate_update_heartbeat_v1(worker_id bigint) RETURNS void
    LANGUAGE plpgsql
    AS $$
BEGIN
    UPDATE procrastinate_workers
    SET last_heartbeat = NOW()
    WHERE id = worker_id;
END;
$$;

CREATE FUNCTION public.shared_keep_log() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    IF TG_OP = 'DELETE' AND current_setting('dakika.erases_log', true) = 'on' THEN
        RETURN OLD;
    END IF;
    RAISE EXCEPTION 'what happened is not changed: %', TG_TABLE_NAME USING ERRCODE = 'insufficient_privilege';
END $$;

CREATE TABLE public.accounts_firstkey (
    id bigint NOT NULL,
    digest character varying(64) NOT NULL,
    until timestamp with time zone NOT NULL
);

ALTER TABLE public.accounts_firstkey ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.accounts_firstkey_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.accounts_passkey (
    id bigint NOT NULL,
    name character varying(80) NOT NULL,
    credential_id bytea NOT NULL,
    public_key bytea NOT NULL,
    sign_count bigint NOT NULL,
    made_at timestamp with time zone NOT NULL,
    used_at timestamp with time zone,
    user_id bigint NOT NULL
);

ALTER TABLE public.accounts_passkey ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.accounts_passkey_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.accounts_recoverycode (
    id bigint NOT NULL,
    digest character varying(64) NOT NULL,
    used_at timestamp with time zone,
    user_id bigint NOT NULL
);

ALTER TABLE public.accounts_recoverycode ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.accounts_recoverycode_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.accounts_totpsecret (
    id bigint NOT NULL,
    sealed bytea NOT NULL,
    confirmed_at timestamp with time zone,
    last_step bigint NOT NULL,
    user_id bigint NOT NULL
);

ALTER TABLE public.accounts_totpsecret ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.accounts_totpsecret_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.accounts_user (
    id bigint NOT NULL,
    password character varying(128) NOT NULL,
    last_login timestamp with time zone,
    email character varying(254) NOT NULL,
    name character varying(120) NOT NULL,
    is_active boolean NOT NULL,
    language character varying(10) DEFAULT 'en'::character varying NOT NULL,
    theme character varying(6) DEFAULT 'system'::character varying NOT NULL,
    time_zone character varying(64) DEFAULT ''::character varying NOT NULL,
    is_program boolean DEFAULT false NOT NULL
);

ALTER TABLE public.accounts_user ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.accounts_user_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.accounts_usersession (
    id bigint NOT NULL,
    session_key character varying(40) NOT NULL,
    began_at timestamp with time zone NOT NULL,
    seen_at timestamp with time zone NOT NULL,
    address character varying(45) NOT NULL,
    agent character varying(300) NOT NULL,
    user_id bigint NOT NULL
);

ALTER TABLE public.accounts_usersession ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.accounts_usersession_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.accounts_wrongcode (
    id bigint NOT NULL,
    at timestamp with time zone NOT NULL,
    user_id bigint NOT NULL
);

ALTER TABLE public.accounts_wrongcode ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.accounts_wrongcode_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.auth_group (
    id integer NOT NULL,
    name character varying(150) NOT NULL
);

ALTER TABLE public.auth_group ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.auth_group_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.auth_group_permissions (
    id bigint NOT NULL,
    group_id integer NOT NULL,
    permission_id integer NOT NULL
);

ALTER TABLE public.auth_group_permissions ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.auth_group_permissions_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.auth_permission (
    id integer NOT NULL,
    name character varying(255) NOT NULL,
    content_type_id integer NOT NULL,
    codename character varying(100) NOT NULL
);

ALTER TABLE public.auth_permission ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.auth_permission_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.axes_accessattempt (
    id integer NOT NULL,
    user_agent character varying(255) NOT NULL,
    ip_address inet,
    username character varying(255),
    http_accept character varying(1025) NOT NULL,
    path_info character varying(255) NOT NULL,
    attempt_time timestamp with time zone NOT NULL,
    get_data text NOT NULL,
    post_data text NOT NULL,
    failures_since_start integer NOT NULL,
    CONSTRAINT axes_accessattempt_failures_since_start_check CHECK ((failures_since_start >= 0))
);

ALTER TABLE public.axes_accessattempt ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.axes_accessattempt_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.axes_accessattemptexpiration (
    access_attempt_id integer NOT NULL,
    expires_at timestamp with time zone NOT NULL
);

CREATE TABLE public.axes_accessfailurelog (
    id integer NOT NULL,
    user_agent character varying(255) NOT NULL,
    ip_address inet,
    username character varying(255),
    http_accept character varying(1025) NOT NULL,
    path_info character varying(255) NOT NULL,
    attempt_time timestamp with time zone NOT NULL,
    locked_out boolean NOT NULL
);

ALTER TABLE public.axes_accessfailurelog ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.axes_accessfailurelog_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.axes_accesslog (
    id integer NOT NULL,
    user_agent character varying(255) NOT NULL,
    ip_address inet,
    username character varying(255),
    http_accept character varying(1025) NOT NULL,
    path_info character varying(255) NOT NULL,
    attempt_time timestamp with time zone NOT NULL,
    logout_time timestamp with time zone,
    session_hash character varying(64) NOT NULL
);

ALTER TABLE public.axes_accesslog ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.axes_accesslog_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.brands_apitoken (
    id bigint NOT NULL,
    name character varying(80) NOT NULL,
    digest character varying(64) NOT NULL,
    hint character varying(8) NOT NULL,
    scopes character varying(40)[] NOT NULL,
    made_at timestamp with time zone NOT NULL,
    until timestamp with time zone NOT NULL,
    used_at timestamp with time zone,
    used_from character varying(45) NOT NULL,
    revoked_at timestamp with time zone,
    brand_id bigint,
    user_id bigint NOT NULL
);

ALTER TABLE public.brands_apitoken ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.brands_apitoken_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.brands_brand (
    id bigint NOT NULL,
    name character varying(120) NOT NULL,
    slug character varying(50) NOT NULL,
    time_zone character varying(64) NOT NULL,
    first_weekday smallint NOT NULL,
    picture character varying(500) NOT NULL,
    picture_from bigint,
    is_demo boolean DEFAULT false NOT NULL,
    CONSTRAINT brands_brand_first_weekday_check CHECK ((first_weekday >= 0))
);

ALTER TABLE public.brands_brand ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.brands_brand_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.brands_campaign (
    id bigint NOT NULL,
    name character varying(120) NOT NULL,
    first_day date NOT NULL,
    last_day date NOT NULL,
    colour smallint NOT NULL,
    brand_id bigint NOT NULL,
    goal_amount double precision,
    goal_metric character varying(20) DEFAULT ''::character varying NOT NULL,
    owner_id bigint,
    profiles bigint[] DEFAULT '{}'::bigint[] NOT NULL,
    utm_campaign character varying(100) DEFAULT ''::character varying NOT NULL,
    CONSTRAINT brands_campaign_colour_check CHECK ((colour >= 0)),
    CONSTRAINT campaign_ends_later CHECK ((last_day >= first_day))
);

ALTER TABLE public.brands_campaign ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.brands_campaign_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.brands_invitation (
    id bigint NOT NULL,
    email character varying(254) NOT NULL,
    role character varying(10) NOT NULL,
    digest character varying(64) NOT NULL,
    made_at timestamp with time zone NOT NULL,
    until timestamp with time zone NOT NULL,
    taken_at timestamp with time zone,
    brand_id bigint NOT NULL,
    made_by_id bigint,
    taken_by_id bigint
);

ALTER TABLE public.brands_invitation ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.brands_invitation_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.brands_keptanswer (
    id bigint NOT NULL,
    key character varying(200) NOT NULL,
    asked character varying(64) NOT NULL,
    at timestamp with time zone NOT NULL,
    status smallint,
    sealed bytea,
    token_id bigint NOT NULL,
    CONSTRAINT brands_keptanswer_status_check CHECK ((status >= 0))
);

ALTER TABLE public.brands_keptanswer ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.brands_keptanswer_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.brands_membership (
    id bigint NOT NULL,
    role character varying(10) NOT NULL,
    brand_id bigint NOT NULL,
    user_id bigint NOT NULL
);

ALTER TABLE public.brands_membership ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.brands_membership_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.brands_preference (
    id bigint NOT NULL,
    name character varying(40) NOT NULL,
    value jsonb NOT NULL,
    membership_id bigint NOT NULL
);

ALTER TABLE public.brands_preference ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.brands_preference_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.competitors_digestreader (
    id bigint NOT NULL,
    token character varying(60) NOT NULL,
    since timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL,
    peers_id bigint,
    person_id bigint NOT NULL
);

ALTER TABLE public.competitors_digestreader ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.competitors_digestreader_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.competitors_lastlook (
    id bigint NOT NULL,
    at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL,
    peers_id bigint,
    person_id bigint NOT NULL
);

ALTER TABLE public.competitors_lastlook ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.competitors_lastlook_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.demo_demobrand (
    brand_id bigint NOT NULL,
    state character varying(8) NOT NULL,
    asked_at timestamp with time zone NOT NULL,
    person_id bigint NOT NULL
);

CREATE TABLE public.django_content_type (
    id integer NOT NULL,
    app_label character varying(100) NOT NULL,
    model character varying(100) NOT NULL
);

ALTER TABLE public.django_content_type ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.django_content_type_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.django_migrations (
    id bigint NOT NULL,
    app character varying(255) NOT NULL,
    name character varying(255) NOT NULL,
    applied timestamp with time zone NOT NULL
);

ALTER TABLE public.django_migrations ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.django_migrations_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.django_session (
    session_key character varying(40) NOT NULL,
    session_data text NOT NULL,
    expire_date timestamp with time zone NOT NULL
);

CREATE TABLE public.figures_keptstudy (
    id bigint NOT NULL,
    name character varying(80) NOT NULL,
    query jsonb NOT NULL,
    made_at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL,
    made_by_id bigint
);

ALTER TABLE public.figures_keptstudy ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.figures_keptstudy_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.foresight_outlook (
    post_id bigint NOT NULL,
    published_at timestamp with time zone NOT NULL,
    taken_at timestamp with time zone NOT NULL,
    count double precision NOT NULL,
    typical double precision,
    index double precision,
    index_low double precision,
    index_high double precision,
    heading double precision NOT NULL,
    heading_low double precision NOT NULL,
    heading_high double precision NOT NULL,
    band_low double precision,
    band_high double precision,
    band_posts integer NOT NULL,
    state character varying(8) NOT NULL,
    brand_id bigint NOT NULL,
    profile_id bigint NOT NULL
);

CREATE TABLE public.foresight_profilelevel (
    id bigint NOT NULL,
    metric character varying(20) NOT NULL,
    made_at timestamp with time zone NOT NULL,
    model jsonb NOT NULL,
    brand_id bigint NOT NULL,
    profile_id bigint NOT NULL
);

ALTER TABLE public.foresight_profilelevel ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.foresight_profilelevel_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.foresight_projection (
    id bigint NOT NULL,
    horizon_hours smallint NOT NULL,
    published_at timestamp with time zone NOT NULL,
    said_at timestamp with time zone NOT NULL,
    is_tried boolean NOT NULL,
    value double precision NOT NULL,
    low double precision NOT NULL,
    high double precision NOT NULL,
    last double precision,
    median double precision,
    truth double precision,
    brand_id bigint NOT NULL,
    post_id bigint NOT NULL,
    profile_id bigint NOT NULL
);

ALTER TABLE public.foresight_projection ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.foresight_projection_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.site_accesslog (
    id bigint NOT NULL,
    created_at timestamp with time zone NOT NULL,
    ended_at timestamp with time zone,
    file_name character varying(255) NOT NULL,
    size bigint NOT NULL,
    state character varying(8) NOT NULL,
    lines bigint NOT NULL,
    visits bigint NOT NULL,
    new_visits bigint NOT NULL,
    not_pages bigint NOT NULL,
    bots bigint NOT NULL,
    unreadable bigint NOT NULL,
    message character varying(300) NOT NULL,
    brand_id bigint NOT NULL,
    created_by_id bigint,
    site_id bigint NOT NULL
);

ALTER TABLE public.site_accesslog ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.links_accesslog_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.site_accesslogchunk (
    id bigint NOT NULL,
    number integer NOT NULL,
    data bytea NOT NULL,
    log_id bigint NOT NULL
);

ALTER TABLE public.site_accesslogchunk ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.links_accesslogchunk_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.links_click (
    id bigint NOT NULL,
    key uuid NOT NULL,
    at timestamp with time zone NOT NULL,
    referrer character varying(255) NOT NULL,
    device character varying(10) NOT NULL,
    visitor bytea NOT NULL,
    bot_reason character varying(10) NOT NULL,
    brand_id bigint NOT NULL,
    link_id bigint NOT NULL,
    import_id bigint,
    browser character varying(40) DEFAULT ''::character varying NOT NULL,
    country character varying(2) DEFAULT ''::character varying NOT NULL,
    is_over boolean DEFAULT false NOT NULL,
    language character varying(3) DEFAULT ''::character varying NOT NULL,
    page_id bigint
);

ALTER TABLE public.links_click ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.links_click_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.links_clickday (
    id bigint NOT NULL,
    brand_id bigint NOT NULL,
    day date NOT NULL,
    link_id bigint NOT NULL,
    people integer DEFAULT 0 NOT NULL,
    bots integer DEFAULT 0 NOT NULL,
    over integer DEFAULT 0 NOT NULL
);

ALTER TABLE public.links_clickday ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.links_clickday_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.links_clickhorizon (
    brand_id bigint NOT NULL,
    since timestamp with time zone NOT NULL,
    day date NOT NULL
);

CREATE TABLE public.links_clickhour (
    id bigint NOT NULL,
    brand_id bigint NOT NULL,
    link_id bigint NOT NULL,
    hour timestamp with time zone NOT NULL,
    people integer DEFAULT 0 NOT NULL,
    bots integer DEFAULT 0 NOT NULL,
    over integer DEFAULT 0 NOT NULL
);

ALTER TABLE public.links_clickhour ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.links_clickhour_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.links_clickpeople (
    id bigint NOT NULL,
    brand_id bigint NOT NULL,
    link_id bigint NOT NULL,
    day date NOT NULL,
    people integer NOT NULL
);

ALTER TABLE public.links_clickpeople ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.links_clickpeople_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.links_clickspread (
    id bigint NOT NULL,
    brand_id bigint NOT NULL,
    link_id bigint NOT NULL,
    dimension character varying(10) NOT NULL,
    day date NOT NULL,
    value character varying(255) NOT NULL,
    count integer NOT NULL
);

ALTER TABLE public.links_clickspread ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.links_clickspread_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.links_clicktotal (
    link_id bigint NOT NULL,
    people integer DEFAULT 0 NOT NULL,
    bots integer DEFAULT 0 NOT NULL,
    over integer DEFAULT 0 NOT NULL,
    last_at timestamp with time zone
);

CREATE TABLE public.site_conversion (
    id bigint NOT NULL,
    visitor bytea,
    key character varying(120) NOT NULL,
    at timestamp with time zone NOT NULL,
    cents bigint NOT NULL,
    currency character varying(3) NOT NULL,
    stage character varying(40) NOT NULL,
    contact character varying(120) NOT NULL,
    import_id bigint,
    brand_id bigint NOT NULL,
    goal_id bigint NOT NULL,
    visit_id bigint
);

ALTER TABLE public.site_conversion ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.links_conversion_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.site_conversionstage (
    id bigint NOT NULL,
    stage character varying(40) NOT NULL,
    at timestamp with time zone NOT NULL,
    by_id bigint,
    conversion_id bigint NOT NULL
);

ALTER TABLE public.site_conversionstage ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.links_conversionstage_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.links_formertarget (
    id bigint NOT NULL,
    destination character varying(2048) NOT NULL,
    target character varying(3000) NOT NULL,
    until timestamp with time zone NOT NULL,
    changed_by_id bigint,
    link_id bigint NOT NULL
);

ALTER TABLE public.links_formertarget ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.links_formertarget_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.site_goal (
    id bigint NOT NULL,
    name character varying(80) NOT NULL,
    kind character varying(6) NOT NULL,
    pattern character varying(300) NOT NULL,
    cents bigint NOT NULL,
    currency character varying(3) NOT NULL,
    is_archived boolean NOT NULL,
    brand_id bigint NOT NULL
);

ALTER TABLE public.site_goal ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.links_goal_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.links_journal (
    name character varying(80) NOT NULL,
    taken bigint NOT NULL,
    moved_at timestamp with time zone NOT NULL
);

CREATE TABLE public.links_linkdomain (
    id bigint NOT NULL,
    host character varying(253) NOT NULL,
    is_chosen boolean NOT NULL,
    created_at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL
);

ALTER TABLE public.links_linkdomain ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.links_linkdomain_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.links_linkpage (
    id bigint NOT NULL,
    slug character varying(60) NOT NULL,
    title character varying(120) NOT NULL,
    words character varying(500) NOT NULL,
    is_shown boolean NOT NULL,
    created_at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL
);

ALTER TABLE public.links_linkpage ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.links_linkpage_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.links_linkpageentry (
    id bigint NOT NULL,
    title character varying(120) NOT NULL,
    "position" integer NOT NULL,
    link_id bigint NOT NULL,
    page_id bigint NOT NULL,
    CONSTRAINT links_linkpageentry_position_check CHECK (("position" >= 0))
);

ALTER TABLE public.links_linkpageentry ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.links_linkpageentry_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.links_linksettings (
    id bigint NOT NULL,
    rules jsonb NOT NULL,
    home character varying(2048) NOT NULL,
    over_words character varying(500) NOT NULL,
    brand_id bigint NOT NULL
);

ALTER TABLE public.links_linksettings ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.links_linksettings_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.links_linkuse (
    id bigint NOT NULL,
    link_id bigint NOT NULL,
    post_id bigint NOT NULL
);

ALTER TABLE public.links_linkuse ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.links_linkuse_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.links_pageview (
    id bigint NOT NULL,
    brand_id bigint NOT NULL,
    at timestamp with time zone NOT NULL,
    people integer DEFAULT 0 NOT NULL,
    bots integer DEFAULT 0 NOT NULL,
    page_id bigint NOT NULL
);

ALTER TABLE public.links_pageview ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.links_pageview_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.site_site (
    id bigint NOT NULL,
    name character varying(120) NOT NULL,
    hosts jsonb NOT NULL,
    key character varying(40) NOT NULL,
    created_at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL
);

ALTER TABLE public.site_site ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.links_site_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.links_trackedlink (
    id bigint NOT NULL,
    code character varying(32) NOT NULL,
    name character varying(200) NOT NULL,
    destination character varying(2048) NOT NULL,
    target character varying(3000) NOT NULL,
    utm jsonb NOT NULL,
    network character varying(40) NOT NULL,
    created_at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL,
    campaign_id bigint,
    created_by_id bigint,
    ends_at timestamp with time zone,
    is_paused boolean NOT NULL,
    keeps_query boolean NOT NULL,
    domain_id bigint,
    is_paid boolean DEFAULT false NOT NULL
);

ALTER TABLE public.links_trackedlink ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.links_trackedlink_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.links_unseenclicks (
    id bigint NOT NULL,
    brand_id bigint NOT NULL,
    first_at timestamp with time zone NOT NULL,
    last_at timestamp with time zone NOT NULL
);

ALTER TABLE public.links_unseenclicks ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.links_unseenclicks_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.site_visit (
    id bigint NOT NULL,
    visitor bytea NOT NULL,
    started_at timestamp with time zone NOT NULL,
    ended_at timestamp with time zone NOT NULL,
    pages integer NOT NULL,
    paths jsonb NOT NULL,
    channel character varying(100) NOT NULL,
    referrer character varying(255) NOT NULL,
    source character varying(100) NOT NULL,
    medium character varying(100) NOT NULL,
    utm_campaign character varying(100) NOT NULL,
    content character varying(100) NOT NULL,
    click_key uuid,
    device character varying(10) NOT NULL,
    browser character varying(40) NOT NULL,
    language character varying(3) NOT NULL,
    country character varying(2) NOT NULL,
    origin character varying(6) NOT NULL,
    brand_id bigint NOT NULL,
    campaign_id bigint,
    link_id bigint,
    post_id bigint,
    site_id bigint
);

ALTER TABLE public.site_visit ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.links_visit_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.links_visitorsalt (
    id bigint NOT NULL,
    day date NOT NULL,
    salt bytea NOT NULL
);

ALTER TABLE public.links_visitorsalt ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.links_visitorsalt_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.measures_measurechange (
    id bigint NOT NULL,
    post_id bigint,
    day date,
    brand_id bigint NOT NULL,
    profile_id bigint NOT NULL
);

ALTER TABLE public.measures_measurechange ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.measures_measurechange_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.measures_postday (
    id bigint NOT NULL,
    day date NOT NULL,
    impressions double precision,
    reach double precision,
    interactions double precision,
    link_clicks double precision,
    brand_id bigint NOT NULL,
    post_id bigint NOT NULL,
    profile_id bigint NOT NULL,
    is_placed boolean DEFAULT false NOT NULL
);

CREATE TABLE public.measures_postmeasure (
    id bigint NOT NULL,
    age_hours smallint NOT NULL,
    taken_at timestamp with time zone,
    followers double precision,
    impressions double precision,
    reach double precision,
    interactions double precision,
    reactions double precision,
    comments double precision,
    shares double precision,
    saves double precision,
    link_clicks double precision,
    video_views double precision,
    negative double precision,
    typical double precision,
    index double precision,
    brand_id bigint NOT NULL,
    post_id bigint NOT NULL,
    profile_id bigint NOT NULL,
    calls double precision,
    directions double precision,
    format character varying(12) NOT NULL,
    profile_index double precision,
    profile_visits double precision,
    published_at timestamp with time zone NOT NULL,
    video_completions double precision,
    video_seconds double precision,
    bookings double precision,
    follows double precision,
    shares_with_words double precision,
    reactions_amusement double precision,
    reactions_dismay double precision,
    reactions_like double precision,
    reactions_warmth double precision,
    reactions_wonder double precision,
    unfollows double precision
);

CREATE TABLE public.measures_profileday (
    id bigint NOT NULL,
    day date NOT NULL,
    format character varying(12) NOT NULL,
    published integer NOT NULL,
    impressions double precision,
    reach double precision,
    interactions double precision,
    link_clicks double precision,
    interactions_with_reach double precision,
    reach_with_interactions double precision,
    interactions_with_impressions double precision,
    impressions_with_interactions double precision,
    link_clicks_with_impressions double precision,
    impressions_with_link_clicks double precision,
    brand_id bigint NOT NULL,
    profile_id bigint NOT NULL,
    placed integer DEFAULT 0 NOT NULL
);

CREATE TABLE public.measures_profilemeasured (
    profile_id bigint NOT NULL,
    posts integer NOT NULL,
    changed integer NOT NULL,
    count_as double precision[] NOT NULL,
    extent jsonb NOT NULL,
    languages character varying(3)[] NOT NULL,
    months jsonb NOT NULL,
    brand_id bigint NOT NULL
);

CREATE TABLE public.measures_profilepublished (
    id bigint NOT NULL,
    age_hours smallint NOT NULL,
    day date NOT NULL,
    posts integer NOT NULL,
    taken_at timestamp with time zone,
    interactions_n integer NOT NULL,
    interactions double precision,
    pair_n integer NOT NULL,
    interactions_with_followers double precision,
    followers_with_interactions double precision,
    index_n integer NOT NULL,
    index_log double precision,
    brand_id bigint NOT NULL,
    profile_id bigint NOT NULL,
    audience_followers double precision,
    audience_followers_squares double precision,
    audience_interactions double precision,
    audience_interactions_squares double precision,
    audience_n integer DEFAULT 0 NOT NULL,
    audience_product double precision,
    comments double precision,
    comments_n integer DEFAULT 0 NOT NULL,
    comments_squares double precision,
    interactions_squares double precision,
    reactions double precision,
    reactions_n integer DEFAULT 0 NOT NULL,
    reactions_squares double precision,
    shares double precision,
    shares_n integer DEFAULT 0 NOT NULL,
    shares_squares double precision
);

CREATE TABLE public.media_asset (
    id bigint NOT NULL,
    created_at timestamp with time zone NOT NULL,
    name character varying(200) NOT NULL,
    words character varying(1000) NOT NULL,
    file character varying(120) NOT NULL,
    digest bytea NOT NULL,
    size bigint NOT NULL,
    state character varying(8) NOT NULL,
    message character varying(300) NOT NULL,
    kind character varying(8) NOT NULL,
    media_type character varying(40) NOT NULL,
    width integer,
    height integer,
    seconds double precision,
    brand_id bigint NOT NULL,
    created_by_id bigint,
    edits jsonb DEFAULT '{}'::jsonb NOT NULL,
    focus_x double precision DEFAULT 0.5 NOT NULL,
    focus_y double precision DEFAULT 0.5 NOT NULL,
    made_from_id bigint,
    origin character varying(300) DEFAULT ''::character varying NOT NULL,
    tags character varying(60)[] DEFAULT '{}'::character varying(60)[] NOT NULL
);

ALTER TABLE public.media_asset ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.media_asset_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.media_rendition (
    id bigint NOT NULL,
    purpose character varying(8) NOT NULL,
    file character varying(120) NOT NULL,
    media_type character varying(40) NOT NULL,
    width integer NOT NULL,
    height integer NOT NULL,
    size bigint NOT NULL,
    asset_id bigint NOT NULL
);

ALTER TABLE public.media_rendition ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.media_rendition_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.media_upload (
    id bigint NOT NULL,
    name character varying(200) NOT NULL,
    size bigint NOT NULL,
    received bigint NOT NULL,
    parts character varying(120)[] NOT NULL,
    touched_at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL,
    person_id bigint NOT NULL
);

ALTER TABLE public.media_upload ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.media_upload_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.notices_mail (
    id bigint NOT NULL,
    key character varying(200) NOT NULL,
    "to" character varying(254) NOT NULL,
    subject character varying(200) NOT NULL,
    text text NOT NULL,
    message_id character varying(200) NOT NULL,
    state character varying(10) NOT NULL,
    attempts smallint NOT NULL,
    detail character varying(300) NOT NULL,
    made_at timestamp with time zone NOT NULL,
    next_at timestamp with time zone NOT NULL,
    ended_at timestamp with time zone,
    brand_id bigint,
    headers jsonb DEFAULT '{}'::jsonb NOT NULL,
    file_id bigint,
    is_confidential boolean DEFAULT false NOT NULL,
    CONSTRAINT notices_mail_attempts_check CHECK ((attempts >= 0))
);

ALTER TABLE public.notices_mail ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.notices_mail_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.notices_mailfile (
    id bigint NOT NULL,
    name character varying(120) NOT NULL,
    media_type character varying(80) NOT NULL,
    content bytea NOT NULL,
    made_at timestamp with time zone NOT NULL
);

ALTER TABLE public.notices_mailfile ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.notices_mailfile_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.notices_noticebrowser (
    id bigint NOT NULL,
    endpoint character varying(1000) NOT NULL,
    p256dh character varying(100) NOT NULL,
    auth character varying(40) NOT NULL,
    device character varying(120) NOT NULL,
    since timestamp with time zone NOT NULL,
    person_id bigint NOT NULL
);

ALTER TABLE public.notices_noticebrowser ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.notices_noticebrowser_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.notices_noticechoice (
    id bigint NOT NULL,
    kind character varying(40) NOT NULL,
    is_shown boolean NOT NULL,
    by_mail character varying(5) NOT NULL,
    brand_id bigint NOT NULL,
    person_id bigint NOT NULL,
    by_push boolean DEFAULT false NOT NULL
);

ALTER TABLE public.notices_noticechoice ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.notices_noticechoice_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.notices_noticehours (
    id bigint NOT NULL,
    quiet_from time without time zone,
    quiet_to time without time zone,
    digest_at time without time zone NOT NULL,
    person_id bigint NOT NULL
);

ALTER TABLE public.notices_noticehours ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.notices_noticehours_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.notices_notification (
    id bigint NOT NULL,
    at timestamp with time zone NOT NULL,
    key character varying(160) NOT NULL,
    kind character varying(40) NOT NULL,
    text character varying(400) NOT NULL,
    detail character varying(600) NOT NULL,
    path character varying(400) NOT NULL,
    read_at timestamp with time zone,
    brand_id bigint NOT NULL,
    person_id bigint NOT NULL,
    is_shown boolean DEFAULT true NOT NULL,
    letter text DEFAULT ''::text NOT NULL,
    mail_at timestamp with time zone,
    mailed_at timestamp with time zone,
    push_at timestamp with time zone,
    push_tries smallint DEFAULT 0 NOT NULL,
    pushed_at timestamp with time zone,
    CONSTRAINT notices_notification_push_tries_check CHECK ((push_tries >= 0))
);

ALTER TABLE public.notices_notification ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.notices_notification_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.notices_pushkey (
    id bigint NOT NULL,
    public_key character varying(100) NOT NULL,
    private_key bytea NOT NULL
);

ALTER TABLE public.notices_pushkey ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.notices_pushkey_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.notices_schedule (
    id bigint NOT NULL,
    name character varying(60) NOT NULL,
    rule character varying(200) NOT NULL,
    begins timestamp with time zone NOT NULL,
    next_at timestamp with time zone,
    last_at timestamp with time zone,
    brand_id bigint NOT NULL
);

ALTER TABLE public.notices_schedule ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.notices_schedule_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_batch (
    id bigint NOT NULL,
    name character varying(200) NOT NULL,
    state character varying(8) NOT NULL,
    header text[] NOT NULL,
    columns jsonb NOT NULL,
    choices jsonb NOT NULL,
    left_out integer NOT NULL,
    made_at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL,
    made_by_id bigint,
    pictures jsonb NOT NULL,
    CONSTRAINT plan_batch_left_out_check CHECK ((left_out >= 0))
);

ALTER TABLE public.plan_batch ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_batch_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_batchrow (
    id bigint NOT NULL,
    number integer NOT NULL,
    cells jsonb NOT NULL,
    mended jsonb NOT NULL,
    problem character varying(500) NOT NULL,
    batch_id bigint NOT NULL,
    planned_post_id bigint,
    CONSTRAINT plan_batchrow_number_check CHECK ((number >= 0))
);

ALTER TABLE public.plan_batchrow ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_batchrow_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_boost (
    id bigint NOT NULL,
    network character varying(40) NOT NULL,
    state character varying(10) NOT NULL,
    cents bigint NOT NULL,
    currency character varying(3) NOT NULL,
    starts_at timestamp with time zone NOT NULL,
    ends_at timestamp with time zone NOT NULL,
    countries character varying(2)[] NOT NULL,
    ages character varying(10)[] NOT NULL,
    idempotency_key uuid NOT NULL,
    external_id character varying(200) NOT NULL,
    attempts integer NOT NULL,
    error character varying(300) NOT NULL,
    next_at timestamp with time zone,
    seen_at timestamp with time zone,
    ended_at timestamp with time zone,
    spent bigint NOT NULL,
    impressions bigint NOT NULL,
    reach bigint NOT NULL,
    interactions bigint NOT NULL,
    link_clicks bigint NOT NULL,
    made_at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL,
    link_id bigint,
    made_by_id bigint,
    post_id bigint,
    profile_id bigint,
    stopped_by_id bigint,
    CONSTRAINT plan_boost_attempts_check CHECK ((attempts >= 0)),
    CONSTRAINT plan_boost_cents_check CHECK ((cents >= 0)),
    CONSTRAINT plan_boost_spent_check CHECK ((spent >= 0))
);

ALTER TABLE public.plan_boost ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_boost_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_boostlimit (
    brand_id bigint NOT NULL,
    cents bigint NOT NULL,
    currency character varying(3) NOT NULL,
    edition integer NOT NULL,
    CONSTRAINT plan_boostlimit_cents_check CHECK ((cents >= 0)),
    CONSTRAINT plan_boostlimit_edition_check CHECK ((edition >= 0))
);

CREATE TABLE public.plan_boostreading (
    id bigint NOT NULL,
    at timestamp with time zone NOT NULL,
    spent bigint NOT NULL,
    impressions bigint NOT NULL,
    interactions bigint NOT NULL,
    link_clicks bigint NOT NULL,
    boost_id bigint NOT NULL,
    CONSTRAINT plan_boostreading_spent_check CHECK ((spent >= 0))
);

ALTER TABLE public.plan_boostreading ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_boostreading_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_calendarevent (
    id bigint NOT NULL,
    first date NOT NULL,
    last date NOT NULL,
    at timestamp with time zone,
    text character varying(200) NOT NULL,
    calendar_id bigint NOT NULL
);

ALTER TABLE public.plan_calendarevent ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_calendarevent_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_calendarkey (
    id bigint NOT NULL,
    digest character varying(64) NOT NULL,
    made_at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL,
    person_id bigint NOT NULL
);

ALTER TABLE public.plan_calendarkey ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_calendarkey_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_channelrules (
    id bigint NOT NULL,
    text_limit integer NOT NULL,
    title_limit integer NOT NULL,
    needs_text boolean NOT NULL,
    most_hashtags integer,
    has_links boolean NOT NULL,
    most_pictures integer NOT NULL,
    needs_picture boolean NOT NULL,
    takes_videos boolean NOT NULL,
    longest_seconds integer,
    takes_documents boolean NOT NULL,
    profile_id bigint NOT NULL,
    largest_picture_mb double precision,
    largest_video_mb double precision,
    narrowest double precision,
    widest double precision,
    CONSTRAINT plan_channelrules_longest_seconds_check CHECK ((longest_seconds >= 0)),
    CONSTRAINT plan_channelrules_most_hashtags_check CHECK ((most_hashtags >= 0)),
    CONSTRAINT plan_channelrules_most_pictures_check CHECK ((most_pictures >= 0)),
    CONSTRAINT plan_channelrules_text_limit_check CHECK ((text_limit >= 0)),
    CONSTRAINT plan_channelrules_title_limit_check CHECK ((title_limit >= 0))
);

ALTER TABLE public.plan_channelrules ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_channelrules_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_feedrule (
    id bigint NOT NULL,
    name character varying(80) NOT NULL,
    becomes character varying(10) NOT NULL,
    profiles bigint[] NOT NULL,
    any_of character varying(80)[] NOT NULL,
    none_of character varying(80)[] NOT NULL,
    most_a_day smallint NOT NULL,
    minutes_after integer NOT NULL,
    minutes_apart integer NOT NULL,
    quiet_from time without time zone,
    quiet_to time without time zone,
    makes_links boolean NOT NULL,
    is_on boolean NOT NULL,
    problem character varying(300) NOT NULL,
    since timestamp with time zone NOT NULL,
    edition integer NOT NULL,
    brand_id bigint NOT NULL,
    campaign_id bigint,
    feed_id bigint NOT NULL,
    group_id bigint,
    made_by_id bigint,
    template_id bigint,
    CONSTRAINT plan_feedrule_edition_check CHECK ((edition >= 0)),
    CONSTRAINT plan_feedrule_minutes_after_check CHECK ((minutes_after >= 0)),
    CONSTRAINT plan_feedrule_minutes_apart_check CHECK ((minutes_apart >= 0)),
    CONSTRAINT plan_feedrule_most_a_day_check CHECK ((most_a_day >= 0))
);

ALTER TABLE public.plan_feedrule ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_feedrule_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_feedruleitem (
    id bigint NOT NULL,
    outcome character varying(8) NOT NULL,
    reason character varying(300) NOT NULL,
    at timestamp with time zone,
    decided_at timestamp with time zone NOT NULL,
    item_id bigint NOT NULL,
    planned_post_id bigint,
    rule_id bigint NOT NULL
);

ALTER TABLE public.plan_feedruleitem ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_feedruleitem_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_followedcalendar (
    id bigint NOT NULL,
    address character varying(2000) NOT NULL,
    name character varying(200) NOT NULL,
    etag character varying(300) NOT NULL,
    fetched_at timestamp with time zone,
    next_at timestamp with time zone,
    failures integer NOT NULL,
    message character varying(500) NOT NULL,
    brand_id bigint NOT NULL,
    CONSTRAINT plan_followedcalendar_failures_check CHECK ((failures >= 0))
);

ALTER TABLE public.plan_followedcalendar ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_followedcalendar_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_followedhashtag (
    id bigint NOT NULL,
    tag character varying(100) NOT NULL,
    followed_at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL,
    followed_by_id bigint
);

ALTER TABLE public.plan_followedhashtag ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_followedhashtag_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_guest (
    id bigint NOT NULL,
    name character varying(80) NOT NULL,
    digest character varying(64) NOT NULL,
    may character varying(8) NOT NULL,
    first_day date,
    last_day date,
    until timestamp with time zone NOT NULL,
    revoked_at timestamp with time zone,
    seen_at timestamp with time zone,
    made_at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL,
    made_by_id bigint
);

CREATE TABLE public.plan_guest_campaigns (
    id bigint NOT NULL,
    guest_id bigint NOT NULL,
    campaign_id bigint NOT NULL
);

ALTER TABLE public.plan_guest_campaigns ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_guest_campaigns_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

ALTER TABLE public.plan_guest ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_guest_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_hashtagreading (
    id bigint NOT NULL,
    network character varying(40) NOT NULL,
    tag character varying(100) NOT NULL,
    taken_at timestamp with time zone NOT NULL,
    uses bigint,
    week bigint,
    warm double precision,
    cold double precision,
    related character varying(100)[] NOT NULL,
    is_restricted boolean NOT NULL,
    problem character varying(300) NOT NULL,
    brand_id bigint NOT NULL
);

ALTER TABLE public.plan_hashtagreading ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_hashtagreading_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_hashtagset (
    id bigint NOT NULL,
    name character varying(60) NOT NULL,
    tags character varying(100)[] NOT NULL,
    brand_id bigint NOT NULL,
    network character varying(40) DEFAULT ''::character varying NOT NULL
);

ALTER TABLE public.plan_hashtagset ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_hashtagset_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_idea (
    planned_post_id bigint NOT NULL,
    page character varying(2000) NOT NULL,
    wishes bigint[] NOT NULL,
    origin character varying(8) NOT NULL,
    view character varying(500) NOT NULL,
    day date,
    figures jsonb NOT NULL,
    kept_at timestamp with time zone NOT NULL,
    shut_at timestamp with time zone,
    brand_id bigint NOT NULL,
    item_id bigint,
    group_id bigint
);

CREATE TABLE public.plan_ideagroup (
    id bigint NOT NULL,
    name character varying(80) NOT NULL,
    place integer NOT NULL,
    brand_id bigint NOT NULL,
    CONSTRAINT plan_ideagroup_place_check CHECK ((place >= 0))
);

ALTER TABLE public.plan_ideagroup ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_ideagroup_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_look (
    id bigint NOT NULL,
    content jsonb NOT NULL,
    at timestamp with time zone NOT NULL,
    guest_id bigint,
    person_id bigint,
    planned_post_id bigint NOT NULL
);

ALTER TABLE public.plan_look ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_look_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_note (
    id bigint NOT NULL,
    first date NOT NULL,
    last date NOT NULL,
    text character varying(200) NOT NULL,
    brand_id bigint NOT NULL,
    made_by_id bigint,
    CONSTRAINT notes_end_after_they_begin CHECK ((last >= first))
);

ALTER TABLE public.plan_note ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_note_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_ownfeed (
    brand_id bigint NOT NULL,
    key character varying(40) NOT NULL,
    guid uuid NOT NULL,
    title character varying(120) NOT NULL,
    site character varying(500) NOT NULL,
    is_on boolean NOT NULL,
    changed_at timestamp with time zone NOT NULL,
    edition integer NOT NULL,
    CONSTRAINT plan_ownfeed_edition_check CHECK ((edition >= 0))
);

CREATE TABLE public.plan_ownfeeditem (
    id bigint NOT NULL,
    guid uuid NOT NULL,
    title character varying(300) NOT NULL,
    text text NOT NULL,
    picture bigint,
    published_at timestamp with time zone NOT NULL,
    updated_at timestamp with time zone NOT NULL,
    removed_at timestamp with time zone,
    brand_id bigint NOT NULL,
    link_id bigint,
    planned_post_id bigint
);

ALTER TABLE public.plan_ownfeeditem ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_ownfeeditem_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_ownfeedseen (
    id bigint NOT NULL,
    hour timestamp with time zone NOT NULL,
    views integer NOT NULL,
    brand_id bigint NOT NULL,
    item_id bigint NOT NULL,
    CONSTRAINT plan_ownfeedseen_views_check CHECK ((views >= 0))
);

ALTER TABLE public.plan_ownfeedseen ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_ownfeedseen_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_pause (
    id bigint NOT NULL,
    why character varying(300) NOT NULL,
    begun_at timestamp with time zone NOT NULL,
    begun_by_id bigint,
    brand_id bigint NOT NULL,
    profile_id bigint
);

ALTER TABLE public.plan_pause ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_pause_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_plannedpost (
    id bigint NOT NULL,
    title character varying(200) NOT NULL,
    state character varying(12) NOT NULL,
    scheduled_at timestamp with time zone,
    edition integer NOT NULL,
    created_at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL,
    campaign_id bigint,
    created_by_id bigint,
    link_id bigint,
    from_post_id bigint,
    note text DEFAULT ''::text NOT NULL,
    first_comment text DEFAULT ''::text NOT NULL,
    headline character varying(300) DEFAULT ''::character varying NOT NULL,
    media bigint[] DEFAULT '{}'::bigint[] NOT NULL,
    text text DEFAULT ''::text NOT NULL,
    approved character varying(64) DEFAULT ''::character varying NOT NULL,
    reminded_at timestamp with time zone,
    submitted_at timestamp with time zone,
    submitted_by_id bigint,
    from_idea_id bigint,
    repetition_id bigint,
    tags bigint[] DEFAULT '{}'::bigint[] NOT NULL,
    in_own_feed boolean DEFAULT false NOT NULL,
    as_push boolean DEFAULT false NOT NULL,
    CONSTRAINT plan_plannedpost_edition_check CHECK ((edition >= 0)),
    CONSTRAINT scheduled_posts_have_a_time CHECK (((NOT ((state)::text = ANY ((ARRAY['scheduled'::character varying, 'publishing'::character varying, 'published'::character varying])::text[]))) OR (scheduled_at IS NOT NULL)))
);

ALTER TABLE public.plan_plannedpost ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_plannedpost_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_pushchannel (
    brand_id bigint NOT NULL,
    key character varying(40) NOT NULL,
    public_key character varying(100) NOT NULL,
    private_key bytea NOT NULL,
    is_on boolean NOT NULL,
    changed_at timestamp with time zone NOT NULL,
    edition integer NOT NULL,
    CONSTRAINT plan_pushchannel_edition_check CHECK ((edition >= 0))
);

CREATE TABLE public.plan_pushdelivery (
    id bigint NOT NULL,
    token uuid NOT NULL,
    state character varying(10) NOT NULL,
    attempts smallint NOT NULL,
    next_at timestamp with time zone,
    shown_at timestamp with time zone,
    message_id bigint NOT NULL,
    subscriber_id bigint NOT NULL,
    CONSTRAINT plan_pushdelivery_attempts_check CHECK ((attempts >= 0))
);

ALTER TABLE public.plan_pushdelivery ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_pushdelivery_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_pushmessage (
    id bigint NOT NULL,
    guid uuid NOT NULL,
    title character varying(300) NOT NULL,
    text character varying(300) NOT NULL,
    address character varying(2048) NOT NULL,
    made_at timestamp with time zone NOT NULL,
    asked integer NOT NULL,
    taken integer NOT NULL,
    gone integer NOT NULL,
    failed integer NOT NULL,
    brand_id bigint NOT NULL,
    link_id bigint,
    planned_post_id bigint,
    CONSTRAINT plan_pushmessage_asked_check CHECK ((asked >= 0)),
    CONSTRAINT plan_pushmessage_failed_check CHECK ((failed >= 0)),
    CONSTRAINT plan_pushmessage_gone_check CHECK ((gone >= 0)),
    CONSTRAINT plan_pushmessage_taken_check CHECK ((taken >= 0))
);

ALTER TABLE public.plan_pushmessage ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_pushmessage_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_pushseen (
    id bigint NOT NULL,
    hour timestamp with time zone NOT NULL,
    views integer NOT NULL,
    brand_id bigint NOT NULL,
    message_id bigint NOT NULL,
    CONSTRAINT plan_pushseen_views_check CHECK ((views >= 0))
);

ALTER TABLE public.plan_pushseen ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_pushseen_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_pushsubscriber (
    id bigint NOT NULL,
    endpoint character varying(1000) NOT NULL,
    p256dh character varying(100) NOT NULL,
    auth character varying(40) NOT NULL,
    since timestamp with time zone NOT NULL,
    failures smallint NOT NULL,
    brand_id bigint NOT NULL,
    CONSTRAINT plan_pushsubscriber_failures_check CHECK ((failures >= 0))
);

ALTER TABLE public.plan_pushsubscriber ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_pushsubscriber_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_remark (
    id bigint NOT NULL,
    name character varying(120) NOT NULL,
    at timestamp with time zone NOT NULL,
    quote character varying(300) NOT NULL,
    asset bigint,
    text text NOT NULL,
    settled_at timestamp with time zone,
    guest_id bigint,
    person_id bigint,
    planned_post_id bigint NOT NULL,
    profile_id bigint,
    settled_by_id bigint
);

ALTER TABLE public.plan_remark ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_remark_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_repetition (
    id bigint NOT NULL,
    rule character varying(200) NOT NULL,
    first date NOT NULL,
    last date NOT NULL,
    at time without time zone NOT NULL,
    texts text[] NOT NULL,
    made_at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL,
    made_by_id bigint,
    of_id bigint
);

ALTER TABLE public.plan_repetition ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_repetition_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_reviewrules (
    id bigint NOT NULL,
    steps character varying(10)[] NOT NULL,
    may_approve_own boolean NOT NULL,
    remind_hours integer NOT NULL,
    brand_id bigint NOT NULL,
    CONSTRAINT plan_reviewrules_remind_hours_check CHECK ((remind_hours >= 0))
);

ALTER TABLE public.plan_reviewrules ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_reviewrules_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_reviewverdict (
    id bigint NOT NULL,
    name character varying(120) NOT NULL,
    at timestamp with time zone NOT NULL,
    step smallint NOT NULL,
    is_yes boolean NOT NULL,
    words text NOT NULL,
    digest character varying(64) NOT NULL,
    guest_id bigint,
    person_id bigint,
    planned_post_id bigint NOT NULL,
    CONSTRAINT plan_reviewverdict_step_check CHECK ((step >= 0))
);

ALTER TABLE public.plan_reviewverdict ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_reviewverdict_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_seasonreturn (
    id bigint NOT NULL,
    month smallint NOT NULL,
    day smallint NOT NULL,
    days_before smallint NOT NULL,
    made_for date,
    brand_id bigint NOT NULL,
    post_id bigint NOT NULL,
    set_by_id bigint,
    CONSTRAINT plan_seasonreturn_day_check CHECK ((day >= 0)),
    CONSTRAINT plan_seasonreturn_days_before_check CHECK ((days_before >= 0)),
    CONSTRAINT plan_seasonreturn_month_check CHECK ((month >= 0))
);

ALTER TABLE public.plan_seasonreturn ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_seasonreturn_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_severalchange (
    id bigint NOT NULL,
    what character varying(10) NOT NULL,
    before jsonb NOT NULL,
    made_at timestamp with time zone NOT NULL,
    undone_at timestamp with time zone,
    brand_id bigint NOT NULL,
    made_by_id bigint NOT NULL
);

ALTER TABLE public.plan_severalchange ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_severalchange_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_task (
    id bigint NOT NULL,
    text character varying(300) NOT NULL,
    due_on date,
    done_at timestamp with time zone,
    made_at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL,
    campaign_id bigint,
    made_by_id bigint,
    person_id bigint NOT NULL,
    planned_post_id bigint
);

ALTER TABLE public.plan_task ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_task_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_template (
    id bigint NOT NULL,
    name character varying(80) NOT NULL,
    text text NOT NULL,
    headline character varying(300) NOT NULL,
    first_comment text NOT NULL,
    made_at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL,
    made_by_id bigint
);

ALTER TABLE public.plan_template ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_template_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_version (
    id bigint NOT NULL,
    text text NOT NULL,
    state character varying(12) NOT NULL,
    idempotency_key uuid NOT NULL,
    attempts integer NOT NULL,
    published_at timestamp with time zone,
    external_id character varying(200) NOT NULL,
    error character varying(500) NOT NULL,
    link_id bigint,
    planned_post_id bigint NOT NULL,
    post_id bigint,
    profile_id bigint NOT NULL,
    due_at timestamp with time zone,
    first_comment text DEFAULT ''::text NOT NULL,
    first_comment_error character varying(300) DEFAULT ''::character varying NOT NULL,
    first_comment_state character varying(8) DEFAULT ''::character varying NOT NULL,
    headline character varying(300) DEFAULT ''::character varying NOT NULL,
    media bigint[] DEFAULT '{}'::bigint[] NOT NULL,
    options jsonb DEFAULT '{}'::jsonb NOT NULL,
    own character varying(16)[] DEFAULT '{}'::character varying(16)[] NOT NULL,
    remedy character varying(10) DEFAULT ''::character varying NOT NULL,
    CONSTRAINT plan_version_attempts_check CHECK ((attempts >= 0))
);

ALTER TABLE public.plan_version ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_version_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_vote (
    id bigint NOT NULL,
    value smallint NOT NULL,
    guest_id bigint,
    person_id bigint,
    planned_post_id bigint NOT NULL,
    CONSTRAINT votes_are_for_or_against CHECK ((value = ANY (ARRAY['-1'::integer, 1])))
);

ALTER TABLE public.plan_vote ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_vote_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.plan_writing (
    id bigint NOT NULL,
    content jsonb NOT NULL,
    at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL,
    person_id bigint NOT NULL,
    planned_post_id bigint
);

ALTER TABLE public.plan_writing ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.plan_writing_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.printing_printedpage (
    id bigint NOT NULL,
    path character varying(4000) NOT NULL,
    file_name character varying(200) NOT NULL,
    state character varying(10) NOT NULL,
    detail text NOT NULL,
    content bytea,
    asked_at timestamp with time zone NOT NULL,
    ended_at timestamp with time zone,
    brand_id bigint NOT NULL,
    person_id bigint NOT NULL
);

ALTER TABLE public.printing_printedpage ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.printing_printedpage_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.procrastinate_events (
    id bigint NOT NULL,
    job_id bigint NOT NULL,
    type public.procrastinate_job_event_type,
    at timestamp with time zone DEFAULT now()
);

CREATE SEQUENCE public.procrastinate_events_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;

ALTER SEQUENCE public.procrastinate_events_id_seq OWNED BY public.procrastinate_events.id;

CREATE SEQUENCE public.procrastinate_jobs_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;

ALTER SEQUENCE public.procrastinate_jobs_id_seq OWNED BY public.procrastinate_jobs.id;

CREATE TABLE public.procrastinate_periodic_defers (
    id bigint NOT NULL,
    task_name character varying(128) NOT NULL,
    defer_timestamp bigint,
    job_id bigint,
    periodic_id character varying(128) DEFAULT ''::character varying NOT NULL
);

CREATE SEQUENCE public.procrastinate_periodic_defers_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;

ALTER SEQUENCE public.procrastinate_periodic_defers_id_seq OWNED BY public.procrastinate_periodic_defers.id;

CREATE TABLE public.procrastinate_workers (
    id bigint NOT NULL,
    last_heartbeat timestamp with time zone DEFAULT now() NOT NULL
);

ALTER TABLE public.procrastinate_workers ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.procrastinate_workers_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.reports_delivery (
    id bigint NOT NULL,
    every character varying(10) NOT NULL,
    weekday smallint NOT NULL,
    day smallint NOT NULL,
    rule character varying(200) NOT NULL,
    begins timestamp with time zone NOT NULL,
    next_at timestamp with time zone,
    message character varying(1000) NOT NULL,
    wait_hours smallint NOT NULL,
    is_on boolean NOT NULL,
    edition integer NOT NULL,
    made_at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL,
    made_by_id bigint,
    report_id bigint NOT NULL,
    CONSTRAINT reports_delivery_day_check CHECK ((day >= 0)),
    CONSTRAINT reports_delivery_edition_check CHECK ((edition >= 0)),
    CONSTRAINT reports_delivery_wait_hours_check CHECK ((wait_hours >= 0)),
    CONSTRAINT reports_delivery_weekday_check CHECK ((weekday >= 0))
);

ALTER TABLE public.reports_delivery ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.reports_delivery_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.reports_deliveryreader (
    id bigint NOT NULL,
    address character varying(254) NOT NULL,
    token character varying(60) NOT NULL,
    stopped_at timestamp with time zone,
    delivery_id bigint NOT NULL,
    person_id bigint
);

ALTER TABLE public.reports_deliveryreader ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.reports_deliveryreader_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.reports_deliveryrun (
    id bigint NOT NULL,
    due_at timestamp with time zone NOT NULL,
    test_to character varying(254) NOT NULL,
    state character varying(10) NOT NULL,
    missing character varying(500) NOT NULL,
    detail character varying(300) NOT NULL,
    shown jsonb,
    content bytea,
    letters integer NOT NULL,
    ended_at timestamp with time zone,
    brand_id bigint NOT NULL,
    delivery_id bigint NOT NULL,
    waits_until timestamp with time zone,
    CONSTRAINT reports_deliveryrun_letters_check CHECK ((letters >= 0))
);

ALTER TABLE public.reports_deliveryrun ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.reports_deliveryrun_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.reports_report (
    id bigint NOT NULL,
    title character varying(120) NOT NULL,
    label character varying(60) NOT NULL,
    language character varying(5) NOT NULL,
    study jsonb NOT NULL,
    look jsonb NOT NULL,
    pages jsonb NOT NULL,
    is_template boolean NOT NULL,
    edition integer NOT NULL,
    made_at timestamp with time zone NOT NULL,
    changed_at timestamp with time zone NOT NULL,
    removed_at timestamp with time zone,
    brand_id bigint NOT NULL,
    changed_by_id bigint,
    made_by_id bigint,
    CONSTRAINT reports_report_edition_check CHECK ((edition >= 0))
);

ALTER TABLE public.reports_report ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.reports_report_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.reports_reportlink (
    id bigint NOT NULL,
    name character varying(80) NOT NULL,
    digest character varying(64) NOT NULL,
    password character varying(200) NOT NULL,
    until timestamp with time zone NOT NULL,
    is_frozen boolean NOT NULL,
    shown jsonb,
    made_at timestamp with time zone NOT NULL,
    revoked_at timestamp with time zone,
    visits integer NOT NULL,
    visited_at timestamp with time zone,
    brand_id bigint NOT NULL,
    made_by_id bigint,
    report_id bigint NOT NULL,
    CONSTRAINT reports_reportlink_visits_check CHECK ((visits >= 0))
);

ALTER TABLE public.reports_reportlink ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.reports_reportlink_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.reports_reportversion (
    id bigint NOT NULL,
    edition integer NOT NULL,
    name character varying(80) NOT NULL,
    title character varying(120) NOT NULL,
    language character varying(5) NOT NULL,
    study jsonb NOT NULL,
    look jsonb NOT NULL,
    pages jsonb NOT NULL,
    at timestamp with time zone NOT NULL,
    by_id bigint,
    report_id bigint NOT NULL,
    CONSTRAINT reports_reportversion_edition_check CHECK ((edition >= 0))
);

ALTER TABLE public.reports_reportversion ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.reports_reportversion_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.results_finding (
    id bigint NOT NULL,
    key character varying(160) NOT NULL,
    kind character varying(20) NOT NULL,
    text character varying(400) NOT NULL,
    detail character varying(600) NOT NULL,
    weight double precision NOT NULL,
    evidence jsonb NOT NULL,
    posts jsonb NOT NULL,
    step jsonb NOT NULL,
    state character varying(10) NOT NULL,
    is_current boolean NOT NULL,
    first_found_at timestamp with time zone NOT NULL,
    found_at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL,
    state_by_id bigint
);

ALTER TABLE public.results_finding ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.results_finding_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.results_ownmetric (
    id bigint NOT NULL,
    key character varying(48) NOT NULL,
    name character varying(60) NOT NULL,
    definition character varying(300) NOT NULL,
    formula character varying(400) NOT NULL,
    more_is_better boolean NOT NULL,
    created_at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL,
    created_by_id bigint
);

ALTER TABLE public.results_ownmetric ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.results_ownmetric_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

ALTER TABLE public.measures_postday ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.results_postday_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

ALTER TABLE public.measures_postmeasure ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.results_postmeasure_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.results_posttag (
    id bigint NOT NULL,
    is_off boolean NOT NULL,
    by_id bigint,
    post_id bigint NOT NULL,
    tag_id bigint NOT NULL,
    rule_id bigint
);

ALTER TABLE public.results_posttag ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.results_posttag_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

ALTER TABLE public.measures_profileday ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.results_profileday_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

ALTER TABLE public.measures_profilepublished ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.results_profilepublished_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.results_tag (
    id bigint NOT NULL,
    name character varying(60) NOT NULL,
    colour smallint NOT NULL,
    brand_id bigint NOT NULL,
    CONSTRAINT results_tag_colour_check CHECK ((colour >= 0))
);

ALTER TABLE public.results_tag ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.results_tag_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.results_tagrule (
    id bigint NOT NULL,
    kind character varying(10) NOT NULL,
    value character varying(200) NOT NULL,
    tag_id bigint NOT NULL
);

ALTER TABLE public.results_tagrule ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.results_tagrule_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.results_target (
    id bigint NOT NULL,
    metric character varying(60) NOT NULL,
    value double precision NOT NULL,
    start double precision,
    by date NOT NULL,
    why character varying(300) NOT NULL,
    query jsonb NOT NULL,
    made_at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL,
    made_by_id bigint
);

ALTER TABLE public.results_target ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.results_target_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.shared_auditentry (
    id bigint NOT NULL,
    at timestamp with time zone NOT NULL,
    actor_id bigint,
    brand_id bigint,
    action character varying(60) NOT NULL,
    subject character varying(60) NOT NULL,
    subject_id bigint,
    detail jsonb NOT NULL,
    address character varying(45) DEFAULT ''::character varying NOT NULL,
    transaction character varying(60) DEFAULT (((pg_current_xact_id())::text || '-'::text) || (EXTRACT(epoch FROM transaction_timestamp()))::text)
);

ALTER TABLE public.shared_auditentry ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.shared_auditentry_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE UNLOGGED TABLE public.shared_callcount (
    mark character varying(64) NOT NULL,
    minute bigint NOT NULL,
    calls integer NOT NULL
);

CREATE TABLE public.shared_rowchange (
    id bigint NOT NULL,
    at timestamp with time zone NOT NULL,
    transaction character varying(60) NOT NULL,
    "table" character varying(60) NOT NULL,
    "row" bigint,
    before jsonb,
    after jsonb,
    name character varying(120) NOT NULL
);

ALTER TABLE public.shared_rowchange ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.shared_rowchange_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.sources_audiencereading (
    id bigint NOT NULL,
    day date NOT NULL,
    dimension character varying(20) NOT NULL,
    segments jsonb NOT NULL,
    import_id bigint,
    brand_id bigint NOT NULL,
    profile_id bigint NOT NULL
);

ALTER TABLE public.sources_audiencereading ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.sources_audiencereading_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.sources_collectionrun (
    id bigint NOT NULL,
    state character varying(10) NOT NULL,
    asked_at timestamp with time zone NOT NULL,
    started_at timestamp with time zone,
    ended_at timestamp with time zone,
    posts_seen integer NOT NULL,
    posts_new integer NOT NULL,
    readings_new integer NOT NULL,
    requests integer NOT NULL,
    calls_left integer,
    message character varying(500) NOT NULL,
    brand_id bigint NOT NULL,
    profile_id bigint NOT NULL,
    comments_new integer NOT NULL,
    missing character varying(200) NOT NULL,
    refused integer NOT NULL,
    resume_at timestamp with time zone,
    slow integer NOT NULL,
    step character varying(40) NOT NULL,
    turns integer NOT NULL
);

ALTER TABLE public.sources_collectionrun ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.sources_collectionrun_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.sources_comment (
    id bigint NOT NULL,
    external_id character varying(200) NOT NULL,
    author character varying(200) NOT NULL,
    text text NOT NULL,
    written_at timestamp with time zone NOT NULL,
    seen_at timestamp with time zone NOT NULL,
    removed_at timestamp with time zone,
    brand_id bigint NOT NULL,
    post_id bigint NOT NULL
);

ALTER TABLE public.sources_comment ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.sources_comment_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.sources_competitor (
    id bigint NOT NULL,
    name character varying(120) NOT NULL,
    brand_id bigint NOT NULL,
    website character varying(500) NOT NULL
);

ALTER TABLE public.sources_competitor ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.sources_competitor_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.sources_connection (
    id bigint NOT NULL,
    network character varying(40) NOT NULL,
    state character varying(64) NOT NULL,
    verifier bytea NOT NULL,
    offered jsonb NOT NULL,
    created_at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL,
    user_id bigint NOT NULL,
    credential_id bigint,
    renews_id bigint
);

ALTER TABLE public.sources_connection ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.sources_connection_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.sources_credential (
    id bigint NOT NULL,
    network character varying(40) NOT NULL,
    access bytea NOT NULL,
    refresh bytea NOT NULL,
    expires_at timestamp with time zone NOT NULL,
    is_lapsed boolean NOT NULL,
    brand_id bigint NOT NULL,
    scopes character varying(100)[] NOT NULL
);

ALTER TABLE public.sources_credential ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.sources_credential_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.sources_feed (
    id bigint NOT NULL,
    address character varying(2000) NOT NULL,
    title character varying(300) NOT NULL,
    site character varying(2000) NOT NULL,
    etag character varying(300) NOT NULL,
    modified character varying(100) NOT NULL,
    added_at timestamp with time zone NOT NULL,
    fetched_at timestamp with time zone,
    next_at timestamp with time zone,
    failures integer NOT NULL,
    message character varying(500) NOT NULL,
    is_followed boolean NOT NULL,
    brand_id bigint NOT NULL
);

ALTER TABLE public.sources_feed ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.sources_feed_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.sources_feeditem (
    id bigint NOT NULL,
    guid character varying(500) NOT NULL,
    title character varying(500) NOT NULL,
    summary text NOT NULL,
    address character varying(2000) NOT NULL,
    author character varying(200) NOT NULL,
    published_at timestamp with time zone,
    seen_at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL,
    feed_id bigint NOT NULL
);

ALTER TABLE public.sources_feeditem ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.sources_feeditem_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.sources_import (
    id bigint NOT NULL,
    created_at timestamp with time zone NOT NULL,
    file_name character varying(255) NOT NULL,
    digest character varying(64) NOT NULL,
    header jsonb NOT NULL,
    row_count bigint NOT NULL,
    mapping jsonb NOT NULL,
    state character varying(10) NOT NULL,
    accepted bigint NOT NULL,
    refused bigint NOT NULL,
    added bigint NOT NULL,
    brand_id bigint NOT NULL,
    created_by_id bigint,
    profile_id bigint,
    detected jsonb NOT NULL,
    ended_at timestamp with time zone,
    is_exact boolean NOT NULL,
    kind character varying(20) NOT NULL,
    message character varying(500) NOT NULL,
    options jsonb NOT NULL,
    posts_added bigint NOT NULL,
    profiles_touched bigint[] NOT NULL,
    rows_read bigint NOT NULL,
    sample jsonb NOT NULL,
    size bigint NOT NULL,
    first_day date,
    is_forgotten boolean NOT NULL,
    known bigint NOT NULL,
    last_day date,
    notes jsonb NOT NULL,
    sample_rows jsonb NOT NULL,
    spread jsonb NOT NULL,
    together bigint NOT NULL
);

ALTER TABLE public.sources_import ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.sources_import_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.sources_importchunk (
    id bigint NOT NULL,
    number integer NOT NULL,
    data bytea NOT NULL,
    item_id bigint NOT NULL
);

ALTER TABLE public.sources_importchunk ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.sources_importchunk_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.sources_importproblem (
    id bigint NOT NULL,
    "row" bigint NOT NULL,
    "column" character varying(200) NOT NULL,
    message character varying(300) NOT NULL,
    cells text[] NOT NULL,
    item_id bigint NOT NULL
);

ALTER TABLE public.sources_importproblem ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.sources_importproblem_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.sources_peerset (
    id bigint NOT NULL,
    name character varying(80) NOT NULL,
    edition integer NOT NULL,
    made_at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL,
    made_by_id bigint,
    CONSTRAINT sources_peerset_edition_check CHECK ((edition >= 0))
);

ALTER TABLE public.sources_peerset ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.sources_peerset_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.sources_peerset_profiles (
    id bigint NOT NULL,
    peerset_id bigint NOT NULL,
    profile_id bigint NOT NULL
);

ALTER TABLE public.sources_peerset_profiles ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.sources_peerset_profiles_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.sources_post (
    id bigint NOT NULL,
    external_id character varying(200) NOT NULL,
    published_at timestamp with time zone NOT NULL,
    format character varying(12) NOT NULL,
    text text NOT NULL,
    url character varying(2000) NOT NULL,
    hashtags character varying(100)[] NOT NULL,
    removed_at timestamp with time zone,
    brand_id bigint NOT NULL,
    campaign_id bigint,
    first_import_id bigint,
    profile_id bigint NOT NULL,
    comments_read bigint,
    next_reading_at timestamp with time zone,
    is_boosted boolean,
    language character varying(8) NOT NULL,
    picture character varying(500) NOT NULL,
    has_time boolean DEFAULT true NOT NULL
);

ALTER TABLE public.sources_post ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.sources_post_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.sources_postreading (
    id bigint NOT NULL,
    taken_at timestamp with time zone NOT NULL,
    impressions bigint,
    reach bigint,
    reactions bigint,
    comments bigint,
    shares bigint,
    saves bigint,
    link_clicks bigint,
    video_views bigint,
    negative bigint,
    raw jsonb,
    brand_id bigint NOT NULL,
    post_id bigint NOT NULL,
    calls bigint,
    directions bigint,
    import_id bigint,
    profile_visits bigint,
    video_completions bigint,
    video_seconds bigint,
    bookings bigint,
    follows bigint,
    shares_with_words bigint,
    reactions_amusement bigint,
    reactions_dismay bigint,
    reactions_like bigint,
    reactions_warmth bigint,
    reactions_wonder bigint,
    unfollows bigint
);

ALTER TABLE public.sources_postreading ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.sources_postreading_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.sources_postsource (
    id bigint NOT NULL,
    import_id bigint NOT NULL,
    brand_id bigint NOT NULL,
    post_id bigint NOT NULL
);

ALTER TABLE public.sources_postsource ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.sources_postsource_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.sources_presencereading (
    id bigint NOT NULL,
    day date NOT NULL,
    hours_utc integer[] NOT NULL,
    zones jsonb NOT NULL,
    brand_id bigint NOT NULL,
    profile_id bigint NOT NULL
);

ALTER TABLE public.sources_presencereading ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.sources_presencereading_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.sources_profile (
    id bigint NOT NULL,
    network character varying(40) NOT NULL,
    external_id character varying(200) NOT NULL,
    handle character varying(200) NOT NULL,
    name character varying(200) NOT NULL,
    kind character varying(12) NOT NULL,
    picture character varying(500) NOT NULL,
    is_followed boolean NOT NULL,
    added_at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL,
    competitor_id bigint,
    credential_id bigint,
    history_cursor character varying(2000) NOT NULL,
    history_done_at timestamp with time zone,
    hook_secret bytea,
    next_run_at timestamp with time zone,
    CONSTRAINT competitors_profiles_have_one CHECK ((((competitor_id IS NULL) AND ((kind)::text = 'own'::text)) OR ((competitor_id IS NOT NULL) AND ((kind)::text = 'competitor'::text))))
);

ALTER TABLE public.sources_profile ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.sources_profile_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.sources_profilereading (
    id bigint NOT NULL,
    day date NOT NULL,
    taken_at timestamp with time zone NOT NULL,
    followers bigint,
    gained bigint,
    lost bigint,
    brand_id bigint NOT NULL,
    profile_id bigint NOT NULL,
    following bigint,
    import_id bigint,
    impressions bigint,
    posts_total bigint,
    profile_visits bigint,
    reach bigint
);

ALTER TABLE public.sources_profilereading ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.sources_profilereading_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.sources_profilerebuild (
    id bigint NOT NULL,
    asked_at timestamp with time zone NOT NULL,
    begun_at timestamp with time zone,
    ended_at timestamp with time zone,
    done integer NOT NULL,
    total integer NOT NULL,
    brand_id bigint NOT NULL,
    profile_id bigint NOT NULL
);

ALTER TABLE public.sources_profilerebuild ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.sources_profilerebuild_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.timing_estimate (
    id bigint NOT NULL,
    key character varying(64) NOT NULL,
    asked jsonb NOT NULL,
    profiles bigint[] NOT NULL,
    is_standing boolean NOT NULL,
    is_stale boolean NOT NULL,
    made_at timestamp with time zone NOT NULL,
    hours jsonb NOT NULL,
    covariance bytea NOT NULL,
    held jsonb,
    facts jsonb NOT NULL,
    brand_id bigint NOT NULL
);

ALTER TABLE public.timing_estimate ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.timing_estimate_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.timing_rhythm (
    id bigint NOT NULL,
    zone character varying(64) NOT NULL,
    rules jsonb NOT NULL,
    edition integer NOT NULL,
    kept_at timestamp with time zone NOT NULL,
    brand_id bigint NOT NULL,
    kept_by_id bigint,
    profile_id bigint NOT NULL,
    CONSTRAINT timing_rhythm_edition_check CHECK ((edition >= 0))
);

ALTER TABLE public.timing_rhythm ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.timing_rhythm_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.timing_standingslot (
    id bigint NOT NULL,
    minute smallint NOT NULL,
    is_learning boolean NOT NULL,
    rhythm_id bigint NOT NULL,
    CONSTRAINT slot_within_week CHECK ((minute < 10080)),
    CONSTRAINT timing_standingslot_minute_check CHECK ((minute >= 0))
);

ALTER TABLE public.timing_standingslot ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.timing_standingslot_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.timing_trial (
    id bigint NOT NULL,
    name character varying(120) NOT NULL,
    first smallint[] NOT NULL,
    second smallint[] NOT NULL,
    zone character varying(64) NOT NULL,
    starts date NOT NULL,
    pairs smallint NOT NULL,
    worth double precision NOT NULL,
    error double precision NOT NULL,
    state character varying(8) NOT NULL,
    outcome jsonb NOT NULL,
    was_kept boolean NOT NULL,
    made_at timestamp with time zone NOT NULL,
    ended_at timestamp with time zone,
    brand_id bigint NOT NULL,
    made_by_id bigint,
    CONSTRAINT timing_trial_pairs_check CHECK ((pairs >= 0))
);

ALTER TABLE public.timing_trial ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.timing_trial_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.timing_trialprofile (
    id bigint NOT NULL,
    seed bigint NOT NULL,
    profile_id bigint NOT NULL,
    trial_id bigint NOT NULL,
    first smallint[] NOT NULL,
    second smallint[] NOT NULL
);

ALTER TABLE public.timing_trialprofile ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.timing_trialprofile_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.webhooks_hookdelivery (
    id bigint NOT NULL,
    state character varying(7) NOT NULL,
    attempts integer NOT NULL,
    next_at timestamp with time zone,
    tried_at timestamp with time zone,
    status integer,
    error character varying(300) NOT NULL,
    took_ms integer,
    event_id bigint NOT NULL,
    webhook_id bigint NOT NULL,
    CONSTRAINT webhooks_hookdelivery_attempts_check CHECK ((attempts >= 0)),
    CONSTRAINT webhooks_hookdelivery_status_check CHECK ((status >= 0)),
    CONSTRAINT webhooks_hookdelivery_took_ms_check CHECK ((took_ms >= 0))
);

ALTER TABLE public.webhooks_hookdelivery ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.webhooks_hookdelivery_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.webhooks_hookevent (
    id bigint NOT NULL,
    number uuid NOT NULL,
    kind character varying(40) NOT NULL,
    key character varying(160) NOT NULL,
    at timestamp with time zone NOT NULL,
    about jsonb NOT NULL,
    brand_id bigint NOT NULL
);

ALTER TABLE public.webhooks_hookevent ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.webhooks_hookevent_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.webhooks_webhook (
    id bigint NOT NULL,
    name character varying(80) NOT NULL,
    address character varying(2048) NOT NULL,
    kinds character varying(40)[] NOT NULL,
    secret bytea NOT NULL,
    secret_before bytea,
    before_until timestamp with time zone,
    is_on boolean NOT NULL,
    off_because character varying(300) NOT NULL,
    made_at timestamp with time zone NOT NULL,
    failures integer NOT NULL,
    failing_since timestamp with time zone,
    rests_until timestamp with time zone,
    brand_id bigint NOT NULL,
    made_by_id bigint,
    CONSTRAINT webhooks_webhook_failures_check CHECK ((failures >= 0))
);

ALTER TABLE public.webhooks_webhook ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.webhooks_webhook_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

ALTER TABLE ONLY public.procrastinate_events ALTER COLUMN id SET DEFAULT nextval('public.procrastinate_events_id_seq'::regclass);

ALTER TABLE ONLY public.procrastinate_jobs ALTER COLUMN id SET DEFAULT nextval('public.procrastinate_jobs_id_seq'::regclass);

ALTER TABLE ONLY public.procrastinate_periodic_defers ALTER COLUMN id SET DEFAULT nextval('public.procrastinate_periodic_defers_id_seq'::regclass);

ALTER TABLE ONLY public.site_accesslogchunk
    ADD CONSTRAINT access_log_chunk_once UNIQUE (log_id, number);

ALTER TABLE ONLY public.accounts_firstkey
    ADD CONSTRAINT accounts_firstkey_digest_key UNIQUE (digest);

ALTER TABLE ONLY public.accounts_firstkey
    ADD CONSTRAINT accounts_firstkey_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.accounts_passkey
    ADD CONSTRAINT accounts_passkey_credential_id_key UNIQUE (credential_id);

ALTER TABLE ONLY public.accounts_passkey
    ADD CONSTRAINT accounts_passkey_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.accounts_recoverycode
    ADD CONSTRAINT accounts_recoverycode_digest_key UNIQUE (digest);

ALTER TABLE ONLY public.accounts_recoverycode
    ADD CONSTRAINT accounts_recoverycode_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.accounts_totpsecret
    ADD CONSTRAINT accounts_totpsecret_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.accounts_totpsecret
    ADD CONSTRAINT accounts_totpsecret_user_id_key UNIQUE (user_id);

ALTER TABLE ONLY public.accounts_user
    ADD CONSTRAINT accounts_user_email_key UNIQUE (email);

ALTER TABLE ONLY public.accounts_user
    ADD CONSTRAINT accounts_user_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.accounts_usersession
    ADD CONSTRAINT accounts_usersession_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.accounts_usersession
    ADD CONSTRAINT accounts_usersession_session_key_key UNIQUE (session_key);

ALTER TABLE ONLY public.accounts_wrongcode
    ADD CONSTRAINT accounts_wrongcode_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.brands_keptanswer
    ADD CONSTRAINT answered_once UNIQUE (token_id, key);

ALTER TABLE ONLY public.media_asset
    ADD CONSTRAINT asset_once_per_brand UNIQUE (brand_id, digest);

ALTER TABLE ONLY public.sources_audiencereading
    ADD CONSTRAINT audience_once_per_day UNIQUE (profile_id, dimension, day, brand_id);

ALTER TABLE ONLY public.auth_group
    ADD CONSTRAINT auth_group_name_key UNIQUE (name);

ALTER TABLE ONLY public.auth_group_permissions
    ADD CONSTRAINT auth_group_permissions_group_id_permission_id_0cd325b0_uniq UNIQUE (group_id, permission_id);

ALTER TABLE ONLY public.auth_group_permissions
    ADD CONSTRAINT auth_group_permissions_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.auth_group
    ADD CONSTRAINT auth_group_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.auth_permission
    ADD CONSTRAINT auth_permission_content_type_id_codename_01ab375a_uniq UNIQUE (content_type_id, codename);

ALTER TABLE ONLY public.auth_permission
    ADD CONSTRAINT auth_permission_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.axes_accessattempt
    ADD CONSTRAINT axes_accessattempt_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.axes_accessattempt
    ADD CONSTRAINT axes_accessattempt_username_ip_address_user_agent_8ea22282_uniq UNIQUE (username, ip_address, user_agent);

ALTER TABLE ONLY public.axes_accessattemptexpiration
    ADD CONSTRAINT axes_accessattemptexpiration_pkey PRIMARY KEY (access_attempt_id);

ALTER TABLE ONLY public.axes_accessfailurelog
    ADD CONSTRAINT axes_accessfailurelog_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.axes_accesslog
    ADD CONSTRAINT axes_accesslog_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.brands_apitoken
    ADD CONSTRAINT brands_apitoken_digest_key UNIQUE (digest);

ALTER TABLE ONLY public.brands_apitoken
    ADD CONSTRAINT brands_apitoken_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.brands_brand
    ADD CONSTRAINT brands_brand_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.brands_brand
    ADD CONSTRAINT brands_brand_slug_key UNIQUE (slug);

ALTER TABLE ONLY public.brands_campaign
    ADD CONSTRAINT brands_campaign_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.brands_invitation
    ADD CONSTRAINT brands_invitation_digest_key UNIQUE (digest);

ALTER TABLE ONLY public.brands_invitation
    ADD CONSTRAINT brands_invitation_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.brands_keptanswer
    ADD CONSTRAINT brands_keptanswer_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.brands_membership
    ADD CONSTRAINT brands_membership_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.brands_preference
    ADD CONSTRAINT brands_preference_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.brands_campaign
    ADD CONSTRAINT campaign_name_once UNIQUE (brand_id, name);

ALTER TABLE ONLY public.sources_importchunk
    ADD CONSTRAINT chunk_once UNIQUE (item_id, number);

ALTER TABLE ONLY public.links_click
    ADD CONSTRAINT click_once UNIQUE (key, at, brand_id);

ALTER TABLE ONLY public.sources_comment
    ADD CONSTRAINT comment_once_per_post UNIQUE (post_id, external_id);

ALTER TABLE ONLY public.sources_competitor
    ADD CONSTRAINT competitor_name_once UNIQUE (brand_id, name);

ALTER TABLE ONLY public.competitors_digestreader
    ADD CONSTRAINT competitors_digestreader_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.competitors_digestreader
    ADD CONSTRAINT competitors_digestreader_token_key UNIQUE (token);

ALTER TABLE ONLY public.competitors_lastlook
    ADD CONSTRAINT competitors_lastlook_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.site_conversion
    ADD CONSTRAINT conversion_by_time UNIQUE (brand_id, at, id);

ALTER TABLE ONLY public.site_conversion
    ADD CONSTRAINT conversion_once UNIQUE (brand_id, key);

ALTER TABLE ONLY public.reports_deliveryreader
    ADD CONSTRAINT delivery_reader_once UNIQUE (delivery_id, address);

ALTER TABLE ONLY public.reports_deliveryrun
    ADD CONSTRAINT delivery_run_once UNIQUE (delivery_id, due_at, test_to);

ALTER TABLE ONLY public.demo_demobrand
    ADD CONSTRAINT demo_demobrand_person_id_key UNIQUE (person_id);

ALTER TABLE ONLY public.demo_demobrand
    ADD CONSTRAINT demo_demobrand_pkey PRIMARY KEY (brand_id);

ALTER TABLE ONLY public.competitors_digestreader
    ADD CONSTRAINT digest_once_per_set UNIQUE NULLS NOT DISTINCT (brand_id, person_id, peers_id);

ALTER TABLE ONLY public.django_content_type
    ADD CONSTRAINT django_content_type_app_label_model_76bd3d3b_uniq UNIQUE (app_label, model);

ALTER TABLE ONLY public.django_content_type
    ADD CONSTRAINT django_content_type_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.django_migrations
    ADD CONSTRAINT django_migrations_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.django_session
    ADD CONSTRAINT django_session_pkey PRIMARY KEY (session_key);

ALTER TABLE ONLY public.timing_estimate
    ADD CONSTRAINT estimate_once UNIQUE (brand_id, key);

ALTER TABLE ONLY public.sources_feed
    ADD CONSTRAINT feed_once_per_brand UNIQUE (brand_id, address);

ALTER TABLE ONLY public.figures_keptstudy
    ADD CONSTRAINT figures_keptstudy_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.results_finding
    ADD CONSTRAINT finding_once UNIQUE (brand_id, key);

ALTER TABLE ONLY public.foresight_outlook
    ADD CONSTRAINT foresight_outlook_pkey PRIMARY KEY (post_id);

ALTER TABLE ONLY public.foresight_profilelevel
    ADD CONSTRAINT foresight_profilelevel_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.foresight_projection
    ADD CONSTRAINT foresight_projection_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.measures_postday
    ADD CONSTRAINT gain_once_per_day UNIQUE (post_id, day, brand_id);

ALTER TABLE ONLY public.site_goal
    ADD CONSTRAINT goal_name_once UNIQUE (brand_id, name);

ALTER TABLE ONLY public.webhooks_hookevent
    ADD CONSTRAINT happens_once UNIQUE (brand_id, kind, key);

ALTER TABLE ONLY public.plan_followedhashtag
    ADD CONSTRAINT hashtag_followed_once UNIQUE (brand_id, tag);

ALTER TABLE ONLY public.sources_feeditem
    ADD CONSTRAINT item_once_per_feed UNIQUE (feed_id, guid);

ALTER TABLE ONLY public.plan_feedruleitem
    ADD CONSTRAINT item_once_per_rule UNIQUE (rule_id, item_id);

ALTER TABLE ONLY public.foresight_profilelevel
    ADD CONSTRAINT level_once UNIQUE (profile_id, metric);

ALTER TABLE ONLY public.links_linkpageentry
    ADD CONSTRAINT link_once_per_page UNIQUE (page_id, link_id);

ALTER TABLE ONLY public.links_linkuse
    ADD CONSTRAINT link_once_per_post UNIQUE (link_id, post_id);

ALTER TABLE ONLY public.site_accesslog
    ADD CONSTRAINT links_accesslog_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.site_accesslogchunk
    ADD CONSTRAINT links_accesslogchunk_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.links_click
    ADD CONSTRAINT links_click_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.links_clickday
    ADD CONSTRAINT links_clickday_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.links_clickhorizon
    ADD CONSTRAINT links_clickhorizon_pkey PRIMARY KEY (brand_id);

ALTER TABLE ONLY public.links_clickhour
    ADD CONSTRAINT links_clickhour_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.links_clickpeople
    ADD CONSTRAINT links_clickpeople_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.links_clickspread
    ADD CONSTRAINT links_clickspread_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.links_clicktotal
    ADD CONSTRAINT links_clicktotal_pkey PRIMARY KEY (link_id);

ALTER TABLE ONLY public.site_conversion
    ADD CONSTRAINT links_conversion_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.site_conversionstage
    ADD CONSTRAINT links_conversionstage_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.links_formertarget
    ADD CONSTRAINT links_formertarget_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.site_goal
    ADD CONSTRAINT links_goal_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.links_journal
    ADD CONSTRAINT links_journal_pkey PRIMARY KEY (name);

ALTER TABLE ONLY public.links_linkdomain
    ADD CONSTRAINT links_linkdomain_host_key UNIQUE (host);

ALTER TABLE ONLY public.links_linkdomain
    ADD CONSTRAINT links_linkdomain_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.links_linkpage
    ADD CONSTRAINT links_linkpage_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.links_linkpage
    ADD CONSTRAINT links_linkpage_slug_key UNIQUE (slug);

ALTER TABLE ONLY public.links_linkpageentry
    ADD CONSTRAINT links_linkpageentry_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.links_linksettings
    ADD CONSTRAINT links_linksettings_brand_id_key UNIQUE (brand_id);

ALTER TABLE ONLY public.links_linksettings
    ADD CONSTRAINT links_linksettings_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.links_linkuse
    ADD CONSTRAINT links_linkuse_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.links_pageview
    ADD CONSTRAINT links_pageview_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.site_site
    ADD CONSTRAINT links_site_key_key UNIQUE (key);

ALTER TABLE ONLY public.site_site
    ADD CONSTRAINT links_site_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.links_trackedlink
    ADD CONSTRAINT links_trackedlink_code_key UNIQUE (code);

ALTER TABLE ONLY public.links_trackedlink
    ADD CONSTRAINT links_trackedlink_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.links_unseenclicks
    ADD CONSTRAINT links_unseenclicks_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.site_visit
    ADD CONSTRAINT links_visit_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.links_visitorsalt
    ADD CONSTRAINT links_visitorsalt_day_key UNIQUE (day);

ALTER TABLE ONLY public.links_visitorsalt
    ADD CONSTRAINT links_visitorsalt_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.competitors_lastlook
    ADD CONSTRAINT looked_once_per_set UNIQUE NULLS NOT DISTINCT (brand_id, person_id, peers_id);

ALTER TABLE ONLY public.measures_postmeasure
    ADD CONSTRAINT measure_once_per_age UNIQUE (post_id, age_hours, published_at, brand_id);

ALTER TABLE ONLY public.measures_measurechange
    ADD CONSTRAINT measures_measurechange_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.measures_profilemeasured
    ADD CONSTRAINT measures_profilemeasured_pkey PRIMARY KEY (profile_id);

ALTER TABLE ONLY public.media_asset
    ADD CONSTRAINT media_asset_file_key UNIQUE (file);

ALTER TABLE ONLY public.media_asset
    ADD CONSTRAINT media_asset_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.media_rendition
    ADD CONSTRAINT media_rendition_file_key UNIQUE (file);

ALTER TABLE ONLY public.media_rendition
    ADD CONSTRAINT media_rendition_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.media_upload
    ADD CONSTRAINT media_upload_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.notices_mail
    ADD CONSTRAINT notices_mail_key_key UNIQUE (key);

ALTER TABLE ONLY public.notices_mail
    ADD CONSTRAINT notices_mail_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.notices_mailfile
    ADD CONSTRAINT notices_mailfile_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.notices_noticebrowser
    ADD CONSTRAINT notices_noticebrowser_endpoint_key UNIQUE (endpoint);

ALTER TABLE ONLY public.notices_noticebrowser
    ADD CONSTRAINT notices_noticebrowser_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.notices_noticechoice
    ADD CONSTRAINT notices_noticechoice_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.notices_noticehours
    ADD CONSTRAINT notices_noticehours_person_id_key UNIQUE (person_id);

ALTER TABLE ONLY public.notices_noticehours
    ADD CONSTRAINT notices_noticehours_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.notices_notification
    ADD CONSTRAINT notices_notification_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.notices_pushkey
    ADD CONSTRAINT notices_pushkey_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.notices_schedule
    ADD CONSTRAINT notices_schedule_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.notices_notification
    ADD CONSTRAINT notification_in_order UNIQUE (person_id, brand_id, at, id);

ALTER TABLE ONLY public.plan_boostreading
    ADD CONSTRAINT one_boost_reading_at_once UNIQUE (boost_id, at);

ALTER TABLE ONLY public.plan_calendarkey
    ADD CONSTRAINT one_calendar_key_each UNIQUE (brand_id, person_id);

ALTER TABLE ONLY public.notices_noticechoice
    ADD CONSTRAINT one_choice_per_kind UNIQUE (person_id, brand_id, kind);

ALTER TABLE ONLY public.plan_feedrule
    ADD CONSTRAINT one_feed_rule_per_name UNIQUE (brand_id, name);

ALTER TABLE ONLY public.plan_followedcalendar
    ADD CONSTRAINT one_followed_calendar_each UNIQUE (brand_id, address);

ALTER TABLE ONLY public.plan_hashtagset
    ADD CONSTRAINT one_hashtag_set_per_name UNIQUE (brand_id, network, name);

ALTER TABLE ONLY public.plan_idea
    ADD CONSTRAINT one_idea_each_item UNIQUE (brand_id, item_id);

ALTER TABLE ONLY public.plan_ideagroup
    ADD CONSTRAINT one_idea_group_per_name UNIQUE (brand_id, name);

ALTER TABLE ONLY public.plan_look
    ADD CONSTRAINT one_look_each UNIQUE NULLS NOT DISTINCT (planned_post_id, person_id, guest_id);

ALTER TABLE ONLY public.plan_pause
    ADD CONSTRAINT one_pause_each UNIQUE NULLS NOT DISTINCT (brand_id, profile_id);

ALTER TABLE ONLY public.brands_membership
    ADD CONSTRAINT one_role_per_brand UNIQUE (user_id, brand_id);

ALTER TABLE ONLY public.plan_batchrow
    ADD CONSTRAINT one_row_each UNIQUE (batch_id, number);

ALTER TABLE ONLY public.plan_template
    ADD CONSTRAINT one_template_per_name UNIQUE (brand_id, name);

ALTER TABLE ONLY public.media_upload
    ADD CONSTRAINT one_upload_of_a_file UNIQUE (person_id, brand_id, name, size);

ALTER TABLE ONLY public.plan_version
    ADD CONSTRAINT one_version_per_profile UNIQUE (planned_post_id, profile_id);

ALTER TABLE ONLY public.plan_vote
    ADD CONSTRAINT one_vote_each UNIQUE NULLS NOT DISTINCT (planned_post_id, person_id, guest_id);

ALTER TABLE ONLY public.plan_writing
    ADD CONSTRAINT one_writing_each UNIQUE NULLS NOT DISTINCT (person_id, brand_id, planned_post_id);

ALTER TABLE ONLY public.plan_ownfeedseen
    ADD CONSTRAINT own_feed_view_once_an_hour UNIQUE (item_id, hour, brand_id);

ALTER TABLE ONLY public.results_ownmetric
    ADD CONSTRAINT own_metric_key_once UNIQUE (brand_id, key);

ALTER TABLE ONLY public.results_ownmetric
    ADD CONSTRAINT own_metric_name_once UNIQUE (brand_id, name);

ALTER TABLE ONLY public.plan_batch
    ADD CONSTRAINT plan_batch_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_batchrow
    ADD CONSTRAINT plan_batchrow_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_boost
    ADD CONSTRAINT plan_boost_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_boostlimit
    ADD CONSTRAINT plan_boostlimit_pkey PRIMARY KEY (brand_id);

ALTER TABLE ONLY public.plan_boostreading
    ADD CONSTRAINT plan_boostreading_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_calendarevent
    ADD CONSTRAINT plan_calendarevent_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_calendarkey
    ADD CONSTRAINT plan_calendarkey_digest_key UNIQUE (digest);

ALTER TABLE ONLY public.plan_calendarkey
    ADD CONSTRAINT plan_calendarkey_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_channelrules
    ADD CONSTRAINT plan_channelrules_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_channelrules
    ADD CONSTRAINT plan_channelrules_profile_id_key UNIQUE (profile_id);

ALTER TABLE ONLY public.plan_feedrule
    ADD CONSTRAINT plan_feedrule_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_feedruleitem
    ADD CONSTRAINT plan_feedruleitem_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_followedcalendar
    ADD CONSTRAINT plan_followedcalendar_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_followedhashtag
    ADD CONSTRAINT plan_followedhashtag_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_guest_campaigns
    ADD CONSTRAINT plan_guest_campaigns_guest_id_campaign_id_2d3f0461_uniq UNIQUE (guest_id, campaign_id);

ALTER TABLE ONLY public.plan_guest_campaigns
    ADD CONSTRAINT plan_guest_campaigns_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_guest
    ADD CONSTRAINT plan_guest_digest_key UNIQUE (digest);

ALTER TABLE ONLY public.plan_guest
    ADD CONSTRAINT plan_guest_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_hashtagreading
    ADD CONSTRAINT plan_hashtagreading_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_hashtagset
    ADD CONSTRAINT plan_hashtagset_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_idea
    ADD CONSTRAINT plan_idea_pkey PRIMARY KEY (planned_post_id);

ALTER TABLE ONLY public.plan_ideagroup
    ADD CONSTRAINT plan_ideagroup_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_look
    ADD CONSTRAINT plan_look_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_note
    ADD CONSTRAINT plan_note_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_ownfeed
    ADD CONSTRAINT plan_ownfeed_key_key UNIQUE (key);

ALTER TABLE ONLY public.plan_ownfeed
    ADD CONSTRAINT plan_ownfeed_pkey PRIMARY KEY (brand_id);

ALTER TABLE ONLY public.plan_ownfeeditem
    ADD CONSTRAINT plan_ownfeeditem_guid_key UNIQUE (guid);

ALTER TABLE ONLY public.plan_ownfeeditem
    ADD CONSTRAINT plan_ownfeeditem_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_ownfeeditem
    ADD CONSTRAINT plan_ownfeeditem_planned_post_id_key UNIQUE (planned_post_id);

ALTER TABLE ONLY public.plan_ownfeedseen
    ADD CONSTRAINT plan_ownfeedseen_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_pause
    ADD CONSTRAINT plan_pause_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_plannedpost
    ADD CONSTRAINT plan_plannedpost_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_pushchannel
    ADD CONSTRAINT plan_pushchannel_key_key UNIQUE (key);

ALTER TABLE ONLY public.plan_pushchannel
    ADD CONSTRAINT plan_pushchannel_pkey PRIMARY KEY (brand_id);

ALTER TABLE ONLY public.plan_pushdelivery
    ADD CONSTRAINT plan_pushdelivery_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_pushdelivery
    ADD CONSTRAINT plan_pushdelivery_token_key UNIQUE (token);

ALTER TABLE ONLY public.plan_pushmessage
    ADD CONSTRAINT plan_pushmessage_guid_key UNIQUE (guid);

ALTER TABLE ONLY public.plan_pushmessage
    ADD CONSTRAINT plan_pushmessage_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_pushmessage
    ADD CONSTRAINT plan_pushmessage_planned_post_id_key UNIQUE (planned_post_id);

ALTER TABLE ONLY public.plan_pushseen
    ADD CONSTRAINT plan_pushseen_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_pushsubscriber
    ADD CONSTRAINT plan_pushsubscriber_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_remark
    ADD CONSTRAINT plan_remark_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_repetition
    ADD CONSTRAINT plan_repetition_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_reviewrules
    ADD CONSTRAINT plan_reviewrules_brand_id_key UNIQUE (brand_id);

ALTER TABLE ONLY public.plan_reviewrules
    ADD CONSTRAINT plan_reviewrules_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_reviewverdict
    ADD CONSTRAINT plan_reviewverdict_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_seasonreturn
    ADD CONSTRAINT plan_seasonreturn_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_seasonreturn
    ADD CONSTRAINT plan_seasonreturn_post_id_key UNIQUE (post_id);

ALTER TABLE ONLY public.plan_severalchange
    ADD CONSTRAINT plan_severalchange_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_task
    ADD CONSTRAINT plan_task_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_template
    ADD CONSTRAINT plan_template_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_version
    ADD CONSTRAINT plan_version_idempotency_key_key UNIQUE (idempotency_key);

ALTER TABLE ONLY public.plan_version
    ADD CONSTRAINT plan_version_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_version
    ADD CONSTRAINT plan_version_post_id_key UNIQUE (post_id);

ALTER TABLE ONLY public.plan_vote
    ADD CONSTRAINT plan_vote_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.plan_writing
    ADD CONSTRAINT plan_writing_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.sources_postsource
    ADD CONSTRAINT post_once_per_import UNIQUE (import_id, post_id);

ALTER TABLE ONLY public.sources_post
    ADD CONSTRAINT post_once_per_profile UNIQUE (profile_id, external_id);

ALTER TABLE ONLY public.brands_preference
    ADD CONSTRAINT preference_once UNIQUE (membership_id, name);

ALTER TABLE ONLY public.sources_presencereading
    ADD CONSTRAINT presence_once_per_day UNIQUE (profile_id, day, brand_id);

ALTER TABLE ONLY public.printing_printedpage
    ADD CONSTRAINT printing_printedpage_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.sources_importproblem
    ADD CONSTRAINT problem_once_per_row UNIQUE (item_id, "row");

ALTER TABLE ONLY public.procrastinate_events
    ADD CONSTRAINT procrastinate_events_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.procrastinate_jobs
    ADD CONSTRAINT procrastinate_jobs_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.procrastinate_periodic_defers
    ADD CONSTRAINT procrastinate_periodic_defers_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.procrastinate_periodic_defers
    ADD CONSTRAINT procrastinate_periodic_defers_unique UNIQUE (task_name, periodic_id, defer_timestamp);

ALTER TABLE ONLY public.procrastinate_workers
    ADD CONSTRAINT procrastinate_workers_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.measures_profileday
    ADD CONSTRAINT profile_day_once UNIQUE (profile_id, format, day, brand_id);

ALTER TABLE ONLY public.timing_trialprofile
    ADD CONSTRAINT profile_once_in_trial UNIQUE (trial_id, profile_id);

ALTER TABLE ONLY public.sources_profile
    ADD CONSTRAINT profile_once_per_brand UNIQUE (brand_id, network, external_id);

ALTER TABLE ONLY public.sources_profilereading
    ADD CONSTRAINT profile_reading_once_per_day UNIQUE (profile_id, day, brand_id);

ALTER TABLE ONLY public.plan_pushdelivery
    ADD CONSTRAINT push_delivery_once UNIQUE (message_id, subscriber_id);

ALTER TABLE ONLY public.plan_pushsubscriber
    ADD CONSTRAINT push_subscriber_once UNIQUE (brand_id, endpoint);

ALTER TABLE ONLY public.plan_pushseen
    ADD CONSTRAINT push_view_once_an_hour UNIQUE (message_id, hour, brand_id);

ALTER TABLE ONLY public.sources_postreading
    ADD CONSTRAINT reading_once_per_instant UNIQUE (post_id, taken_at, brand_id);

ALTER TABLE ONLY public.media_rendition
    ADD CONSTRAINT rendition_once_per_purpose UNIQUE (asset_id, purpose);

ALTER TABLE ONLY public.reports_reportversion
    ADD CONSTRAINT report_version_once UNIQUE (report_id, edition);

ALTER TABLE ONLY public.reports_delivery
    ADD CONSTRAINT reports_delivery_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.reports_deliveryreader
    ADD CONSTRAINT reports_deliveryreader_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.reports_deliveryreader
    ADD CONSTRAINT reports_deliveryreader_token_key UNIQUE (token);

ALTER TABLE ONLY public.reports_deliveryrun
    ADD CONSTRAINT reports_deliveryrun_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.reports_report
    ADD CONSTRAINT reports_report_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.reports_reportlink
    ADD CONSTRAINT reports_reportlink_digest_key UNIQUE (digest);

ALTER TABLE ONLY public.reports_reportlink
    ADD CONSTRAINT reports_reportlink_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.reports_reportversion
    ADD CONSTRAINT reports_reportversion_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.results_finding
    ADD CONSTRAINT results_finding_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.results_ownmetric
    ADD CONSTRAINT results_ownmetric_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.measures_postday
    ADD CONSTRAINT results_postday_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.measures_postmeasure
    ADD CONSTRAINT results_postmeasure_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.results_posttag
    ADD CONSTRAINT results_posttag_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.measures_profileday
    ADD CONSTRAINT results_profileday_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.measures_profilepublished
    ADD CONSTRAINT results_profilepublished_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.results_tag
    ADD CONSTRAINT results_tag_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.results_tagrule
    ADD CONSTRAINT results_tagrule_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.results_target
    ADD CONSTRAINT results_target_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.results_tagrule
    ADD CONSTRAINT rule_once_per_tag UNIQUE (tag_id, kind, value);

ALTER TABLE ONLY public.foresight_projection
    ADD CONSTRAINT said_once_per_age UNIQUE (brand_id, profile_id, published_at, post_id, horizon_hours);

ALTER TABLE ONLY public.notices_schedule
    ADD CONSTRAINT schedule_once UNIQUE (brand_id, name);

ALTER TABLE ONLY public.shared_auditentry
    ADD CONSTRAINT shared_auditentry_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.shared_callcount
    ADD CONSTRAINT shared_callcount_pkey PRIMARY KEY (mark);

ALTER TABLE ONLY public.shared_rowchange
    ADD CONSTRAINT shared_rowchange_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.site_site
    ADD CONSTRAINT site_name_once UNIQUE (brand_id, name);

ALTER TABLE ONLY public.timing_standingslot
    ADD CONSTRAINT slot_once UNIQUE (rhythm_id, minute);

ALTER TABLE ONLY public.sources_audiencereading
    ADD CONSTRAINT sources_audiencereading_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.sources_collectionrun
    ADD CONSTRAINT sources_collectionrun_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.sources_comment
    ADD CONSTRAINT sources_comment_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.sources_competitor
    ADD CONSTRAINT sources_competitor_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.sources_connection
    ADD CONSTRAINT sources_connection_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.sources_connection
    ADD CONSTRAINT sources_connection_state_key UNIQUE (state);

ALTER TABLE ONLY public.sources_credential
    ADD CONSTRAINT sources_credential_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.sources_feed
    ADD CONSTRAINT sources_feed_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.sources_feeditem
    ADD CONSTRAINT sources_feeditem_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.sources_import
    ADD CONSTRAINT sources_import_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.sources_importchunk
    ADD CONSTRAINT sources_importchunk_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.sources_importproblem
    ADD CONSTRAINT sources_importproblem_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.sources_peerset
    ADD CONSTRAINT sources_peerset_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.sources_peerset_profiles
    ADD CONSTRAINT sources_peerset_profiles_peerset_id_profile_id_464a5017_uniq UNIQUE (peerset_id, profile_id);

ALTER TABLE ONLY public.sources_peerset_profiles
    ADD CONSTRAINT sources_peerset_profiles_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.sources_post
    ADD CONSTRAINT sources_post_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.sources_postreading
    ADD CONSTRAINT sources_postreading_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.sources_postsource
    ADD CONSTRAINT sources_postsource_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.sources_presencereading
    ADD CONSTRAINT sources_presencereading_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.sources_profile
    ADD CONSTRAINT sources_profile_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.sources_profilereading
    ADD CONSTRAINT sources_profilereading_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.sources_profilerebuild
    ADD CONSTRAINT sources_profilerebuild_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.sources_profilerebuild
    ADD CONSTRAINT sources_profilerebuild_profile_id_key UNIQUE (profile_id);

ALTER TABLE ONLY public.results_posttag
    ADD CONSTRAINT tag_once_per_post UNIQUE (post_id, tag_id);

ALTER TABLE ONLY public.results_target
    ADD CONSTRAINT target_once_per_metric UNIQUE (brand_id, metric, query);

ALTER TABLE ONLY public.timing_estimate
    ADD CONSTRAINT timing_estimate_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.timing_rhythm
    ADD CONSTRAINT timing_rhythm_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.timing_rhythm
    ADD CONSTRAINT timing_rhythm_profile_id_key UNIQUE (profile_id);

ALTER TABLE ONLY public.timing_standingslot
    ADD CONSTRAINT timing_standingslot_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.timing_trial
    ADD CONSTRAINT timing_trial_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.timing_trialprofile
    ADD CONSTRAINT timing_trialprofile_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.notices_notification
    ADD CONSTRAINT told_once UNIQUE (brand_id, person_id, key);

ALTER TABLE ONLY public.webhooks_hookdelivery
    ADD CONSTRAINT told_once_to_each UNIQUE (webhook_id, event_id);

ALTER TABLE ONLY public.site_visit
    ADD CONSTRAINT visit_once UNIQUE (brand_id, visitor, started_at);

ALTER TABLE ONLY public.webhooks_hookdelivery
    ADD CONSTRAINT webhooks_hookdelivery_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.webhooks_hookevent
    ADD CONSTRAINT webhooks_hookevent_number_key UNIQUE (number);

ALTER TABLE ONLY public.webhooks_hookevent
    ADD CONSTRAINT webhooks_hookevent_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.webhooks_webhook
    ADD CONSTRAINT webhooks_webhook_pkey PRIMARY KEY (id);

CREATE INDEX access_log_by_brand ON public.site_accesslog USING btree (brand_id, created_at DESC);

CREATE INDEX accounts_firstkey_digest_374700e4_like ON public.accounts_firstkey USING btree (digest varchar_pattern_ops);

CREATE INDEX accounts_passkey_user_id_f8f562b4 ON public.accounts_passkey USING btree (user_id);

CREATE INDEX accounts_recoverycode_digest_5f337d9a_like ON public.accounts_recoverycode USING btree (digest varchar_pattern_ops);

CREATE INDEX accounts_recoverycode_user_id_994761d3 ON public.accounts_recoverycode USING btree (user_id);

CREATE INDEX accounts_user_email_b2644a56_like ON public.accounts_user USING btree (email varchar_pattern_ops);

CREATE INDEX accounts_usersession_session_key_7ce13c12_like ON public.accounts_usersession USING btree (session_key varchar_pattern_ops);

CREATE INDEX asset_by_brand_time ON public.media_asset USING btree (brand_id, created_at DESC, id DESC);

CREATE INDEX audience_by_import ON public.sources_audiencereading USING btree (import_id) WHERE (import_id IS NOT NULL);

CREATE INDEX audit_by_brand ON public.shared_auditentry USING btree (brand_id, at DESC);

CREATE INDEX audit_by_subject ON public.shared_auditentry USING btree (subject, subject_id, at DESC);

CREATE INDEX auth_group_name_a6ea08ec_like ON public.auth_group USING btree (name varchar_pattern_ops);

CREATE INDEX auth_group_permissions_group_id_b120cbf9 ON public.auth_group_permissions USING btree (group_id);

CREATE INDEX auth_group_permissions_permission_id_84c5c92e ON public.auth_group_permissions USING btree (permission_id);

CREATE INDEX auth_permission_content_type_id_2f476e4b ON public.auth_permission USING btree (content_type_id);

CREATE INDEX axes_accessattempt_ip_address_10922d9c ON public.axes_accessattempt USING btree (ip_address);

CREATE INDEX axes_accessattempt_user_agent_ad89678b ON public.axes_accessattempt USING btree (user_agent);

CREATE INDEX axes_accessattempt_user_agent_ad89678b_like ON public.axes_accessattempt USING btree (user_agent varchar_pattern_ops);

CREATE INDEX axes_accessattempt_username_3f2d4ca0 ON public.axes_accessattempt USING btree (username);

CREATE INDEX axes_accessattempt_username_3f2d4ca0_like ON public.axes_accessattempt USING btree (username varchar_pattern_ops);

CREATE INDEX axes_accessfailurelog_ip_address_2e9f5a7f ON public.axes_accessfailurelog USING btree (ip_address);

CREATE INDEX axes_accessfailurelog_user_agent_ea145dda ON public.axes_accessfailurelog USING btree (user_agent);

CREATE INDEX axes_accessfailurelog_user_agent_ea145dda_like ON public.axes_accessfailurelog USING btree (user_agent varchar_pattern_ops);

CREATE INDEX axes_accessfailurelog_username_a8b7e8a4 ON public.axes_accessfailurelog USING btree (username);

CREATE INDEX axes_accessfailurelog_username_a8b7e8a4_like ON public.axes_accessfailurelog USING btree (username varchar_pattern_ops);

CREATE INDEX axes_accesslog_ip_address_86b417e5 ON public.axes_accesslog USING btree (ip_address);

CREATE INDEX axes_accesslog_user_agent_0e659004 ON public.axes_accesslog USING btree (user_agent);

CREATE INDEX axes_accesslog_user_agent_0e659004_like ON public.axes_accesslog USING btree (user_agent varchar_pattern_ops);

CREATE INDEX axes_accesslog_username_df93064b ON public.axes_accesslog USING btree (username);

CREATE INDEX axes_accesslog_username_df93064b_like ON public.axes_accesslog USING btree (username varchar_pattern_ops);

CREATE INDEX batch_by_brand ON public.plan_batch USING btree (brand_id, made_at DESC);

CREATE INDEX boost_by_brand_time ON public.plan_boost USING btree (brand_id, starts_at DESC, id DESC);

CREATE INDEX boost_due ON public.plan_boost USING btree (next_at) WHERE (next_at IS NOT NULL);

CREATE INDEX brands_apitoken_brand_id_67fbba0b ON public.brands_apitoken USING btree (brand_id);

CREATE INDEX brands_apitoken_digest_9efd68f8_like ON public.brands_apitoken USING btree (digest varchar_pattern_ops);

CREATE INDEX brands_apitoken_user_id_85426389 ON public.brands_apitoken USING btree (user_id);

CREATE INDEX brands_brand_slug_9eee961a_like ON public.brands_brand USING btree (slug varchar_pattern_ops);

CREATE INDEX brands_campaign_owner_id_17cb219d ON public.brands_campaign USING btree (owner_id);

CREATE INDEX brands_invitation_digest_923972b2_like ON public.brands_invitation USING btree (digest varchar_pattern_ops);

CREATE INDEX brands_invitation_made_by_id_4cd25e69 ON public.brands_invitation USING btree (made_by_id);

CREATE INDEX brands_invitation_taken_by_id_d6a5de9a ON public.brands_invitation USING btree (taken_by_id);

CREATE INDEX brands_keptanswer_at_e0ab0248 ON public.brands_keptanswer USING btree (at);

CREATE INDEX brands_membership_brand_id_9f1d247c ON public.brands_membership USING btree (brand_id);

CREATE INDEX brands_preference_name_60b66094 ON public.brands_preference USING btree (name);

CREATE INDEX brands_preference_name_60b66094_like ON public.brands_preference USING btree (name varchar_pattern_ops);

CREATE INDEX click_by_brand_time ON public.links_click USING btree (brand_id, at) INCLUDE (link_id, bot_reason);

CREATE INDEX click_by_import ON public.links_click USING btree (import_id) WHERE (import_id IS NOT NULL);

CREATE INDEX click_by_link_time ON public.links_click USING btree (link_id, at);

CREATE INDEX click_by_page_time ON public.links_click USING btree (page_id, at) WHERE (page_id IS NOT NULL);

CREATE UNIQUE INDEX click_day_once ON public.links_clickday USING btree (brand_id, day, link_id) INCLUDE (people, bots, over);

CREATE UNIQUE INDEX click_hour_once ON public.links_clickhour USING btree (brand_id, link_id, hour) INCLUDE (people, bots, over);

CREATE UNIQUE INDEX click_people_once ON public.links_clickpeople USING btree (brand_id, link_id, day) INCLUDE (people);

CREATE UNIQUE INDEX click_spread_once ON public.links_clickspread USING btree (brand_id, link_id, dimension, day, value) INCLUDE (count);

CREATE INDEX comment_by_brand_time ON public.sources_comment USING btree (brand_id, written_at DESC);

CREATE INDEX competitors_digestreader_peers_id_0d32b93e ON public.competitors_digestreader USING btree (peers_id);

CREATE INDEX competitors_digestreader_person_id_0cd317bf ON public.competitors_digestreader USING btree (person_id);

CREATE INDEX competitors_digestreader_token_90b3458a_like ON public.competitors_digestreader USING btree (token varchar_pattern_ops);

CREATE INDEX competitors_lastlook_peers_id_0256c3b0 ON public.competitors_lastlook USING btree (peers_id);

CREATE INDEX competitors_lastlook_person_id_6be2f650 ON public.competitors_lastlook USING btree (person_id);

CREATE INDEX conversion_by_import ON public.site_conversion USING btree (import_id) WHERE (import_id IS NOT NULL);

CREATE INDEX conversion_by_visitor ON public.site_conversion USING btree (brand_id, visitor);

CREATE INDEX delivery_due ON public.reports_delivery USING btree (next_at) WHERE is_on;

CREATE INDEX delivery_of_report ON public.reports_delivery USING btree (brand_id, report_id);

CREATE INDEX delivery_run_by_time ON public.reports_deliveryrun USING btree (brand_id, due_at DESC);

CREATE INDEX delivery_run_waiting ON public.reports_deliveryrun USING btree (state, due_at) WHERE ((state)::text = 'waiting'::text);

CREATE INDEX demo_demobrand_asked_at_abdb30fc ON public.demo_demobrand USING btree (asked_at);

CREATE INDEX django_session_expire_date_a5c62663 ON public.django_session USING btree (expire_date);

CREATE INDEX django_session_session_key_c0390e0f_like ON public.django_session USING btree (session_key varchar_pattern_ops);

CREATE INDEX estimate_stale ON public.timing_estimate USING btree (made_at) WHERE (is_stale AND is_standing);

CREATE INDEX event_by_calendar_day ON public.plan_calendarevent USING btree (calendar_id, last);

CREATE INDEX feed_due ON public.sources_feed USING btree (next_at) WHERE is_followed;

CREATE INDEX feed_rule_item_by_time ON public.plan_feedruleitem USING btree (rule_id, decided_at DESC, id DESC);

CREATE INDEX figures_keptstudy_brand_id_12d060eb ON public.figures_keptstudy USING btree (brand_id);

CREATE INDEX figures_keptstudy_made_by_id_f4fc75ed ON public.figures_keptstudy USING btree (made_by_id);

CREATE INDEX finding_by_weight ON public.results_finding USING btree (brand_id, is_current, weight DESC);

CREATE INDEX foresight_outlook_profile_id_feff0d9c ON public.foresight_outlook USING btree (profile_id);

CREATE INDEX foresight_projection_post_id_f6167d2b ON public.foresight_projection USING btree (post_id);

CREATE INDEX foresight_projection_profile_id_74a98c03 ON public.foresight_projection USING btree (profile_id);

CREATE INDEX gain_by_profile_day ON public.measures_postday USING btree (profile_id, day) INCLUDE (post_id, impressions, reach, interactions, link_clicks);

CREATE INDEX guest_by_brand ON public.plan_guest USING btree (brand_id, made_at DESC);

CREATE INDEX hashtag_reading_by_tag ON public.plan_hashtagreading USING btree (brand_id, tag, network, taken_at DESC);

CREATE INDEX hook_delivery_due ON public.webhooks_hookdelivery USING btree (webhook_id, next_at) WHERE ((state)::text = 'waiting'::text);

CREATE INDEX hook_delivery_list ON public.webhooks_hookdelivery USING btree (webhook_id, id DESC);

CREATE INDEX hook_event_by_time ON public.webhooks_hookevent USING btree (at);

CREATE INDEX idea_by_brand_time ON public.plan_idea USING btree (brand_id, kept_at DESC, planned_post_id DESC);

CREATE INDEX idx_procrastinate_jobs_worker_not_null ON public.procrastinate_jobs USING btree (worker_id) WHERE ((worker_id IS NOT NULL) AND (status = 'doing'::public.procrastinate_job_status));

CREATE INDEX idx_procrastinate_workers_last_heartbeat ON public.procrastinate_workers USING btree (last_heartbeat);

CREATE INDEX import_by_brand_time ON public.sources_import USING btree (brand_id, created_at DESC);

CREATE INDEX import_by_digest ON public.sources_import USING btree (brand_id, digest) WHERE ((state)::text = 'done'::text);

CREATE INDEX invitation_by_brand ON public.brands_invitation USING btree (brand_id, made_at DESC);

CREATE UNIQUE INDEX invited_once_at_a_time ON public.brands_invitation USING btree (brand_id, email) WHERE (taken_at IS NULL);

CREATE INDEX item_by_brand_time ON public.sources_feeditem USING btree (brand_id, seen_at DESC);

CREATE UNIQUE INDEX kept_study_once ON public.figures_keptstudy USING btree (brand_id, lower((name)::text));

CREATE INDEX link_by_brand_time ON public.links_trackedlink USING btree (brand_id, created_at DESC);

CREATE INDEX link_paid ON public.links_trackedlink USING btree (brand_id) WHERE is_paid;

CREATE INDEX links_accesslog_created_by_id_fe2ce841 ON public.site_accesslog USING btree (created_by_id);

CREATE INDEX links_accesslog_site_id_ecc162eb ON public.site_accesslog USING btree (site_id);

CREATE INDEX links_conversion_goal_id_deebde0e ON public.site_conversion USING btree (goal_id);

CREATE INDEX links_conversion_visit_id_ebca5bc6 ON public.site_conversion USING btree (visit_id);

CREATE INDEX links_conversionstage_by_id_21d3f916 ON public.site_conversionstage USING btree (by_id);

CREATE INDEX links_conversionstage_conversion_id_2931dc2a ON public.site_conversionstage USING btree (conversion_id);

CREATE INDEX links_formertarget_changed_by_id_1a947767 ON public.links_formertarget USING btree (changed_by_id);

CREATE INDEX links_formertarget_link_id_1412b451 ON public.links_formertarget USING btree (link_id);

CREATE INDEX links_journal_name_3cdef745_like ON public.links_journal USING btree (name varchar_pattern_ops);

CREATE INDEX links_linkdomain_brand_id_4de88719 ON public.links_linkdomain USING btree (brand_id);

CREATE INDEX links_linkdomain_host_d21517d4_like ON public.links_linkdomain USING btree (host varchar_pattern_ops);

CREATE INDEX links_linkpage_brand_id_1541281e ON public.links_linkpage USING btree (brand_id);

CREATE INDEX links_linkpage_slug_d1fcd244_like ON public.links_linkpage USING btree (slug varchar_pattern_ops);

CREATE INDEX links_linkpageentry_link_id_f602fce8 ON public.links_linkpageentry USING btree (link_id);

CREATE INDEX links_linkuse_post_id_efd7fcdc ON public.links_linkuse USING btree (post_id);

CREATE INDEX links_pageview_page_id_8699804f ON public.links_pageview USING btree (page_id);

CREATE INDEX links_site_key_d9231c35_like ON public.site_site USING btree (key varchar_pattern_ops);

CREATE INDEX links_trackedlink_campaign_id_e9e51d40 ON public.links_trackedlink USING btree (campaign_id);

CREATE INDEX links_trackedlink_code_b952f97e_like ON public.links_trackedlink USING btree (code varchar_pattern_ops);

CREATE INDEX links_trackedlink_created_by_id_cdec004e ON public.links_trackedlink USING btree (created_by_id);

CREATE INDEX links_trackedlink_domain_id_44027574 ON public.links_trackedlink USING btree (domain_id);

CREATE INDEX mail_due ON public.notices_mail USING btree (next_at) WHERE ((state)::text = ANY ((ARRAY['waiting'::character varying, 'sending'::character varying])::text[]));

CREATE INDEX measure_by_profile_age_time ON public.measures_postmeasure USING btree (profile_id, age_hours, published_at);

CREATE INDEX measures_measurechange_profile_id_d6cd5a7d ON public.measures_measurechange USING btree (profile_id);

CREATE INDEX media_asset_created_by_id_e7f22f4e ON public.media_asset USING btree (created_by_id);

CREATE INDEX media_asset_file_79419738_like ON public.media_asset USING btree (file varchar_pattern_ops);

CREATE INDEX media_asset_made_from_id_9a76b847 ON public.media_asset USING btree (made_from_id);

CREATE INDEX media_rendition_file_b2dfbd01_like ON public.media_rendition USING btree (file varchar_pattern_ops);

CREATE INDEX media_upload_brand_id_a9f76e56 ON public.media_upload USING btree (brand_id);

CREATE INDEX note_by_brand_day ON public.plan_note USING btree (brand_id, last);

CREATE INDEX notices_mail_brand_id_733c868e ON public.notices_mail USING btree (brand_id);

CREATE INDEX notices_mail_file_id_10e1cb2e ON public.notices_mail USING btree (file_id);

CREATE INDEX notices_mail_key_ce61df01_like ON public.notices_mail USING btree (key varchar_pattern_ops);

CREATE INDEX notices_noticebrowser_endpoint_e644837e_like ON public.notices_noticebrowser USING btree (endpoint varchar_pattern_ops);

CREATE INDEX notices_noticebrowser_person_id_76a0a616 ON public.notices_noticebrowser USING btree (person_id);

CREATE INDEX notices_noticechoice_brand_id_26aa5097 ON public.notices_noticechoice USING btree (brand_id);

CREATE INDEX notices_noticechoice_kind_4ee81938 ON public.notices_noticechoice USING btree (kind);

CREATE INDEX notices_noticechoice_kind_4ee81938_like ON public.notices_noticechoice USING btree (kind varchar_pattern_ops);

CREATE INDEX notices_notification_kind_4c338105 ON public.notices_notification USING btree (kind);

CREATE INDEX notices_notification_kind_4c338105_like ON public.notices_notification USING btree (kind varchar_pattern_ops);

CREATE INDEX notices_schedule_name_762fbb42 ON public.notices_schedule USING btree (name);

CREATE INDEX notices_schedule_name_762fbb42_like ON public.notices_schedule USING btree (name varchar_pattern_ops);

CREATE INDEX notices_schedule_next_at_e2fbe84b ON public.notices_schedule USING btree (next_at);

CREATE INDEX notification_mail_due ON public.notices_notification USING btree (mail_at) WHERE ((mail_at IS NOT NULL) AND (mailed_at IS NULL));

CREATE INDEX notification_push_due ON public.notices_notification USING btree (push_at) WHERE ((push_at IS NOT NULL) AND (pushed_at IS NULL));

CREATE UNIQUE INDEX one_chosen_domain_per_brand ON public.links_linkdomain USING btree (brand_id) WHERE is_chosen;

CREATE UNIQUE INDEX one_open_boost_per_post ON public.plan_boost USING btree (post_id) WHERE ((state)::text = ANY ((ARRAY['asked'::character varying, 'running'::character varying, 'stopping'::character varying])::text[]));

CREATE INDEX outlook_by_brand_time ON public.foresight_outlook USING btree (brand_id, published_at DESC);

CREATE INDEX own_feed_item_by_time ON public.plan_ownfeeditem USING btree (brand_id, published_at DESC, id DESC);

CREATE INDEX own_feed_view_by_hour ON public.plan_ownfeedseen USING btree (brand_id, hour);

CREATE UNIQUE INDEX page_view_once ON public.links_pageview USING btree (brand_id, at, page_id) INCLUDE (people, bots);

CREATE UNIQUE INDEX peer_set_once ON public.sources_peerset USING btree (brand_id, lower((name)::text));

CREATE INDEX plan_batch_made_by_id_788dbb99 ON public.plan_batch USING btree (made_by_id);

CREATE INDEX plan_batchrow_planned_post_id_465b3d94 ON public.plan_batchrow USING btree (planned_post_id);

CREATE INDEX plan_boost_link_id_0ff4eec4 ON public.plan_boost USING btree (link_id);

CREATE INDEX plan_boost_made_by_id_5448fa6b ON public.plan_boost USING btree (made_by_id);

CREATE INDEX plan_boost_post_id_3f8b2e55 ON public.plan_boost USING btree (post_id);

CREATE INDEX plan_boost_profile_id_cd5e844b ON public.plan_boost USING btree (profile_id);

CREATE INDEX plan_boost_stopped_by_id_823552b2 ON public.plan_boost USING btree (stopped_by_id);

CREATE INDEX plan_calendarkey_digest_6b14b573_like ON public.plan_calendarkey USING btree (digest varchar_pattern_ops);

CREATE INDEX plan_calendarkey_person_id_35813f54 ON public.plan_calendarkey USING btree (person_id);

CREATE INDEX plan_feedrule_campaign_id_9d5de98f ON public.plan_feedrule USING btree (campaign_id);

CREATE INDEX plan_feedrule_feed_id_abd15416 ON public.plan_feedrule USING btree (feed_id);

CREATE INDEX plan_feedrule_group_id_2da001f0 ON public.plan_feedrule USING btree (group_id);

CREATE INDEX plan_feedrule_made_by_id_4815f2d6 ON public.plan_feedrule USING btree (made_by_id);

CREATE INDEX plan_feedrule_template_id_aeddf05f ON public.plan_feedrule USING btree (template_id);

CREATE INDEX plan_feedruleitem_item_id_17b9601c ON public.plan_feedruleitem USING btree (item_id);

CREATE INDEX plan_feedruleitem_planned_post_id_7ac53529 ON public.plan_feedruleitem USING btree (planned_post_id);

CREATE INDEX plan_followedcalendar_next_at_8997d0e9 ON public.plan_followedcalendar USING btree (next_at);

CREATE INDEX plan_followedhashtag_followed_by_id_3a2e0fa4 ON public.plan_followedhashtag USING btree (followed_by_id);

CREATE INDEX plan_guest_campaigns_campaign_id_62a72162 ON public.plan_guest_campaigns USING btree (campaign_id);

CREATE INDEX plan_guest_campaigns_guest_id_d1dd233e ON public.plan_guest_campaigns USING btree (guest_id);

CREATE INDEX plan_guest_digest_e8c0142b_like ON public.plan_guest USING btree (digest varchar_pattern_ops);

CREATE INDEX plan_guest_made_by_id_e4ec11c1 ON public.plan_guest USING btree (made_by_id);

CREATE INDEX plan_idea_group_id_4140473f ON public.plan_idea USING btree (group_id);

CREATE INDEX plan_idea_item_id_0bb31d33 ON public.plan_idea USING btree (item_id);

CREATE INDEX plan_look_guest_id_f0856186 ON public.plan_look USING btree (guest_id);

CREATE INDEX plan_look_person_id_ab64ac22 ON public.plan_look USING btree (person_id);

CREATE INDEX plan_note_made_by_id_4486d0a8 ON public.plan_note USING btree (made_by_id);

CREATE INDEX plan_ownfeed_key_598add37_like ON public.plan_ownfeed USING btree (key varchar_pattern_ops);

CREATE INDEX plan_ownfeeditem_link_id_5b40a4ec ON public.plan_ownfeeditem USING btree (link_id);

CREATE INDEX plan_pause_begun_by_id_0acf831d ON public.plan_pause USING btree (begun_by_id);

CREATE INDEX plan_pause_profile_id_bd306099 ON public.plan_pause USING btree (profile_id);

CREATE INDEX plan_plannedpost_campaign_id_8f2e25ad ON public.plan_plannedpost USING btree (campaign_id);

CREATE INDEX plan_plannedpost_created_by_id_9119e849 ON public.plan_plannedpost USING btree (created_by_id);

CREATE INDEX plan_plannedpost_from_idea_id_6e587c8c ON public.plan_plannedpost USING btree (from_idea_id);

CREATE INDEX plan_plannedpost_from_post_id_a7555948 ON public.plan_plannedpost USING btree (from_post_id);

CREATE INDEX plan_plannedpost_link_id_af660d5b ON public.plan_plannedpost USING btree (link_id);

CREATE INDEX plan_plannedpost_repetition_id_f6c4a6b8 ON public.plan_plannedpost USING btree (repetition_id);

CREATE INDEX plan_plannedpost_submitted_by_id_fdd589ce ON public.plan_plannedpost USING btree (submitted_by_id);

CREATE INDEX plan_pushchannel_key_bee12df7_like ON public.plan_pushchannel USING btree (key varchar_pattern_ops);

CREATE INDEX plan_pushdelivery_subscriber_id_1916eeba ON public.plan_pushdelivery USING btree (subscriber_id);

CREATE INDEX plan_pushmessage_link_id_7b53eee1 ON public.plan_pushmessage USING btree (link_id);

CREATE INDEX plan_remark_guest_id_8ff2fc18 ON public.plan_remark USING btree (guest_id);

CREATE INDEX plan_remark_person_id_7c37dc7f ON public.plan_remark USING btree (person_id);

CREATE INDEX plan_remark_planned_post_id_c17709fc ON public.plan_remark USING btree (planned_post_id);

CREATE INDEX plan_remark_profile_id_84b92570 ON public.plan_remark USING btree (profile_id);

CREATE INDEX plan_remark_settled_by_id_56db4ec4 ON public.plan_remark USING btree (settled_by_id);

CREATE INDEX plan_repetition_made_by_id_56952a5e ON public.plan_repetition USING btree (made_by_id);

CREATE INDEX plan_repetition_of_id_39affc58 ON public.plan_repetition USING btree (of_id);

CREATE INDEX plan_reviewverdict_guest_id_2fd87f36 ON public.plan_reviewverdict USING btree (guest_id);

CREATE INDEX plan_reviewverdict_person_id_9e37ca8b ON public.plan_reviewverdict USING btree (person_id);

CREATE INDEX plan_reviewverdict_planned_post_id_e9b31d3d ON public.plan_reviewverdict USING btree (planned_post_id);

CREATE INDEX plan_seasonreturn_set_by_id_61a219b5 ON public.plan_seasonreturn USING btree (set_by_id);

CREATE INDEX plan_severalchange_made_by_id_19072f72 ON public.plan_severalchange USING btree (made_by_id);

CREATE INDEX plan_task_campaign_id_90112632 ON public.plan_task USING btree (campaign_id);

CREATE INDEX plan_task_made_by_id_8cae93fe ON public.plan_task USING btree (made_by_id);

CREATE INDEX plan_task_person_id_c963d5ae ON public.plan_task USING btree (person_id);

CREATE INDEX plan_task_planned_post_id_21b110db ON public.plan_task USING btree (planned_post_id);

CREATE INDEX plan_template_made_by_id_2b88e9db ON public.plan_template USING btree (made_by_id);

CREATE INDEX plan_version_link_id_1b8bd8af ON public.plan_version USING btree (link_id);

CREATE INDEX plan_version_profile_id_c400166b ON public.plan_version USING btree (profile_id);

CREATE INDEX plan_vote_guest_id_6c2ff127 ON public.plan_vote USING btree (guest_id);

CREATE INDEX plan_vote_person_id_8f9c5e62 ON public.plan_vote USING btree (person_id);

CREATE INDEX plan_writing_brand_id_050d14a7 ON public.plan_writing USING btree (brand_id);

CREATE INDEX plan_writing_planned_post_id_3539e624 ON public.plan_writing USING btree (planned_post_id);

CREATE INDEX planned_by_brand_time ON public.plan_plannedpost USING btree (brand_id, scheduled_at);

CREATE INDEX planned_in_review_by_time ON public.plan_plannedpost USING btree (scheduled_at) WHERE ((state)::text = ANY ((ARRAY['in_review'::character varying, 'approved'::character varying])::text[]));

CREATE INDEX post_by_brand_time ON public.sources_post USING btree (brand_id, published_at);

CREATE INDEX post_by_profile_time ON public.sources_post USING btree (profile_id, published_at);

CREATE INDEX post_by_tag ON public.results_posttag USING btree (tag_id, post_id) WHERE (NOT is_off);

CREATE INDEX post_due ON public.sources_post USING btree (profile_id, next_reading_at) WHERE (next_reading_at IS NOT NULL);

CREATE INDEX printing_in_turn ON public.printing_printedpage USING btree (state, asked_at);

CREATE INDEX printing_printedpage_brand_id_18eb6cc2 ON public.printing_printedpage USING btree (brand_id);

CREATE INDEX printing_printedpage_person_id_9f7daa1f ON public.printing_printedpage USING btree (person_id);

CREATE INDEX procrastinate_events_job_id_fkey_v1 ON public.procrastinate_events USING btree (job_id);

CREATE INDEX procrastinate_jobs_id_lock_idx_v1 ON public.procrastinate_jobs USING btree (id, lock) WHERE (status = ANY (ARRAY['todo'::public.procrastinate_job_status, 'doing'::public.procrastinate_job_status]));

CREATE UNIQUE INDEX procrastinate_jobs_lock_idx_v1 ON public.procrastinate_jobs USING btree (lock) WHERE (status = 'doing'::public.procrastinate_job_status);

CREATE INDEX procrastinate_jobs_priority_idx_v1 ON public.procrastinate_jobs USING btree (priority DESC, id) WHERE (status = 'todo'::public.procrastinate_job_status);

CREATE INDEX procrastinate_jobs_queue_name_idx_v1 ON public.procrastinate_jobs USING btree (queue_name);

CREATE UNIQUE INDEX procrastinate_jobs_queueing_lock_idx_v1 ON public.procrastinate_jobs USING btree (queueing_lock) WHERE (status = 'todo'::public.procrastinate_job_status);

CREATE INDEX procrastinate_periodic_defers_job_id_fkey_v1 ON public.procrastinate_periodic_defers USING btree (job_id);

CREATE INDEX profile_by_account ON public.sources_profile USING btree (network, external_id);

CREATE INDEX profile_due ON public.sources_profile USING btree (next_run_at) WHERE is_followed;

CREATE INDEX profile_reading_by_import ON public.sources_profilereading USING btree (import_id) WHERE (import_id IS NOT NULL);

CREATE UNIQUE INDEX published_once ON public.measures_profilepublished USING btree (profile_id, age_hours, day, brand_id) INCLUDE (posts, interactions_n, interactions, interactions_squares, audience_n, audience_interactions, audience_interactions_squares, audience_followers, audience_followers_squares, audience_product);

CREATE INDEX push_delivery_due ON public.plan_pushdelivery USING btree (next_at) WHERE (next_at IS NOT NULL);

CREATE INDEX push_message_by_time ON public.plan_pushmessage USING btree (brand_id, made_at DESC, id DESC);

CREATE INDEX push_view_by_hour ON public.plan_pushseen USING btree (brand_id, hour);

CREATE INDEX reading_by_import ON public.sources_postreading USING btree (import_id) WHERE (import_id IS NOT NULL);

CREATE INDEX reading_with_answer ON public.sources_postreading USING btree (taken_at) WHERE (raw IS NOT NULL);

CREATE INDEX repetition_by_brand ON public.plan_repetition USING btree (brand_id, made_at DESC);

CREATE INDEX report_by_change ON public.reports_report USING btree (brand_id, changed_at DESC, id DESC);

CREATE INDEX report_link_by_time ON public.reports_reportlink USING btree (brand_id, made_at DESC);

CREATE INDEX reports_delivery_made_by_id_ee265e28 ON public.reports_delivery USING btree (made_by_id);

CREATE INDEX reports_delivery_report_id_5e39cdd3 ON public.reports_delivery USING btree (report_id);

CREATE INDEX reports_deliveryreader_person_id_d3afc240 ON public.reports_deliveryreader USING btree (person_id);

CREATE INDEX reports_deliveryreader_token_08412878_like ON public.reports_deliveryreader USING btree (token varchar_pattern_ops);

CREATE INDEX reports_report_changed_by_id_4e9d9bc4 ON public.reports_report USING btree (changed_by_id);

CREATE INDEX reports_report_made_by_id_03bbe55b ON public.reports_report USING btree (made_by_id);

CREATE INDEX reports_reportlink_digest_aae7f1a9_like ON public.reports_reportlink USING btree (digest varchar_pattern_ops);

CREATE INDEX reports_reportlink_made_by_id_d45f31f1 ON public.reports_reportlink USING btree (made_by_id);

CREATE INDEX reports_reportlink_report_id_1a874483 ON public.reports_reportlink USING btree (report_id);

CREATE INDEX reports_reportversion_by_id_eea7b82d ON public.reports_reportversion USING btree (by_id);

CREATE INDEX results_finding_state_by_id_514ab79e ON public.results_finding USING btree (state_by_id);

CREATE INDEX results_ownmetric_created_by_id_a0e5fad2 ON public.results_ownmetric USING btree (created_by_id);

CREATE INDEX results_posttag_by_id_ba94e4f9 ON public.results_posttag USING btree (by_id);

CREATE INDEX results_posttag_rule_id_c5921b23 ON public.results_posttag USING btree (rule_id);

CREATE INDEX results_posttag_tag_id_6a1c37af ON public.results_posttag USING btree (tag_id);

CREATE INDEX results_tag_brand_id_7dc9d765 ON public.results_tag USING btree (brand_id);

CREATE INDEX results_target_made_by_id_1f41cb52 ON public.results_target USING btree (made_by_id);

CREATE INDEX rhythm_by_brand ON public.timing_rhythm USING btree (brand_id);

CREATE INDEX row_change_by_time ON public.shared_rowchange USING btree (at);

CREATE INDEX row_change_by_transaction ON public.shared_rowchange USING btree (transaction);

CREATE INDEX run_by_brand_time ON public.sources_collectionrun USING btree (brand_id, asked_at DESC);

CREATE INDEX run_by_profile_time ON public.sources_collectionrun USING btree (profile_id, asked_at DESC);

CREATE INDEX season_return_by_brand ON public.plan_seasonreturn USING btree (brand_id);

CREATE INDEX session_by_user ON public.accounts_usersession USING btree (user_id, seen_at DESC);

CREATE INDEX several_change_by_brand ON public.plan_severalchange USING btree (brand_id, made_at DESC);

CREATE INDEX shared_callcount_mark_ff76d053_like ON public.shared_callcount USING btree (mark varchar_pattern_ops);

CREATE INDEX shared_callcount_minute_40417c61 ON public.shared_callcount USING btree (minute);

CREATE INDEX sources_audiencereading_brand_id_be438fb4 ON public.sources_audiencereading USING btree (brand_id);

CREATE INDEX sources_connection_brand_id_debd56ca ON public.sources_connection USING btree (brand_id);

CREATE INDEX sources_connection_credential_id_af9823eb ON public.sources_connection USING btree (credential_id);

CREATE INDEX sources_connection_renews_id_b7bb1839 ON public.sources_connection USING btree (renews_id);

CREATE INDEX sources_connection_state_6673e4fd_like ON public.sources_connection USING btree (state varchar_pattern_ops);

CREATE INDEX sources_connection_user_id_b4579fb1 ON public.sources_connection USING btree (user_id);

CREATE INDEX sources_credential_brand_id_efcb9205 ON public.sources_credential USING btree (brand_id);

CREATE INDEX sources_import_created_by_id_65ecdf7c ON public.sources_import USING btree (created_by_id);

CREATE INDEX sources_import_profile_id_ca028b4a ON public.sources_import USING btree (profile_id);

CREATE INDEX sources_peerset_made_by_id_3bd13ea0 ON public.sources_peerset USING btree (made_by_id);

CREATE INDEX sources_peerset_profiles_peerset_id_108ba1a0 ON public.sources_peerset_profiles USING btree (peerset_id);

CREATE INDEX sources_peerset_profiles_profile_id_afc26619 ON public.sources_peerset_profiles USING btree (profile_id);

CREATE INDEX sources_post_campaign_id_a25c7f83 ON public.sources_post USING btree (campaign_id);

CREATE INDEX sources_post_first_import_id_937c0630 ON public.sources_post USING btree (first_import_id);

CREATE INDEX sources_postreading_brand_id_140e9171 ON public.sources_postreading USING btree (brand_id);

CREATE INDEX sources_postsource_post_id_99ece990 ON public.sources_postsource USING btree (post_id);

CREATE INDEX sources_presencereading_brand_id_7cee3029 ON public.sources_presencereading USING btree (brand_id);

CREATE INDEX sources_profile_competitor_id_8089c106 ON public.sources_profile USING btree (competitor_id);

CREATE INDEX sources_profile_credential_id_fa9b4f10 ON public.sources_profile USING btree (credential_id);

CREATE INDEX sources_profilereading_brand_id_59a72924 ON public.sources_profilereading USING btree (brand_id);

CREATE UNIQUE INDEX tag_name_once ON public.results_tag USING btree (brand_id, lower((name)::text));

CREATE INDEX task_by_person ON public.plan_task USING btree (brand_id, person_id, done_at, due_on);

CREATE INDEX timing_rhythm_kept_by_id_fc44e3be ON public.timing_rhythm USING btree (kept_by_id);

CREATE INDEX timing_trial_made_by_id_2e0675f9 ON public.timing_trial USING btree (made_by_id);

CREATE INDEX timing_trialprofile_profile_id_9c0ce7e8 ON public.timing_trialprofile USING btree (profile_id);

CREATE INDEX trial_by_brand_time ON public.timing_trial USING btree (brand_id, made_at DESC);

CREATE UNIQUE INDEX user_email_once ON public.accounts_user USING btree (lower((email)::text));

CREATE INDEX version_by_state_and_minute ON public.plan_version USING btree (state, due_at);

CREATE INDEX visit_by_brand_time ON public.site_visit USING btree (brand_id, started_at) INCLUDE (channel, post_id, campaign_id);

CREATE INDEX visit_by_click ON public.site_visit USING btree (click_key) WHERE (click_key IS NOT NULL);

CREATE INDEX visit_by_link ON public.site_visit USING btree (link_id) WHERE (link_id IS NOT NULL);

CREATE INDEX visit_by_post ON public.site_visit USING btree (post_id) WHERE (post_id IS NOT NULL);

CREATE INDEX webhooks_hookdelivery_event_id_dab45392 ON public.webhooks_hookdelivery USING btree (event_id);

CREATE INDEX webhooks_webhook_brand_id_a4ece80c ON public.webhooks_webhook USING btree (brand_id);

CREATE INDEX webhooks_webhook_made_by_id_7f8f1259 ON public.webhooks_webhook USING btree (made_by_id);

CREATE INDEX wrong_code_by_user ON public.accounts_wrongcode USING btree (user_id, at);

CREATE TRIGGER brand_told AFTER INSERT OR UPDATE OF name ON public.brands_brand FOR EACH ROW EXECUTE FUNCTION public.links_tell('brand', 'id');

CREATE TRIGGER clicks_changed_out AFTER UPDATE ON public.links_click REFERENCING OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION public.links_sum_taken_out();

CREATE TRIGGER clicks_changed_to AFTER UPDATE ON public.links_click REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.links_sum_inserted();

CREATE TRIGGER clicks_in AFTER INSERT ON public.links_click REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.links_sum_inserted();

CREATE TRIGGER clicks_noted AFTER INSERT ON public.links_click REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.links_note_clicks();

CREATE TRIGGER clicks_out AFTER DELETE ON public.links_click REFERENCING OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION public.links_sum_taken_out();

CREATE TRIGGER domain_told AFTER INSERT OR DELETE OR UPDATE ON public.links_linkdomain FOR EACH ROW EXECUTE FUNCTION public.links_tell('host', 'host');

CREATE TRIGGER entry_told AFTER INSERT OR DELETE OR UPDATE ON public.links_linkpageentry FOR EACH ROW EXECUTE FUNCTION public.links_tell_page();

CREATE TRIGGER link_told AFTER INSERT OR DELETE OR UPDATE ON public.links_trackedlink FOR EACH ROW EXECUTE FUNCTION public.links_tell('link', 'code');

CREATE TRIGGER measures_followers_changed AFTER UPDATE ON public.sources_profilereading REFERENCING OLD TABLE AS was NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.measures_note_followers_changed();

CREATE TRIGGER measures_followers_in AFTER INSERT ON public.sources_profilereading REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.measures_note_followers_in();

CREATE TRIGGER measures_followers_out AFTER DELETE ON public.sources_profilereading REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.measures_note_followers_out();

CREATE TRIGGER measures_post_changed AFTER UPDATE ON public.sources_post REFERENCING OLD TABLE AS was NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.measures_note_post_changed();

CREATE TRIGGER measures_post_in AFTER INSERT ON public.sources_post REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.measures_note_post_in();

CREATE TRIGGER measures_post_out AFTER DELETE ON public.sources_post REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.measures_note_post_out();

CREATE TRIGGER measures_profile_out AFTER DELETE ON public.sources_profile REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.measures_note_profile_out();

CREATE TRIGGER measures_reading_changed AFTER UPDATE ON public.sources_postreading REFERENCING OLD TABLE AS was NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.measures_note_reading_changed();

CREATE TRIGGER measures_reading_in AFTER INSERT ON public.sources_postreading REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.measures_note_reading_in();

CREATE TRIGGER measures_reading_out AFTER DELETE ON public.sources_postreading REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.measures_note_reading_out();

CREATE TRIGGER page_told AFTER INSERT OR DELETE OR UPDATE ON public.links_linkpage FOR EACH ROW EXECUTE FUNCTION public.links_tell('page', 'slug');

CREATE TRIGGER procrastinate_jobs_notify_queue_job_aborted_v1 AFTER UPDATE OF abort_requested ON public.procrastinate_jobs FOR EACH ROW WHEN (((old.abort_requested = false) AND (new.abort_requested = true) AND (new.status = 'doing'::public.procrastinate_job_status))) EXECUTE FUNCTION public.procrastinate_notify_queue_abort_job_v1();

CREATE TRIGGER procrastinate_jobs_notify_queue_job_inserted_v1 AFTER INSERT ON public.procrastinate_jobs FOR EACH ROW WHEN ((new.status = 'todo'::public.procrastinate_job_status)) EXECUTE FUNCTION public.procrastinate_notify_queue_job_inserted_v1();

CREATE TRIGGER procrastinate_trigger_abort_requested_events_v1 AFTER UPDATE OF abort_requested ON public.procrastinate_jobs FOR EACH ROW WHEN ((new.abort_requested = true)) EXECUTE FUNCTION public.procrastinate_trigger_abort_requested_events_procedure_v1();

CREATE TRIGGER procrastinate_trigger_delete_jobs_v1 BEFORE DELETE ON public.procrastinate_jobs FOR EACH ROW EXECUTE FUNCTION public.procrastinate_unlink_periodic_defers_v1();

CREATE TRIGGER procrastinate_trigger_scheduled_events_v1 AFTER INSERT OR UPDATE ON public.procrastinate_jobs FOR EACH ROW WHEN (((new.scheduled_at IS NOT NULL) AND (new.status = 'todo'::public.procrastinate_job_status))) EXECUTE FUNCTION public.procrastinate_trigger_function_scheduled_events_v1();

CREATE TRIGGER procrastinate_trigger_status_events_insert_v1 AFTER INSERT ON public.procrastinate_jobs FOR EACH ROW WHEN ((new.status = 'todo'::public.procrastinate_job_status)) EXECUTE FUNCTION public.procrastinate_trigger_function_status_events_insert_v1();

CREATE TRIGGER procrastinate_trigger_status_events_update_v1 AFTER UPDATE OF status ON public.procrastinate_jobs FOR EACH ROW EXECUTE FUNCTION public.procrastinate_trigger_function_status_events_update_v1();

CREATE TRIGGER settings_told AFTER INSERT OR DELETE OR UPDATE ON public.links_linksettings FOR EACH ROW EXECUTE FUNCTION public.links_tell('brand', 'brand_id');

CREATE TRIGGER shared_kept BEFORE DELETE OR UPDATE ON public.shared_auditentry FOR EACH ROW EXECUTE FUNCTION public.shared_keep_log();

CREATE TRIGGER shared_kept BEFORE DELETE OR UPDATE ON public.shared_rowchange FOR EACH ROW EXECUTE FUNCTION public.shared_keep_log();

ALTER TABLE ONLY public.accounts_passkey
    ADD CONSTRAINT accounts_passkey_user_id_f8f562b4_fk_accounts_user_id FOREIGN KEY (user_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.accounts_recoverycode
    ADD CONSTRAINT accounts_recoverycode_user_id_994761d3_fk_accounts_user_id FOREIGN KEY (user_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.accounts_totpsecret
    ADD CONSTRAINT accounts_totpsecret_user_id_a9c8cfd9_fk_accounts_user_id FOREIGN KEY (user_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.accounts_usersession
    ADD CONSTRAINT accounts_usersession_user_id_567c9519_fk_accounts_user_id FOREIGN KEY (user_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.accounts_wrongcode
    ADD CONSTRAINT accounts_wrongcode_user_id_6469ea0d_fk_accounts_user_id FOREIGN KEY (user_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.auth_group_permissions
    ADD CONSTRAINT auth_group_permissio_permission_id_84c5c92e_fk_auth_perm FOREIGN KEY (permission_id) REFERENCES public.auth_permission(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.auth_group_permissions
    ADD CONSTRAINT auth_group_permissions_group_id_b120cbf9_fk_auth_group_id FOREIGN KEY (group_id) REFERENCES public.auth_group(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.auth_permission
    ADD CONSTRAINT auth_permission_content_type_id_2f476e4b_fk_django_co FOREIGN KEY (content_type_id) REFERENCES public.django_content_type(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.axes_accessattemptexpiration
    ADD CONSTRAINT axes_accessattemptex_access_attempt_id_6b73a47a_fk_axes_acce FOREIGN KEY (access_attempt_id) REFERENCES public.axes_accessattempt(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.brands_apitoken
    ADD CONSTRAINT brands_apitoken_brand_id_67fbba0b_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.brands_apitoken
    ADD CONSTRAINT brands_apitoken_user_id_85426389_fk_accounts_user_id FOREIGN KEY (user_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.brands_campaign
    ADD CONSTRAINT brands_campaign_brand_id_1d4212da_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.brands_campaign
    ADD CONSTRAINT brands_campaign_owner_id_17cb219d_fk_accounts_user_id FOREIGN KEY (owner_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.brands_invitation
    ADD CONSTRAINT brands_invitation_brand_id_0705eaff_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.brands_invitation
    ADD CONSTRAINT brands_invitation_made_by_id_4cd25e69_fk_accounts_user_id FOREIGN KEY (made_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.brands_invitation
    ADD CONSTRAINT brands_invitation_taken_by_id_d6a5de9a_fk_accounts_user_id FOREIGN KEY (taken_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.brands_keptanswer
    ADD CONSTRAINT brands_keptanswer_token_id_2f29bd29_fk_brands_apitoken_id FOREIGN KEY (token_id) REFERENCES public.brands_apitoken(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.brands_membership
    ADD CONSTRAINT brands_membership_brand_id_9f1d247c_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.brands_membership
    ADD CONSTRAINT brands_membership_user_id_edacdf26_fk_accounts_user_id FOREIGN KEY (user_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.brands_preference
    ADD CONSTRAINT brands_preference_membership_id_b099c6c2_fk_brands_me FOREIGN KEY (membership_id) REFERENCES public.brands_membership(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.competitors_digestreader
    ADD CONSTRAINT competitors_digestre_peers_id_0d32b93e_fk_sources_p FOREIGN KEY (peers_id) REFERENCES public.sources_peerset(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.competitors_digestreader
    ADD CONSTRAINT competitors_digestreader_brand_id_c634cf48_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.competitors_digestreader
    ADD CONSTRAINT competitors_digestreader_person_id_0cd317bf_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.competitors_lastlook
    ADD CONSTRAINT competitors_lastlook_brand_id_c075240d_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.competitors_lastlook
    ADD CONSTRAINT competitors_lastlook_peers_id_0256c3b0_fk_sources_peerset_id FOREIGN KEY (peers_id) REFERENCES public.sources_peerset(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.competitors_lastlook
    ADD CONSTRAINT competitors_lastlook_person_id_6be2f650_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.demo_demobrand
    ADD CONSTRAINT demo_demobrand_brand_id_9c55b728_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.demo_demobrand
    ADD CONSTRAINT demo_demobrand_person_id_38fe35df_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.figures_keptstudy
    ADD CONSTRAINT figures_keptstudy_brand_id_12d060eb_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.figures_keptstudy
    ADD CONSTRAINT figures_keptstudy_made_by_id_f4fc75ed_fk_accounts_user_id FOREIGN KEY (made_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.foresight_profilelevel
    ADD CONSTRAINT foresight_profilelev_profile_id_633c9ca0_fk_sources_p FOREIGN KEY (profile_id) REFERENCES public.sources_profile(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.foresight_profilelevel
    ADD CONSTRAINT foresight_profilelevel_brand_id_a4123b87_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.foresight_projection
    ADD CONSTRAINT foresight_projection_brand_id_9cae8494_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.foresight_projection
    ADD CONSTRAINT foresight_projection_post_id_f6167d2b_fk_sources_post_id FOREIGN KEY (post_id) REFERENCES public.sources_post(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.foresight_projection
    ADD CONSTRAINT foresight_projection_profile_id_74a98c03_fk_sources_profile_id FOREIGN KEY (profile_id) REFERENCES public.sources_profile(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.site_accesslog
    ADD CONSTRAINT links_accesslog_brand_id_66aa4f7e_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.site_accesslog
    ADD CONSTRAINT links_accesslog_created_by_id_fe2ce841_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.site_accesslog
    ADD CONSTRAINT links_accesslog_site_id_ecc162eb_fk_links_site_id FOREIGN KEY (site_id) REFERENCES public.site_site(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.site_accesslogchunk
    ADD CONSTRAINT links_accesslogchunk_log_id_6980ba6c_fk_links_accesslog_id FOREIGN KEY (log_id) REFERENCES public.site_accesslog(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.links_click
    ADD CONSTRAINT links_click_brand_id_aa93e81b_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.links_click
    ADD CONSTRAINT links_click_link_id_873d3412_fk_links_trackedlink_id FOREIGN KEY (link_id) REFERENCES public.links_trackedlink(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.links_click
    ADD CONSTRAINT links_click_page_id_ddac2096_fk_links_linkpage_id FOREIGN KEY (page_id) REFERENCES public.links_linkpage(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.links_clickhorizon
    ADD CONSTRAINT links_clickhorizon_brand_id_c214a86f_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.links_clicktotal
    ADD CONSTRAINT links_clicktotal_link_id_805a919d_fk_links_trackedlink_id FOREIGN KEY (link_id) REFERENCES public.links_trackedlink(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.site_conversion
    ADD CONSTRAINT links_conversion_brand_id_811b08ff_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.site_conversion
    ADD CONSTRAINT links_conversion_goal_id_deebde0e_fk_links_goal_id FOREIGN KEY (goal_id) REFERENCES public.site_goal(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.site_conversion
    ADD CONSTRAINT links_conversion_visit_id_ebca5bc6_fk_links_visit_id FOREIGN KEY (visit_id) REFERENCES public.site_visit(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.site_conversionstage
    ADD CONSTRAINT links_conversionstag_conversion_id_2931dc2a_fk_links_con FOREIGN KEY (conversion_id) REFERENCES public.site_conversion(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.site_conversionstage
    ADD CONSTRAINT links_conversionstage_by_id_21d3f916_fk_accounts_user_id FOREIGN KEY (by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.links_formertarget
    ADD CONSTRAINT links_formertarget_changed_by_id_1a947767_fk_accounts_user_id FOREIGN KEY (changed_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.links_formertarget
    ADD CONSTRAINT links_formertarget_link_id_1412b451_fk_links_trackedlink_id FOREIGN KEY (link_id) REFERENCES public.links_trackedlink(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.links_linkdomain
    ADD CONSTRAINT links_linkdomain_brand_id_4de88719_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.links_linkpage
    ADD CONSTRAINT links_linkpage_brand_id_1541281e_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.links_linkpageentry
    ADD CONSTRAINT links_linkpageentry_link_id_f602fce8_fk_links_trackedlink_id FOREIGN KEY (link_id) REFERENCES public.links_trackedlink(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.links_linkpageentry
    ADD CONSTRAINT links_linkpageentry_page_id_b23a4a54_fk_links_linkpage_id FOREIGN KEY (page_id) REFERENCES public.links_linkpage(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.links_linksettings
    ADD CONSTRAINT links_linksettings_brand_id_48e16013_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.links_linkuse
    ADD CONSTRAINT links_linkuse_link_id_e71b234c_fk_links_trackedlink_id FOREIGN KEY (link_id) REFERENCES public.links_trackedlink(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.links_linkuse
    ADD CONSTRAINT links_linkuse_post_id_efd7fcdc_fk_sources_post_id FOREIGN KEY (post_id) REFERENCES public.sources_post(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.links_pageview
    ADD CONSTRAINT links_pageview_page_id_8699804f_fk_links_linkpage_id FOREIGN KEY (page_id) REFERENCES public.links_linkpage(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.links_trackedlink
    ADD CONSTRAINT links_trackedlink_brand_id_7f553bb2_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.links_trackedlink
    ADD CONSTRAINT links_trackedlink_campaign_id_e9e51d40_fk_brands_campaign_id FOREIGN KEY (campaign_id) REFERENCES public.brands_campaign(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.links_trackedlink
    ADD CONSTRAINT links_trackedlink_created_by_id_cdec004e_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.links_trackedlink
    ADD CONSTRAINT links_trackedlink_domain_id_44027574_fk_links_linkdomain_id FOREIGN KEY (domain_id) REFERENCES public.links_linkdomain(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.site_visit
    ADD CONSTRAINT links_visit_brand_id_cc945e05_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.site_visit
    ADD CONSTRAINT links_visit_campaign_id_9d183f55_fk_brands_campaign_id FOREIGN KEY (campaign_id) REFERENCES public.brands_campaign(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.site_visit
    ADD CONSTRAINT links_visit_link_id_96040920_fk_links_trackedlink_id FOREIGN KEY (link_id) REFERENCES public.links_trackedlink(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.site_visit
    ADD CONSTRAINT links_visit_post_id_5526879f_fk_sources_post_id FOREIGN KEY (post_id) REFERENCES public.sources_post(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.site_visit
    ADD CONSTRAINT links_visit_site_id_9a75b21f_fk_links_site_id FOREIGN KEY (site_id) REFERENCES public.site_site(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.media_asset
    ADD CONSTRAINT media_asset_brand_id_ccddf6f1_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.media_asset
    ADD CONSTRAINT media_asset_created_by_id_e7f22f4e_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.media_asset
    ADD CONSTRAINT media_asset_made_from_id_9a76b847_fk_media_asset_id FOREIGN KEY (made_from_id) REFERENCES public.media_asset(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.media_rendition
    ADD CONSTRAINT media_rendition_asset_id_3dbd9693_fk_media_asset_id FOREIGN KEY (asset_id) REFERENCES public.media_asset(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.media_upload
    ADD CONSTRAINT media_upload_brand_id_a9f76e56_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.media_upload
    ADD CONSTRAINT media_upload_person_id_e24eba12_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.notices_mail
    ADD CONSTRAINT notices_mail_brand_id_733c868e_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.notices_mail
    ADD CONSTRAINT notices_mail_file_id_10e1cb2e_fk_notices_mailfile_id FOREIGN KEY (file_id) REFERENCES public.notices_mailfile(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.notices_noticebrowser
    ADD CONSTRAINT notices_noticebrowser_person_id_76a0a616_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.notices_noticechoice
    ADD CONSTRAINT notices_noticechoice_brand_id_26aa5097_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.notices_noticechoice
    ADD CONSTRAINT notices_noticechoice_person_id_3cc5134b_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.notices_noticehours
    ADD CONSTRAINT notices_noticehours_person_id_862a76bf_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.notices_notification
    ADD CONSTRAINT notices_notification_brand_id_2484e8de_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.notices_notification
    ADD CONSTRAINT notices_notification_person_id_0578d96a_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.notices_schedule
    ADD CONSTRAINT notices_schedule_brand_id_d5403a6c_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_batch
    ADD CONSTRAINT plan_batch_brand_id_7c5bc229_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_batch
    ADD CONSTRAINT plan_batch_made_by_id_788dbb99_fk_accounts_user_id FOREIGN KEY (made_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_batchrow
    ADD CONSTRAINT plan_batchrow_batch_id_d5cde993_fk_plan_batch_id FOREIGN KEY (batch_id) REFERENCES public.plan_batch(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_batchrow
    ADD CONSTRAINT plan_batchrow_planned_post_id_465b3d94_fk_plan_plannedpost_id FOREIGN KEY (planned_post_id) REFERENCES public.plan_plannedpost(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_boost
    ADD CONSTRAINT plan_boost_brand_id_1d3d6727_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_boost
    ADD CONSTRAINT plan_boost_link_id_0ff4eec4_fk_links_trackedlink_id FOREIGN KEY (link_id) REFERENCES public.links_trackedlink(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_boost
    ADD CONSTRAINT plan_boost_made_by_id_5448fa6b_fk_accounts_user_id FOREIGN KEY (made_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_boost
    ADD CONSTRAINT plan_boost_post_id_3f8b2e55_fk_sources_post_id FOREIGN KEY (post_id) REFERENCES public.sources_post(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_boost
    ADD CONSTRAINT plan_boost_profile_id_cd5e844b_fk_sources_profile_id FOREIGN KEY (profile_id) REFERENCES public.sources_profile(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_boost
    ADD CONSTRAINT plan_boost_stopped_by_id_823552b2_fk_accounts_user_id FOREIGN KEY (stopped_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_boostlimit
    ADD CONSTRAINT plan_boostlimit_brand_id_88a172d2_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_boostreading
    ADD CONSTRAINT plan_boostreading_boost_id_2a01c730_fk_plan_boost_id FOREIGN KEY (boost_id) REFERENCES public.plan_boost(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_calendarevent
    ADD CONSTRAINT plan_calendarevent_calendar_id_9052f26e_fk_plan_foll FOREIGN KEY (calendar_id) REFERENCES public.plan_followedcalendar(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_calendarkey
    ADD CONSTRAINT plan_calendarkey_brand_id_a9675bf2_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_calendarkey
    ADD CONSTRAINT plan_calendarkey_person_id_35813f54_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_channelrules
    ADD CONSTRAINT plan_channelrules_profile_id_5990a067_fk_sources_profile_id FOREIGN KEY (profile_id) REFERENCES public.sources_profile(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_feedrule
    ADD CONSTRAINT plan_feedrule_brand_id_7b84d625_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_feedrule
    ADD CONSTRAINT plan_feedrule_campaign_id_9d5de98f_fk_brands_campaign_id FOREIGN KEY (campaign_id) REFERENCES public.brands_campaign(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_feedrule
    ADD CONSTRAINT plan_feedrule_feed_id_abd15416_fk_sources_feed_id FOREIGN KEY (feed_id) REFERENCES public.sources_feed(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_feedrule
    ADD CONSTRAINT plan_feedrule_group_id_2da001f0_fk_plan_ideagroup_id FOREIGN KEY (group_id) REFERENCES public.plan_ideagroup(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_feedrule
    ADD CONSTRAINT plan_feedrule_made_by_id_4815f2d6_fk_accounts_user_id FOREIGN KEY (made_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_feedrule
    ADD CONSTRAINT plan_feedrule_template_id_aeddf05f_fk_plan_template_id FOREIGN KEY (template_id) REFERENCES public.plan_template(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_feedruleitem
    ADD CONSTRAINT plan_feedruleitem_item_id_17b9601c_fk_sources_feeditem_id FOREIGN KEY (item_id) REFERENCES public.sources_feeditem(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_feedruleitem
    ADD CONSTRAINT plan_feedruleitem_planned_post_id_7ac53529_fk_plan_plan FOREIGN KEY (planned_post_id) REFERENCES public.plan_plannedpost(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_feedruleitem
    ADD CONSTRAINT plan_feedruleitem_rule_id_5f21779c_fk_plan_feedrule_id FOREIGN KEY (rule_id) REFERENCES public.plan_feedrule(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_followedcalendar
    ADD CONSTRAINT plan_followedcalendar_brand_id_3ab98348_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_followedhashtag
    ADD CONSTRAINT plan_followedhashtag_brand_id_8e0d2650_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_followedhashtag
    ADD CONSTRAINT plan_followedhashtag_followed_by_id_3a2e0fa4_fk_accounts_ FOREIGN KEY (followed_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_guest
    ADD CONSTRAINT plan_guest_brand_id_2696149f_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_guest_campaigns
    ADD CONSTRAINT plan_guest_campaigns_campaign_id_62a72162_fk_brands_campaign_id FOREIGN KEY (campaign_id) REFERENCES public.brands_campaign(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_guest_campaigns
    ADD CONSTRAINT plan_guest_campaigns_guest_id_d1dd233e_fk_plan_guest_id FOREIGN KEY (guest_id) REFERENCES public.plan_guest(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_guest
    ADD CONSTRAINT plan_guest_made_by_id_e4ec11c1_fk_accounts_user_id FOREIGN KEY (made_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_hashtagreading
    ADD CONSTRAINT plan_hashtagreading_brand_id_265c5ea8_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_hashtagset
    ADD CONSTRAINT plan_hashtagset_brand_id_a4e071cd_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_idea
    ADD CONSTRAINT plan_idea_brand_id_edb40856_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_idea
    ADD CONSTRAINT plan_idea_group_id_4140473f_fk_plan_ideagroup_id FOREIGN KEY (group_id) REFERENCES public.plan_ideagroup(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_idea
    ADD CONSTRAINT plan_idea_item_id_0bb31d33_fk_sources_feeditem_id FOREIGN KEY (item_id) REFERENCES public.sources_feeditem(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_idea
    ADD CONSTRAINT plan_idea_planned_post_id_e91647b7_fk_plan_plannedpost_id FOREIGN KEY (planned_post_id) REFERENCES public.plan_plannedpost(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_ideagroup
    ADD CONSTRAINT plan_ideagroup_brand_id_a58e6ab5_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_look
    ADD CONSTRAINT plan_look_guest_id_f0856186_fk_plan_guest_id FOREIGN KEY (guest_id) REFERENCES public.plan_guest(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_look
    ADD CONSTRAINT plan_look_person_id_ab64ac22_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_look
    ADD CONSTRAINT plan_look_planned_post_id_6ef534df_fk_plan_plannedpost_id FOREIGN KEY (planned_post_id) REFERENCES public.plan_plannedpost(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_note
    ADD CONSTRAINT plan_note_brand_id_4f84fdeb_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_note
    ADD CONSTRAINT plan_note_made_by_id_4486d0a8_fk_accounts_user_id FOREIGN KEY (made_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_ownfeed
    ADD CONSTRAINT plan_ownfeed_brand_id_ce4a4f86_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_ownfeeditem
    ADD CONSTRAINT plan_ownfeeditem_brand_id_658a9442_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_ownfeeditem
    ADD CONSTRAINT plan_ownfeeditem_link_id_5b40a4ec_fk_links_trackedlink_id FOREIGN KEY (link_id) REFERENCES public.links_trackedlink(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_ownfeeditem
    ADD CONSTRAINT plan_ownfeeditem_planned_post_id_2663680f_fk_plan_plan FOREIGN KEY (planned_post_id) REFERENCES public.plan_plannedpost(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_ownfeedseen
    ADD CONSTRAINT plan_ownfeedseen_brand_id_d4ac71c0_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_ownfeedseen
    ADD CONSTRAINT plan_ownfeedseen_item_id_3804081f_fk_plan_ownfeeditem_id FOREIGN KEY (item_id) REFERENCES public.plan_ownfeeditem(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_pause
    ADD CONSTRAINT plan_pause_begun_by_id_0acf831d_fk_accounts_user_id FOREIGN KEY (begun_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_pause
    ADD CONSTRAINT plan_pause_brand_id_4a53f874_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_pause
    ADD CONSTRAINT plan_pause_profile_id_bd306099_fk_sources_profile_id FOREIGN KEY (profile_id) REFERENCES public.sources_profile(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_plannedpost
    ADD CONSTRAINT plan_plannedpost_brand_id_ff25eb86_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_plannedpost
    ADD CONSTRAINT plan_plannedpost_campaign_id_8f2e25ad_fk_brands_campaign_id FOREIGN KEY (campaign_id) REFERENCES public.brands_campaign(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_plannedpost
    ADD CONSTRAINT plan_plannedpost_created_by_id_9119e849_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_plannedpost
    ADD CONSTRAINT plan_plannedpost_from_idea_id_6e587c8c_fk_plan_idea FOREIGN KEY (from_idea_id) REFERENCES public.plan_idea(planned_post_id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_plannedpost
    ADD CONSTRAINT plan_plannedpost_from_post_id_a7555948_fk_sources_post_id FOREIGN KEY (from_post_id) REFERENCES public.sources_post(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_plannedpost
    ADD CONSTRAINT plan_plannedpost_link_id_af660d5b_fk_links_trackedlink_id FOREIGN KEY (link_id) REFERENCES public.links_trackedlink(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_plannedpost
    ADD CONSTRAINT plan_plannedpost_repetition_id_f6c4a6b8_fk_plan_repetition_id FOREIGN KEY (repetition_id) REFERENCES public.plan_repetition(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_plannedpost
    ADD CONSTRAINT plan_plannedpost_submitted_by_id_fdd589ce_fk_accounts_user_id FOREIGN KEY (submitted_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_pushchannel
    ADD CONSTRAINT plan_pushchannel_brand_id_7c9a24c3_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_pushdelivery
    ADD CONSTRAINT plan_pushdelivery_message_id_bf6806b8_fk_plan_pushmessage_id FOREIGN KEY (message_id) REFERENCES public.plan_pushmessage(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_pushdelivery
    ADD CONSTRAINT plan_pushdelivery_subscriber_id_1916eeba_fk_plan_push FOREIGN KEY (subscriber_id) REFERENCES public.plan_pushsubscriber(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_pushmessage
    ADD CONSTRAINT plan_pushmessage_brand_id_3da01f5b_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_pushmessage
    ADD CONSTRAINT plan_pushmessage_link_id_7b53eee1_fk_links_trackedlink_id FOREIGN KEY (link_id) REFERENCES public.links_trackedlink(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_pushmessage
    ADD CONSTRAINT plan_pushmessage_planned_post_id_a1d6cd21_fk_plan_plan FOREIGN KEY (planned_post_id) REFERENCES public.plan_plannedpost(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_pushseen
    ADD CONSTRAINT plan_pushseen_brand_id_1a35dac0_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_pushseen
    ADD CONSTRAINT plan_pushseen_message_id_be5e2cbd_fk_plan_pushmessage_id FOREIGN KEY (message_id) REFERENCES public.plan_pushmessage(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_pushsubscriber
    ADD CONSTRAINT plan_pushsubscriber_brand_id_5bb6c41f_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_remark
    ADD CONSTRAINT plan_remark_guest_id_8ff2fc18_fk_plan_guest_id FOREIGN KEY (guest_id) REFERENCES public.plan_guest(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_remark
    ADD CONSTRAINT plan_remark_person_id_7c37dc7f_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_remark
    ADD CONSTRAINT plan_remark_planned_post_id_c17709fc_fk_plan_plannedpost_id FOREIGN KEY (planned_post_id) REFERENCES public.plan_plannedpost(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_remark
    ADD CONSTRAINT plan_remark_profile_id_84b92570_fk_sources_profile_id FOREIGN KEY (profile_id) REFERENCES public.sources_profile(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_remark
    ADD CONSTRAINT plan_remark_settled_by_id_56db4ec4_fk_accounts_user_id FOREIGN KEY (settled_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_repetition
    ADD CONSTRAINT plan_repetition_brand_id_580d5cf2_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_repetition
    ADD CONSTRAINT plan_repetition_made_by_id_56952a5e_fk_accounts_user_id FOREIGN KEY (made_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_repetition
    ADD CONSTRAINT plan_repetition_of_id_39affc58_fk_plan_plannedpost_id FOREIGN KEY (of_id) REFERENCES public.plan_plannedpost(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_reviewrules
    ADD CONSTRAINT plan_reviewrules_brand_id_b54a3d43_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_reviewverdict
    ADD CONSTRAINT plan_reviewverdict_guest_id_2fd87f36_fk_plan_guest_id FOREIGN KEY (guest_id) REFERENCES public.plan_guest(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_reviewverdict
    ADD CONSTRAINT plan_reviewverdict_person_id_9e37ca8b_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_reviewverdict
    ADD CONSTRAINT plan_reviewverdict_planned_post_id_e9b31d3d_fk_plan_plan FOREIGN KEY (planned_post_id) REFERENCES public.plan_plannedpost(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_seasonreturn
    ADD CONSTRAINT plan_seasonreturn_brand_id_9747bf40_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_seasonreturn
    ADD CONSTRAINT plan_seasonreturn_post_id_bf249067_fk_sources_post_id FOREIGN KEY (post_id) REFERENCES public.sources_post(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_seasonreturn
    ADD CONSTRAINT plan_seasonreturn_set_by_id_61a219b5_fk_accounts_user_id FOREIGN KEY (set_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_severalchange
    ADD CONSTRAINT plan_severalchange_brand_id_9b362b4b_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_severalchange
    ADD CONSTRAINT plan_severalchange_made_by_id_19072f72_fk_accounts_user_id FOREIGN KEY (made_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_task
    ADD CONSTRAINT plan_task_brand_id_2ae3f146_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_task
    ADD CONSTRAINT plan_task_campaign_id_90112632_fk_brands_campaign_id FOREIGN KEY (campaign_id) REFERENCES public.brands_campaign(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_task
    ADD CONSTRAINT plan_task_made_by_id_8cae93fe_fk_accounts_user_id FOREIGN KEY (made_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_task
    ADD CONSTRAINT plan_task_person_id_c963d5ae_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_task
    ADD CONSTRAINT plan_task_planned_post_id_21b110db_fk_plan_plannedpost_id FOREIGN KEY (planned_post_id) REFERENCES public.plan_plannedpost(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_template
    ADD CONSTRAINT plan_template_brand_id_2d3f079c_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_template
    ADD CONSTRAINT plan_template_made_by_id_2b88e9db_fk_accounts_user_id FOREIGN KEY (made_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_version
    ADD CONSTRAINT plan_version_link_id_1b8bd8af_fk_links_trackedlink_id FOREIGN KEY (link_id) REFERENCES public.links_trackedlink(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_version
    ADD CONSTRAINT plan_version_planned_post_id_47f3f694_fk_plan_plannedpost_id FOREIGN KEY (planned_post_id) REFERENCES public.plan_plannedpost(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_version
    ADD CONSTRAINT plan_version_post_id_86d5c7e7_fk_sources_post_id FOREIGN KEY (post_id) REFERENCES public.sources_post(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_version
    ADD CONSTRAINT plan_version_profile_id_c400166b_fk_sources_profile_id FOREIGN KEY (profile_id) REFERENCES public.sources_profile(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_vote
    ADD CONSTRAINT plan_vote_guest_id_6c2ff127_fk_plan_guest_id FOREIGN KEY (guest_id) REFERENCES public.plan_guest(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_vote
    ADD CONSTRAINT plan_vote_person_id_8f9c5e62_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_vote
    ADD CONSTRAINT plan_vote_planned_post_id_827bcaac_fk_plan_plannedpost_id FOREIGN KEY (planned_post_id) REFERENCES public.plan_plannedpost(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_writing
    ADD CONSTRAINT plan_writing_brand_id_050d14a7_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_writing
    ADD CONSTRAINT plan_writing_person_id_e6b45a02_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.plan_writing
    ADD CONSTRAINT plan_writing_planned_post_id_3539e624_fk_plan_plannedpost_id FOREIGN KEY (planned_post_id) REFERENCES public.plan_plannedpost(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.printing_printedpage
    ADD CONSTRAINT printing_printedpage_brand_id_18eb6cc2_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.printing_printedpage
    ADD CONSTRAINT printing_printedpage_person_id_9f7daa1f_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.procrastinate_events
    ADD CONSTRAINT procrastinate_events_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.procrastinate_jobs(id) ON DELETE CASCADE;

ALTER TABLE ONLY public.procrastinate_jobs
    ADD CONSTRAINT procrastinate_jobs_worker_id_fkey FOREIGN KEY (worker_id) REFERENCES public.procrastinate_workers(id) ON DELETE SET NULL;

ALTER TABLE ONLY public.procrastinate_periodic_defers
    ADD CONSTRAINT procrastinate_periodic_defers_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.procrastinate_jobs(id);

ALTER TABLE ONLY public.reports_delivery
    ADD CONSTRAINT reports_delivery_brand_id_1e3547ca_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.reports_delivery
    ADD CONSTRAINT reports_delivery_made_by_id_ee265e28_fk_accounts_user_id FOREIGN KEY (made_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.reports_delivery
    ADD CONSTRAINT reports_delivery_report_id_5e39cdd3_fk_reports_report_id FOREIGN KEY (report_id) REFERENCES public.reports_report(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.reports_deliveryreader
    ADD CONSTRAINT reports_deliveryread_delivery_id_45483a0c_fk_reports_d FOREIGN KEY (delivery_id) REFERENCES public.reports_delivery(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.reports_deliveryreader
    ADD CONSTRAINT reports_deliveryreader_person_id_d3afc240_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.reports_deliveryrun
    ADD CONSTRAINT reports_deliveryrun_brand_id_442a11e6_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.reports_deliveryrun
    ADD CONSTRAINT reports_deliveryrun_delivery_id_866b4338_fk_reports_delivery_id FOREIGN KEY (delivery_id) REFERENCES public.reports_delivery(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.reports_report
    ADD CONSTRAINT reports_report_brand_id_0597e09c_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.reports_report
    ADD CONSTRAINT reports_report_changed_by_id_4e9d9bc4_fk_accounts_user_id FOREIGN KEY (changed_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.reports_report
    ADD CONSTRAINT reports_report_made_by_id_03bbe55b_fk_accounts_user_id FOREIGN KEY (made_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.reports_reportlink
    ADD CONSTRAINT reports_reportlink_brand_id_c48582eb_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.reports_reportlink
    ADD CONSTRAINT reports_reportlink_made_by_id_d45f31f1_fk_accounts_user_id FOREIGN KEY (made_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.reports_reportlink
    ADD CONSTRAINT reports_reportlink_report_id_1a874483_fk_reports_report_id FOREIGN KEY (report_id) REFERENCES public.reports_report(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.reports_reportversion
    ADD CONSTRAINT reports_reportversion_by_id_eea7b82d_fk_accounts_user_id FOREIGN KEY (by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.reports_reportversion
    ADD CONSTRAINT reports_reportversion_report_id_ecc3da98_fk_reports_report_id FOREIGN KEY (report_id) REFERENCES public.reports_report(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.results_finding
    ADD CONSTRAINT results_finding_brand_id_967c44ea_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.results_finding
    ADD CONSTRAINT results_finding_state_by_id_514ab79e_fk_accounts_user_id FOREIGN KEY (state_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.results_ownmetric
    ADD CONSTRAINT results_ownmetric_brand_id_75ef091c_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.results_ownmetric
    ADD CONSTRAINT results_ownmetric_created_by_id_a0e5fad2_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.results_posttag
    ADD CONSTRAINT results_posttag_by_id_ba94e4f9_fk_accounts_user_id FOREIGN KEY (by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.results_posttag
    ADD CONSTRAINT results_posttag_post_id_92d8483e_fk_sources_post_id FOREIGN KEY (post_id) REFERENCES public.sources_post(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.results_posttag
    ADD CONSTRAINT results_posttag_rule_id_c5921b23_fk_results_tagrule_id FOREIGN KEY (rule_id) REFERENCES public.results_tagrule(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.results_posttag
    ADD CONSTRAINT results_posttag_tag_id_6a1c37af_fk_results_tag_id FOREIGN KEY (tag_id) REFERENCES public.results_tag(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.results_tag
    ADD CONSTRAINT results_tag_brand_id_7dc9d765_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.results_tagrule
    ADD CONSTRAINT results_tagrule_tag_id_af3ea246_fk_results_tag_id FOREIGN KEY (tag_id) REFERENCES public.results_tag(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.results_target
    ADD CONSTRAINT results_target_brand_id_dff30020_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.results_target
    ADD CONSTRAINT results_target_made_by_id_1f41cb52_fk_accounts_user_id FOREIGN KEY (made_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.site_goal
    ADD CONSTRAINT site_goal_brand_id_6de41d02_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.site_site
    ADD CONSTRAINT site_site_brand_id_1b6a0e5e_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_audiencereading
    ADD CONSTRAINT sources_audienceread_profile_id_fc2dc4f2_fk_sources_p FOREIGN KEY (profile_id) REFERENCES public.sources_profile(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_audiencereading
    ADD CONSTRAINT sources_audiencereading_brand_id_be438fb4_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_collectionrun
    ADD CONSTRAINT sources_collectionrun_brand_id_d47a8b18_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_collectionrun
    ADD CONSTRAINT sources_collectionrun_profile_id_36d624a4_fk_sources_profile_id FOREIGN KEY (profile_id) REFERENCES public.sources_profile(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_comment
    ADD CONSTRAINT sources_comment_brand_id_67b1264e_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_comment
    ADD CONSTRAINT sources_comment_post_id_75acd270_fk_sources_post_id FOREIGN KEY (post_id) REFERENCES public.sources_post(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_competitor
    ADD CONSTRAINT sources_competitor_brand_id_0d915045_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_connection
    ADD CONSTRAINT sources_connection_brand_id_debd56ca_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_connection
    ADD CONSTRAINT sources_connection_credential_id_af9823eb_fk_sources_c FOREIGN KEY (credential_id) REFERENCES public.sources_credential(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_connection
    ADD CONSTRAINT sources_connection_renews_id_b7bb1839_fk_sources_profile_id FOREIGN KEY (renews_id) REFERENCES public.sources_profile(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_connection
    ADD CONSTRAINT sources_connection_user_id_b4579fb1_fk_accounts_user_id FOREIGN KEY (user_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_credential
    ADD CONSTRAINT sources_credential_brand_id_efcb9205_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_feed
    ADD CONSTRAINT sources_feed_brand_id_9238383d_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_feeditem
    ADD CONSTRAINT sources_feeditem_brand_id_36d876dd_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_feeditem
    ADD CONSTRAINT sources_feeditem_feed_id_36f031cb_fk_sources_feed_id FOREIGN KEY (feed_id) REFERENCES public.sources_feed(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_import
    ADD CONSTRAINT sources_import_brand_id_ce4239b1_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_import
    ADD CONSTRAINT sources_import_created_by_id_65ecdf7c_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_import
    ADD CONSTRAINT sources_import_profile_id_ca028b4a_fk_sources_profile_id FOREIGN KEY (profile_id) REFERENCES public.sources_profile(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_importchunk
    ADD CONSTRAINT sources_importchunk_item_id_40f5ef3e_fk_sources_import_id FOREIGN KEY (item_id) REFERENCES public.sources_import(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_importproblem
    ADD CONSTRAINT sources_importproblem_item_id_124debaf_fk_sources_import_id FOREIGN KEY (item_id) REFERENCES public.sources_import(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_peerset
    ADD CONSTRAINT sources_peerset_brand_id_3a3c0f15_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_peerset
    ADD CONSTRAINT sources_peerset_made_by_id_3bd13ea0_fk_accounts_user_id FOREIGN KEY (made_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_peerset_profiles
    ADD CONSTRAINT sources_peerset_prof_peerset_id_108ba1a0_fk_sources_p FOREIGN KEY (peerset_id) REFERENCES public.sources_peerset(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_peerset_profiles
    ADD CONSTRAINT sources_peerset_prof_profile_id_afc26619_fk_sources_p FOREIGN KEY (profile_id) REFERENCES public.sources_profile(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_post
    ADD CONSTRAINT sources_post_brand_id_423cbb2e_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_post
    ADD CONSTRAINT sources_post_campaign_id_a25c7f83_fk_brands_campaign_id FOREIGN KEY (campaign_id) REFERENCES public.brands_campaign(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_post
    ADD CONSTRAINT sources_post_first_import_id_937c0630_fk_sources_import_id FOREIGN KEY (first_import_id) REFERENCES public.sources_import(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_post
    ADD CONSTRAINT sources_post_profile_id_e7379062_fk_sources_profile_id FOREIGN KEY (profile_id) REFERENCES public.sources_profile(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_postreading
    ADD CONSTRAINT sources_postreading_brand_id_140e9171_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_postreading
    ADD CONSTRAINT sources_postreading_post_id_31564a30_fk_sources_post_id FOREIGN KEY (post_id) REFERENCES public.sources_post(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_presencereading
    ADD CONSTRAINT sources_presenceread_profile_id_047daed6_fk_sources_p FOREIGN KEY (profile_id) REFERENCES public.sources_profile(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_presencereading
    ADD CONSTRAINT sources_presencereading_brand_id_7cee3029_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_profile
    ADD CONSTRAINT sources_profile_brand_id_4679c9cd_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_profile
    ADD CONSTRAINT sources_profile_competitor_id_8089c106_fk_sources_competitor_id FOREIGN KEY (competitor_id) REFERENCES public.sources_competitor(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_profile
    ADD CONSTRAINT sources_profile_credential_id_fa9b4f10_fk_sources_credential_id FOREIGN KEY (credential_id) REFERENCES public.sources_credential(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_profilereading
    ADD CONSTRAINT sources_profilereadi_profile_id_9c96370a_fk_sources_p FOREIGN KEY (profile_id) REFERENCES public.sources_profile(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_profilereading
    ADD CONSTRAINT sources_profilereading_brand_id_59a72924_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_profilerebuild
    ADD CONSTRAINT sources_profilerebui_profile_id_25da2a33_fk_sources_p FOREIGN KEY (profile_id) REFERENCES public.sources_profile(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.sources_profilerebuild
    ADD CONSTRAINT sources_profilerebuild_brand_id_f7feb14a_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.timing_estimate
    ADD CONSTRAINT timing_estimate_brand_id_ca838d77_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.timing_rhythm
    ADD CONSTRAINT timing_rhythm_brand_id_ade65723_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.timing_rhythm
    ADD CONSTRAINT timing_rhythm_kept_by_id_fc44e3be_fk_accounts_user_id FOREIGN KEY (kept_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.timing_rhythm
    ADD CONSTRAINT timing_rhythm_profile_id_511e47d2_fk_sources_profile_id FOREIGN KEY (profile_id) REFERENCES public.sources_profile(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.timing_standingslot
    ADD CONSTRAINT timing_standingslot_rhythm_id_af7a1c90_fk_timing_rhythm_id FOREIGN KEY (rhythm_id) REFERENCES public.timing_rhythm(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.timing_trial
    ADD CONSTRAINT timing_trial_brand_id_8159dcd2_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.timing_trial
    ADD CONSTRAINT timing_trial_made_by_id_2e0675f9_fk_accounts_user_id FOREIGN KEY (made_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.timing_trialprofile
    ADD CONSTRAINT timing_trialprofile_profile_id_9c0ce7e8_fk_sources_profile_id FOREIGN KEY (profile_id) REFERENCES public.sources_profile(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.timing_trialprofile
    ADD CONSTRAINT timing_trialprofile_trial_id_d0507e88_fk_timing_trial_id FOREIGN KEY (trial_id) REFERENCES public.timing_trial(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.webhooks_hookdelivery
    ADD CONSTRAINT webhooks_hookdeliver_event_id_dab45392_fk_webhooks_ FOREIGN KEY (event_id) REFERENCES public.webhooks_hookevent(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.webhooks_hookdelivery
    ADD CONSTRAINT webhooks_hookdeliver_webhook_id_ecc119eb_fk_webhooks_ FOREIGN KEY (webhook_id) REFERENCES public.webhooks_webhook(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.webhooks_hookevent
    ADD CONSTRAINT webhooks_hookevent_brand_id_62ad3f0c_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.webhooks_webhook
    ADD CONSTRAINT webhooks_webhook_brand_id_a4ece80c_fk_brands_brand_id FOREIGN KEY (brand_id) REFERENCES public.brands_brand(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.webhooks_webhook
    ADD CONSTRAINT webhooks_webhook_made_by_id_7f8f1259_fk_accounts_user_id FOREIGN KEY (made_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
