-- The first schema: hands, devices, pens with revisions, sheets, strokes, readings.
CREATE TABLE hands (
    id TEXT PRIMARY KEY, record TEXT NOT NULL, created_at TEXT NOT NULL, binned_at TEXT
) STRICT;

CREATE TABLE devices (
    id TEXT PRIMARY KEY, record TEXT NOT NULL, created_at TEXT NOT NULL, binned_at TEXT
) STRICT;

CREATE TABLE pens (
    id TEXT PRIMARY KEY, roll_place INTEGER UNIQUE, created_at TEXT NOT NULL, binned_at TEXT
) STRICT;

CREATE TABLE pen_revisions (
    pen_id TEXT NOT NULL REFERENCES pens, revision INTEGER NOT NULL, recipe TEXT NOT NULL, note TEXT NOT NULL DEFAULT '', created_at TEXT NOT NULL,
    PRIMARY KEY (pen_id, revision)
) STRICT;

CREATE TABLE sheets (
    id TEXT PRIMARY KEY, name TEXT NOT NULL, kind TEXT NOT NULL CHECK (kind IN ('free', 'test')), paper TEXT NOT NULL,
    hand_id TEXT NOT NULL REFERENCES hands, device_id TEXT NOT NULL REFERENCES devices, pen_id TEXT NOT NULL REFERENCES pens,
    created_at TEXT NOT NULL, binned_at TEXT
) STRICT;

CREATE TABLE strokes (
    id TEXT PRIMARY KEY, sheet_id TEXT NOT NULL REFERENCES sheets, place INTEGER NOT NULL,
    pen_id TEXT NOT NULL, revision INTEGER NOT NULL, trace BLOB NOT NULL, created_at TEXT NOT NULL, binned_at TEXT,
    FOREIGN KEY (pen_id, revision) REFERENCES pen_revisions
) STRICT;
CREATE INDEX strokes_by_sheet ON strokes (sheet_id, place);

CREATE TABLE readings (
    sheet_id TEXT NOT NULL REFERENCES sheets, pen_id TEXT NOT NULL, revision INTEGER NOT NULL, readings TEXT NOT NULL, created_at TEXT NOT NULL,
    PRIMARY KEY (sheet_id, pen_id, revision), FOREIGN KEY (pen_id, revision) REFERENCES pen_revisions
) STRICT;

CREATE TABLE settings (key TEXT PRIMARY KEY, value TEXT NOT NULL) STRICT;
