-- Facts of a project, one table a noun; columns are the fields of the core's values.
CREATE TABLE projects (
    id          bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    name        text NOT NULL CHECK (name <> ''),
    site        text NOT NULL,
    next_id     integer NOT NULL CHECK (next_id >= 1),
    revision    bigint NOT NULL DEFAULT 0,
    created_at  timestamptz NOT NULL DEFAULT now(),
    changed_at  timestamptz NOT NULL DEFAULT now()
);

CREATE TABLE settings (
    project_id          bigint PRIMARY KEY REFERENCES projects ON DELETE CASCADE,
    client              text NOT NULL,
    note                text NOT NULL,
    start_year          integer NOT NULL,
    horizon_years       integer NOT NULL CHECK (horizon_years BETWEEN 0 AND 10),
    growth_percent      double precision NOT NULL CHECK (growth_percent BETWEEN 0 AND 200),
    school              text NOT NULL CHECK (school IN ('class', 'rated', 'measured')),
    margin_percent      double precision CHECK (margin_percent BETWEEN 0 AND 200),
    jacks_live          text NOT NULL CHECK (jacks_live IN ('every', 'in_use')),
    separate_networks   boolean NOT NULL,
    chain_allowed       boolean NOT NULL,
    aim                 text NOT NULL CHECK (aim IN ('least_price', 'fewest_boxes', 'most_room', 'least_power')),
    budget_minor        bigint CHECK (budget_minor > 0),
    yearly_budget_minor bigint CHECK (yearly_budget_minor > 0),
    currency            text NOT NULL CHECK (currency ~ '^[A-Z]{3}$'),
    units               text NOT NULL CHECK (units IN ('metric', 'imperial')),
    numbers             text NOT NULL,
    termination         text NOT NULL CHECK (termination IN ('panel', 'direct')),
    pinout              text NOT NULL CHECK (pinout IN ('T568A', 'T568B')),
    boxes               text NOT NULL CHECK (boxes IN ('one', 'separate')),
    labels              text NOT NULL,
    power_up            text NOT NULL CHECK (power_up IN ('street', 'switch'))
);

CREATE TABLE buildings (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    name       text NOT NULL CHECK (name <> ''),
    state      text NOT NULL CHECK (state IN ('open', 'finished', 'mixed')),
    PRIMARY KEY (project_id, id)
);

CREATE TABLE floors (
    project_id       bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id               integer NOT NULL,
    building_id      integer,
    name             text NOT NULL CHECK (name <> ''),
    level            integer NOT NULL CHECK (level BETWEEN -9 AND 99),
    height_m         double precision NOT NULL CHECK (height_m BETWEEN 1.5 AND 30),
    slab_m           double precision NOT NULL CHECK (slab_m BETWEEN 0.02 AND 3),
    ceiling          text NOT NULL,
    construction     text NOT NULL,
    picture          text,
    picture_width_px integer NOT NULL,
    picture_height_px integer NOT NULL,
    picture_m_per_px double precision NOT NULL CHECK (picture_m_per_px > 0),
    picture_x_m      double precision NOT NULL,
    picture_y_m      double precision NOT NULL,
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, building_id) REFERENCES buildings DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE rooms (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    name       text NOT NULL CHECK (name <> ''),
    floor_id   integer NOT NULL,
    outside    boolean NOT NULL,
    position   integer NOT NULL,
    use        text NOT NULL,
    width_m    double precision CHECK (width_m > 0),
    depth_m    double precision CHECK (depth_m > 0),
    outline    jsonb,
    wall       text NOT NULL,
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, floor_id) REFERENCES floors DEFERRABLE INITIALLY DEFERRED
);
CREATE INDEX rooms_of_floor ON rooms (project_id, floor_id);

