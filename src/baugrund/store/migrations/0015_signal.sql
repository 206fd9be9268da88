-- radio: how access points are set, what stands in rooms, neighbours, readings, and what they told of this house
CREATE TABLE radios (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    drop_id    integer NOT NULL,
    band       text NOT NULL CHECK (band IN ('2.4', '5', '6')),
    "on"       boolean NOT NULL,
    channel    integer CHECK (channel > 0),
    width_mhz  integer CHECK (width_mhz IN (20, 40, 80, 160)),
    power_dbm  double precision,
    kept       boolean NOT NULL,
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, drop_id) REFERENCES drops (project_id, id) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE obstacles (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    floor_id   integer NOT NULL,
    name       text NOT NULL,
    kind       text NOT NULL CHECK (kind IN ('racking', 'stock', 'machine', 'other')),
    outline    jsonb NOT NULL,
    base_m     double precision NOT NULL CHECK (base_m >= 0),
    height_m   double precision CHECK (height_m > 0),
    loss_2_db  double precision CHECK (loss_2_db BETWEEN 0 AND 60),
    loss_5_db  double precision CHECK (loss_5_db BETWEEN 0 AND 60),
    loss_6_db  double precision CHECK (loss_6_db BETWEEN 0 AND 60),
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, floor_id) REFERENCES floors (project_id, id) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE neighbours (
    project_id   bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id           integer NOT NULL,
    drop_id      integer NOT NULL,
    name         text NOT NULL,
    band         text NOT NULL CHECK (band IN ('2.4', '5', '6')),
    channel      integer NOT NULL CHECK (channel > 0),
    width_mhz    integer NOT NULL CHECK (width_mhz IN (20, 40, 80, 160)),
    dbm          double precision NOT NULL,
    busy_percent double precision CHECK (busy_percent BETWEEN 0 AND 100),
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, drop_id) REFERENCES drops (project_id, id) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE readings (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    walk       text NOT NULL,
    floor_id   integer NOT NULL,
    x_m        double precision NOT NULL,
    y_m        double precision NOT NULL,
    height_m   double precision NOT NULL,
    device     text NOT NULL,
    band       text NOT NULL CHECK (band IN ('2.4', '5', '6')),
    dbm        double precision NOT NULL,
    drop_id    integer,
    generation text,
    link_mbit  double precision CHECK (link_mbit > 0),
    day        date,
    note       text NOT NULL,
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, floor_id) REFERENCES floors (project_id, id) DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (project_id, drop_id) REFERENCES drops (project_id, id) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE losses (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    make       text NOT NULL,
    band       text NOT NULL CHECK (band IN ('2.4', '5', '6')),
    db         double precision NOT NULL CHECK (db BETWEEN 0 AND 60),
    PRIMARY KEY (project_id, id)
);

CREATE TABLE offsets (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    device     text NOT NULL,
    db         double precision NOT NULL CHECK (db BETWEEN -15 AND 15),
    PRIMARY KEY (project_id, id)
);

ALTER TABLE drops
    ADD COLUMN bearing_deg double precision CHECK (bearing_deg >= 0 AND bearing_deg < 360);

ALTER TABLE goals
    ADD COLUMN band text CHECK (band IN ('2.4', '5', '6')),
    ADD COLUMN share_percent double precision CHECK (share_percent > 0 AND share_percent <= 100),
    ADD COLUMN floor_id integer,
    ADD COLUMN area jsonb;

ALTER TABLE clients
    ADD COLUMN streams integer NOT NULL DEFAULT 2 CHECK (streams BETWEEN 1 AND 8),
    ADD COLUMN width_mhz integer CHECK (width_mhz IN (20, 40, 80, 160)),
    ADD COLUMN demand_mbit double precision CHECK (demand_mbit > 0),
    ADD COLUMN room_ids integer[] NOT NULL DEFAULT '{}';

ALTER TABLE settings
    ADD COLUMN region text NOT NULL DEFAULT 'etsi' CHECK (region IN ('etsi', 'fcc')),
    ADD COLUMN avoid_radar boolean NOT NULL DEFAULT false,
    ADD COLUMN sticky_db double precision NOT NULL DEFAULT 8 CHECK (sticky_db BETWEEN 0 AND 40);
