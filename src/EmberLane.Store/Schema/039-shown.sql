-- What a link shows: one sitting or one story; where neither is named, all of both that the production has.
ALTER TABLE admission ADD COLUMN sitting_id INTEGER;
ALTER TABLE admission ADD COLUMN story_id INTEGER;
