-- E-paper's updates say how late its ink is seen; before, the panel's response did. Those kept before go on saying the
-- same: half of an update is what the response was.
UPDATE devices SET record = json_set(
    record, '$.updates.fast_ms', max(1, min(2000, 2 * coalesce(json_extract(record, '$.panel.response_ms'), 8)))
) WHERE json_extract(record, '$.panel.technology') = 'e-paper' AND json_extract(record, '$.updates.full_ms') IS NULL
    AND json_extract(record, '$.panel.fast_pen');
UPDATE devices SET record = json_set(
    record, '$.updates.grey_ms', max(1, min(3000, 2 * coalesce(json_extract(record, '$.panel.response_ms'), 8)))
) WHERE json_extract(record, '$.panel.technology') = 'e-paper' AND json_extract(record, '$.updates.full_ms') IS NULL
    AND NOT coalesce(json_extract(record, '$.panel.fast_pen'), 0);
