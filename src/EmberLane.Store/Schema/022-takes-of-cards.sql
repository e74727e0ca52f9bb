-- Other takes of what a card shows, by their bites; and lines of a script that nobody says, before and behind it.
ALTER TABLE card ADD COLUMN other_takes TEXT NOT NULL DEFAULT '';
ALTER TABLE card ADD COLUMN space_before TEXT NOT NULL DEFAULT '';
ALTER TABLE card ADD COLUMN space_after TEXT NOT NULL DEFAULT '';
