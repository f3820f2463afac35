-- How often a job was begun, and by whom: one that ends its server each time is not begun for ever, and nobody else ends it.
ALTER TABLE jobs ADD COLUMN IF NOT EXISTS tries INT UNSIGNED NOT NULL DEFAULT 0;
ALTER TABLE jobs ADD COLUMN IF NOT EXISTS worker BINARY(16) NULL;
