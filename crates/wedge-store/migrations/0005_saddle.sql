-- The saddle: what was noted of it, and guided protocols.

ALTER TABLE sessions ADD COLUMN saddle TEXT NOT NULL DEFAULT '{}';

-- A run of a protocol. Its hidden order is in no body that is read with the session: it stands alone until the end.
CREATE TABLE runs (
    seq        INTEGER PRIMARY KEY AUTOINCREMENT,
    id         TEXT NOT NULL UNIQUE,
    session_id TEXT NOT NULL REFERENCES sessions (id) ON DELETE CASCADE,
    setup_id   TEXT NOT NULL REFERENCES setups (id) ON DELETE CASCADE,
    started_at TEXT NOT NULL,
    plan       TEXT NOT NULL,
    effort     TEXT,
    hidden     TEXT NOT NULL,
    ended_at   TEXT,
    finding    TEXT
) STRICT;

CREATE INDEX runs_by_session ON runs (session_id);

CREATE INDEX runs_by_setup ON runs (setup_id);

-- Append-only: what was called, and what was taken back.
CREATE TABLE calls (
    seq    INTEGER PRIMARY KEY AUTOINCREMENT,
    id     TEXT NOT NULL UNIQUE,
    run_id TEXT NOT NULL REFERENCES runs (id) ON DELETE CASCADE,
    at     TEXT NOT NULL,
    body   TEXT NOT NULL
) STRICT;

CREATE INDEX calls_by_run ON calls (run_id);
