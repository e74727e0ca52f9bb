-- Which stretches of which sittings a copy holds, as it was made; null for one that was made before this was kept.
ALTER TABLE copy ADD COLUMN parts TEXT;
