-- name: keep
INSERT INTO price_files (catalogue_id, key, content) VALUES (%(catalogue)s, %(key)s, %(content)s)
ON CONFLICT (catalogue_id, key) DO UPDATE SET at = now()

-- name: drop_older
DELETE FROM price_files WHERE catalogue_id = %(catalogue)s AND at < now() - interval '1 day'

-- name: load
SELECT content FROM price_files WHERE catalogue_id = %(catalogue)s AND key = %(key)s
