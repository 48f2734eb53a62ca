-- Decisions on the glass that their writer knew better: the contacts about one, and whether it was a palm.
CREATE TABLE palm_told (
    id TEXT PRIMARY KEY, hand_id TEXT NOT NULL REFERENCES hands, device_id TEXT NOT NULL REFERENCES devices,
    contacts BLOB NOT NULL, truth TEXT NOT NULL, created_at TEXT NOT NULL, binned_at TEXT
) STRICT;