CREATE TABLE entries (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    name       text NOT NULL CHECK (name <> ''),
    room_id    integer NOT NULL,
    x_m        double precision,
    y_m        double precision,
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, room_id) REFERENCES rooms DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE closets (
    project_id    bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id            integer NOT NULL,
    name          text NOT NULL,
    housing       text NOT NULL CHECK (housing IN ('shelf', 'panel', 'rack')),
    units         integer NOT NULL CHECK (units BETWEEN 1 AND 60),
    depth_mm      integer NOT NULL CHECK (depth_mm BETWEEN 50 AND 1500),
    load_kg       double precision NOT NULL CHECK (load_kg > 0),
    sockets       integer NOT NULL CHECK (sockets BETWEEN 1 AND 60),
    other_sockets integer CHECK (other_sockets BETWEEN 0 AND 60),
    ups_outlets   integer CHECK (ups_outlets BETWEEN 0 AND 60),
    living_space  boolean NOT NULL,
    room_id       integer,
    x_m           double precision,
    y_m           double precision,
    cool          boolean,
    dry           boolean,
    both_sides    boolean,
    room_to_grow  boolean,
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, room_id) REFERENCES rooms DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE own_kinds (
    project_id   bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id           integer NOT NULL,
    name         text NOT NULL CHECK (name <> ''),
    base         text NOT NULL,
    variant      text NOT NULL,
    place        text NOT NULL,
    speed_mbit   integer NOT NULL,
    poe_class    integer CHECK (poe_class BETWEEN 0 AND 8),
    draw_w       double precision NOT NULL CHECK (draw_w BETWEEN 0 AND 100),
    traffic_mbit double precision CHECK (traffic_mbit BETWEEN 0 AND 10000),
    PRIMARY KEY (project_id, id)
);

CREATE TABLE drops (
    project_id     bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id             integer NOT NULL,
    room_id        integer NOT NULL,
    closet_id      integer NOT NULL,
    kind           text NOT NULL,
    variant        text NOT NULL,
    own_kind_id    integer,
    behind_id      integer CHECK (behind_id <> id),
    label          text NOT NULL,
    place          text NOT NULL,
    purpose        text NOT NULL,
    in_use         boolean NOT NULL,
    speed_mbit     integer NOT NULL CHECK (speed_mbit IN (100, 1000, 2500, 5000, 10000)),
    poe_class      integer CHECK (poe_class BETWEEN 0 AND 8),
    supply         text NOT NULL,
    socket         boolean,
    power_only     boolean NOT NULL,
    draw_w         double precision NOT NULL CHECK (draw_w BETWEEN 0 AND 100),
    measured_w     double precision CHECK (measured_w BETWEEN 0 AND 100),
    traffic_mbit   double precision CHECK (traffic_mbit BETWEEN 0 AND 10000),
    megapixels     double precision CHECK (megapixels > 0),
    run_m          double precision CHECK (run_m > 0 AND run_m <= 10000),
    category       text NOT NULL CHECK (category IN ('5', '5e', '6', '6A')),
    outdoor_jacket boolean NOT NULL,
    environment    text NOT NULL,
    surface        text NOT NULL,
    existing       boolean NOT NULL,
    large_frames   boolean NOT NULL,
    x_m            double precision,
    y_m            double precision,
    height_m       double precision,
    note           text NOT NULL,
    photos         text[] NOT NULL,
    PRIMARY KEY (project_id, id),
    CHECK ((x_m IS NULL) = (y_m IS NULL)),
    FOREIGN KEY (project_id, room_id) REFERENCES rooms DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (project_id, closet_id) REFERENCES closets DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (project_id, own_kind_id) REFERENCES own_kinds DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (project_id, behind_id) REFERENCES drops DEFERRABLE INITIALLY DEFERRED
);
CREATE INDEX drops_of_room ON drops (project_id, room_id);
CREATE INDEX drops_behind ON drops (project_id, behind_id);

CREATE TABLE lines (
    project_id   bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id           integer NOT NULL,
    name         text NOT NULL,
    kind         text NOT NULL,
    down_mbit    integer NOT NULL CHECK (down_mbit > 0),
    up_mbit      integer NOT NULL CHECK (up_mbit > 0),
    source       text NOT NULL,
    as_of        date,
    handoff_mbit integer NOT NULL CHECK (handoff_mbit > 0),
    box          text NOT NULL CHECK (box IN ('none', 'modem', 'bridged', 'routing')),
    box_wifi     boolean NOT NULL,
    television   boolean NOT NULL,
    series_kept  boolean NOT NULL,
    entry_id     integer,
    way_planned  boolean NOT NULL,
    standby      boolean NOT NULL,
    yearly_minor bigint NOT NULL CHECK (yearly_minor >= 0),
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, entry_id) REFERENCES entries DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE goals (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    kind       text NOT NULL,
    room_ids   integer[] NOT NULL,
    level      double precision,
    note       text NOT NULL,
    PRIMARY KEY (project_id, id)
);

