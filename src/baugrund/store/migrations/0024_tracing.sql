-- tracing of unlabelled cable: panels with what is at hand, jacks, and every step in the order in which it was taken
CREATE TABLE trace_sheets (
    project_id     bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id             integer NOT NULL,
    closet_id      integer NOT NULL,
    positions      integer NOT NULL CHECK (positions > 0),
    empty          integer[] NOT NULL,
    panel          text NOT NULL,
    panel_size     integer NOT NULL CHECK (panel_size > 0),
    toner          boolean NOT NULL,
    tester         boolean NOT NULL,
    one_instrument boolean NOT NULL,
    laptop         boolean NOT NULL,
    cords          integer NOT NULL CHECK (cords >= 0),
    reads_table    boolean NOT NULL,
    people         integer NOT NULL CHECK (people IN (1, 2)),
    accept         double precision NOT NULL CHECK (accept <= 1),
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, closet_id) REFERENCES closets (project_id, id) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE traced_jacks (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    closet_id  integer NOT NULL,
    drop_id    integer,
    name       text NOT NULL,
    room_id    integer,
    service    text NOT NULL,
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, closet_id) REFERENCES closets (project_id, id) DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (project_id, drop_id) REFERENCES drops (project_id, id) DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (project_id, room_id) REFERENCES rooms (project_id, id) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE trace_steps (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    closet_id  integer NOT NULL,
    kind       text NOT NULL,
    jack_id    integer,
    position   integer CHECK (position > 0),
    found      boolean,
    positions  integer[] NOT NULL,
    at         timestamp,
    by         text NOT NULL,
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, closet_id) REFERENCES closets (project_id, id) DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (project_id, jack_id) REFERENCES traced_jacks (project_id, id) DEFERRABLE INITIALLY DEFERRED
);
