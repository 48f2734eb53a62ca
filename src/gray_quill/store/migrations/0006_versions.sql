-- A sheet's version counts its changes, so that a change made from an older sight of it can be told.
ALTER TABLE sheets ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
