-- what runs on the network that is there and how it is moved over; tools of the owner's own work
CREATE TABLE running (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    name       text NOT NULL CHECK (name <> ''),
    kind       text NOT NULL CHECK (kind IN ('internet', 'wifi', 'wired', 'recording', 'printing', 'telephone',
                                             'television', 'alarm', 'doorbell', 'other')),
    room_ids   integer[] NOT NULL,
    must_stay  boolean NOT NULL,
    most_min   double precision CHECK (most_min >= 0),
    "when"     text NOT NULL,
    meanwhile  text NOT NULL,
    PRIMARY KEY (project_id, id)
);

CREATE TABLE move_terms (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    step       text NOT NULL CHECK (step <> ''),
    minutes    double precision CHECK (minutes >= 0),
    way_back   text NOT NULL,
    PRIMARY KEY (project_id, id),
    UNIQUE (project_id, step) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE own_tools (
    project_id  bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id          integer NOT NULL,
    tool        text NOT NULL CHECK (tool <> ''),
    there       boolean NOT NULL,
    buy_minor   integer CHECK (buy_minor >= 0),
    hire_minor  integer CHECK (hire_minor >= 0),
    PRIMARY KEY (project_id, id),
    UNIQUE (project_id, tool) DEFERRABLE INITIALLY DEFERRED
);
