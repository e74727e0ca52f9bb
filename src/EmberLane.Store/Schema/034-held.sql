-- What is off the record can not be switched on as a whole any more: where that was done it is out again, and lists are made anew.
UPDATE reading_state SET is_made = 0 WHERE EXISTS (SELECT 1 FROM layer_off WHERE layer = 'off-record');
DELETE FROM layer_off WHERE layer = 'off-record';
