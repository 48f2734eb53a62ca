-- Browsers that came in from the room with the key, until they are signed out.
CREATE TABLE browsers (
    id TEXT PRIMARY KEY,
    name TEXT NOT NULL,
    address TEXT NOT NULL,
    first_seen TEXT NOT NULL,
    last_seen TEXT NOT NULL,
    out_at TEXT
);
