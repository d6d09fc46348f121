-- Append-only: what happened between visits: plans, and who was asked what.
CREATE TABLE afterwards (
    seq        INTEGER PRIMARY KEY AUTOINCREMENT,
    id         TEXT NOT NULL UNIQUE,
    session_id TEXT NOT NULL REFERENCES sessions (id) ON DELETE CASCADE,
    body       TEXT NOT NULL
) STRICT;

CREATE INDEX afterwards_by_session ON afterwards (session_id);
