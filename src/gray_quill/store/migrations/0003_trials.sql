-- Kept runs of the trials: what went in, what came out, and the verdict in words.
CREATE TABLE trials (
    id TEXT PRIMARY KEY, kind TEXT NOT NULL CHECK (kind IN ('lag', 'palm')),
    hand_id TEXT NOT NULL REFERENCES hands, device_id TEXT NOT NULL REFERENCES devices, pen_id TEXT, revision INTEGER,
    inputs TEXT NOT NULL, results TEXT NOT NULL, verdict TEXT NOT NULL, created_at TEXT NOT NULL, binned_at TEXT,
    FOREIGN KEY (pen_id, revision) REFERENCES pen_revisions
) STRICT;
CREATE INDEX trials_by_kind ON trials (kind, created_at);
