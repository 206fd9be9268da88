-- what checks showed before the work and after it, and who accepted it
CREATE TABLE acceptance (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    key        text NOT NULL,
    at         timestamp,
    by         text NOT NULL,
    value      double precision,
    met        boolean,
    before     boolean NOT NULL,
    over_air   boolean NOT NULL,
    place      text NOT NULL,
    note       text NOT NULL,
    PRIMARY KEY (project_id, id)
);

CREATE TABLE sign_offs (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    name       text NOT NULL,
    at         timestamp,
    passed     integer NOT NULL,
    failed     integer NOT NULL,
    open       integer NOT NULL,
    note       text NOT NULL,
    PRIMARY KEY (project_id, id)
);
