-- What a change of a sitting's text does to stories is told with each change.
CREATE INDEX card_by_sitting ON card(sitting_id);
