-- Every statement of a migration can be run again: one that was cut off is repeated from its beginning.

-- Files of any size, in chunks small enough for every packet limit. A row here means that all chunks are there.
CREATE TABLE IF NOT EXISTS blobs (
  hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  size BIGINT UNSIGNED NOT NULL
);
CREATE TABLE IF NOT EXISTS blob_chunks (
  hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  seq INT UNSIGNED NOT NULL,
  bytes MEDIUMBLOB NOT NULL,
  PRIMARY KEY (hash, seq)
);

CREATE TABLE IF NOT EXISTS sheets (
  id BINARY(16) NOT NULL PRIMARY KEY,
  name VARCHAR(200) NOT NULL,
  -- counts every change, undo and redo included
  revision BIGINT UNSIGNED NOT NULL,
  -- the step whose document is the present one
  step BIGINT UNSIGNED NOT NULL,
  -- the request that made the present revision, so that a repeated one is recognised
  request BINARY(16) NULL,
  changed TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3) ON UPDATE CURRENT_TIMESTAMP(3),
  removed TIMESTAMP(3) NULL
);
CREATE TABLE IF NOT EXISTS steps (
  sheet BINARY(16) NOT NULL,
  seq BIGINT UNSIGNED NOT NULL,
  name VARCHAR(300) NOT NULL,
  -- edits of one gesture (typing a word, nudging with arrow keys) are one step
  gesture BINARY(16) NULL,
  document LONGTEXT NOT NULL,
  PRIMARY KEY (sheet, seq),
  FOREIGN KEY (sheet) REFERENCES sheets (id) ON DELETE CASCADE
);
CREATE TABLE IF NOT EXISTS thumbnails (
  sheet BINARY(16) NOT NULL PRIMARY KEY,
  revision BIGINT UNSIGNED NOT NULL,
  png MEDIUMBLOB NOT NULL,
  FOREIGN KEY (sheet) REFERENCES sheets (id) ON DELETE CASCADE
);

CREATE TABLE IF NOT EXISTS photos (
  id CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  name VARCHAR(200) NOT NULL,
  width INT UNSIGNED NOT NULL,
  height INT UNSIGNED NOT NULL,
  FOREIGN KEY (id) REFERENCES blobs (hash)
);
CREATE TABLE IF NOT EXISTS subjects (
  -- hash of the matte
  id CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  cutout CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  FOREIGN KEY (id) REFERENCES blobs (hash),
  FOREIGN KEY (cutout) REFERENCES blobs (hash)
);
-- What was asked of which photo, and what was found, so that the same question is answered at once.
CREATE TABLE IF NOT EXISTS findings (
  photo CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  -- hash of the box and of the version of the method
  question CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  subject CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  PRIMARY KEY (photo, question),
  FOREIGN KEY (photo) REFERENCES photos (id),
  FOREIGN KEY (subject) REFERENCES subjects (id)
);
-- Photos and cut-outs at the sizes in which screens show them.
CREATE TABLE IF NOT EXISTS levels (
  source CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  side INT UNSIGNED NOT NULL,
  kind VARCHAR(20) CHARACTER SET ascii NOT NULL,
  bytes LONGBLOB NOT NULL,
  PRIMARY KEY (source, side)
);

CREATE TABLE IF NOT EXISTS jobs (
  id BINARY(16) NOT NULL PRIMARY KEY,
  sheet BINARY(16) NOT NULL,
  task LONGTEXT NOT NULL,
  state ENUM ('waiting', 'running', 'done', 'failed', 'cancelled') NOT NULL DEFAULT 'waiting',
  done FLOAT NOT NULL DEFAULT 0,
  step VARCHAR(200) NOT NULL DEFAULT '',
  cancel BOOLEAN NOT NULL DEFAULT FALSE,
  -- last sign of life of the worker; a job whose worker is gone is taken again
  alive TIMESTAMP(3) NULL,
  outcome LONGTEXT NULL,
  made TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  KEY (state, made),
  KEY (sheet, made)
);

-- Files of the demo that were loaded.
CREATE TABLE IF NOT EXISTS demo_files (
  file VARCHAR(200) NOT NULL PRIMARY KEY
);
