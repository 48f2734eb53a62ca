-- Everything that is kept as one list of things, found by their words. What a thing is called and said of it is told
-- once, by the view; the triggers only say when it is looked at again.
ALTER TABLE originals ADD COLUMN binned_at TEXT;
CREATE TABLE notes (kind TEXT NOT NULL, id TEXT NOT NULL, note TEXT NOT NULL, PRIMARY KEY (kind, id)) STRICT;

CREATE VIEW kept_things AS
SELECT 'pen' AS kind, p.id AS id, coalesce(json_extract(r.recipe, '$.name'), p.id) AS name,
    coalesce(json_extract(r.recipe, '$.kind'), '') || ' '
        || coalesce((SELECT group_concat(note, ' ') FROM pen_revisions WHERE pen_id = p.id), '') AS words,
    p.created_at AS made_at, p.binned_at AS binned_at
FROM pens p JOIN pen_revisions r
    ON r.pen_id = p.id AND r.revision = (SELECT max(revision) FROM pen_revisions WHERE pen_id = p.id)
UNION ALL
SELECT 'hand', id, coalesce(json_extract(record, '$.name'), id),
    coalesce(json_extract(record, '$.side'), '') || ' hand', created_at, binned_at FROM hands
UNION ALL
SELECT 'device', id, coalesce(json_extract(record, '$.name'), id),
    coalesce(json_extract(record, '$.kind'), '') || ' ' || coalesce(json_extract(record, '$.panel.technology'), ''),
    created_at, binned_at FROM devices
UNION ALL
SELECT CASE WHEN s.piece THEN 'piece' ELSE 'sheet' END, s.sheaf, s.name,
    (SELECT group_concat(note || ' ' || bookmark, ' ') FROM sheets WHERE sheaf = s.sheaf), s.created_at, s.binned_at
FROM sheets s
WHERE s.id = (SELECT id FROM sheets WHERE sheaf = s.sheaf ORDER BY binned_at IS NOT NULL, place, id LIMIT 1)
UNION ALL
SELECT CASE kind WHEN 'pdf' THEN 'document' ELSE 'picture' END, id, name, kind, created_at, binned_at FROM originals
UNION ALL
SELECT CASE t.kind WHEN 'lag' THEN 'lag run' WHEN 'palm' THEN 'palm run' WHEN 'lineup' THEN 'line-up'
        ELSE 'blind pairs' END,
    t.id,
    coalesce(CASE t.kind
        WHEN 'lag' THEN json_extract(t.inputs, '$.recipe.name') || ' on ' || json_extract(t.inputs, '$.device.name')
        WHEN 'palm' THEN json_extract(t.inputs, '$.hand') || ' on ' || json_extract(t.inputs, '$.device')
        WHEN 'lineup' THEN json_extract(t.inputs, '$.name')
        ELSE 'judged by ' || json_extract(t.inputs, '$.judge') END, t.id),
    t.verdict, t.created_at, t.binned_at
FROM trials t
UNION ALL
SELECT 'contacts', k.id, 'touches told by ' || json_extract(h.record, '$.name') || ' on '
    || json_extract(d.record, '$.name'), '', k.created_at, k.binned_at
FROM palm_told k JOIN hands h ON h.id = k.hand_id JOIN devices d ON d.id = k.device_id
UNION ALL
SELECT 'felt', k.id, 'what ' || json_extract(h.record, '$.name') || ' feels', k.pen || ' ' || k.device,
    k.created_at, k.binned_at
FROM felt k JOIN hands h ON h.id = k.hand_id
UNION ALL
SELECT 'palm rules', k.hand_id || '~' || k.device_id, json_extract(h.record, '$.name') || ' on '
    || json_extract(d.record, '$.name'), '', k.created_at, NULL
FROM palm_settings k JOIN hands h ON h.id = k.hand_id JOIN devices d ON d.id = k.device_id
UNION ALL
SELECT 'press fit', k.hand_id || '~' || k.device_id, json_extract(h.record, '$.name') || ' on '
    || json_extract(d.record, '$.name'), '', k.created_at, NULL
FROM press_fits k JOIN hands h ON h.id = k.hand_id JOIN devices d ON d.id = k.device_id
UNION ALL
SELECT 'paper', json_extract(one.value, '$.name'), json_extract(one.value, '$.name'), '', '', NULL
FROM settings s, json_each(s.value) one WHERE s.key = 'papers'
UNION ALL
SELECT 'palette', 'own', 'Palette of my own',
    (SELECT group_concat(json_extract(one.value, '$.name'), ' ') FROM json_each(s.value) one), '', NULL
