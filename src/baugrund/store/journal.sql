-- name: write_entry
INSERT INTO journal (project_id, revision, account, act, told, edits, changes, change_id)
VALUES (%(project)s, %(revision)s, %(account)s, %(act)s, %(told)s, %(edits)s, %(changes)s, %(change_id)s);

-- name: of_change
SELECT project_id, account, act FROM journal WHERE change_id = %(change_id)s;

-- name: entries_since
SELECT revision, account, edits, changes FROM journal
WHERE project_id = %(project)s AND revision > %(revision)s
ORDER BY revision;

-- name: drop_undone
UPDATE journal SET state = 'dropped'
WHERE project_id = %(project)s AND account = %(account)s AND act = 'edit' AND state = 'undone';

-- name: next_to_undo
SELECT revision, told, changes FROM journal
WHERE project_id = %(project)s AND account = %(account)s AND act = 'edit' AND state = 'done'
ORDER BY revision DESC LIMIT 1;

-- name: next_to_redo
SELECT revision, told, changes FROM journal
WHERE project_id = %(project)s AND account = %(account)s AND act = 'edit' AND state = 'undone'
ORDER BY revision LIMIT 1;

-- name: mark_entry
UPDATE journal SET state = %(state)s WHERE project_id = %(project)s AND revision = %(revision)s;

-- name: history
SELECT revision, account, at, act, told, state FROM journal
WHERE project_id = %(project)s
ORDER BY revision DESC LIMIT %(most)s;

-- name: announce
SELECT pg_notify('baugrund_edits', %(message)s);

-- name: keep_pick
INSERT INTO last_picks (project_id, aim, revision, answer)
VALUES (%(project)s, %(aim)s, %(revision)s, %(answer)s)
ON CONFLICT (project_id, aim) DO UPDATE SET revision = excluded.revision, answer = excluded.answer
WHERE last_picks.revision <= excluded.revision;

-- name: last_pick
SELECT revision, answer FROM last_picks WHERE project_id = %(project)s AND aim = %(aim)s;
