-- What is said, to be found: a read model, made anew by `ember rebuild`. A stretch of a sitting's text is an entry; its id is the sitting's
-- times 2^12 and its place among the stretches, so that entries come in the order of sittings and times. Its terms are numbers of the
-- vocabulary, its print tells whether it has changed.
CREATE TABLE find_entry (
    id INTEGER PRIMARY KEY,
    print INTEGER NOT NULL,
    passage BLOB NOT NULL
) STRICT;
-- By which text, and which state of it, a sitting's entries were made.
CREATE TABLE find_state (
    sitting_id INTEGER PRIMARY KEY REFERENCES sitting(id),
    transcript_id INTEGER NOT NULL,
    version INTEGER NOT NULL
) STRICT;
-- The vocabulary by language: folded words, what their forms have in common, and how they are said. Terms are never taken away.
CREATE TABLE find_term (
    id INTEGER PRIMARY KEY,
    language TEXT NOT NULL,
    term TEXT NOT NULL,
    stem TEXT NOT NULL,
    said TEXT NOT NULL,
    UNIQUE (language, term)
) STRICT;
CREATE INDEX find_term_by_stem ON find_term(language, stem);
-- Which entries hold which terms, and who speaks in them: names in one piece behind a sign that no word has. Where in an entry they stand
-- its passage tells.
CREATE VIRTUAL TABLE find_text USING fts5(
    words,
    content = '',
    contentless_delete = 1,
    detail = none,
    tokenize = "unicode61 remove_diacritics 0 categories 'L* N* Co M*'"
);
UPDATE reading_state SET is_made = 0;
