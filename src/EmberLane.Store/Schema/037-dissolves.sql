-- How cards come in over the piece before: by a dissolve of so long (NULL: by a cut), its sound too.
ALTER TABLE card ADD COLUMN comes_in INTEGER;
ALTER TABLE card ADD COLUMN comes_in_heard INTEGER NOT NULL DEFAULT 0;
