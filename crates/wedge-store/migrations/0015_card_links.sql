-- Who may see one fit's card through the room's network: of the token only its hash, and until when.
CREATE TABLE card_links (
    hash       TEXT PRIMARY KEY NOT NULL,
    session_id TEXT NOT NULL REFERENCES sessions (id) ON DELETE CASCADE,
    until      TEXT NOT NULL
) STRICT;

CREATE INDEX card_links_by_session ON card_links (session_id);
