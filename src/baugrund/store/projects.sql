-- name: list_projects
SELECT p.id, p.name, p.site, p.revision, p.changed_at,
       (SELECT count(*) FROM drops d WHERE d.project_id = p.id) AS drops,
       (SELECT count(*) FROM rooms r WHERE r.project_id = p.id) AS rooms
FROM projects p
ORDER BY p.changed_at DESC, p.id DESC;

-- name: create_project
INSERT INTO projects (name, site, next_id, change_id) VALUES (%(name)s, %(site)s, %(next_id)s, %(change_id)s)
ON CONFLICT (change_id) DO NOTHING
RETURNING id;

-- name: of_change
SELECT id FROM projects WHERE change_id = %(change_id)s;

-- name: delete_project
DELETE FROM projects WHERE id = %(project)s RETURNING id;

-- name: revision
SELECT revision FROM projects WHERE id = %(project)s;

-- name: lock_project
SELECT revision FROM projects WHERE id = %(project)s FOR UPDATE;

-- name: load_head
SELECT 'head' AS name,
       (SELECT json_build_object('revision', revision, 'name', name, 'site', site, 'next_id', next_id)
        FROM projects WHERE id = %(project)s) AS rows

-- name: put_project
UPDATE projects SET name = %(name)s, site = %(site)s, next_id = greatest(next_id, %(next_id)s) WHERE id = %(project)s;

-- name: raise_revision
UPDATE projects SET revision = revision + 1, changed_at = now() WHERE id = %(project)s RETURNING revision;

-- name: load_rows
-- this and the next two serve every table of rows; its name, key and order are filled in by changes.py
SELECT {name} AS name,
       (SELECT coalesce(json_agg(t ORDER BY {order}), '[]')
        FROM {table} t WHERE t.project_id = %(project)s) AS rows

-- name: remove_rows
DELETE FROM {table} WHERE project_id = %(project)s AND {key} = ANY(%(keys)s)

-- name: put_rows
INSERT INTO {table} SELECT * FROM jsonb_populate_recordset(NULL::{table}, %(rows)s)

-- name: worked_elsewhere
SELECT * FROM worked WHERE project_id <> %(project)s AND count IS NOT NULL ORDER BY project_id, id
