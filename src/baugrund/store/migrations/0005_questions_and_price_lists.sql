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

ALTER TABLE settings
    ADD COLUMN kwh_minor double precision NOT NULL DEFAULT 30 CHECK (kwh_minor BETWEEN 0 AND 10000),
    ADD COLUMN cords text NOT NULL DEFAULT 'usual' CHECK (cords IN ('usual', 'thin')),
    ADD COLUMN room_ports text NOT NULL DEFAULT 'cables' CHECK (room_ports IN ('cables', 'switch'));

-- price lists: a line is never changed; the one that replaces it begins where it ends
CREATE TABLE catalogues (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    name       text NOT NULL UNIQUE,
    currency   text NOT NULL CHECK (currency ~ '^[A-Z]{3}$'),
    shipped    boolean NOT NULL DEFAULT false,
    edition    integer NOT NULL DEFAULT 1
);

CREATE TABLE catalogue_editions (
    catalogue_id bigint NOT NULL REFERENCES catalogues ON DELETE CASCADE,
    number       integer NOT NULL,
    name         text NOT NULL,
    priced_on    text NOT NULL,
    account      text NOT NULL,
    told         text NOT NULL,
    at           timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (catalogue_id, number)
);

CREATE TABLE catalogue_lines (
    catalogue_id bigint NOT NULL REFERENCES catalogues ON DELETE CASCADE,
    key          text NOT NULL,
    since        integer NOT NULL,
    until        integer,
    place        integer NOT NULL,
    model        jsonb NOT NULL,
    PRIMARY KEY (catalogue_id, key, since)
);
CREATE INDEX ON catalogue_lines (catalogue_id, since, until);

-- which price lists a project is priced with, and as of which edition: these are its copy
CREATE TABLE price_lists (
    project_id   bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id           integer NOT NULL,
    catalogue_id bigint NOT NULL,
    edition      integer NOT NULL,
    PRIMARY KEY (project_id, id),
    UNIQUE (project_id, catalogue_id) DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (catalogue_id, edition) REFERENCES catalogue_editions DEFERRABLE INITIALLY DEFERRED
);