FROM settings s WHERE s.key = 'palette';

CREATE TABLE things (
    place INTEGER PRIMARY KEY, kind TEXT NOT NULL, id TEXT NOT NULL, name TEXT NOT NULL, words TEXT NOT NULL,
    note TEXT NOT NULL, made_at TEXT NOT NULL, binned_at TEXT, UNIQUE (kind, id)
) STRICT;
CREATE INDEX things_by_date ON things (made_at, kind, id);
CREATE VIRTUAL TABLE things_said USING fts5 (
    name, words, note, content = 'things', content_rowid = 'place',
    tokenize = 'unicode61 remove_diacritics 2', prefix = '1 2 3'
);
CREATE TRIGGER things_come AFTER INSERT ON things BEGIN
    INSERT INTO things_said (rowid, name, words, note) VALUES (NEW.place, NEW.name, NEW.words, NEW.note);
END;
CREATE TRIGGER things_go AFTER DELETE ON things BEGIN
    INSERT INTO things_said (things_said, rowid, name, words, note)
    VALUES ('delete', OLD.place, OLD.name, OLD.words, OLD.note);
END;
CREATE TRIGGER things_change AFTER UPDATE OF name, words, note ON things
WHEN OLD.name <> NEW.name OR OLD.words <> NEW.words OR OLD.note <> NEW.note BEGIN
    INSERT INTO things_said (things_said, rowid, name, words, note)
    VALUES ('delete', OLD.place, OLD.name, OLD.words, OLD.note);
    INSERT INTO things_said (rowid, name, words, note) VALUES (NEW.place, NEW.name, NEW.words, NEW.note);
END;

-- What sheets on the desk are written with and on is not in the bin.
CREATE TRIGGER hands_at_hand AFTER INSERT ON sheets WHEN NEW.binned_at IS NULL BEGIN
    UPDATE hands SET binned_at = NULL WHERE id = NEW.hand_id AND binned_at IS NOT NULL;
    UPDATE devices SET binned_at = NULL WHERE id = NEW.device_id AND binned_at IS NOT NULL;
END;
CREATE TRIGGER hands_at_hand_again AFTER UPDATE OF hand_id, device_id, binned_at ON sheets
WHEN NEW.binned_at IS NULL BEGIN
    UPDATE hands SET binned_at = NULL WHERE id = NEW.hand_id AND binned_at IS NOT NULL;
    UPDATE devices SET binned_at = NULL WHERE id = NEW.device_id AND binned_at IS NOT NULL;
END;

-- Look at one thing again: a row in `looks` is the order to, and is gone at once.
CREATE TABLE looks (kind TEXT NOT NULL, id TEXT NOT NULL) STRICT;
CREATE TRIGGER look_again AFTER INSERT ON looks BEGIN
    DELETE FROM things WHERE kind = NEW.kind AND id = NEW.id
        AND NOT EXISTS (SELECT 1 FROM kept_things k WHERE k.kind = NEW.kind AND k.id = NEW.id);
    INSERT INTO things (kind, id, name, words, note, made_at, binned_at)
    SELECT k.kind, k.id, substr(coalesce(k.name, k.id), 1, 120), coalesce(k.words, ''), coalesce(n.note, ''),
        k.made_at, k.binned_at
    FROM kept_things k LEFT JOIN notes n ON n.kind = k.kind AND n.id = k.id
    WHERE k.kind = NEW.kind AND k.id = NEW.id
    ON CONFLICT (kind, id) DO UPDATE SET name = excluded.name, words = excluded.words, note = excluded.note,
        made_at = excluded.made_at, binned_at = excluded.binned_at;
    DELETE FROM looks;
