-- What the targets of a version were like when it went live: a description for each delivery.
ALTER TABLE job_version ADD COLUMN targets LONGTEXT;
