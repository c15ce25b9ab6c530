-- Records and rows part ways: a record may make rows of several tables, or none.
ALTER TABLE run
  ADD COLUMN delivered BIGINT NOT NULL DEFAULT 0,
  ADD COLUMN without_rows BIGINT NOT NULL DEFAULT 0;
UPDATE run SET delivered = added + changed + unchanged;
