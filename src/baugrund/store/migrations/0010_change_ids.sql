-- Every change carries an id that its browser made: one that is sent again is not done again.
ALTER TABLE journal ADD COLUMN change_id uuid;
CREATE UNIQUE INDEX journal_of_change ON journal (change_id);
ALTER TABLE projects ADD COLUMN change_id uuid UNIQUE;
