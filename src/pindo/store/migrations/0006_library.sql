-- Parts that the shop keeps beside its builds: what is known of them goes into other builds as measured elsewhere.
CREATE TABLE library (
    id      TEXT PRIMARY KEY CHECK (length(id) BETWEEN 1 AND 64),
    kind    TEXT NOT NULL,
    name    TEXT NOT NULL,
    part    TEXT NOT NULL CHECK (json_valid(part)),
    came_of TEXT NOT NULL,
    at      TEXT NOT NULL
) STRICT;
