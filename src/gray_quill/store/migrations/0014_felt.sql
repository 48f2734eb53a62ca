-- What a hand feels of delay: every hidden turn of a session, and what it came to.
CREATE TABLE felt (
    id TEXT PRIMARY KEY, hand_id TEXT NOT NULL REFERENCES hands, pen TEXT NOT NULL, device TEXT NOT NULL,
    turns TEXT NOT NULL, felt TEXT NOT NULL, created_at TEXT NOT NULL, binned_at TEXT
) STRICT;
