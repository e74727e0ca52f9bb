-- How sure it is whose a word is, per mille; null where nobody doubts it.
ALTER TABLE word ADD COLUMN voice_sure INTEGER;
