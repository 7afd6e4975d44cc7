/**
 * Occasions in the ledger with who got it; steps with their tokens; stored bytes with what refers to them; nothing that was made or
 * sent goes with what it hangs on.
 */
export const up = `
ALTER TABLE ledger RENAME COLUMN period TO occasion;
ALTER TABLE ledger ADD COLUMN addresses text[] NOT NULL DEFAULT '{}';
ALTER TABLE ledger ADD COLUMN complete boolean NOT NULL DEFAULT true;
-- What a server refused for good was not delivered: it stays due.
DELETE FROM ledger USING messages WHERE messages.id = ledger.message_id AND messages.state IN ('refused', 'skipped')
  AND NOT EXISTS (SELECT 1 FROM json_each(messages.results) AS one WHERE one.value->>'state' IN ('taken', 'delivered', 'delayed'));
UPDATE ledger SET addresses = ARRAY(
    SELECT lower(one.key) FROM messages, json_each(messages.results) AS one WHERE messages.id = ledger.message_id AND one.value->>'state' IN ('taken', 'delivered', 'delayed')),
  complete = NOT EXISTS (SELECT 1 FROM messages, json_each(messages.results) AS one WHERE messages.id = ledger.message_id AND one.value->>'state' = 'refused');
UPDATE ledger SET addresses = ARRAY(
    SELECT lower(one->>'address') FROM messages, json_array_elements((messages.envelope->'to')) AS one WHERE messages.id = ledger.message_id)
  WHERE addresses = '{}';
CREATE UNIQUE INDEX ledger_message ON ledger (message_id);

ALTER TABLE runs ADD COLUMN occasion text NOT NULL DEFAULT '';
UPDATE runs SET occasion = CASE WHEN only_rows IS NULL THEN period ELSE period || ', rows of run ' || id END;
-- Reports without a period were delivered once a day; now once for an edition.
CREATE TEMPORARY TABLE moved ON COMMIT DROP AS
  SELECT ledger.message_id, 'edition ' || (runs.editions->>(report_versions.definition->>'data')) AS occasion,
    row_number() OVER (PARTITION BY ledger.report, runs.editions->>(report_versions.definition->>'data'), ledger.group_key, ledger.part ORDER BY ledger.written_at, ledger.message_id) AS attempt
  FROM ledger JOIN runs ON runs.id = ledger.run_id JOIN report_versions ON report_versions.name = runs.report AND report_versions.number = runs.report_version
  WHERE report_versions.definition->'period' IS NULL AND runs.only_rows IS NULL AND runs.editions->>(report_versions.definition->>'data') IS NOT NULL;
UPDATE ledger SET occasion = moved.occasion, attempt = moved.attempt FROM moved WHERE moved.message_id = ledger.message_id;
UPDATE runs SET occasion = 'edition ' || (runs.editions->>(report_versions.definition->>'data')) FROM report_versions
  WHERE report_versions.name = runs.report AND report_versions.number = runs.report_version AND report_versions.definition->'period' IS NULL AND runs.only_rows IS NULL
    AND runs.editions->>(report_versions.definition->>'data') IS NOT NULL;
CREATE INDEX ledger_run ON ledger (run_id);

ALTER TABLE runs ADD COLUMN waiting_for json;
ALTER TABLE runs ADD COLUMN period_choice json;
ALTER TABLE messages ADD COLUMN released_at timestamptz;
UPDATE messages SET released_at = runs.released_at FROM runs WHERE runs.id = messages.run_id AND messages.state <> 'held' AND messages.response IS DISTINCT FROM 'not chosen when the run was released';
ALTER TABLE parcels ADD COLUMN row_keys text[];
ALTER TABLE parcels ADD COLUMN left_out text;
CREATE TABLE delivered_rows (
  report text NOT NULL, row_key text NOT NULL, group_key text NOT NULL, parcel_id bigint NOT NULL REFERENCES parcels, message_id bigint NOT NULL REFERENCES messages,
  at timestamptz NOT NULL DEFAULT now(), PRIMARY KEY (report, row_key, group_key, message_id)
);
CREATE INDEX delivered_rows_message ON delivered_rows (message_id);

CREATE TABLE run_steps (
  run_id text NOT NULL REFERENCES runs, name text NOT NULL, ids json, token int NOT NULL DEFAULT 0, worker text, failures int NOT NULL DEFAULT 0,
  queued_at timestamptz NOT NULL DEFAULT now(), handed_at timestamptz, done_at timestamptz, PRIMARY KEY (run_id, name)
);
CREATE INDEX run_steps_open ON run_steps (run_id) WHERE done_at IS NULL;
INSERT INTO run_steps (run_id, name) SELECT id, 'plan' FROM runs WHERE state = 'planning';
INSERT INTO run_steps (run_id, name, ids) SELECT run_id, 'make ' || min(number), json_agg(id::text ORDER BY number)
  FROM parcels WHERE state = 'planned' AND run_id IN (SELECT id FROM runs WHERE state = 'making') GROUP BY run_id, (number - 1) / 8;
INSERT INTO run_steps (run_id, name) SELECT id, 'prove' FROM runs WHERE state = 'proving' OR (state = 'making' AND id NOT IN (SELECT run_id FROM run_steps));
UPDATE runs SET state = 'proving' WHERE state = 'making' AND id IN (SELECT run_id FROM run_steps WHERE name = 'prove');

ALTER TABLE workers ADD COLUMN beat bigint NOT NULL DEFAULT 0;
ALTER TABLE workers ADD COLUMN started_as text;

CREATE TABLE blobs (sha256 text PRIMARY KEY, size bigint NOT NULL DEFAULT 0, kept_until timestamptz NOT NULL DEFAULT now() + interval '1 day', created_at timestamptz NOT NULL DEFAULT now());
CREATE TABLE parcel_blobs (parcel_id bigint NOT NULL REFERENCES parcels ON DELETE CASCADE, sha256 text NOT NULL REFERENCES blobs, PRIMARY KEY (parcel_id, sha256));
INSERT INTO blobs (sha256, size) SELECT sha256, max(size) FROM (
    SELECT sha256, 0::bigint AS size FROM editions UNION ALL SELECT sha256, size FROM template_versions UNION ALL SELECT sha256, size FROM files WHERE removed_at IS NULL
    UNION ALL SELECT sha256, size FROM uploads
    UNION ALL SELECT one->>'sha256', (one->>'size')::bigint FROM parcels JOIN runs ON runs.id = parcels.run_id, json_array_elements(enclosed) AS one WHERE runs.emptied->>'files' IS NULL
  ) AS all_of GROUP BY sha256;
INSERT INTO parcel_blobs SELECT DISTINCT parcels.id, one->>'sha256' FROM parcels JOIN runs ON runs.id = parcels.run_id, json_array_elements(enclosed) AS one WHERE runs.emptied->>'files' IS NULL;
ALTER TABLE editions ADD CONSTRAINT editions_blob FOREIGN KEY (sha256) REFERENCES blobs;
ALTER TABLE template_versions ADD CONSTRAINT template_versions_blob FOREIGN KEY (sha256) REFERENCES blobs;
ALTER TABLE uploads ADD CONSTRAINT uploads_blob FOREIGN KEY (sha256) REFERENCES blobs;
ALTER TABLE files ADD COLUMN stored text GENERATED ALWAYS AS (CASE WHEN removed_at IS NULL THEN sha256 END) STORED;
ALTER TABLE files ADD CONSTRAINT files_blob FOREIGN KEY (stored) REFERENCES blobs;
ALTER TABLE files ADD COLUMN section text REFERENCES blobs;
CREATE INDEX files_section ON files (section) WHERE section IS NOT NULL;
ALTER TABLE messages ADD COLUMN packed text REFERENCES blobs;
ALTER TABLE recipient_lists ADD COLUMN stored text REFERENCES blobs;
CREATE INDEX editions_sha256 ON editions (sha256);
CREATE INDEX template_versions_sha256 ON template_versions (sha256);
CREATE INDEX files_stored ON files (stored);
CREATE INDEX files_parcel ON files (parcel_id);
CREATE INDEX parcel_blobs_sha256 ON parcel_blobs (sha256);
CREATE INDEX messages_packed ON messages (packed) WHERE packed IS NOT NULL;

ALTER TABLE parcels DROP CONSTRAINT parcels_run_id_fkey, ADD CONSTRAINT parcels_run_id_fkey FOREIGN KEY (run_id) REFERENCES runs;
ALTER TABLE files DROP CONSTRAINT files_run_id_fkey, ADD CONSTRAINT files_run_id_fkey FOREIGN KEY (run_id) REFERENCES runs;
ALTER TABLE files DROP CONSTRAINT files_parcel_id_fkey, ADD CONSTRAINT files_parcel_id_fkey FOREIGN KEY (parcel_id) REFERENCES parcels;
ALTER TABLE messages DROP CONSTRAINT messages_run_id_fkey, ADD CONSTRAINT messages_run_id_fkey FOREIGN KEY (run_id) REFERENCES runs;
ALTER TABLE messages DROP CONSTRAINT messages_parcel_id_fkey, ADD CONSTRAINT messages_parcel_id_fkey FOREIGN KEY (parcel_id) REFERENCES parcels;
ALTER TABLE attempts DROP CONSTRAINT attempts_message_id_fkey, ADD CONSTRAINT attempts_message_id_fkey FOREIGN KEY (message_id) REFERENCES messages;
`;
