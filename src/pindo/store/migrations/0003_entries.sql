-- Keys of the changes that a client sent: one that is sent again because its answer was lost is not stored twice.
CREATE TABLE entry (
    build_id TEXT NOT NULL REFERENCES build (id) ON DELETE CASCADE,
    key TEXT NOT NULL CHECK (length(key) BETWEEN 1 AND 64),
    version INTEGER NOT NULL CHECK (version > 0),
    PRIMARY KEY (build_id, key)
) STRICT, WITHOUT ROWID;
