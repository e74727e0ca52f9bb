-- Which state of the index an entry was written in: what has changed since is read by it. How a term is said is told from it when it is
-- asked for.
ALTER TABLE find_entry ADD COLUMN mark INTEGER NOT NULL DEFAULT 1;
CREATE INDEX find_entry_by_mark ON find_entry(mark);
CREATE TABLE find_mark (number INTEGER NOT NULL) STRICT;
INSERT INTO find_mark VALUES (1);
