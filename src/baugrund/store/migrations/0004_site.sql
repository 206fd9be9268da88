-- what is held belongs to a closet; named growth may, too; which devices are fed first when watts are short

ALTER TABLE additions
    ADD COLUMN closet_id integer,
    ADD FOREIGN KEY (project_id, closet_id) REFERENCES closets DEFERRABLE INITIALLY DEFERRED;

CREATE TABLE holdings (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    closet_id  integer NOT NULL,
    model      text NOT NULL,
    count      integer NOT NULL CHECK (count BETWEEN 1 AND 50),
    PRIMARY KEY (project_id, id),
    UNIQUE (project_id, closet_id, model) DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (project_id, closet_id) REFERENCES closets DEFERRABLE INITIALLY DEFERRED
);

-- so far only the head end was picked for: what is held stands there
INSERT INTO holdings (project_id, id, closet_id, model, count)
SELECT s.project_id,
       p.next_id + row_number() OVER (PARTITION BY s.project_id ORDER BY s.model) - 1,
       (SELECT c.id FROM closets c WHERE c.project_id = s.project_id ORDER BY c.id LIMIT 1),
       s.model, s.held
FROM stances s JOIN projects p ON p.id = s.project_id
WHERE s.held > 0;
UPDATE projects p SET next_id = p.next_id + h.many
FROM (SELECT project_id, count(*) AS many FROM holdings GROUP BY project_id) h
WHERE h.project_id = p.id;
DELETE FROM stances WHERE pinned = 0 AND NOT excluded;
ALTER TABLE stances DROP COLUMN held;

ALTER TABLE drops
    ADD COLUMN priority text NOT NULL DEFAULT 'low' CHECK (priority IN ('critical', 'high', 'low'));
