-- Devices of the shop that were let in once: what each is called, and whether it still may. Of its token only a hash is kept.
CREATE TABLE device (
    id       TEXT PRIMARY KEY CHECK (length(id) BETWEEN 1 AND 32),
    token    TEXT NOT NULL UNIQUE,
    name     TEXT NOT NULL,
    agent    TEXT NOT NULL,
    first_at TEXT NOT NULL,
    gone_at  TEXT
) STRICT;
