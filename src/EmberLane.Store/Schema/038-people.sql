-- Who may come in: accounts, what they are in which production, invitations and links, and what happened at the door.
CREATE TABLE account (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    name TEXT NOT NULL,
    name_key TEXT NOT NULL,
    password_hash TEXT,
    -- Changes when all sessions shall end.
    stamp TEXT NOT NULL,
    owner INTEGER NOT NULL DEFAULT 0,
    -- Wrong passwords in a row, and until when no password is tried.
    failed INTEGER NOT NULL DEFAULT 0,
    locked_until TEXT,
    made_at TEXT NOT NULL,
    seen_at TEXT,
    -- An account that was closed; its name stays beside what it did and is not given again.
    closed_at TEXT
) STRICT;
CREATE UNIQUE INDEX account_by_name ON account(name_key);
CREATE TABLE passkey (
    credential_id BLOB PRIMARY KEY,
    account_id INTEGER NOT NULL REFERENCES account(id),
    name TEXT NOT NULL,
    body TEXT NOT NULL,
    made_at TEXT NOT NULL
) STRICT, WITHOUT ROWID;
CREATE INDEX passkey_by_account ON passkey(account_id);
CREATE TABLE member (
    production_id INTEGER NOT NULL REFERENCES production(id),
    account_id INTEGER NOT NULL REFERENCES account(id),
    role INTEGER NOT NULL,
    PRIMARY KEY (production_id, account_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX member_by_account ON member(account_id);
-- Addresses that let in. Only a hash of the secret in them is kept.
CREATE TABLE admission (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    kind INTEGER NOT NULL,
    key_hash BLOB NOT NULL UNIQUE,
    production_id INTEGER REFERENCES production(id),
    account_id INTEGER REFERENCES account(id),
    role INTEGER NOT NULL DEFAULT 0,
    rights INTEGER NOT NULL DEFAULT 0,
    label TEXT NOT NULL,
    made_by TEXT NOT NULL,
    made_at TEXT NOT NULL,
    expires_at TEXT NOT NULL,
    used_at TEXT,
    used_by TEXT,
    withdrawn_at TEXT,
    withdrawn_by TEXT
) STRICT;
CREATE INDEX admission_by_production ON admission(production_id);
-- Who came in, who was refused, who let whom in. Names of people stand here and nowhere in the log files.
CREATE TABLE door_event (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    at TEXT NOT NULL,
    kind INTEGER NOT NULL,
    who TEXT NOT NULL,
    production_id INTEGER,
    said TEXT NOT NULL
) STRICT;
CREATE INDEX door_event_by_production ON door_event(production_id, id);
-- What people say of words, bites and cards. Only those that begin a talk have a subject, and are settled.
CREATE TABLE comment (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    production_id INTEGER NOT NULL REFERENCES production(id),
    answers INTEGER REFERENCES comment(id),
    sitting_id INTEGER,
    transcript_id INTEGER,
    first_word INTEGER,
    last_word INTEGER,
    range_in INTEGER,
    range_out INTEGER,
    bite_id INTEGER,
    story_id INTEGER,
    card TEXT,
    quote TEXT NOT NULL,
    who TEXT NOT NULL,
    at TEXT NOT NULL,
    body TEXT NOT NULL,
    away INTEGER NOT NULL DEFAULT 0,
    settled_by TEXT NOT NULL DEFAULT '',
    settled_at TEXT
) STRICT;
CREATE INDEX comment_by_production ON comment(production_id, id);
CREATE INDEX comment_by_thread ON comment(answers);
CREATE TABLE comment_mention (
    comment_id INTEGER NOT NULL REFERENCES comment(id),
    name TEXT NOT NULL COLLATE NOCASE,
    PRIMARY KEY (comment_id, name)
) STRICT, WITHOUT ROWID;
CREATE INDEX comment_mention_by_name ON comment_mention(name);
-- Up to which change and which comment somebody has seen a production.
CREATE TABLE seen_until (
    production_id INTEGER NOT NULL REFERENCES production(id),
    who TEXT NOT NULL,
    change_id INTEGER NOT NULL,
    comment_id INTEGER NOT NULL,
    at TEXT NOT NULL,
    PRIMARY KEY (production_id, who)
) STRICT, WITHOUT ROWID;
