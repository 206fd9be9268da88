-- what values of other people's tables mean, as it was said once
CREATE TABLE meanings (
    list       text NOT NULL CHECK (list IN ('drops', 'prices')),
    column_key text NOT NULL,
    value      text NOT NULL,
    means      text NOT NULL,
    PRIMARY KEY (list, column_key, value)
);
