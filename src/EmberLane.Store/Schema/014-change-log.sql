-- One log of what people changed, whatever it is: of which production, on which version (0 where nothing counts them), and in words, as it
-- was when it was made.
ALTER TABLE edit RENAME TO change;
ALTER TABLE change ADD COLUMN production_id INTEGER NOT NULL DEFAULT 0;
ALTER TABLE change ADD COLUMN version INTEGER NOT NULL DEFAULT 0;
ALTER TABLE change ADD COLUMN said TEXT NOT NULL DEFAULT '';
-- The change that this one takes back alone, out of its order. state: 0 in force, 1 taken back, 2 taken back and passed over by a later
-- change, 3 taken back alone by another change.
ALTER TABLE change ADD COLUMN takes_back INTEGER;
UPDATE change SET production_id = aggregate_id WHERE aggregate IN ('gather', 'bites');
UPDATE change SET production_id = (SELECT production_id FROM story WHERE id = aggregate_id) WHERE aggregate = 'story';
UPDATE change SET production_id = (SELECT production_id FROM sitting WHERE id = aggregate_id) WHERE aggregate IN ('placing', 'texts');
UPDATE change SET production_id = (SELECT s.production_id FROM transcript t JOIN sitting s ON s.id = t.sitting_id
    WHERE t.id = aggregate_id) WHERE aggregate = 'transcript';
CREATE INDEX change_by_production ON change(production_id, id);
-- Choices of texts were plain numbers; now they are edits like all others.
UPDATE change SET body = CASE body WHEN 'none' THEN '{"Text":null}' ELSE '{"Text":' || body || '}' END, inverse = CASE inverse
    WHEN 'none' THEN '{"Text":null}' ELSE '{"Text":' || inverse || '}' END WHERE aggregate = 'texts';
UPDATE change SET said = json_extract(body, '$.What') WHERE aggregate = 'gather';
-- Grows with every change and with every one that is taken back or made again, so that a page can tell whether it shows the newest.
ALTER TABLE production ADD COLUMN changes INTEGER NOT NULL DEFAULT 0;
-- Choices have keys, where they had sentences.
UPDATE production_setting SET name = CASE name WHEN 'transcribe on arrival' THEN 'arrival.transcribe'
    WHEN 'recogniser on arrival' THEN 'arrival.recogniser' WHEN 'language on arrival' THEN 'arrival.language'
    WHEN 'arrival from sitting' THEN 'arrival.from-sitting' WHEN 'story in hand' THEN 'story.in-hand' ELSE name END;
