-- A sheet may hold many pages. Each is a row of its own, with its paper, layers and ink; rows of one sheaf are the pages
-- of one sheet, in the order of their place. What was one sheet is a sheaf of one page.
ALTER TABLE sheets ADD COLUMN sheaf TEXT NOT NULL DEFAULT '';
ALTER TABLE sheets ADD COLUMN place INTEGER NOT NULL DEFAULT 0;
ALTER TABLE sheets ADD COLUMN bookmark TEXT NOT NULL DEFAULT '';
UPDATE sheets SET sheaf = id;
CREATE INDEX sheets_by_sheaf ON sheets (sheaf, place);
