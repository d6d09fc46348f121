-- Whether pictures of a rider may be kept, and the pictures: one of a take, gone after the studio's number of days, at once when
-- the rider says no, and with the rider.
CREATE TABLE consents (
    seq      INTEGER PRIMARY KEY AUTOINCREMENT,
    id       TEXT NOT NULL UNIQUE,
    rider_id TEXT NOT NULL REFERENCES riders (id) ON DELETE CASCADE,
    body     TEXT NOT NULL
) STRICT;

CREATE INDEX consents_by_rider ON consents (rider_id, seq);

CREATE TRIGGER consents_stay BEFORE INSERT ON consents
WHEN EXISTS (SELECT 1 FROM consents WHERE id = NEW.id AND rider_id <> NEW.rider_id)
BEGIN SELECT RAISE(ABORT, 'the answer''s id is on record already, of another rider'); END;

CREATE TABLE pictures (
    take_id TEXT PRIMARY KEY REFERENCES takes (id) ON DELETE CASCADE,
    kept_at TEXT NOT NULL,
    jpeg    BLOB NOT NULL
) STRICT;

CREATE INDEX pictures_by_age ON pictures (kept_at);
