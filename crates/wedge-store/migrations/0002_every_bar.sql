-- A setup's bar leaves the cockpit, since there are other bars than drop bars; lengths to the hood are lengths to the
-- hand; and a fit may look at the hands in another place than the bar's main one.

ALTER TABLE sessions ADD COLUMN hands TEXT;

UPDATE bikes SET setup = json_set(
    json_remove(setup, '$.cockpit.bar_width_mm', '$.cockpit.bar_reach_mm', '$.cockpit.bar_drop_mm',
        '$.cockpit.bar_roll_deg', '$.cockpit.hood_forward_mm', '$.cockpit.hood_rise_mm'),
    '$.bar', json_object('drop', json_object(
        'bar_width_mm', json_extract(setup, '$.cockpit.bar_width_mm'),
        'bar_reach_mm', json_extract(setup, '$.cockpit.bar_reach_mm'),
        'bar_drop_mm', json_extract(setup, '$.cockpit.bar_drop_mm'),
        'bar_roll_deg', json_extract(setup, '$.cockpit.bar_roll_deg'),
        'hood_forward_mm', json_extract(setup, '$.cockpit.hood_forward_mm'),
        'hood_rise_mm', json_extract(setup, '$.cockpit.hood_rise_mm'))))
WHERE json_type(setup, '$.bar') IS NULL;

UPDATE sessions SET base = json_set(
    json_remove(base, '$.cockpit.bar_width_mm', '$.cockpit.bar_reach_mm', '$.cockpit.bar_drop_mm',
        '$.cockpit.bar_roll_deg', '$.cockpit.hood_forward_mm', '$.cockpit.hood_rise_mm'),
    '$.bar', json_object('drop', json_object(
        'bar_width_mm', json_extract(base, '$.cockpit.bar_width_mm'),
        'bar_reach_mm', json_extract(base, '$.cockpit.bar_reach_mm'),
        'bar_drop_mm', json_extract(base, '$.cockpit.bar_drop_mm'),
        'bar_roll_deg', json_extract(base, '$.cockpit.bar_roll_deg'),
        'hood_forward_mm', json_extract(base, '$.cockpit.hood_forward_mm'),
        'hood_rise_mm', json_extract(base, '$.cockpit.hood_rise_mm'))))
WHERE json_type(base, '$.bar') IS NULL;

UPDATE setups SET setup = json_set(
    json_remove(setup, '$.cockpit.bar_width_mm', '$.cockpit.bar_reach_mm', '$.cockpit.bar_drop_mm',
        '$.cockpit.bar_roll_deg', '$.cockpit.hood_forward_mm', '$.cockpit.hood_rise_mm'),
    '$.bar', json_object('drop', json_object(
        'bar_width_mm', json_extract(setup, '$.cockpit.bar_width_mm'),
        'bar_reach_mm', json_extract(setup, '$.cockpit.bar_reach_mm'),
        'bar_drop_mm', json_extract(setup, '$.cockpit.bar_drop_mm'),
        'bar_roll_deg', json_extract(setup, '$.cockpit.bar_roll_deg'),
        'hood_forward_mm', json_extract(setup, '$.cockpit.hood_forward_mm'),
        'hood_rise_mm', json_extract(setup, '$.cockpit.hood_rise_mm'))))
WHERE json_type(setup, '$.bar') IS NULL;

UPDATE readings SET reading = json_set(reading, '$.quantity', 'bb_to_hand_mm')
WHERE json_extract(reading, '$.quantity') = 'bb_to_hood_mm';

UPDATE trials SET foreseen = replace(replace(foreseen,
    '"output":"bb_to_hood_mm"', '"output":"bb_to_hand"'),
    '"output":"saddle_to_hood_mm"', '"output":"saddle_to_hand"');

UPDATE entries SET body = replace(replace(body,
    '"output":"bb_to_hood_mm"', '"output":"bb_to_hand"'),
    '"output":"saddle_to_hood_mm"', '"output":"saddle_to_hand"');

-- What was being typed is keyed by the names of the board's fields.
UPDATE drafts SET body = replace(body, '"bb_to_hood_mm"', '"bb_to_hand_mm"');
