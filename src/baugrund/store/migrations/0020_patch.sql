-- networks, what may be opened between them, names of Wi-Fi, and where drops are patched
CREATE TABLE networks (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    name       text NOT NULL CHECK (name <> ''),
    number     integer NOT NULL CHECK (number BETWEEN 1 AND 4094),
    purpose    text NOT NULL,
    internet   boolean NOT NULL,
    way_in     text NOT NULL CHECK (way_in IN ('', 'open', 'password', 'terms', 'voucher')),
    kinds      text[] NOT NULL,
    room_ids   integer[] NOT NULL,
    drop_ids   integer[] NOT NULL,
    hosts      integer CHECK (hosts >= 0),
    growth_percent double precision NOT NULL CHECK (growth_percent >= 0),
    prefix     text NOT NULL,
    gateway    text NOT NULL,
    prefix6    text NOT NULL,
    PRIMARY KEY (project_id, id),
    UNIQUE (project_id, number) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE wifi_names (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    name       text NOT NULL CHECK (name <> ''),
    network_id integer,
    drop_ids   integer[] NOT NULL,
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, network_id) REFERENCES networks (project_id, id) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE permissions (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    from_id    integer NOT NULL,
    to_id      integer NOT NULL,
    access     text NOT NULL CHECK (access IN ('nothing', 'services', 'all')),
    services   text[] NOT NULL,
    reason     text NOT NULL,
    PRIMARY KEY (project_id, id),
    UNIQUE (project_id, from_id, to_id) DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (project_id, from_id) REFERENCES networks (project_id, id) DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (project_id, to_id) REFERENCES networks (project_id, id) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE patches (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    drop_id    integer,
    "end"      text NOT NULL,
    closet_id  integer NOT NULL,
    panel      text NOT NULL,
    position   integer CHECK (position > 0),
    box        text NOT NULL,
    port       integer CHECK (port > 0),
    fixed      boolean NOT NULL,
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, drop_id) REFERENCES drops (project_id, id) DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (project_id, closet_id) REFERENCES closets (project_id, id) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE cable_networks (
    project_id  bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id          integer NOT NULL,
    closet_id   integer NOT NULL,
    cable       integer NOT NULL CHECK (cable > 0),
    network_ids integer[] NOT NULL,
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, closet_id) REFERENCES closets (project_id, id) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE reserved (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    drop_id    integer,
    closet_id  integer,
    thing      text NOT NULL,
    name       text NOT NULL,
    address    text NOT NULL CHECK (address <> ''),
    PRIMARY KEY (project_id, id),
    UNIQUE (project_id, address) DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (project_id, drop_id) REFERENCES drops (project_id, id) DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (project_id, closet_id) REFERENCES closets (project_id, id) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE tunnels (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    name       text NOT NULL CHECK (name <> ''),
    prefix     text NOT NULL CHECK (prefix <> ''),
    PRIMARY KEY (project_id, id)
);

CREATE TABLE printed (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    drop_id    integer,
    text       text NOT NULL CHECK (text <> ''),
    day        date,
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, drop_id) REFERENCES drops (project_id, id) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE stocks (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    name       text NOT NULL CHECK (name <> ''),
    form       text NOT NULL CHECK (form IN ('sheet', 'tape')),
    page       text NOT NULL CHECK (page IN ('A4', 'letter')),
    width_mm   double precision NOT NULL CHECK (width_mm > 0),
    height_mm  double precision NOT NULL CHECK (height_mm > 0),
    print_mm   double precision CHECK (print_mm > 0),
    columns    integer NOT NULL CHECK (columns > 0),
    rows       integer NOT NULL CHECK (rows > 0),
    left_mm    double precision NOT NULL CHECK (left_mm >= 0),
    top_mm     double precision NOT NULL CHECK (top_mm >= 0),
    step_x_mm  double precision CHECK (step_x_mm > 0),
    step_y_mm  double precision CHECK (step_y_mm > 0),
    PRIMARY KEY (project_id, id)
);

CREATE TABLE cord_colours (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    use        text NOT NULL,
    colour     text NOT NULL CHECK (colour <> ''),
    PRIMARY KEY (project_id, id)
);

CREATE TABLE discovered (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    closet_id  integer NOT NULL,
    box        text NOT NULL CHECK (box <> ''),
    port       integer NOT NULL CHECK (port > 0),
    hardware   text NOT NULL,
    name       text NOT NULL,
    up         boolean NOT NULL,
    speed_mbit integer CHECK (speed_mbit >= 0),
    watts      double precision CHECK (watts >= 0),
    number     integer CHECK (number BETWEEN 1 AND 4094),
    mend       boolean NOT NULL,
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, closet_id) REFERENCES closets (project_id, id) DEFERRABLE INITIALLY DEFERRED
);

ALTER TABLE clients ADD COLUMN wifi_name_id integer;
ALTER TABLE clients ADD FOREIGN KEY (project_id, wifi_name_id)
    REFERENCES wifi_names (project_id, id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE lines
    ADD COLUMN wan_address text NOT NULL DEFAULT '',
    ADD COLUMN box_prefix  text NOT NULL DEFAULT '';
ALTER TABLE settings
    ADD COLUMN address_base  text NOT NULL DEFAULT '10.20.0.0/16',
    ADD COLUMN prefix6       text NOT NULL DEFAULT '',
    ADD COLUMN label_stock   text NOT NULL DEFAULT '',
    ADD COLUMN cords_from    text NOT NULL DEFAULT 'bought' CHECK (cords_from IN ('bought', 'home_made')),
    ADD COLUMN cord_category text NOT NULL DEFAULT '6';
