-- What cameras, film and trainers gave of a rider. The markers of a take are kept beside it, packed: a fit is looked at
-- without them.
CREATE TABLE takes (
    seq        INTEGER PRIMARY KEY AUTOINCREMENT,
    id         TEXT NOT NULL UNIQUE,
    session_id TEXT NOT NULL REFERENCES sessions (id) ON DELETE CASCADE,
    body       TEXT NOT NULL,
    tracks     TEXT NOT NULL
) STRICT;

CREATE INDEX takes_by_session ON takes (session_id, seq);

CREATE TRIGGER takes_stay BEFORE INSERT ON takes
WHEN EXISTS (SELECT 1 FROM takes WHERE id = NEW.id AND session_id <> NEW.session_id)
BEGIN SELECT RAISE(ABORT, 'the take''s id is on record already, of another fit'); END;
