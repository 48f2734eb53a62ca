-- A sheet may have several layers: their records in order from below, the one that is written on, and where strokes lie.
-- A stroke may be locked, and belong to a group. A piece kept for reuse is a small sheet that no list of sheets shows.
ALTER TABLE sheets ADD COLUMN layers TEXT;
ALTER TABLE sheets ADD COLUMN layer TEXT NOT NULL DEFAULT 'first';
ALTER TABLE strokes ADD COLUMN layer TEXT;
ALTER TABLE strokes ADD COLUMN locked INTEGER NOT NULL DEFAULT 0;
ALTER TABLE strokes ADD COLUMN grouped TEXT;
ALTER TABLE sheets ADD COLUMN piece INTEGER NOT NULL DEFAULT 0;
