-- what was asked about a project and takes more than a moment: who works on it, how far it is, what came out
CREATE TABLE questions (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    question   text NOT NULL,
    revision   integer NOT NULL,
    state      text NOT NULL CHECK (state IN ('waiting', 'working', 'done', 'stopped', 'failed')),
    job_id     bigint,
    progress   jsonb,
    reply      jsonb,
    told       text NOT NULL DEFAULT '',
    asked_at   timestamptz NOT NULL DEFAULT now(),
    seen_at    timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (project_id, question)
);
