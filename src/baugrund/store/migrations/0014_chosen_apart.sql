-- the lines of the price lists that a recorder and its disks are
ALTER TABLE drops
    ADD COLUMN model text,
    ADD COLUMN disk_model text;
