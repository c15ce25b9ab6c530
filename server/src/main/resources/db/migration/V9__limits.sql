-- The account up to which a person has said to go on in spite of a limit, and the one at which a limit halted the run:
-- in a file that is delivered whole that is more than is committed.
ALTER TABLE run
  ADD COLUMN accepted_notes BIGINT NOT NULL DEFAULT 0 AFTER accepted_rejected,
  ADD COLUMN halted_read BIGINT NOT NULL DEFAULT 0,
  ADD COLUMN halted_rejected BIGINT NOT NULL DEFAULT 0,
  ADD COLUMN halted_notes BIGINT NOT NULL DEFAULT 0;
UPDATE run SET halted_read = records_read, halted_rejected = rejected, halted_notes = notes WHERE code = 'LIM-01';
