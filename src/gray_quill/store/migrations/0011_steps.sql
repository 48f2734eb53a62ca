-- What takes back the last changes of a sheet's ink, kept with the sheet: the steps as JSON, and how often they
-- changed.
CREATE TABLE steps (
    sheet_id TEXT PRIMARY KEY REFERENCES sheets (id),
    steps TEXT NOT NULL,
    count INTEGER NOT NULL
);
-- Which strokes lie on a sheet, in the order written, is asked by every change; it stands in an index, so that no trace
-- is read for it.
CREATE INDEX strokes_there ON strokes (sheet_id, binned_at, place);
DROP INDEX strokes_by_sheet;
