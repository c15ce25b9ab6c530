-- How far the query of a job has been taken, where it takes only new rows.
CREATE TABLE query_mark (
  job_id BIGINT NOT NULL PRIMARY KEY,
  last_key VARCHAR(1000) NOT NULL,
  run_id BIGINT NOT NULL,
  taken_at DATETIME(3) NOT NULL,
  FOREIGN KEY (job_id) REFERENCES job (id) ON DELETE CASCADE
);
