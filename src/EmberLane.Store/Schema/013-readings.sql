-- Read models: what lists show, kept up in the transaction of the change that it follows from, and made anew by `ember rebuild`. Nothing
-- here is anybody's decision.
-- What a bite says by the text that its sitting is read by, and how long what is in use of it lasts.
CREATE TABLE bite_reading (
    bite_id INTEGER PRIMARY KEY REFERENCES bite(id),
    first_word INTEGER NOT NULL,
    said TEXT NOT NULL,
    length INTEGER NOT NULL
) STRICT;
-- Who speaks in it, the first to speak first, and how long that one's words last.
CREATE TABLE bite_voice (
    bite_id INTEGER NOT NULL REFERENCES bite(id),
    position INTEGER NOT NULL,
    name TEXT NOT NULL,
    said INTEGER NOT NULL,
    PRIMARY KEY (bite_id, position)
) STRICT, WITHOUT ROWID;
-- Its parts that are in use.
CREATE TABLE bite_piece (
    bite_id INTEGER NOT NULL REFERENCES bite(id),
    position INTEGER NOT NULL,
    time_in INTEGER NOT NULL,
    time_out INTEGER NOT NULL,
    PRIMARY KEY (bite_id, position)
) STRICT, WITHOUT ROWID;
-- What is set aside of a sitting, by the text that it is read by: stretches apart from each other.
CREATE TABLE aside_stretch (
    sitting_id INTEGER NOT NULL REFERENCES sitting(id),
    position INTEGER NOT NULL,
    time_in INTEGER NOT NULL,
    time_out INTEGER NOT NULL,
    PRIMARY KEY (sitting_id, position)
) STRICT, WITHOUT ROWID;
-- Made for the first time at the start after this script.
CREATE TABLE reading_state (
    is_made INTEGER NOT NULL
) STRICT;
INSERT INTO reading_state VALUES (0);
