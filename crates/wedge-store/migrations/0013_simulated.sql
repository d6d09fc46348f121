-- Riders who are not there, and what stands in for devices. A rider's seed and laws are kept, never his truth; a fit of practice is
-- a rider of its own that no list of riders and no file has.
ALTER TABLE riders ADD COLUMN simulated TEXT;
ALTER TABLE bikes ADD COLUMN stand INTEGER NOT NULL DEFAULT 0;

CREATE TABLE practices (
    rider_id   TEXT PRIMARY KEY REFERENCES riders (id) ON DELETE CASCADE,
    session_id TEXT NOT NULL,
    apprentice TEXT NOT NULL,
    level      TEXT NOT NULL,
    judge      INTEGER NOT NULL,
    begun_at   TEXT NOT NULL,
    ended      TEXT
) STRICT;

CREATE INDEX practices_by_apprentice ON practices (apprentice, begun_at);

CREATE TABLE devices (
    kind    TEXT PRIMARY KEY,
    off     INTEGER NOT NULL DEFAULT 0,
    fault   TEXT,
    last    TEXT,
    last_at TEXT,
    stands  TEXT
) STRICT;
