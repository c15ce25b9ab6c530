-- Who has a run: the process that took it up last, until when it is heard of, and the number of the take-up.
ALTER TABLE run
  ADD COLUMN owner VARCHAR(80) CHARACTER SET ascii,
  ADD COLUMN lease_until DATETIME(3),
  ADD COLUMN epoch BIGINT NOT NULL DEFAULT 0,
  ADD COLUMN stop_requested BOOLEAN NOT NULL DEFAULT FALSE,
-- When a run that waits for its surroundings is tried again, and how often it has waited since it last got on.
  ADD COLUMN resume_at DATETIME(3),
  ADD COLUMN pauses INT NOT NULL DEFAULT 0,
-- Where its file is to be moved; the intent is on record before the file is moved.
  ADD COLUMN moving_to VARCHAR(1024),
-- A run that takes another one back, what the other was before, and what came of it.
  ADD COLUMN undoes BIGINT,
  ADD COLUMN state_before VARCHAR(16) CHARACTER SET ascii,
  ADD COLUMN outcomes LONGTEXT,
  ADD KEY by_owner (owner),
  ADD KEY by_move (moving_to(20)),
  ADD KEY by_undone (undoes);
