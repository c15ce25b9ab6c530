-- A job now has a list of deliveries, each with its shaping, where it had one of each.
UPDATE job
SET draft = JSON_REMOVE(
  JSON_SET(draft, '$.deliveries', JSON_ARRAY(JSON_OBJECT(
    'to', JSON_EXTRACT(draft, '$.delivery'),
    'shaping', COALESCE(JSON_EXTRACT(draft, '$.shaping'), JSON_ARRAY())))),
  '$.delivery', '$.shaping')
WHERE JSON_EXISTS(draft, '$.delivery') OR JSON_EXISTS(draft, '$.shaping');

UPDATE job_version
SET definition = JSON_REMOVE(
  JSON_SET(definition, '$.deliveries', JSON_ARRAY(JSON_OBJECT(
    'to', JSON_EXTRACT(definition, '$.delivery'),
    'shaping', COALESCE(JSON_EXTRACT(definition, '$.shaping'), JSON_ARRAY())))),
  '$.delivery', '$.shaping')
WHERE JSON_EXISTS(definition, '$.delivery') OR JSON_EXISTS(definition, '$.shaping');
