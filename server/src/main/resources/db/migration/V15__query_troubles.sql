-- Why the query of a job gave no file when its schedule asked last; gone with the next time it does.
CREATE TABLE query_trouble (
  job_id BIGINT NOT NULL PRIMARY KEY,
  message TEXT NOT NULL,
  happened_at DATETIME(3) NOT NULL,
  FOREIGN KEY (job_id) REFERENCES job (id) ON DELETE CASCADE
);
