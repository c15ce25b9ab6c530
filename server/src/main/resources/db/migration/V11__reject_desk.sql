-- What becomes of a reject: corrected, sent again with a run of its own, or set aside for good. What came stays as it came.
ALTER TABLE reject
  ADD COLUMN document BIGINT NOT NULL DEFAULT 0,
  ADD COLUMN by_target BOOLEAN NOT NULL DEFAULT FALSE,
  ADD COLUMN state VARCHAR(12) CHARACTER SET ascii NOT NULL DEFAULT 'open',
  ADD COLUMN corrected LONGBLOB,
  ADD COLUMN decided_at DATETIME(3),
  ADD COLUMN decided_by VARCHAR(64),
  ADD COLUMN reason VARCHAR(500),
  ADD COLUMN resubmitted_run BIGINT,
  ADD KEY by_state (state, run_id);
UPDATE reject SET document = record;

CREATE TABLE reject_history (
  run_id BIGINT NOT NULL,
  leg INT NOT NULL,
  record BIGINT NOT NULL,
  at DATETIME(3) NOT NULL,
  who VARCHAR(64) NOT NULL,
  did VARCHAR(20) CHARACTER SET ascii NOT NULL,
  text VARCHAR(500),
  corrected LONGBLOB,
  KEY by_record (run_id, record, at),
  FOREIGN KEY (run_id) REFERENCES run (id) ON DELETE CASCADE
);

-- A run of rejects belongs to the run that refused them, and may go to one of its places alone.
ALTER TABLE run
  ADD COLUMN parent_run BIGINT,
  ADD COLUMN only_leg INT,
  ADD KEY by_parent (parent_run);

-- Where the records of such a run come from.
CREATE TABLE resubmitted_record (
  run_id BIGINT NOT NULL,
  record BIGINT NOT NULL,
  origin_run BIGINT NOT NULL,
  origin_record BIGINT NOT NULL,
  PRIMARY KEY (run_id, record),
  FOREIGN KEY (run_id) REFERENCES run (id) ON DELETE CASCADE
);
