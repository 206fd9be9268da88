-- the stack: what stands in closets beside the pick, where each thing stands, what must outlive a power cut
CREATE TABLE gear (
    project_id  bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id          integer NOT NULL,
    closet_id   integer NOT NULL,
    kind        text NOT NULL,
    name        text NOT NULL,
    model       text,
    drop_id     integer,
    width_mm    integer CHECK (width_mm > 0),
    units       integer CHECK (units BETWEEN 1 AND 40),
    height_mm   integer CHECK (height_mm > 0),
    depth_mm    integer CHECK (depth_mm >= 0),
    mass_kg     double precision CHECK (mass_kg >= 0),
    draw_w      double precision CHECK (draw_w >= 0),
    noise_dba   double precision CHECK (noise_dba >= 0),
    plug        text CHECK (plug IN ('none', 'cord', 'brick', 'wide_brick')),
    fanless     boolean,
    airflow     text,
    rack        boolean,
    carries_kg  double precision CHECK (carries_kg > 0),
    volts       double precision CHECK (volts > 0),
    ah          double precision CHECK (ah > 0),
    watts_most  double precision CHECK (watts_most > 0),
    va_most     double precision CHECK (va_most > 0),
    outlets     integer CHECK (outlets >= 0),
    free_m3_h   double precision CHECK (free_m3_h > 0),
    note        text NOT NULL,
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, closet_id) REFERENCES closets (project_id, id) DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (project_id, drop_id) REFERENCES drops (project_id, id) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE placings (
    project_id   bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id           integer NOT NULL,
    closet_id    integer NOT NULL,
    thing        text NOT NULL CHECK (thing <> ''),
    unit         integer CHECK (unit > 0),
    face         text NOT NULL CHECK (face IN ('front', 'rear')),
    "on"         text NOT NULL,
    x_mm         integer CHECK (x_mm >= 0),
    y_mm         integer CHECK (y_mm >= 0),
    turned       boolean NOT NULL,
    fixed        boolean NOT NULL,
    outlet       text NOT NULL CHECK (outlet IN ('', 'battery', 'surge', 'mains')),
    shed_percent double precision CHECK (shed_percent > 0 AND shed_percent < 100),
    shutdown_min double precision CHECK (shutdown_min >= 0),
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, closet_id) REFERENCES closets (project_id, id) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE panel_blocks (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    closet_id  integer NOT NULL,
    name       text NOT NULL CHECK (name <> ''),
    x_mm       integer NOT NULL CHECK (x_mm >= 0),
    y_mm       integer NOT NULL CHECK (y_mm >= 0),
    width_mm   integer NOT NULL CHECK (width_mm > 0),
    height_mm  integer NOT NULL CHECK (height_mm > 0),
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, closet_id) REFERENCES closets (project_id, id) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE lifelines (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    name       text NOT NULL CHECK (name <> ''),
    drop_id    integer NOT NULL,
    reaches    text NOT NULL CHECK (reaches IN ('internet', 'recorder', 'store')),
    minutes    double precision CHECK (minutes > 0),
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, drop_id) REFERENCES drops (project_id, id) DEFERRABLE INITIALLY DEFERRED
);

ALTER TABLE closets
    ADD COLUMN warm_c           double precision,
    ADD COLUMN is_open          boolean NOT NULL DEFAULT false,
    ADD COLUMN cord_space_mm    integer NOT NULL DEFAULT 60 CHECK (cord_space_mm >= 0),
    ADD COLUMN free_sides       integer NOT NULL DEFAULT 2 CHECK (free_sides BETWEEN 0 AND 2),
    ADD COLUMN blocked          text NOT NULL DEFAULT '' CHECK (blocked IN ('', 'left', 'right', 'both')),
    ADD COLUMN front_mm         integer CHECK (front_mm >= 0),
    ADD COLUMN behind_mm        integer CHECK (behind_mm >= 0),
    ADD COLUMN panel_width_mm   integer CHECK (panel_width_mm > 0),
    ADD COLUMN panel_height_mm  integer CHECK (panel_height_mm > 0),
    ADD COLUMN near             text NOT NULL DEFAULT '' CHECK (near IN ('', 'bed', 'living', 'office')),
    ADD COLUMN near_m           double precision NOT NULL DEFAULT 3 CHECK (near_m >= 0),
    ADD COLUMN through          text NOT NULL DEFAULT 'door' CHECK (through IN ('open', 'door', 'stud')),
    ADD COLUMN battery_for      text NOT NULL DEFAULT 'all' CHECK (battery_for IN ('all', 'chosen')),
    ADD COLUMN shed_low_percent double precision CHECK (shed_low_percent > 0 AND shed_low_percent < 100),
    ADD COLUMN amperes_most     double precision NOT NULL DEFAULT 10 CHECK (amperes_most > 0),
    ADD COLUMN keep_free        boolean NOT NULL DEFAULT true;

ALTER TABLE settings
    ADD COLUMN mains_v      double precision NOT NULL DEFAULT 230 CHECK (mains_v BETWEEN 100 AND 250),
    ADD COLUMN cords_weight double precision NOT NULL DEFAULT 1 CHECK (cords_weight >= 0),
    ADD COLUMN hot_weight   double precision NOT NULL DEFAULT 0.02 CHECK (hot_weight >= 0),
    ADD COLUMN heavy_weight double precision NOT NULL DEFAULT 0.2 CHECK (heavy_weight >= 0);
