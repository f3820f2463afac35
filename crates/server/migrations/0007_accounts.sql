-- People who may come in, where the server asks for that.
CREATE TABLE IF NOT EXISTS accounts (
  id BINARY(16) NOT NULL PRIMARY KEY,
  -- the same name in other case, or with other accents, is the same name
  name VARCHAR(60) NOT NULL,
  -- PHC string; none until it is chosen
  password VARCHAR(255) CHARACTER SET ascii COLLATE ascii_bin NULL,
  made TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  UNIQUE KEY (name)
);
-- One-time secrets with which a password is chosen, by their hashes.
CREATE TABLE IF NOT EXISTS password_links (
  hash BINARY(32) NOT NULL PRIMARY KEY,
  account BINARY(16) NOT NULL,
  made TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  FOREIGN KEY (account) REFERENCES accounts (id) ON DELETE CASCADE
);
-- Browsers that are signed in, by the hashes of what is in their cookies.
CREATE TABLE IF NOT EXISTS sessions (
  hash BINARY(32) NOT NULL PRIMARY KEY,
  id BINARY(16) NOT NULL,
  account BINARY(16) NOT NULL,
  -- what the browser says it is, and where it came from
  browser VARCHAR(200) NOT NULL,
  address VARCHAR(45) CHARACTER SET ascii NOT NULL,
  made TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  seen TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  KEY (account),
  FOREIGN KEY (account) REFERENCES accounts (id) ON DELETE CASCADE
);
-- Tries of passwords that were wrong, or are not answered yet.
CREATE TABLE IF NOT EXISTS tries (
  id BINARY(16) NOT NULL PRIMARY KEY,
  -- hash of the name
  who BINARY(32) NOT NULL,
  address VARCHAR(45) CHARACTER SET ascii NOT NULL,
  at TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  KEY (who, at),
  KEY (address, at)
);
-- Who may do what with a sheet. One who was invited has no access until the invitation is taken.
CREATE TABLE IF NOT EXISTS members (
  sheet BINARY(16) NOT NULL,
  account BINARY(16) NOT NULL,
  role ENUM ('look', 'edit', 'own') NOT NULL,
  invited_by VARCHAR(60) NULL,
  taken BOOLEAN NOT NULL,
  PRIMARY KEY (sheet, account),
  KEY (account),
  FOREIGN KEY (sheet) REFERENCES sheets (id) ON DELETE CASCADE,
  FOREIGN KEY (account) REFERENCES accounts (id) ON DELETE CASCADE
);
-- Fonts that an account brought in.
CREATE TABLE IF NOT EXISTS font_owners (
  font CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  account BINARY(16) NOT NULL,
  PRIMARY KEY (font, account),
  FOREIGN KEY (font) REFERENCES fonts (id) ON DELETE CASCADE,
  FOREIGN KEY (account) REFERENCES accounts (id) ON DELETE CASCADE
);
ALTER TABLE presence ADD COLUMN IF NOT EXISTS account BINARY(16) NULL;