CREATE TABLE clients (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    name       text NOT NULL CHECK (name <> ''),
    count      integer NOT NULL CHECK (count BETWEEN 1 AND 10000),
    at_once    integer CHECK (at_once BETWEEN 0 AND 10000),
    band_2     boolean NOT NULL,
    band_5     boolean NOT NULL,
    band_6     boolean NOT NULL,
    generation text NOT NULL,
    mobile     boolean NOT NULL,
    PRIMARY KEY (project_id, id)
);

CREATE TABLE services (
    project_id   bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id           integer NOT NULL,
    kind         text NOT NULL,
    must_survive boolean NOT NULL,
    room_ids     integer[] NOT NULL,
    nameplate    text NOT NULL,
    note         text NOT NULL,
    PRIMARY KEY (project_id, id)
);

CREATE TABLE kit (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    name       text NOT NULL CHECK (name <> ''),
    model      text,
    count      integer NOT NULL CHECK (count BETWEEN 1 AND 500),
    fate       text NOT NULL CHECK (fate IN ('kept', 'replaced', 'later')),
    phase      text NOT NULL,
    note       text NOT NULL,
    PRIMARY KEY (project_id, id)
);

CREATE TABLE measures (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    name       text NOT NULL CHECK (name <> ''),
    owner      text NOT NULL,
    phase      text NOT NULL,
    ended      boolean NOT NULL,
    PRIMARY KEY (project_id, id)
);

CREATE TABLE declined (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    advice     text NOT NULL CHECK (advice <> ''),
    day        date,
    by         text NOT NULL,
    PRIMARY KEY (project_id, id)
);

CREATE TABLE duties (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    task       text NOT NULL CHECK (task <> ''),
    who        text NOT NULL,
    PRIMARY KEY (project_id, id)
);

CREATE TABLE additions (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    kind       text NOT NULL,
    count      integer NOT NULL CHECK (count BETWEEN 1 AND 500),
    years      integer NOT NULL CHECK (years BETWEEN 1 AND 10),
    PRIMARY KEY (project_id, id)
);

CREATE TABLE growth_rates (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    kind       text NOT NULL,
    percent    double precision NOT NULL CHECK (percent BETWEEN 0 AND 200),
    PRIMARY KEY (project_id, kind)
);

CREATE TABLE stances (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    model      text NOT NULL,
    pinned     integer NOT NULL CHECK (pinned BETWEEN 0 AND 50),
    excluded   boolean NOT NULL,
    held       integer NOT NULL CHECK (held BETWEEN 0 AND 50),
    PRIMARY KEY (project_id, model)
);

-- Every accepted edit with the rows before and after it; undo and redo replay it.
CREATE TABLE journal (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    revision   bigint NOT NULL,
    account    text NOT NULL,
    at         timestamptz NOT NULL DEFAULT now(),
    act        text NOT NULL CHECK (act IN ('edit', 'undo', 'redo')),
    told       text NOT NULL,
    edits      jsonb NOT NULL,
    changes    jsonb NOT NULL,
    state      text NOT NULL DEFAULT 'done' CHECK (state IN ('done', 'undone', 'dropped')),
    PRIMARY KEY (project_id, revision)
);
CREATE INDEX journal_of_account ON journal (project_id, account, state, revision) WHERE act = 'edit';

-- The last answer of each aim: the boxes that the ground stands on until the next one is found.
CREATE TABLE last_picks (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    aim        text NOT NULL,
    revision   bigint NOT NULL,
    answer     jsonb NOT NULL,
    PRIMARY KEY (project_id, aim)
);

-- Pictures by the SHA-256 of their content; facts name them by it.
CREATE TABLE pictures (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    key        text NOT NULL CHECK (key ~ '^[0-9a-f]{64}$'),
    media_type text NOT NULL CHECK (media_type IN ('image/png', 'image/jpeg', 'image/svg+xml')),
    width_px   integer NOT NULL,
    height_px  integer NOT NULL,
    content    bytea NOT NULL,
    PRIMARY KEY (project_id, key)
);
