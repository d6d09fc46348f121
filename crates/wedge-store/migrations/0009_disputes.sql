-- Append-only: where the fitter disagreed with the judge, and what of it was taken back.
CREATE TABLE disputes (
    seq        INTEGER PRIMARY KEY AUTOINCREMENT,
    id         TEXT NOT NULL UNIQUE,
    session_id TEXT NOT NULL REFERENCES sessions (id) ON DELETE CASCADE,
    body       TEXT NOT NULL
) STRICT;

CREATE INDEX disputes_by_session ON disputes (session_id);
