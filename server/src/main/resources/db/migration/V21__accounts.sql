-- Every run has an account of each of its places, and of each delivery in them; the run's own is that of all places together.
ALTER TABLE run ADD COLUMN open_records BIGINT NOT NULL DEFAULT 0 AFTER delivered;

ALTER TABLE run_leg
  ADD COLUMN shares TEXT,
  ADD COLUMN deliveries TEXT NOT NULL DEFAULT '[]',
  ADD COLUMN complete BOOLEAN NOT NULL DEFAULT FALSE;

-- What a record that a target refused would have come to, so that one refused in several places counts once.
ALTER TABLE reject ADD COLUMN fate VARCHAR(16) CHARACTER SET ascii;

-- Runs so far that had one place, whose account was the run's own.
INSERT INTO run_leg (run_id, leg, label, kind, state, code, message, started_at, ended_at, next_offset, commits,
    account, shares, complete)
  SELECT r.id, 0, COALESCE(JSON_VALUE(v.definition, '$.deliveries[0].to.table'), ''), 'tables', r.state, r.code, r.message,
      r.started_at, r.ended_at, r.next_offset, r.commits,
      JSON_OBJECT('read', r.records_read, 'delivered', r.delivered, 'added', r.added, 'changed', r.changed,
          'unchanged', r.unchanged, 'rejected', r.rejected, 'setAside', r.set_aside, 'blank', r.blank, 'notes', r.notes,
          'withoutRows', r.without_rows, 'removed', r.removed, 'elsewhere', 0),
      r.shares, r.state = 'FINISHED'
  FROM run r
    LEFT JOIN job_version v ON v.job_id = r.job_id AND v.version = r.version
    LEFT JOIN run_leg l ON l.run_id = r.id
  WHERE l.run_id IS NULL AND r.undoes IS NULL AND r.started_at IS NOT NULL;

UPDATE run_leg l JOIN run r ON r.id = l.run_id SET l.journal_imported = r.journal_imported WHERE l.leg = 0;
ALTER TABLE run DROP COLUMN journal_imported;
