CREATE TABLE build (
    id         TEXT PRIMARY KEY CHECK (length(id) BETWEEN 1 AND 64),
    version    INTEGER NOT NULL CHECK (version >= 1),
    document   TEXT NOT NULL CHECK (json_valid(document)),
    created_at TEXT NOT NULL,
    updated_at TEXT NOT NULL
) STRICT;

-- One row for each version of a build. An undo or redo is a row of its own and names the row it acts on.
CREATE TABLE journal (
    build_id TEXT NOT NULL REFERENCES build (id) ON DELETE CASCADE,
    version  INTEGER NOT NULL,
    kind     TEXT NOT NULL CHECK (kind IN ('create', 'change', 'undo', 'redo')),
    target   INTEGER,
    patch    TEXT NOT NULL CHECK (json_valid(patch)),
    inverse  TEXT NOT NULL CHECK (json_valid(inverse)),
    who      TEXT NOT NULL,
    why      TEXT NOT NULL,
    at       TEXT NOT NULL,
    PRIMARY KEY (build_id, version)
) STRICT, WITHOUT ROWID;
