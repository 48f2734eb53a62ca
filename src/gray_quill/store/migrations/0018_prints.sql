-- Pictures and documents that were brought in, each once whatever lies on how many pages, and where they lie on a page
-- under its ink: their records in order, the lowest first.
CREATE TABLE originals (
    id TEXT PRIMARY KEY, kind TEXT NOT NULL CHECK (kind IN ('png', 'jpeg', 'pdf')), name TEXT NOT NULL,
    sizes_mm TEXT NOT NULL, data BLOB NOT NULL, created_at TEXT NOT NULL
) STRICT;
ALTER TABLE sheets ADD COLUMN prints TEXT;
