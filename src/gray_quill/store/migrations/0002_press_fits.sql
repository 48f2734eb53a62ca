-- A press record fitted to a hand on a device, and which prompts lie on a sheet.
CREATE TABLE press_fits (
    hand_id TEXT NOT NULL REFERENCES hands, device_id TEXT NOT NULL REFERENCES devices, press TEXT NOT NULL, created_at TEXT NOT NULL,
    PRIMARY KEY (hand_id, device_id)
) STRICT;

ALTER TABLE sheets ADD COLUMN prompts TEXT CHECK (prompts IN ('test', 'strip'));
UPDATE sheets SET prompts = 'test' WHERE kind = 'test';
