-- The record. Ids are UUIDs as text, made by the client. Instants are UTC in RFC 3339; days are plain dates.
-- Bodies in JSON are the plain nouns of wedge-files and wedge-core.

CREATE TABLE riders (
    id         TEXT PRIMARY KEY NOT NULL,
    name       TEXT NOT NULL CHECK (length(trim(name)) > 0),
    created_at TEXT NOT NULL,
    version    INTEGER NOT NULL DEFAULT 1
) STRICT;

CREATE INDEX riders_by_name ON riders (name COLLATE NOCASE);

CREATE TABLE bikes (
    id         TEXT PRIMARY KEY NOT NULL,
    rider_id   TEXT NOT NULL REFERENCES riders (id) ON DELETE CASCADE,
    name       TEXT NOT NULL CHECK (length(trim(name)) > 0),
    kind       TEXT NOT NULL,
    frame      TEXT NOT NULL,
    setup      TEXT NOT NULL,
    created_at TEXT NOT NULL,
    version    INTEGER NOT NULL DEFAULT 1
) STRICT;

CREATE INDEX bikes_by_rider ON bikes (rider_id);

CREATE TABLE sessions (
    id          TEXT PRIMARY KEY NOT NULL,
    bike_id     TEXT NOT NULL REFERENCES bikes (id) ON DELETE CASCADE,
    number      INTEGER NOT NULL,
    day         TEXT NOT NULL,
    state       TEXT NOT NULL CHECK (state IN ('open', 'finished')),
    station     TEXT NOT NULL,
    conventions TEXT NOT NULL,
    effort      TEXT,
    base        TEXT NOT NULL,
    now         TEXT REFERENCES setups (id) DEFERRABLE INITIALLY DEFERRED,
    created_at  TEXT NOT NULL,
    version     INTEGER NOT NULL DEFAULT 1,
    UNIQUE (bike_id, number)
) STRICT;

-- One open fit per bike.
CREATE UNIQUE INDEX open_session ON sessions (bike_id) WHERE state = 'open';

-- Append-only: what was taped. Of the body when session_id is null, else of the bike in that fit.
CREATE TABLE readings (
    seq        INTEGER PRIMARY KEY AUTOINCREMENT,
    id         TEXT NOT NULL UNIQUE,
    rider_id   TEXT NOT NULL REFERENCES riders (id) ON DELETE CASCADE,
    session_id TEXT REFERENCES sessions (id) ON DELETE CASCADE,
    taken_at   TEXT NOT NULL,
    reading    TEXT NOT NULL
) STRICT;

CREATE INDEX readings_by_rider ON readings (rider_id, session_id);

-- Append-only: every setup that stood on the bench.
CREATE TABLE setups (
    seq         INTEGER PRIMARY KEY AUTOINCREMENT,
    id          TEXT NOT NULL UNIQUE,
    session_id  TEXT NOT NULL REFERENCES sessions (id) ON DELETE CASCADE,
    recorded_at TEXT NOT NULL,
    setup       TEXT NOT NULL
) STRICT;

CREATE INDEX setups_by_session ON setups (session_id);

-- Append-only: what was tried, with what was foreseen then.
CREATE TABLE trials (
    id         TEXT PRIMARY KEY NOT NULL,
    session_id TEXT NOT NULL REFERENCES sessions (id) ON DELETE CASCADE,
    number     INTEGER NOT NULL,
    tried_at   TEXT NOT NULL,
    changes    TEXT NOT NULL,
    effort     TEXT,
    foreseen   TEXT NOT NULL,
    before     TEXT NOT NULL REFERENCES setups (id),
    after      TEXT NOT NULL REFERENCES setups (id),
    UNIQUE (session_id, number)
) STRICT;

-- Append-only: what was seen, said and decided of a trial.
CREATE TABLE entries (
    seq      INTEGER PRIMARY KEY AUTOINCREMENT,
    id       TEXT NOT NULL UNIQUE,
    trial_id TEXT NOT NULL REFERENCES trials (id) ON DELETE CASCADE,
    at       TEXT NOT NULL,
    body     TEXT NOT NULL
) STRICT;

CREATE INDEX entries_by_trial ON entries (trial_id);

-- The one mutable row of a fit: what is being typed.
CREATE TABLE drafts (
    session_id TEXT PRIMARY KEY NOT NULL REFERENCES sessions (id) ON DELETE CASCADE,
    body       TEXT NOT NULL,
    saved_at   TEXT NOT NULL
) STRICT;
