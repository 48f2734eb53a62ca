-- A sheet's ink counts its changes too, so that a window hears of what another one wrote.
ALTER TABLE sheets ADD COLUMN ink INTEGER NOT NULL DEFAULT 1;
