-- Samples kept with a job, and what it is expected to make of them.
CREATE TABLE proof (
  id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  job_id BIGINT NOT NULL,
  name VARCHAR(64) CHARACTER SET ascii NOT NULL,
  definition LONGTEXT NOT NULL,
  made_at DATETIME(3) NOT NULL,
  made_by VARCHAR(64) NOT NULL,
  UNIQUE (job_id, name),
  FOREIGN KEY (job_id) REFERENCES job (id) ON DELETE CASCADE
);
