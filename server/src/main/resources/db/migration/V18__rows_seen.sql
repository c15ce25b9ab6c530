-- A key that a query was seen to reach, from which rows are taken when those with lower keys must have been committed.
CREATE TABLE query_seen (
  job_id BIGINT NOT NULL PRIMARY KEY,
  seen_key VARCHAR(1000) NOT NULL,
  seen_at DATETIME(3) NOT NULL,
  FOREIGN KEY (job_id) REFERENCES job (id) ON DELETE CASCADE
);
