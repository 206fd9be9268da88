-- what is kept of what cameras film
ALTER TABLE drops
    ADD COLUMN quality text NOT NULL DEFAULT 'usual' CHECK (quality IN ('plain', 'usual', 'fine')),
    ADD COLUMN by_service boolean NOT NULL DEFAULT false,
    ADD COLUMN record_day_percent double precision NOT NULL DEFAULT 100 CHECK (record_day_percent BETWEEN 0 AND 100),
    ADD COLUMN record_night_percent double precision NOT NULL DEFAULT 100
        CHECK (record_night_percent BETWEEN 0 AND 100),
    ADD COLUMN keep_days double precision CHECK (keep_days > 0),
    ADD COLUMN over_wifi boolean NOT NULL DEFAULT false,
    ADD COLUMN disks integer CHECK (disks > 0),
    ADD COLUMN disk_tb double precision CHECK (disk_tb > 0),
    ADD COLUMN raid text NOT NULL DEFAULT 'none' CHECK (raid IN ('none', '1', '5', '6', '10'));

ALTER TABLE settings
    ADD COLUMN disk_may_fail boolean NOT NULL DEFAULT false;
