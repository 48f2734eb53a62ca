-- What takes back the last changes of a sheet's ink, kept with the sheet: the steps as JSON, and how often they changed.
CREATE TABLE steps (
    sheet_id TEXT PRIMARY KEY REFERENCES sheets (id),
    steps TEXT NOT NULL,
    count INTEGER NOT NULL
);
