CREATE TABLE walls (
    project_id   bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id           bigint NOT NULL,
    floor_id     bigint NOT NULL,
    x_m          double precision NOT NULL,
    y_m          double precision NOT NULL,
    to_x_m       double precision NOT NULL,
    to_y_m       double precision NOT NULL,
    material     text NOT NULL,
    thickness_mm integer CHECK (thickness_mm > 0),
    PRIMARY KEY (project_id, id),
    FOREIGN KEY (project_id, floor_id) REFERENCES floors (project_id, id) DEFERRABLE INITIALLY DEFERRED
);
