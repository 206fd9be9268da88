-- what was proven of a project's best boxes: the floor that the next search begins from
CREATE TABLE last_proofs (
    project_id bigint PRIMARY KEY REFERENCES projects ON DELETE CASCADE,
    revision   bigint NOT NULL,
    proofs     jsonb NOT NULL
);
