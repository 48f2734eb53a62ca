-- Panels say what makes their light. Those of e-paper were kept without it: they reflect, and make none of their own.
UPDATE devices SET record = json_set(
    record, '$.panel.technology', 'e-paper', '$.panel.white_cd_m2', 0, '$.panel.reflects', 0.4, '$.panel.contrast', 12
) WHERE json_extract(record, '$.kind') = 'e-paper' AND json_extract(record, '$.panel.technology') IS NULL;
