-- The library of layouts: a draft that is being edited, and the versions saved of it. A job keeps a copy of the layout it
-- works with in its own draft and versions, so that a change of the library never changes what is live.
CREATE TABLE layout (
  id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  name VARCHAR(64) NOT NULL UNIQUE,
  draft LONGTEXT NOT NULL,
  revision INT NOT NULL,
  sample_name VARCHAR(255),
  fitted_name VARCHAR(255),
  fitted_at DATETIME(3),
  updated_at DATETIME(3) NOT NULL,
  updated_by VARCHAR(64) NOT NULL
);

CREATE TABLE layout_version (
  layout_id BIGINT NOT NULL,
  version INT NOT NULL,
  definition LONGTEXT NOT NULL,
  note VARCHAR(500),
  saved_at DATETIME(3) NOT NULL,
  saved_by VARCHAR(64) NOT NULL,
  PRIMARY KEY (layout_id, version),
  FOREIGN KEY (layout_id) REFERENCES layout (id) ON DELETE CASCADE
);

-- What the jobs of earlier releases kept for themselves becomes the library: of jobs that share a name, the latest edit.
INSERT INTO layout (name, draft, revision, updated_at, updated_by)
SELECT JSON_VALUE(j.draft, '$.layout'), JSON_SET(j.draft_layout, '$.name', JSON_VALUE(j.draft, '$.layout')), 1,
  j.updated_at, j.updated_by
FROM job j
WHERE JSON_VALUE(j.draft, '$.layout') IS NOT NULL
  AND j.id = (SELECT k.id FROM job k WHERE JSON_VALUE(k.draft, '$.layout') = JSON_VALUE(j.draft, '$.layout')
    ORDER BY k.updated_at DESC, k.id DESC LIMIT 1);
INSERT INTO layout_version (layout_id, version, definition, saved_at, saved_by)
SELECT l.id, 1, v.layout, v.live_at, v.live_by
FROM layout l
JOIN job j ON JSON_VALUE(j.draft, '$.layout') = l.name
JOIN job_version v ON v.job_id = j.id AND v.version = j.live_version
WHERE j.id = (SELECT k.id FROM job k WHERE JSON_VALUE(k.draft, '$.layout') = l.name AND k.live_version IS NOT NULL
  ORDER BY k.updated_at DESC, k.id DESC LIMIT 1);
