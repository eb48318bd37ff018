SELECT begin, total / count, least, most
FROM instruments_rollup
WHERE channel_id = %s AND step = %s AND begin BETWEEN %s AND %s
ORDER BY begin