END;
CREATE TRIGGER look_pens AFTER UPDATE OF binned_at ON pens BEGIN INSERT INTO looks VALUES ('pen', NEW.id); END;
CREATE TRIGGER look_pens_gone AFTER DELETE ON pens BEGIN INSERT INTO looks VALUES ('pen', OLD.id); END;
CREATE TRIGGER look_revisions AFTER INSERT ON pen_revisions BEGIN INSERT INTO looks VALUES ('pen', NEW.pen_id); END;
CREATE TRIGGER look_revised AFTER UPDATE ON pen_revisions BEGIN INSERT INTO looks VALUES ('pen', NEW.pen_id); END;
CREATE TRIGGER look_hands AFTER INSERT ON hands BEGIN INSERT INTO looks VALUES ('hand', NEW.id); END;
CREATE TRIGGER look_hands_changed AFTER UPDATE ON hands BEGIN
    INSERT INTO looks VALUES ('hand', NEW.id);
    INSERT INTO looks SELECT 'contacts', id FROM palm_told WHERE hand_id = NEW.id;
    INSERT INTO looks SELECT 'felt', id FROM felt WHERE hand_id = NEW.id;
    INSERT INTO looks SELECT 'palm rules', hand_id || '~' || device_id FROM palm_settings WHERE hand_id = NEW.id;
    INSERT INTO looks SELECT 'press fit', hand_id || '~' || device_id FROM press_fits WHERE hand_id = NEW.id;
END;
CREATE TRIGGER look_hands_gone AFTER DELETE ON hands BEGIN INSERT INTO looks VALUES ('hand', OLD.id); END;
CREATE TRIGGER look_devices AFTER INSERT ON devices BEGIN INSERT INTO looks VALUES ('device', NEW.id); END;
CREATE TRIGGER look_devices_changed AFTER UPDATE ON devices BEGIN
    INSERT INTO looks VALUES ('device', NEW.id);
    INSERT INTO looks SELECT 'contacts', id FROM palm_told WHERE device_id = NEW.id;
    INSERT INTO looks SELECT 'palm rules', hand_id || '~' || device_id FROM palm_settings WHERE device_id = NEW.id;
    INSERT INTO looks SELECT 'press fit', hand_id || '~' || device_id FROM press_fits WHERE device_id = NEW.id;
END;
CREATE TRIGGER look_devices_gone AFTER DELETE ON devices BEGIN INSERT INTO looks VALUES ('device', OLD.id); END;
CREATE TRIGGER look_sheets AFTER INSERT ON sheets BEGIN
    INSERT INTO looks VALUES (CASE WHEN NEW.piece THEN 'piece' ELSE 'sheet' END, NEW.sheaf);
END;
CREATE TRIGGER look_sheets_changed AFTER UPDATE OF name, note, bookmark, binned_at, sheaf, place, piece ON sheets BEGIN
    INSERT INTO looks VALUES ('sheet', NEW.sheaf);
    INSERT INTO looks VALUES ('piece', NEW.sheaf);
END;
CREATE TRIGGER look_sheets_gone AFTER DELETE ON sheets BEGIN
    INSERT INTO looks VALUES ('sheet', OLD.sheaf);
    INSERT INTO looks VALUES ('piece', OLD.sheaf);
END;
CREATE TRIGGER look_originals AFTER INSERT ON originals BEGIN
    INSERT INTO looks VALUES (CASE NEW.kind WHEN 'pdf' THEN 'document' ELSE 'picture' END, NEW.id);
END;
CREATE TRIGGER look_originals_changed AFTER UPDATE OF name, binned_at ON originals BEGIN
    INSERT INTO looks VALUES (CASE NEW.kind WHEN 'pdf' THEN 'document' ELSE 'picture' END, NEW.id);
END;
CREATE TRIGGER look_originals_gone AFTER DELETE ON originals BEGIN
    INSERT INTO looks VALUES (CASE OLD.kind WHEN 'pdf' THEN 'document' ELSE 'picture' END, OLD.id);
END;
CREATE TRIGGER look_trials AFTER INSERT ON trials BEGIN
    INSERT INTO looks SELECT k.kind, k.id FROM kept_things k
    WHERE k.kind IN ('lag run', 'palm run', 'line-up', 'blind pairs') AND k.id = NEW.id;
END;
CREATE TRIGGER look_trials_changed AFTER UPDATE OF inputs, verdict, binned_at ON trials BEGIN
    INSERT INTO looks SELECT k.kind, k.id FROM kept_things k
    WHERE k.kind IN ('lag run', 'palm run', 'line-up', 'blind pairs') AND k.id = NEW.id;
END;
CREATE TRIGGER look_trials_gone AFTER DELETE ON trials BEGIN
    INSERT INTO looks SELECT kind, id FROM things
    WHERE kind IN ('lag run', 'palm run', 'line-up', 'blind pairs') AND id = OLD.id;
