-- A few words of one's own about a sheet.
ALTER TABLE sheets ADD COLUMN note TEXT NOT NULL DEFAULT '';
