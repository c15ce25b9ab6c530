-- Files that runs have written for a root on another machine. What is on record has happened; the attempt keeps two processes apart.
CREATE TABLE outbox (
  id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  run_id BIGINT NOT NULL,
  leg INT NOT NULL,
  number INT NOT NULL,
  root VARCHAR(64) NOT NULL,
  folder VARCHAR(1024) NOT NULL,
  name VARCHAR(255) NOT NULL,
  file_path VARCHAR(1024) NOT NULL,
  fingerprint CHAR(64) CHARACTER SET ascii NOT NULL,
  may_replace BOOLEAN NOT NULL,
  state VARCHAR(16) CHARACTER SET ascii NOT NULL,
  -- The name that it was last uploaded under, or is being uploaded under.
  hidden VARCHAR(100) CHARACTER SET ascii,
  attempt INT NOT NULL DEFAULT 0,
  owner VARCHAR(80) CHARACTER SET ascii,
  claimed_at DATETIME(3),
  -- When it is tried next; nothing while it waits for a person.
  next_at DATETIME(3),
  tries INT NOT NULL DEFAULT 0,
  code VARCHAR(16) CHARACTER SET ascii,
  trouble TEXT,
  made_at DATETIME(3) NOT NULL,
  sent_at DATETIME(3),
  UNIQUE KEY one_file (run_id, leg, number),
  KEY by_state (state, next_at),
  FOREIGN KEY (run_id) REFERENCES run (id) ON DELETE CASCADE
);
