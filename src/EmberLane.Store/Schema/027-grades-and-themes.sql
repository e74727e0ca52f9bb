-- How good a bite is (0 where nobody has said, to 3), and what it is in a word.
ALTER TABLE bite ADD COLUMN grade INTEGER NOT NULL DEFAULT 0;
ALTER TABLE bite ADD COLUMN kind TEXT NOT NULL DEFAULT '';
-- The themes of a bite one by one, as its line of them says; with every change of the line they are written anew.
CREATE TABLE bite_theme (
    bite_id INTEGER NOT NULL REFERENCES bite(id),
    position INTEGER NOT NULL,
    theme TEXT NOT NULL,
    PRIMARY KEY (bite_id, position)
) STRICT, WITHOUT ROWID;
-- A theme from before with a comma in it was one; it stays one, with a dash.
UPDATE bite SET theme = replace(theme, ',', ' –') WHERE theme LIKE '%,%';
INSERT INTO bite_theme SELECT id, 0, theme FROM bite WHERE theme <> '';
