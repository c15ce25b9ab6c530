-- What was found at a source and is being taken, on record before anything is taken: so nothing is taken twice or lost. Gone when
-- its run is made, unless something is left to do at the source, or it has to be remembered that it was taken.
CREATE TABLE claim (
  id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  job_id BIGINT NOT NULL,
  version INT NOT NULL,
  taken_from TEXT NOT NULL,
  item TEXT NOT NULL,
  item_version TEXT NOT NULL,
  -- The digest of place, item and version: no two take the same.
  held CHAR(64) CHARACTER SET ascii NOT NULL UNIQUE,
  run_key VARCHAR(64) CHARACTER SET ascii NOT NULL,
  file_name VARCHAR(255) NOT NULL,
  file_path VARCHAR(1024) NOT NULL,
  file_home VARCHAR(1024) NOT NULL,
  started_by VARCHAR(64) NOT NULL,
  asked TEXT NOT NULL,
  settlement VARCHAR(16) CHARACTER SET ascii NOT NULL,
  state VARCHAR(16) CHARACTER SET ascii NOT NULL,
  owner VARCHAR(80) CHARACTER SET ascii NOT NULL,
  claimed_at DATETIME(3) NOT NULL,
  FOREIGN KEY (job_id) REFERENCES job (id) ON DELETE CASCADE,
  KEY by_state (state, job_id)
);

-- A run was on record before its file was moved; now it is made when its file is here.
UPDATE run SET state = 'WAITING' WHERE state = 'CLAIMING';

RENAME TABLE query_trouble TO source_trouble;
