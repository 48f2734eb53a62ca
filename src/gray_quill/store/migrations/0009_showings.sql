-- A stroke may show another one's trace: moved, scaled, or with parts rubbed out. It then has none of its own.
ALTER TABLE strokes ADD COLUMN trace_of TEXT REFERENCES strokes;
ALTER TABLE strokes ADD COLUMN showing TEXT;
