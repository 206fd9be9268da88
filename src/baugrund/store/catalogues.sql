-- name: list
SELECT c.id, e.name, c.currency, c.shipped, c.edition, e.priced_on, e.at,
       (SELECT count(*) FROM catalogue_lines l WHERE l.catalogue_id = c.id AND l.until IS NULL) AS lines,
       (SELECT count(*) FROM price_lists p WHERE p.catalogue_id = c.id) AS projects
FROM catalogues c JOIN catalogue_editions e ON e.catalogue_id = c.id AND e.number = c.edition
ORDER BY c.shipped DESC, e.name

-- name: create
INSERT INTO catalogues (name, currency, shipped) VALUES (%(name)s, %(currency)s, %(shipped)s) RETURNING id

-- name: lock
SELECT edition FROM catalogues WHERE id = %(catalogue)s FOR UPDATE

-- name: head
SELECT c.id, e.name, c.currency, c.shipped, e.number, e.priced_on, e.tax, c.edition AS newest
FROM catalogues c JOIN catalogue_editions e ON e.catalogue_id = c.id
WHERE c.id = %(catalogue)s AND e.number = coalesce(%(edition)s, c.edition)

-- name: lines
SELECT model FROM catalogue_lines
WHERE catalogue_id = %(catalogue)s AND since <= %(edition)s AND (until IS NULL OR until > %(edition)s)
ORDER BY place, key

-- name: places
SELECT key, place FROM catalogue_lines WHERE catalogue_id = %(catalogue)s AND until IS NULL

-- name: touched_since
SELECT key FROM catalogue_lines
WHERE catalogue_id = %(catalogue)s AND (since > %(edition)s OR until > %(edition)s)

-- name: end_lines
UPDATE catalogue_lines SET until = %(edition)s
WHERE catalogue_id = %(catalogue)s AND until IS NULL AND key = ANY(%(keys)s)

-- name: add_lines
INSERT INTO catalogue_lines (catalogue_id, key, since, place, model)
SELECT %(catalogue)s, line ->> 'key', %(edition)s, (line ->> 'place')::integer, line -> 'model'
FROM jsonb_array_elements(%(lines)s) AS line

-- name: copy_lines
INSERT INTO catalogue_lines (catalogue_id, key, since, place, model)
SELECT %(catalogue)s, key, 1, place, model FROM catalogue_lines
WHERE catalogue_id = %(from)s AND since <= %(edition)s AND (until IS NULL OR until > %(edition)s)

-- name: add_edition
INSERT INTO catalogue_editions (catalogue_id, number, name, priced_on, tax, account, told)
VALUES (%(catalogue)s, %(edition)s, %(name)s, %(priced_on)s, %(tax)s, %(account)s, %(told)s)

-- name: raise
UPDATE catalogues SET edition = %(edition)s, name = %(name)s WHERE id = %(catalogue)s

-- name: editions
SELECT number, name, priced_on, account, told, at FROM catalogue_editions
WHERE catalogue_id = %(catalogue)s ORDER BY number DESC LIMIT 200

-- name: delete
DELETE FROM catalogues WHERE id = %(catalogue)s RETURNING id

-- name: shipped
SELECT id FROM catalogues WHERE shipped FOR UPDATE
