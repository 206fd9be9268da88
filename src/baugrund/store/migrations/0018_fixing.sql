-- what a rack is fixed to, where cables come in and how far they reach; how wide the modules of a panel are; strips
ALTER TABLE closets
    ADD COLUMN entry text NOT NULL DEFAULT '' CHECK (entry IN ('', 'top', 'bottom')),
    ADD COLUMN slack_mm integer CHECK (slack_mm >= 0),
    ADD COLUMN fixing text NOT NULL DEFAULT ''
        CHECK (fixing IN ('', 'studs', 'masonry', 'backboard', 'frame', 'floor', 'plasterboard')),
    ADD COLUMN housing_model text,
    ADD COLUMN is_there boolean NOT NULL DEFAULT false;
ALTER TABLE gear ADD COLUMN module_mm double precision CHECK (module_mm > 0);
ALTER TABLE placings ADD COLUMN strip text NOT NULL DEFAULT '';
