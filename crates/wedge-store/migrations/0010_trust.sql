-- A record that says whose it is and who wrote it last; riders that are still on their way in; what deletion and
-- looking up follow, indexed.

-- "WEDG": how a record is told from any other SQLite file.
PRAGMA application_id = 1464157255;

CREATE TABLE written_by (
    only    INTEGER PRIMARY KEY NOT NULL CHECK (only = 1),
    version TEXT NOT NULL
) STRICT;

-- A rider of a file that is not wholly in yet: nobody sees one. The import's id.
ALTER TABLE riders ADD COLUMN arriving TEXT;

CREATE INDEX arriving_riders ON riders (arriving) WHERE arriving IS NOT NULL;
CREATE INDEX readings_by_time ON readings (taken_at);
CREATE INDEX sessions_by_bench ON sessions (now);
CREATE INDEX trials_by_before ON trials (before);
CREATE INDEX trials_by_after ON trials (after);

-- Writing the same noun again is harmless; writing it somewhere else is not the same noun.
CREATE TRIGGER bikes_stay BEFORE INSERT ON bikes
WHEN EXISTS (SELECT 1 FROM bikes WHERE id = NEW.id AND rider_id <> NEW.rider_id)
BEGIN SELECT RAISE(ABORT, 'the bike''s id is on record already, of another rider'); END;

CREATE TRIGGER readings_stay BEFORE INSERT ON readings
WHEN EXISTS (SELECT 1 FROM readings WHERE id = NEW.id
    AND (rider_id <> NEW.rider_id OR session_id IS NOT NEW.session_id))
BEGIN SELECT RAISE(ABORT, 'the reading''s id is on record already, of another rider or fit'); END;

CREATE TRIGGER looks_stay BEFORE INSERT ON looks
WHEN EXISTS (SELECT 1 FROM looks WHERE id = NEW.id AND session_id <> NEW.session_id)
BEGIN SELECT RAISE(ABORT, 'the look''s id is on record already, of another fit'); END;

CREATE TRIGGER calibrations_stay BEFORE INSERT ON calibrations
WHEN EXISTS (SELECT 1 FROM calibrations WHERE id = NEW.id AND session_id <> NEW.session_id)
BEGIN SELECT RAISE(ABORT, 'the calibration''s id is on record already, of another fit'); END;

CREATE TRIGGER disputes_stay BEFORE INSERT ON disputes
WHEN EXISTS (SELECT 1 FROM disputes WHERE id = NEW.id AND session_id <> NEW.session_id)
BEGIN SELECT RAISE(ABORT, 'the disagreement''s id is on record already, of another fit'); END;
