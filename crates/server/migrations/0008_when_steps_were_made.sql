-- when a step was made; unknown for those of earlier versions
ALTER TABLE history ADD COLUMN IF NOT EXISTS made TIMESTAMP(3) NULL DEFAULT NULL;
