WITH sent AS (
    SELECT DISTINCT ON (channel_id, at) channel_id, at, value
    FROM unnest(%s::bigint[], %s::timestamptz[], %s::float8[]) AS s(channel_id, at, value)
    ORDER BY channel_id, at
), fresh AS (
    INSERT INTO instruments_reading (channel_id, at, value)
    SELECT channel_id, at, value FROM sent
    ON CONFLICT DO NOTHING
    RETURNING channel_id, at, value
), rolled AS (
    INSERT INTO instruments_rollup AS r (channel_id, step, begin, count, total, least, most)
    SELECT channel_id, step, date_bin(make_interval(secs => step), at, 'epoch'::timestamptz),
        count(*), sum(value), min(value), max(value)
    FROM fresh CROSS JOIN unnest(%s::int[]) AS s(step)
    GROUP BY 1, 2, 3
    ORDER BY 1, 2, 3
    ON CONFLICT (channel_id, step, begin) DO UPDATE SET
        count = r.count + EXCLUDED.count,
        total = r.total + EXCLUDED.total,
        least = LEAST(r.least, EXCLUDED.least),
        most = GREATEST(r.most, EXCLUDED.most)
)
SELECT count(*) FROM fresh
