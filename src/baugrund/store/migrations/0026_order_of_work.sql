-- what was ticked off while the network is built, devices at the bench, and photos of tests
CREATE TABLE ticks (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    stage      text NOT NULL,
    subjects   text[] NOT NULL,
    at         timestamp,
    by         text NOT NULL,
    ended_in   integer,
    PRIMARY KEY (project_id, id)
);

CREATE TABLE benched (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    subject    text NOT NULL,
    powered    boolean NOT NULL,
    named      boolean NOT NULL,
    updated    boolean NOT NULL,
    version    text NOT NULL,
    serial     text NOT NULL,
    hardware   text NOT NULL,
    at         timestamp,
    by         text NOT NULL,
    PRIMARY KEY (project_id, id)
);

ALTER TABLE run_tests ADD COLUMN photos text[] NOT NULL DEFAULT '{}';
