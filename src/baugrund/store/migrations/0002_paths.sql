-- ways for cable: paths, what they ask, what cable there is; and what a run is told by hand

ALTER TABLE settings
    ADD COLUMN route_by text NOT NULL DEFAULT 'length' CHECK (route_by IN ('length', 'hours', 'cost')),
    ADD COLUMN closet_loop_m double precision NOT NULL DEFAULT 3 CHECK (closet_loop_m BETWEEN 0 AND 20),
    ADD COLUMN jack_loop_m double precision NOT NULL DEFAULT 0.5 CHECK (jack_loop_m BETWEEN 0 AND 20),
    ADD COLUMN ceiling_loop_m double precision NOT NULL DEFAULT 1.5 CHECK (ceiling_loop_m BETWEEN 0 AND 20),
    ADD COLUMN hour_minor integer NOT NULL DEFAULT 4500 CHECK (hour_minor >= 0),
    ADD COLUMN hours_per_end double precision NOT NULL DEFAULT 0.25 CHECK (hours_per_end BETWEEN 0 AND 20);

ALTER TABLE buildings
    ADD COLUMN detour double precision NOT NULL DEFAULT 1 CHECK (detour BETWEEN 1 AND 3);

CREATE TABLE paths (
    project_id    bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id            integer NOT NULL,
    name          text NOT NULL CHECK (name <> ''),
    kind          text NOT NULL,
    floor_id      integer NOT NULL,
    to_floor_id   integer CHECK (to_floor_id <> floor_id),
    points        jsonb NOT NULL,
    height_m      double precision,
    temperature_c double precision CHECK (temperature_c BETWEEN -40 AND 90),
    inner_mm      double precision CHECK (inner_mm > 0),
    width_mm      double precision CHECK (width_mm > 0),
    depth_mm      double precision CHECK (depth_mm > 0),
    with_mains    boolean NOT NULL,
    pull_points   integer NOT NULL CHECK (pull_points BETWEEN 0 AND 50),
    existing      boolean NOT NULL,
    note          text NOT NULL,
    PRIMARY KEY (project_id, id),
    CHECK ((width_mm IS NULL) = (depth_mm IS NULL)),
    FOREIGN KEY (project_id, floor_id) REFERENCES floors DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (project_id, to_floor_id) REFERENCES floors DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE path_rates (
    project_id  bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id          integer NOT NULL,
    kind        text NOT NULL,
    difficulty  integer CHECK (difficulty BETWEEN 1 AND 5),
    hours_per_m double precision CHECK (hours_per_m BETWEEN 0 AND 20),
    tools       text,
    caution     text,
    PRIMARY KEY (project_id, id)
);

CREATE TABLE cables (
    project_id  bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id          integer NOT NULL,
    category    text NOT NULL CHECK (category IN ('5', '5e', '6', '6A')),
    outdoor     boolean NOT NULL,
    screened    boolean NOT NULL,
    box_m       double precision NOT NULL CHECK (box_m BETWEEN 10 AND 2000),
    price_minor integer NOT NULL CHECK (price_minor >= 0),
    diameter_mm double precision NOT NULL CHECK (diameter_mm BETWEEN 2 AND 20),
    rated_c     double precision NOT NULL,
    PRIMARY KEY (project_id, id)
);

CREATE TABLE colours (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    kind       text NOT NULL,
    colour     text NOT NULL CHECK (colour <> ''),
    PRIMARY KEY (project_id, id)
);

ALTER TABLE drops
    ADD COLUMN screened boolean NOT NULL DEFAULT false,
    ADD COLUMN via_id integer,
    ADD COLUMN avoid_ids integer[] NOT NULL DEFAULT '{}',
    ADD COLUMN built_x_m double precision,
    ADD COLUMN built_y_m double precision,
    ADD COLUMN built_why text NOT NULL DEFAULT '',
    ADD CHECK ((built_x_m IS NULL) = (built_y_m IS NULL)),
    ADD FOREIGN KEY (project_id, via_id) REFERENCES paths DEFERRABLE INITIALLY DEFERRED;
