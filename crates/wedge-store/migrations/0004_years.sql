-- Feet, cranks, the rider's years: when a rider was born and put away, the size a frame is labelled with, shoes, and
-- when the rider is to come back.

ALTER TABLE riders ADD COLUMN born TEXT;

ALTER TABLE riders ADD COLUMN archived_at TEXT;

ALTER TABLE bikes ADD COLUMN label TEXT;

ALTER TABLE sessions ADD COLUMN shoes TEXT NOT NULL DEFAULT '{"left":{},"right":{}}';

ALTER TABLE sessions ADD COLUMN follow_up TEXT;

CREATE INDEX sessions_by_follow_up ON sessions (follow_up) WHERE follow_up IS NOT NULL;

-- Readings of one fit are found without looking at everybody's.
CREATE INDEX readings_by_session ON readings (session_id) WHERE session_id IS NOT NULL;
