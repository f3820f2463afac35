-- Whether a step adds something: later edits of the same gesture do not rename it.
ALTER TABLE steps ADD COLUMN IF NOT EXISTS adds BOOLEAN NOT NULL DEFAULT FALSE AFTER name;
UPDATE steps SET adds = TRUE WHERE name LIKE 'add %';
