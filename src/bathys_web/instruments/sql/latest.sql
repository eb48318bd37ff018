SELECT c.id, r.at, r.value
FROM unnest(%s::bigint[]) AS c(id)
CROSS JOIN LATERAL (
    SELECT at, value FROM instruments_reading
    WHERE channel_id = c.id ORDER BY at DESC LIMIT 1
) AS r
