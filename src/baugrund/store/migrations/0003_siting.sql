-- where closets go and how they are linked, landmarks for setting out, what is pulled already

ALTER TABLE settings
    ADD COLUMN most_closets integer NOT NULL DEFAULT 3 CHECK (most_closets BETWEEN 1 AND 6),
    ADD COLUMN closet_drops integer CHECK (closet_drops BETWEEN 1 AND 10000),
    ADD COLUMN longest_run_m double precision NOT NULL DEFAULT 90 CHECK (longest_run_m BETWEEN 5 AND 90),
    ADD COLUMN closet_minor integer NOT NULL DEFAULT 65000 CHECK (closet_minor >= 0),
    ADD COLUMN keep_head_end boolean NOT NULL DEFAULT false,
    ADD COLUMN link_by text NOT NULL DEFAULT 'price' CHECK (link_by IN ('price', 'fibre', 'copper')),
    ADD COLUMN spare_strands integer NOT NULL DEFAULT 2 CHECK (spare_strands BETWEEN 0 AND 24),
    ADD COLUMN strand_end_minor integer NOT NULL DEFAULT 1400 CHECK (strand_end_minor >= 0),
    ADD COLUMN further_percent double precision NOT NULL DEFAULT 25 CHECK (further_percent BETWEEN 0 AND 100),
    ADD COLUMN bundle_most integer NOT NULL DEFAULT 24 CHECK (bundle_most BETWEEN 1 AND 100);

ALTER TABLE closets
    ADD COLUMN fed_by_id integer CHECK (fed_by_id <> id),
    ADD COLUMN link text NOT NULL DEFAULT '' CHECK (link IN ('', 'copper', 'fibre')),
    ADD COLUMN link_m double precision CHECK (link_m > 0),
    ADD FOREIGN KEY (project_id, fed_by_id) REFERENCES closets DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE drops
    ADD COLUMN pulled boolean NOT NULL DEFAULT false;

CREATE TABLE candidates (
    project_id   bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id           integer NOT NULL,
    room_id      integer NOT NULL,
    x_m          double precision,
    y_m          double precision,
    cool         boolean,
    dry          boolean,
    both_sides   boolean,
    room_to_grow boolean,
    socket       boolean,
    ruled_out    boolean NOT NULL,
    PRIMARY KEY (project_id, id),
    CHECK ((x_m IS NULL) = (y_m IS NULL)),
    FOREIGN KEY (project_id, room_id) REFERENCES rooms DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE landmarks (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    name       text NOT NULL CHECK (name <> ''),
    floor_id   integer NOT NULL,
    x_m        double precision NOT NULL,
    y_m        double precision NOT NULL,
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, floor_id) REFERENCES floors DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE fibres (
    project_id  bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id          integer NOT NULL,
    grade       text NOT NULL CHECK (grade IN ('OM3', 'OM4', 'OS2')),
    strands     integer NOT NULL CHECK (strands IN (4, 8, 12, 24)),
    minor_per_m integer NOT NULL CHECK (minor_per_m >= 0),
    PRIMARY KEY (project_id, id)
);
