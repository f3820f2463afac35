-- Imported drawings: the file, and the outline that it was united to on arrival (JSON).
CREATE TABLE IF NOT EXISTS drawings (
  id CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  outline CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  FOREIGN KEY (id) REFERENCES blobs (hash),
  FOREIGN KEY (outline) REFERENCES blobs (hash)
);
-- Fonts that people brought in.
CREATE TABLE IF NOT EXISTS fonts (
  id CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  name VARCHAR(200) NOT NULL,
  brought TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  FOREIGN KEY (id) REFERENCES blobs (hash)
);
