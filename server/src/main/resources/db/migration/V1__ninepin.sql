CREATE TABLE account (
  name VARCHAR(64) NOT NULL PRIMARY KEY,
  full_name VARCHAR(128) NOT NULL,
  password_hash VARCHAR(100) NOT NULL,
  created_at DATETIME(3) NOT NULL
);

CREATE TABLE connection (
  name VARCHAR(64) NOT NULL PRIMARY KEY,
  title VARCHAR(128) NOT NULL,
  host VARCHAR(253) NOT NULL,
  port INT NOT NULL,
  database_name VARCHAR(64) NOT NULL,
  user_name VARCHAR(128) NOT NULL,
  sealed_password VARBINARY(1024) NOT NULL,
  updated_at DATETIME(3) NOT NULL,
  updated_by VARCHAR(64) NOT NULL
);

-- The draft is what is being edited; live_version is what schedules run.
CREATE TABLE job (
  id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  name VARCHAR(64) NOT NULL UNIQUE,
  draft LONGTEXT NOT NULL,
  draft_layout LONGTEXT NOT NULL,
  revision INT NOT NULL,
  live_version INT,
  scheduled BOOLEAN NOT NULL DEFAULT FALSE,
  sample_name VARCHAR(255),
  updated_at DATETIME(3) NOT NULL,
  updated_by VARCHAR(64) NOT NULL
);

CREATE TABLE job_version (
  job_id BIGINT NOT NULL,
  version INT NOT NULL,
  definition LONGTEXT NOT NULL,
  layout LONGTEXT NOT NULL,
  live_at DATETIME(3) NOT NULL,
  live_by VARCHAR(64) NOT NULL,
  PRIMARY KEY (job_id, version),
  FOREIGN KEY (job_id) REFERENCES job (id) ON DELETE CASCADE
);

CREATE TABLE run (
  id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  run_key VARCHAR(64) CHARACTER SET ascii NOT NULL UNIQUE,
  job_id BIGINT NOT NULL,
  version INT NOT NULL,
  state VARCHAR(16) NOT NULL,
  started_by VARCHAR(64) NOT NULL,
  file_name VARCHAR(255) NOT NULL,
  file_path VARCHAR(1024) NOT NULL,
  file_home VARCHAR(1024) NOT NULL,
  file_size BIGINT NOT NULL,
  fingerprint CHAR(64) CHARACTER SET ascii,
  asked TEXT NOT NULL,
  today DATE NOT NULL,
  created_at DATETIME(3) NOT NULL,
  started_at DATETIME(3),
  ended_at DATETIME(3),
  busy_millis BIGINT NOT NULL DEFAULT 0,
  restarts INT NOT NULL DEFAULT 0,
  code VARCHAR(16),
  message TEXT,
  next_offset BIGINT NOT NULL DEFAULT 0,
  commits BIGINT NOT NULL DEFAULT 0,
  journal_imported BIGINT NOT NULL DEFAULT 0,
  records_read BIGINT NOT NULL DEFAULT 0,
  added BIGINT NOT NULL DEFAULT 0,
  changed BIGINT NOT NULL DEFAULT 0,
  unchanged BIGINT NOT NULL DEFAULT 0,
  rejected BIGINT NOT NULL DEFAULT 0,
  set_aside BIGINT NOT NULL DEFAULT 0,
  blank BIGINT NOT NULL DEFAULT 0,
  notes BIGINT NOT NULL DEFAULT 0,
  accepted_read BIGINT NOT NULL DEFAULT 0,
  accepted_rejected BIGINT NOT NULL DEFAULT 0,
  FOREIGN KEY (job_id) REFERENCES job (id) ON DELETE CASCADE,
  KEY by_job (job_id, id),
  KEY by_fingerprint (job_id, fingerprint),
  KEY by_state (state)
);

CREATE TABLE run_event (
  run_id BIGINT NOT NULL,
  at DATETIME(3) NOT NULL,
  kind VARCHAR(16) NOT NULL,
  text VARCHAR(500) NOT NULL,
  records_read BIGINT NOT NULL,
  KEY by_run (run_id, at),
  FOREIGN KEY (run_id) REFERENCES run (id) ON DELETE CASCADE
);

CREATE TABLE finding (
  run_id BIGINT NOT NULL,
  seq INT NOT NULL,
  severity VARCHAR(8) NOT NULL,
  code VARCHAR(16) NOT NULL,
  reason VARCHAR(400) NOT NULL,
  record BIGINT NOT NULL,
  line BIGINT NOT NULL,
  field VARCHAR(128),
  column_from INT NOT NULL,
  column_to INT NOT NULL,
  byte_offset BIGINT NOT NULL,
  byte_length INT NOT NULL,
  found VARCHAR(500) NOT NULL,
  message TEXT NOT NULL,
  PRIMARY KEY (run_id, seq),
  KEY by_reason (run_id, severity, code, reason(100)),
  FOREIGN KEY (run_id) REFERENCES run (id) ON DELETE CASCADE
);

CREATE TABLE reject (
  run_id BIGINT NOT NULL,
  record BIGINT NOT NULL,
  line BIGINT NOT NULL,
  byte_offset BIGINT NOT NULL,
  byte_length BIGINT NOT NULL,
  raw LONGBLOB NOT NULL,
  PRIMARY KEY (run_id, record),
  FOREIGN KEY (run_id) REFERENCES run (id) ON DELETE CASCADE
);
