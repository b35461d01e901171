-- What the list of builds shows of each stands beside its document: the list reads no document.
ALTER TABLE build ADD COLUMN name TEXT NOT NULL DEFAULT '';
ALTER TABLE build ADD COLUMN vehicle TEXT NOT NULL DEFAULT '';
UPDATE build SET name = coalesce(document ->> '$.name', ''), vehicle = coalesce(document ->> '$.vehicle', '');
