-- What covers ink of a page until it is lifted. What may be brought in is the reader's business: drawings came.
ALTER TABLE sheets ADD COLUMN covers TEXT;
CREATE TABLE originals_now (
    id TEXT PRIMARY KEY, kind TEXT NOT NULL, name TEXT NOT NULL, sizes_mm TEXT NOT NULL, data BLOB NOT NULL,
    created_at TEXT NOT NULL
) STRICT;
INSERT INTO originals_now SELECT id, kind, name, sizes_mm, data, created_at FROM originals;
DROP TABLE originals;
ALTER TABLE originals_now RENAME TO originals;
