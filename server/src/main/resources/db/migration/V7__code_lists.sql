-- Code lists: the latest version stands beside its name; versions never change.
CREATE TABLE code_list (
  id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  name VARCHAR(64) NOT NULL UNIQUE,
  version INT NOT NULL
);

CREATE TABLE code_list_version (
  code_list_id BIGINT NOT NULL,
  version INT NOT NULL,
  definition LONGTEXT NOT NULL,
  note VARCHAR(500),
  saved_at DATETIME(3) NOT NULL,
  saved_by VARCHAR(64) NOT NULL,
  PRIMARY KEY (code_list_id, version),
  FOREIGN KEY (code_list_id) REFERENCES code_list (id) ON DELETE CASCADE
);

-- What a run took at its first start: the version of a list and, where a query gives its lines, the lines themselves.
CREATE TABLE run_code_list (
  run_id BIGINT NOT NULL,
  name VARCHAR(64) NOT NULL,
  version INT NOT NULL,
  definition LONGTEXT NOT NULL,
  read_at DATETIME(3) NOT NULL,
  PRIMARY KEY (run_id, name),
  FOREIGN KEY (run_id) REFERENCES run (id) ON DELETE CASCADE
);

-- What lanes and reasons have of the account of a run.
ALTER TABLE run ADD COLUMN shares TEXT;
