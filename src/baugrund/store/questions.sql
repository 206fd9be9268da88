-- name: lock
SELECT pg_advisory_xact_lock(hashtextextended(%(about)s || ' ' || %(question)s, 0))

-- name: find
-- whether a worker lives tells its heartbeat alone: that of the one who has the job, and that of any
SELECT q.revision, q.state, q.job_id, q.progress, q.reply, q.told,
       extract(epoch FROM now() - q.asked_at)::float AS asked_s,
       j.status::text AS job,
       w.last_heartbeat > now() - make_interval(secs => %(silent_s)s) AS has_worker,
       EXISTS (SELECT FROM procrastinate_workers
               WHERE last_heartbeat > now() - make_interval(secs => %(silent_s)s)) AS attended
FROM questions q
LEFT JOIN procrastinate_jobs j ON j.id = q.job_id
LEFT JOIN procrastinate_workers w ON w.id = j.worker_id
WHERE q.about = %(about)s AND q.question = %(question)s

-- name: ask
INSERT INTO questions (project_id, catalogue_id, question, revision, state, job_id)
VALUES (%(project)s, %(catalogue)s, %(question)s, %(revision)s, 'waiting', %(job)s)
ON CONFLICT (about, question) DO UPDATE
SET revision = excluded.revision, state = 'waiting', job_id = excluded.job_id, progress = NULL, reply = NULL, told = '',
    asked_at = now(), seen_at = now()

-- name: take_up
-- of two jobs on one question the later one counts
UPDATE questions SET state = 'working', revision = %(revision)s, seen_at = now()
WHERE about = %(about)s AND question = %(question)s AND job_id = %(job)s AND state IN ('waiting', 'working')
RETURNING revision

-- name: report
UPDATE questions SET progress = %(progress)s, seen_at = now()
WHERE about = %(about)s AND question = %(question)s AND job_id = %(job)s AND state = 'working'
RETURNING revision

-- name: draft
-- a reply to see until the one that is worked on is there
UPDATE questions SET reply = %(reply)s, seen_at = now()
WHERE about = %(about)s AND question = %(question)s AND job_id = %(job)s AND state = 'working'
RETURNING revision

-- name: settle
UPDATE questions SET state = %(state)s, reply = %(reply)s, told = %(told)s, progress = NULL, seen_at = now()
WHERE about = %(about)s AND question = %(question)s AND job_id = %(job)s AND state = 'working'
RETURNING revision

-- name: stop
UPDATE questions SET state = 'stopped', progress = NULL
WHERE about = %(about)s AND question = %(question)s AND state IN ('waiting', 'working')
RETURNING job_id, revision

-- name: forget
DELETE FROM questions WHERE about = %(about)s AND question = %(question)s

-- name: forget_older
-- what was asked about a catalogue long ago is not looked at again
DELETE FROM questions
WHERE catalogue_id = %(catalogue)s AND state NOT IN ('waiting', 'working') AND seen_at < now() - interval '1 day'

-- name: announce
SELECT pg_notify('baugrund_edits', %(message)s)
