-- what powered runs are reckoned with, cords by gauge, copper-clad cable, bit rates of cameras
ALTER TABLE settings
    DROP CONSTRAINT settings_cords_check,
    ADD CONSTRAINT settings_cords_check CHECK (cords IN ('usual', 'awg26', 'thin')),
    ADD COLUMN cords_m double precision NOT NULL DEFAULT 4 CHECK (cords_m BETWEEN 0 AND 20),
    ADD COLUMN contacts integer NOT NULL DEFAULT 4 CHECK (contacts BETWEEN 0 AND 12),
    ADD COLUMN port_volts double precision NOT NULL DEFAULT 53 CHECK (port_volts BETWEEN 44 AND 57),
    ADD COLUMN link_fill_percent integer NOT NULL DEFAULT 70 CHECK (link_fill_percent BETWEEN 10 AND 100),
    ADD COLUMN mated_pairs integer NOT NULL DEFAULT 2 CHECK (mated_pairs BETWEEN 0 AND 12);

-- whether the prices of an edition hold value-added tax; empty: not told
ALTER TABLE catalogue_editions
    ADD COLUMN tax text NOT NULL DEFAULT '' CHECK (tax IN ('', 'included', 'excluded'));

ALTER TABLE drops
    ADD COLUMN frames_s double precision NOT NULL DEFAULT 15 CHECK (frames_s BETWEEN 0.2 AND 120),
    ADD COLUMN codec text NOT NULL DEFAULT 'h264' CHECK (codec IN ('h264', 'h265')),
    ADD COLUMN copper_clad boolean NOT NULL DEFAULT false,
    ADD COLUMN recorder_id integer,
    ADD FOREIGN KEY (project_id, recorder_id) REFERENCES drops DEFERRABLE INITIALLY DEFERRED;

-- hours by task in place of one figure an end and one share of a bundle
CREATE TABLE task_rates (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    task       text NOT NULL,
    hours      double precision NOT NULL CHECK (hours BETWEEN 0 AND 100),
    PRIMARY KEY (project_id, id)
);

ALTER TABLE settings
    DROP COLUMN hours_per_end,
    DROP COLUMN further_percent;

-- steps that may be undone know nothing of what is gone
UPDATE journal SET changes = (
    SELECT jsonb_agg(change || jsonb_build_object(
        'before', CASE jsonb_typeof(change -> 'before')
            WHEN 'object' THEN (change -> 'before') - ARRAY['hours_per_end', 'further_percent'] ELSE 'null'::jsonb END,
        'after', CASE jsonb_typeof(change -> 'after')
            WHEN 'object' THEN (change -> 'after') - ARRAY['hours_per_end', 'further_percent'] ELSE 'null'::jsonb END))
    FROM jsonb_array_elements(changes) AS change)
WHERE jsonb_typeof(changes) = 'array' AND changes::text ~ 'hours_per_end|further_percent';
