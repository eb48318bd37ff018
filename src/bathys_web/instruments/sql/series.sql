SELECT channel_id, extract(epoch FROM begin)::float8, total / count
FROM instruments_rollup
WHERE channel_id = ANY(%s) AND step = 60 AND begin BETWEEN %s AND %s
ORDER BY channel_id, begin
