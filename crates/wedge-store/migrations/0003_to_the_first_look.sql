-- From the door to the first look: what the rider comes with, readings set aside, what was seen, the rider fitted to
-- it; frames whose reach and stack were computed from the tape; the studio's own settings and frames.

ALTER TABLE readings ADD COLUMN set_aside_at TEXT;

ALTER TABLE sessions ADD COLUMN intake TEXT NOT NULL DEFAULT '{}';

ALTER TABLE bikes ADD COLUMN taped TEXT;

-- Append-only: what was seen of the rider on a setup.
CREATE TABLE looks (
    seq        INTEGER PRIMARY KEY AUTOINCREMENT,
    id         TEXT NOT NULL UNIQUE,
    session_id TEXT NOT NULL REFERENCES sessions (id) ON DELETE CASCADE,
    body       TEXT NOT NULL
) STRICT;

CREATE INDEX looks_by_session ON looks (session_id);

-- Append-only: the rider fitted to what was seen, or the fit switched off.
CREATE TABLE calibrations (
    seq        INTEGER PRIMARY KEY AUTOINCREMENT,
    id         TEXT NOT NULL UNIQUE,
    session_id TEXT NOT NULL REFERENCES sessions (id) ON DELETE CASCADE,
    body       TEXT NOT NULL
) STRICT;

CREATE INDEX calibrations_by_session ON calibrations (session_id);

-- One row: how this studio works.
CREATE TABLE studio (
    only    INTEGER PRIMARY KEY NOT NULL CHECK (only = 1),
    house   TEXT NOT NULL,
    version INTEGER NOT NULL
) STRICT;

CREATE TABLE frames (
    id         TEXT PRIMARY KEY NOT NULL,
    name       TEXT NOT NULL UNIQUE COLLATE NOCASE CHECK (length(trim(name)) > 0),
    kind       TEXT NOT NULL,
    frame      TEXT NOT NULL,
    created_at TEXT NOT NULL
) STRICT;
