-- name: all
SELECT column_key, value, means FROM meanings WHERE list = %(list)s

-- name: keep
INSERT INTO meanings (list, column_key, value, means) VALUES (%(list)s, %(column)s, %(value)s, %(means)s)
ON CONFLICT (list, column_key, value) DO UPDATE SET means = excluded.means

-- name: forget
DELETE FROM meanings WHERE list = %(list)s AND column_key = %(column)s AND value = %(value)s
