-- Pictures stay out of the document: a patch or an undo never carries them.
CREATE TABLE photo (
    id         TEXT PRIMARY KEY CHECK (length(id) BETWEEN 1 AND 64),
    build_id   TEXT NOT NULL REFERENCES build (id) ON DELETE CASCADE,
    media_type TEXT NOT NULL CHECK (media_type IN ('image/jpeg', 'image/png', 'image/webp')),
    content    BLOB NOT NULL,
    at         TEXT NOT NULL
) STRICT;

CREATE INDEX photo_build ON photo (build_id);
