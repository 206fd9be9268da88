-- what a project says of its price: phases, parts, tasks, hours worked, crews, waits, offers, payments
CREATE TABLE phases (
    project_id   bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id           integer NOT NULL,
    name         text NOT NULL CHECK (name <> ''),
    begins       date,
    ends         date,
    budget_minor integer CHECK (budget_minor > 0),
    PRIMARY KEY (project_id, id),
    CHECK (ends >= begins)
);

CREATE TABLE part_terms (
    project_id  bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id          integer NOT NULL,
    part        text NOT NULL CHECK (part <> ''),
    price_minor integer CHECK (price_minor >= 0),
    by          text NOT NULL CHECK (by IN ('installer', 'client', 'electrician')),
    there       double precision NOT NULL CHECK (there >= 0),
    bought      double precision NOT NULL CHECK (bought >= 0),
    spare       double precision CHECK (spare >= 0),
    note        text NOT NULL,
    PRIMARY KEY (project_id, id),
    UNIQUE (project_id, part) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE task_terms (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    task       text NOT NULL CHECK (task <> ''),
    who        text NOT NULL CHECK (who IN ('owner', 'electrician', 'installer')),
    PRIMARY KEY (project_id, id),
    UNIQUE (project_id, task) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE extra_work (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    task       text,
    name       text NOT NULL,
    count      double precision NOT NULL CHECK (count > 0),
    who        text CHECK (who IN ('owner', 'electrician', 'installer')),
    room_id    integer,
    phase_id   integer,
    PRIMARY KEY (project_id, id),
    CHECK (task IS NOT NULL OR name <> ''),
    FOREIGN KEY (project_id, room_id) REFERENCES rooms (project_id, id) DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (project_id, phase_id) REFERENCES phases (project_id, id) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE worked (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    task       text NOT NULL CHECK (task <> ''),
    hours      double precision NOT NULL CHECK (hours > 0 AND hours <= 24),
    count      double precision CHECK (count > 0),
    day        date,
    by         text NOT NULL,
    note       text NOT NULL,
    PRIMARY KEY (project_id, id)
);

CREATE TABLE crews (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    name       text NOT NULL CHECK (name <> ''),
    who        text NOT NULL CHECK (who IN ('owner', 'electrician', 'installer')),
    people     integer NOT NULL CHECK (people > 0),
    PRIMARY KEY (project_id, id)
);

CREATE TABLE waits (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    name       text NOT NULL CHECK (name <> ''),
    who        text NOT NULL,
    after      text,
    before     text[] NOT NULL,
    from_day   date,
    days       integer NOT NULL CHECK (days >= 0),
    fallback   text NOT NULL,
    done       boolean NOT NULL,
    PRIMARY KEY (project_id, id)
);

CREATE TABLE stage_orders (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    first      text NOT NULL CHECK (first <> ''),
    second     text NOT NULL CHECK (second <> ''),
    PRIMARY KEY (project_id, id)
);

CREATE TABLE offers (
    project_id       bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id               integer NOT NULL,
    number           text NOT NULL CHECK (number <> ''),
    day              date,
    valid_days       integer NOT NULL CHECK (valid_days > 0),
    discount_percent double precision NOT NULL CHECK (discount_percent BETWEEN 0 AND 100),
    answers          text[] NOT NULL,
    payments         jsonb NOT NULL,
    not_included     text NOT NULL,
    assumptions      text NOT NULL,
    state            text NOT NULL CHECK (state IN ('draft', 'sent', 'accepted', 'declined')),
    sent             text NOT NULL,
    PRIMARY KEY (project_id, id),
    UNIQUE (project_id, number) DEFERRABLE INITIALLY DEFERRED,
    CHECK (state = 'draft' OR sent <> '')
);

CREATE TABLE paid (
    project_id bigint NOT NULL REFERENCES projects ON DELETE CASCADE,
    id         integer NOT NULL,
    part       text NOT NULL CHECK (part <> ''),
    name       text NOT NULL,
    ordered    double precision CHECK (ordered >= 0),
    delivered  double precision CHECK (delivered >= 0),
    quantity   double precision CHECK (quantity >= 0),
    paid_minor integer CHECK (paid_minor >= 0),
    final      boolean NOT NULL,
    day        date,
    supplier   text NOT NULL,
    PRIMARY KEY (project_id, id)
);

ALTER TABLE drops
    ADD COLUMN wanted   text NOT NULL DEFAULT 'must' CHECK (wanted IN ('must', 'should', 'could')),
    ADD COLUMN phase_id integer,
    ADD FOREIGN KEY (project_id, phase_id) REFERENCES phases (project_id, id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE closets
    ADD COLUMN phase_id integer,
    ADD FOREIGN KEY (project_id, phase_id) REFERENCES phases (project_id, id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE rooms ADD COLUMN let_in_by text NOT NULL DEFAULT '';
ALTER TABLE kit ADD COLUMN goes text NOT NULL DEFAULT '' CHECK (goes IN ('', 'spare', 'sold', 'moved', 'recycled'));
ALTER TABLE settings
    ADD COLUMN tax_percent          double precision NOT NULL DEFAULT 20 CHECK (tax_percent BETWEEN 0 AND 100),
    ADD COLUMN budget_with_tax      boolean NOT NULL DEFAULT false,
    ADD COLUMN margin_parts_percent double precision NOT NULL DEFAULT 15 CHECK (margin_parts_percent >= 0),
    ADD COLUMN margin_work_percent  double precision NOT NULL DEFAULT 0 CHECK (margin_work_percent >= 0),
    ADD COLUMN difficulty_percent   double precision NOT NULL DEFAULT 100 CHECK (difficulty_percent > 0),
    ADD COLUMN site_spread_percent  double precision NOT NULL DEFAULT 10 CHECK (site_spread_percent >= 0),
    ADD COLUMN electrician_minor    integer NOT NULL DEFAULT 8500 CHECK (electrician_minor >= 0),
    ADD COLUMN owner_minor          integer NOT NULL DEFAULT 0 CHECK (owner_minor >= 0),
    ADD COLUMN owner_slower_percent double precision NOT NULL DEFAULT 150 CHECK (owner_slower_percent >= 100),
    ADD COLUMN day_h                double precision NOT NULL DEFAULT 8 CHECK (day_h > 0),
    ADD COLUMN travel_h             double precision NOT NULL DEFAULT 0.75 CHECK (travel_h >= 0),
    ADD COLUMN first_day            date;
