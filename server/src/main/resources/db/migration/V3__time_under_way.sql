-- The time a run has been at work since it was last started, kept while it is under way so that a crash does not lose it.
ALTER TABLE run ADD COLUMN live_millis BIGINT NOT NULL DEFAULT 0;
