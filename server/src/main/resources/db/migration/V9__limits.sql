-- Notes up to which a person has said to go on in spite of the limit.
ALTER TABLE run ADD COLUMN accepted_notes BIGINT NOT NULL DEFAULT 0 AFTER accepted_rejected;
