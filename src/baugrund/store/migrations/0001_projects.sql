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
    project_id        bigint PRIMARY KEY REFERENCES projects ON DELETE CASCADE,
    start_year        integer NOT NULL,
    horizon_years     integer NOT NULL CHECK (horizon_years BETWEEN 0 AND 10),
    growth_percent    double precision NOT NULL CHECK (growth_percent BETWEEN 0 AND 200),
    school            text NOT NULL CHECK (school IN ('class', 'rated', 'measured')),
    margin_percent    double precision CHECK (margin_percent BETWEEN 0 AND 200),
    jacks_live        text NOT NULL CHECK (jacks_live IN ('every', 'in_use')),
    separate_networks boolean NOT NULL,
    chain_allowed     boolean NOT NULL,
    aim               text NOT NULL CHECK (aim IN ('least_price', 'fewest_boxes', 'most_room', 'least_power')),
    budget_minor      bigint CHECK (budget_minor > 0),
    currency          text NOT NULL CHECK (currency ~ '^[A-Z]{3}$')
);

CREATE TABLE closets (
    project_id   bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id           integer NOT NULL,
    name         text NOT NULL,
    housing      text NOT NULL CHECK (housing IN ('shelf', 'panel', 'rack')),
    units        integer NOT NULL CHECK (units BETWEEN 1 AND 60),
    depth_mm     integer NOT NULL CHECK (depth_mm BETWEEN 50 AND 1500),
    load_kg      double precision NOT NULL CHECK (load_kg > 0),
    sockets      integer NOT NULL CHECK (sockets BETWEEN 1 AND 60),
    ups_outlets  integer CHECK (ups_outlets BETWEEN 0 AND 60),
    living_space boolean NOT NULL,
    PRIMARY KEY (project_id, id)
);

CREATE TABLE lines (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    name       text NOT NULL,
    down_mbit  integer NOT NULL CHECK (down_mbit > 0),
    up_mbit    integer NOT NULL CHECK (up_mbit > 0),
    standby    boolean NOT NULL,
    PRIMARY KEY (project_id, id)
);

CREATE TABLE rooms (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    name       text NOT NULL CHECK (name <> ''),
    floor      text NOT NULL,
    outside    boolean NOT NULL,
    position   integer NOT NULL,
    PRIMARY KEY (project_id, id)
);

CREATE TABLE drops (
    project_id     bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id             integer NOT NULL,
    room_id        integer NOT NULL,
    closet_id      integer NOT NULL,
    kind           text NOT NULL,
    label          text NOT NULL,
    place          text NOT NULL,
    in_use         boolean NOT NULL,
    speed_mbit     integer NOT NULL CHECK (speed_mbit IN (100, 1000, 2500, 5000, 10000)),
    poe_class      integer CHECK (poe_class BETWEEN 0 AND 8),
    draw_w         double precision NOT NULL CHECK (draw_w BETWEEN 0 AND 100),
    measured_w     double precision CHECK (measured_w BETWEEN 0 AND 100),
    traffic_mbit   double precision CHECK (traffic_mbit BETWEEN 0 AND 10000),
    run_m          double precision CHECK (run_m > 0 AND run_m <= 10000),
    category       text NOT NULL CHECK (category IN ('5', '5e', '6', '6A')),
    outdoor_jacket boolean NOT NULL,
    large_frames   boolean NOT NULL,
    note           text NOT NULL,
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, room_id) REFERENCES rooms DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (project_id, closet_id) REFERENCES closets DEFERRABLE INITIALLY DEFERRED
);
CREATE INDEX drops_of_room ON drops (project_id, room_id);

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
    owned      integer NOT NULL CHECK (owned BETWEEN 0 AND 50),
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
