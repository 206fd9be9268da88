-- openings in walls, the own ground, what cameras are to see and how each looks, and where the site is
CREATE TABLE openings (
    project_id  bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id          integer NOT NULL,
    floor_id    integer NOT NULL,
    kind        text NOT NULL CHECK (kind IN ('window', 'door', 'gate', 'hatch')),
    name        text NOT NULL,
    x_m         double precision NOT NULL,
    y_m         double precision NOT NULL,
    width_m     double precision NOT NULL CHECK (width_m > 0),
    sill_m      double precision,
    head_m      double precision,
    see_through boolean,
    material    text,
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, floor_id) REFERENCES floors (project_id, id) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE plots (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    name       text NOT NULL,
    outline    jsonb NOT NULL,
    PRIMARY KEY (project_id, id)
);

CREATE TABLE views (
    project_id    bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id            integer NOT NULL,
    drop_id       integer NOT NULL,
    name          text NOT NULL,
    across_px     integer CHECK (across_px > 0),
    down_px       integer CHECK (down_px > 0),
    field_deg     double precision CHECK (field_deg > 0 AND field_deg <= 360),
    focal_mm      double precision CHECK (focal_mm > 0),
    sensor_mm     double precision CHECK (sensor_mm > 0),
    narrowest_deg double precision CHECK (narrowest_deg > 0 AND narrowest_deg <= 360),
    projection    text CHECK (projection IN ('rectilinear', 'equidistant', 'round')),
    bearing_deg   double precision CHECK (bearing_deg >= 0 AND bearing_deg < 360),
    tilt_deg      double precision CHECK (tilt_deg BETWEEN -90 AND 90),
    light_m       double precision CHECK (light_m >= 0),
    bracket_m     double precision CHECK (bracket_m >= 0),
    masks         jsonb NOT NULL,
    still         text,
    still_day     date,
    unseen        text NOT NULL,
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, drop_id) REFERENCES drops (project_id, id) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE targets (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    name       text NOT NULL,
    floor_id   integer NOT NULL,
    shape      text NOT NULL CHECK (shape IN ('spot', 'line', 'area')),
    points     jsonb NOT NULL,
    detail     text NOT NULL CHECK (detail IN ('detect', 'observe', 'recognise', 'identify')),
    looked_at  text NOT NULL CHECK (looked_at IN ('face', 'plate', 'ground')),
    height_m   double precision,
    note       text NOT NULL,
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, floor_id) REFERENCES floors (project_id, id) DEFERRABLE INITIALLY DEFERRED
);

ALTER TABLE walls
    ADD COLUMN height_m double precision CHECK (height_m > 0);

ALTER TABLE goals
    ADD COLUMN target_ids integer[] NOT NULL DEFAULT '{}';

ALTER TABLE settings
    ADD COLUMN latitude_deg double precision CHECK (latitude_deg BETWEEN -90 AND 90),
    ADD COLUMN longitude_deg double precision CHECK (longitude_deg BETWEEN -180 AND 180),
    ADD COLUMN time_zone text NOT NULL DEFAULT 'UTC',
    ADD COLUMN north_deg double precision CHECK (north_deg >= 0 AND north_deg < 360);
