-- Names of accounts are compared exactly: neither accents nor case nor blanks at the end are overlooked.
ALTER TABLE account
  MODIFY name VARCHAR(64) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL,
  ADD COLUMN password_at DATETIME(3) NOT NULL DEFAULT '1970-01-01 00:00:00';

-- Sign-ins that failed of late. What was typed as a name may be a password, so only a hash of it is kept.
CREATE TABLE sign_in_failure (
  subject CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  failures INT NOT NULL,
  last_at DATETIME(3) NOT NULL,
  KEY by_time (last_at)
);
