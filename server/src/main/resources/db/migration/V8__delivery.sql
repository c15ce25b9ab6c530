-- What kind of database a connection leads to, and rows that a run removed.
ALTER TABLE connection ADD COLUMN kind VARCHAR(20) CHARACTER SET ascii NOT NULL DEFAULT 'mariadb' AFTER title;
ALTER TABLE run ADD COLUMN removed BIGINT NOT NULL DEFAULT 0 AFTER unchanged;
