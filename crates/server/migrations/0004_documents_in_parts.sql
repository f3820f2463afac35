-- Documents in parts, each by the first half of its SHA-256: a header, pieces, lists of pieces, and a root that lists those. What two documents
-- have in common is kept once.
CREATE TABLE IF NOT EXISTS parts (
  hash BINARY(16) NOT NULL PRIMARY KEY,
  bytes LONGBLOB NOT NULL,
  -- when it was last asked for to be kept: what nothing refers to is swept after a while
  used TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3)
);

-- The root of the present document, and what the desk says of it. Without a root a document could not be read.
ALTER TABLE sheets ADD COLUMN IF NOT EXISTS root BINARY(16) NULL AFTER revision;
ALTER TABLE sheets ADD COLUMN IF NOT EXISTS width DOUBLE NOT NULL DEFAULT 0 AFTER name;
ALTER TABLE sheets ADD COLUMN IF NOT EXISTS height DOUBLE NOT NULL DEFAULT 0 AFTER width;
ALTER TABLE sheets ADD COLUMN IF NOT EXISTS unit VARCHAR(8) CHARACTER SET ascii NOT NULL DEFAULT 'mm' AFTER height;
ALTER TABLE sheets ADD COLUMN IF NOT EXISTS ppi DOUBLE NOT NULL DEFAULT 0 AFTER unit;
ALTER TABLE sheets MODIFY COLUMN step BIGINT UNSIGNED NOT NULL DEFAULT 0;

-- What was done to a sheet, one step after the other: the documents before and after it.
CREATE TABLE IF NOT EXISTS history (
  sheet BINARY(16) NOT NULL,
  seq BIGINT UNSIGNED NOT NULL,
  name VARCHAR(300) NOT NULL,
  -- it adds something: later edits of the same gesture do not rename it
  adds BOOLEAN NOT NULL DEFAULT FALSE,
  -- edits of one gesture (typing a word, nudging with arrow keys) are one step
  gesture BINARY(16) NULL,
  -- the tab that it was done in
  author BINARY(16) NULL,
  before_root BINARY(16) NOT NULL,
  after_root BINARY(16) NOT NULL,
  undone BOOLEAN NOT NULL DEFAULT FALSE,
  PRIMARY KEY (sheet, seq),
  FOREIGN KEY (sheet) REFERENCES sheets (id) ON DELETE CASCADE
);

-- Every document that a sheet has had, with the request that made it: for changes that were made for an older one, and for requests that come
-- twice.
CREATE TABLE IF NOT EXISTS revisions (
  sheet BINARY(16) NOT NULL,
  revision BIGINT UNSIGNED NOT NULL,
  root BINARY(16) NOT NULL,
  request BINARY(16) NULL,
  made TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (sheet, revision),
  UNIQUE KEY (sheet, request),
  KEY (made),
  FOREIGN KEY (sheet) REFERENCES sheets (id) ON DELETE CASCADE
);

-- Tabs that have a sheet open, and what is selected in them.
CREATE TABLE IF NOT EXISTS presence (
  sheet BINARY(16) NOT NULL,
  author BINARY(16) NOT NULL,
  selected BINARY(16) NULL,
  seen TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (sheet, author),
  FOREIGN KEY (sheet) REFERENCES sheets (id) ON DELETE CASCADE
);
