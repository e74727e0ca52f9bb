-- What a place goes by (PlaceBasis), where it was told by how the evidence's sentence begins and ends. The changes of the log that hold
-- places are brought over by OlderPlaces in this same transaction.
ALTER TABLE source ADD COLUMN basis INTEGER NOT NULL DEFAULT 0;
