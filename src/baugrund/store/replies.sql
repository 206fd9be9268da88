-- name: find
UPDATE replies SET seen_at = now() WHERE mark = %(mark)s RETURNING reply

-- name: keep
INSERT INTO replies (mark, reply) VALUES (%(mark)s, %(reply)s) ON CONFLICT (mark) DO NOTHING

-- name: forget
DELETE FROM replies WHERE mark IN (SELECT mark FROM replies ORDER BY seen_at DESC OFFSET %(most)s)
