-- A name that is asked for may be any text; one that cannot be compared would be an error instead of a name that is not there.
ALTER TABLE proof MODIFY name VARCHAR(64) CHARACTER SET utf8mb4 NOT NULL;
