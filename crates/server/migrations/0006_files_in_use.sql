-- When a file was last asked for to be kept or used: what nothing refers to is swept after a while.
ALTER TABLE blobs ADD COLUMN IF NOT EXISTS used TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3);