END;
CREATE TRIGGER look_told AFTER INSERT ON palm_told BEGIN INSERT INTO looks VALUES ('contacts', NEW.id); END;
CREATE TRIGGER look_told_changed AFTER UPDATE OF binned_at ON palm_told BEGIN
    INSERT INTO looks VALUES ('contacts', NEW.id);
END;
CREATE TRIGGER look_told_gone AFTER DELETE ON palm_told BEGIN INSERT INTO looks VALUES ('contacts', OLD.id); END;
CREATE TRIGGER look_felt AFTER INSERT ON felt BEGIN INSERT INTO looks VALUES ('felt', NEW.id); END;
CREATE TRIGGER look_felt_changed AFTER UPDATE OF binned_at ON felt BEGIN INSERT INTO looks VALUES ('felt', NEW.id); END;
CREATE TRIGGER look_felt_gone AFTER DELETE ON felt BEGIN INSERT INTO looks VALUES ('felt', OLD.id); END;
CREATE TRIGGER look_rules AFTER INSERT ON palm_settings BEGIN
    INSERT INTO looks VALUES ('palm rules', NEW.hand_id || '~' || NEW.device_id);
END;
CREATE TRIGGER look_rules_changed AFTER UPDATE ON palm_settings BEGIN
    INSERT INTO looks VALUES ('palm rules', NEW.hand_id || '~' || NEW.device_id);
END;
CREATE TRIGGER look_rules_gone AFTER DELETE ON palm_settings BEGIN
    INSERT INTO looks VALUES ('palm rules', OLD.hand_id || '~' || OLD.device_id);
END;
CREATE TRIGGER look_fits AFTER INSERT ON press_fits BEGIN
    INSERT INTO looks VALUES ('press fit', NEW.hand_id || '~' || NEW.device_id);
END;
CREATE TRIGGER look_fits_changed AFTER UPDATE ON press_fits BEGIN
    INSERT INTO looks VALUES ('press fit', NEW.hand_id || '~' || NEW.device_id);
END;
CREATE TRIGGER look_fits_gone AFTER DELETE ON press_fits BEGIN
    INSERT INTO looks VALUES ('press fit', OLD.hand_id || '~' || OLD.device_id);
END;
CREATE TRIGGER look_settings AFTER INSERT ON settings WHEN NEW.key IN ('papers', 'palette') BEGIN
    INSERT INTO looks SELECT 'paper', id FROM things WHERE kind = 'paper' AND NEW.key = 'papers';
    INSERT INTO looks SELECT kind, id FROM kept_things
    WHERE kind = CASE NEW.key WHEN 'papers' THEN 'paper' ELSE 'palette' END;
END;
CREATE TRIGGER look_settings_changed AFTER UPDATE ON settings WHEN NEW.key IN ('papers', 'palette') BEGIN
    INSERT INTO looks SELECT 'paper', id FROM things WHERE kind = 'paper' AND NEW.key = 'papers';
    INSERT INTO looks SELECT kind, id FROM kept_things
    WHERE kind = CASE NEW.key WHEN 'papers' THEN 'paper' ELSE 'palette' END;
END;
CREATE TRIGGER look_notes AFTER INSERT ON notes BEGIN INSERT INTO looks VALUES (NEW.kind, NEW.id); END;
CREATE TRIGGER look_notes_changed AFTER UPDATE ON notes BEGIN INSERT INTO looks VALUES (NEW.kind, NEW.id); END;
CREATE TRIGGER look_notes_gone AFTER DELETE ON notes BEGIN INSERT INTO looks VALUES (OLD.kind, OLD.id); END;

INSERT INTO looks SELECT kind, id FROM kept_things;
CREATE INDEX strokes_by_pen ON strokes (pen_id, revision, sheet_id);
CREATE INDEX sheets_by_pen ON sheets (pen_id);
CREATE INDEX sheets_by_hand ON sheets (hand_id);
CREATE INDEX sheets_by_device ON sheets (device_id);
CREATE INDEX trials_by_pen ON trials (pen_id);
CREATE INDEX trials_by_hand ON trials (hand_id);
CREATE INDEX trials_by_device ON trials (device_id);
CREATE INDEX strokes_by_trace ON strokes (trace_of) WHERE trace_of IS NOT NULL;
