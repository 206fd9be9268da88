-- tests of runs: wire map, length, resistance, link, power; all that were made of a run are kept
CREATE TABLE run_tests (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    drop_id    integer NOT NULL,
    at         timestamp,
    by         text NOT NULL,
    tester     text NOT NULL,
    from_place boolean NOT NULL,
    pins       integer[] CHECK (array_length(pins, 1) = 8),
    shorts     jsonb NOT NULL,
    split      jsonb NOT NULL,
    length_m   double precision CHECK (length_m >= 0),
    fault_m    double precision CHECK (fault_m >= 0),
    loop_ohm   double precision CHECK (loop_ohm >= 0),
    speed_mbit integer CHECK (speed_mbit >= 0),
    poe_v      double precision CHECK (poe_v >= 0),
    poe_w      double precision CHECK (poe_w >= 0),
    note       text NOT NULL,
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, drop_id) REFERENCES drops (project_id, id) DEFERRABLE INITIALLY DEFERRED
);
