-- Line-ups and judged pairs are kept runs too.
CREATE TABLE trials_now (
    id TEXT PRIMARY KEY, kind TEXT NOT NULL CHECK (kind IN ('lag', 'palm', 'lineup', 'pairs')),
    hand_id TEXT NOT NULL REFERENCES hands, device_id TEXT NOT NULL REFERENCES devices, pen_id TEXT, revision INTEGER,
    inputs TEXT NOT NULL, results TEXT NOT NULL, verdict TEXT NOT NULL, created_at TEXT NOT NULL, binned_at TEXT,
    FOREIGN KEY (pen_id, revision) REFERENCES pen_revisions
) STRICT;
INSERT INTO trials_now
SELECT id, kind, hand_id, device_id, pen_id, revision, inputs, results, verdict, created_at, binned_at FROM trials;
DROP TABLE trials;
ALTER TABLE trials_now RENAME TO trials;
CREATE INDEX trials_by_kind ON trials (kind, created_at);
