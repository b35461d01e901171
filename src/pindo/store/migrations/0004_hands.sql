-- An epoch tells one life of a build from another: after a restore, or a delete and an import, no old version fits.
ALTER TABLE build ADD COLUMN epoch TEXT NOT NULL DEFAULT '';
-- The order in which builds were changed: clocks go back.
ALTER TABLE build ADD COLUMN changed INTEGER NOT NULL DEFAULT 0;
-- Which browser or script made a change: undo takes back one's own. Which of its screens: what was typed there is held against the others'.
ALTER TABLE journal ADD COLUMN hand TEXT NOT NULL DEFAULT '';
ALTER TABLE journal ADD COLUMN screen TEXT NOT NULL DEFAULT '';
UPDATE build SET epoch = lower(hex(randomblob(6)));
UPDATE build SET changed = (SELECT count(*) FROM build AS other WHERE other.updated_at <= build.updated_at);
CREATE INDEX build_changed ON build (changed);
-- "PIND": an empty or another program's file is told from Pindo's.
PRAGMA application_id = 1346981444;
-- A picture is named by its content within its build, so that a build keeps the names of its pictures wherever it goes.
CREATE TABLE picture (
    id         TEXT NOT NULL CHECK (length(id) BETWEEN 1 AND 64),
    build_id   TEXT NOT NULL REFERENCES build (id) ON DELETE CASCADE,
    media_type TEXT NOT NULL CHECK (media_type IN ('image/jpeg', 'image/png', 'image/webp')),
    content    BLOB NOT NULL,
    at         TEXT NOT NULL,
    PRIMARY KEY (build_id, id)
) STRICT;
INSERT INTO picture (id, build_id, media_type, content, at) SELECT id, build_id, media_type, content, at FROM photo;
DROP TABLE photo;
