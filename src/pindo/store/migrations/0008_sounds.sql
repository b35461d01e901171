-- Voice notes are kept beside pictures, named by their content as these are.
CREATE TABLE kept (
    id         TEXT NOT NULL CHECK (length(id) BETWEEN 1 AND 64),
    build_id   TEXT NOT NULL REFERENCES build (id) ON DELETE CASCADE,
    media_type TEXT NOT NULL CHECK (media_type IN ('image/jpeg', 'image/png', 'image/webp', 'audio/webm', 'audio/ogg', 'audio/mp4', 'audio/mpeg', 'audio/wav')),
    content    BLOB NOT NULL,
    at         TEXT NOT NULL,
    PRIMARY KEY (build_id, id)
) STRICT;
INSERT INTO kept (id, build_id, media_type, content, at) SELECT id, build_id, media_type, content, at FROM picture;
DROP TABLE picture;
ALTER TABLE kept RENAME TO picture;
