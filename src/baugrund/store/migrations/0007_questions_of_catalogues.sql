-- questions may be about a catalogue, too; files that came to be read into one wait here until they are
ALTER TABLE questions
    DROP CONSTRAINT questions_pkey,
    ALTER project_id DROP NOT NULL,
    ADD catalogue_id bigint REFERENCES catalogues ON DELETE CASCADE,
    ADD about text GENERATED ALWAYS AS
        (coalesce('project ' || project_id::text, 'catalogue ' || catalogue_id::text)) STORED,
    ADD CHECK (num_nonnulls(project_id, catalogue_id) = 1),
    ADD PRIMARY KEY (about, question);

CREATE INDEX ON questions (project_id);
CREATE INDEX ON questions (catalogue_id);

CREATE TABLE price_files (
    catalogue_id bigint NOT NULL REFERENCES catalogues ON DELETE CASCADE,
    key          text NOT NULL,
    content      bytea NOT NULL,
    at           timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (catalogue_id, key)
);
