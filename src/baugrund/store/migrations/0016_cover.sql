-- lens and bracket of a camera, how cameras of an own kind are recorded, and the schools of Wi-Fi
ALTER TABLE drops
    ADD COLUMN lens_model    text,
    ADD COLUMN bracket_model text;

ALTER TABLE own_kinds
    ADD COLUMN frames_s             double precision NOT NULL DEFAULT 15 CHECK (frames_s > 0),
    ADD COLUMN codec                text NOT NULL DEFAULT 'h264' CHECK (codec IN ('h264', 'h265')),
    ADD COLUMN quality              text NOT NULL DEFAULT 'usual' CHECK (quality IN ('plain', 'usual', 'fine')),
    ADD COLUMN record_day_percent   double precision NOT NULL DEFAULT 100 CHECK (record_day_percent BETWEEN 0 AND 100),
    ADD COLUMN record_night_percent double precision NOT NULL DEFAULT 100 CHECK (record_night_percent BETWEEN 0 AND 100),
    ADD COLUMN keep_days            double precision CHECK (keep_days > 0);

ALTER TABLE settings
    ADD COLUMN ap_places  text NOT NULL DEFAULT 'ceiling' CHECK (ap_places IN ('ceiling', 'wall')),
    ADD COLUMN ap_feed    text NOT NULL DEFAULT 'wired' CHECK (ap_feed IN ('wired', 'air')),
    ADD COLUMN ap_models  text NOT NULL DEFAULT 'one' CHECK (ap_models IN ('one', 'phases')),
    ADD COLUMN wifi_names text NOT NULL DEFAULT 'one' CHECK (wifi_names IN ('one', 'band')),
    ADD COLUMN low_rates  text NOT NULL DEFAULT 'off' CHECK (low_rates IN ('off', 'kept'));
