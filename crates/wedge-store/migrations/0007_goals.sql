-- What a fit is for: an order of goals, level ones side by side, where each was scored from 0 to 10.

UPDATE sessions
SET intake = json_remove(
    json_set(
        intake,
        '$.goals',
        (
            SELECT CASE
                WHEN count(*) = 1 AND max(score) = 0 THEN json('[]')
                ELSE json_group_array(json(alike))
            END
            FROM (
                SELECT value AS score, json_group_array(key) AS alike
                FROM json_each(sessions.intake, '$.weights')
                GROUP BY value
                ORDER BY value DESC
            )
        )
    ),
    '$.weights'
)
WHERE json_type(intake, '$.weights') = 'object';
