-- Applications over HTTP beside databases: where they answer, how callers show who they are, what they take.
ALTER TABLE connection
  ADD COLUMN base VARCHAR(500),
  ADD COLUMN authentication VARCHAR(20) CHARACTER SET ascii,
  ADD COLUMN description_path VARCHAR(500),
  ADD COLUMN description LONGTEXT;

-- The account of each place a run delivers to, where there are several or one is an application.
CREATE TABLE run_leg (
  run_id BIGINT NOT NULL,
  leg INT NOT NULL,
  label VARCHAR(255) NOT NULL,
  kind VARCHAR(20) CHARACTER SET ascii NOT NULL,
  state VARCHAR(16) CHARACTER SET ascii NOT NULL,
  code VARCHAR(16),
  message TEXT,
  started_at DATETIME(3),
  ended_at DATETIME(3),
  next_offset BIGINT NOT NULL DEFAULT 0,
  commits BIGINT NOT NULL DEFAULT 0,
  journal_imported BIGINT NOT NULL DEFAULT 0,
  answers_imported BIGINT NOT NULL DEFAULT 0,
  sent_again BIGINT NOT NULL DEFAULT 0,
  account TEXT NOT NULL,
  PRIMARY KEY (run_id, leg),
  FOREIGN KEY (run_id) REFERENCES run (id) ON DELETE CASCADE
);

-- What an application answered to a document it took.
CREATE TABLE run_answer (
  run_id BIGINT NOT NULL,
  leg INT NOT NULL,
  record BIGINT NOT NULL,
  answer TEXT NOT NULL,
  PRIMARY KEY (run_id, leg, record),
  FOREIGN KEY (run_id) REFERENCES run (id) ON DELETE CASCADE
);

-- Which leg's target refused a record; those that a check refused are refused in all of them, and belong to the first.
ALTER TABLE finding ADD COLUMN leg INT NOT NULL DEFAULT 0 AFTER run_id;
ALTER TABLE reject ADD COLUMN leg INT NOT NULL DEFAULT 0 AFTER run_id, DROP PRIMARY KEY, ADD PRIMARY KEY (run_id, record, leg);
