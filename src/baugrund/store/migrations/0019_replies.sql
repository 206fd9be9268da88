-- replies that took long, found again by what was asked of what: after an undo, and in a copy
CREATE TABLE replies (
    mark    text PRIMARY KEY,
    reply   jsonb NOT NULL,
    seen_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX ON replies (seen_at);
