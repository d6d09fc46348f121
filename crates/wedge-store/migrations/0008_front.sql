-- The front: a saddle's width is a part's, no note of a fit; locked elbows are a sign of their own.

UPDATE setups
SET setup = json_set(
    setup,
    '$.saddle.saddle_width_mm',
    (SELECT json_extract(saddle, '$.width_mm') FROM sessions WHERE sessions.id = setups.session_id)
)
WHERE (SELECT json_extract(saddle, '$.width_mm') FROM sessions WHERE sessions.id = setups.session_id) IS NOT NULL;

UPDATE sessions
SET base = json_set(base, '$.saddle.saddle_width_mm', json_extract(saddle, '$.width_mm'))
WHERE json_extract(saddle, '$.width_mm') IS NOT NULL;

UPDATE sessions
SET saddle = json_remove(saddle, '$.width_mm');

UPDATE looks
SET body = json_set(
    json_remove(body, '$.body.shoulders'),
    '$.body.sign',
    json('{"sign":"elbows_locked","side":null,"there":true}')
)
WHERE json_extract(body, '$.body.shoulders') = 'locked';
