/** Lists that are read page by page, states that are checked, versions that follow one another, calls that are done once. */
export const up = `
CREATE INDEX files_sha256 ON files (sha256);
CREATE INDEX runs_state ON runs (state);
CREATE INDEX runs_report ON runs (report, created_at DESC);
CREATE INDEX messages_touched ON messages (touched_at DESC, id DESC);
CREATE INDEX attempts_started ON attempts (started_at);
CREATE INDEX parcels_state ON parcels (run_id, state);
CREATE INDEX tokens_user ON tokens (user_id);
CREATE INDEX actions_subject ON actions (subject, id DESC);
CREATE INDEX downloads_file ON downloads (file_id);

ALTER TABLE runs ADD CONSTRAINT runs_states CHECK (state IN ('planning', 'making', 'proving', 'waiting', 'held', 'delivering', 'done', 'stopped', 'failed'));
ALTER TABLE messages ADD CONSTRAINT messages_states CHECK (state IN ('held', 'queued', 'sending', 'sent', 'refused', 'unsure', 'skipped', 'returned'));
ALTER TABLE parcels ADD CONSTRAINT parcels_states CHECK (state IN ('planned', 'made', 'failed'));
ALTER TABLE files ADD CONSTRAINT files_kinds CHECK (kind IN ('xlsx', 'docx', 'pdf'));
ALTER TABLE tokens ADD CONSTRAINT tokens_kinds CHECK (kind IN ('session', 'client'));
ALTER TABLE attempts ADD CONSTRAINT attempts_outcomes CHECK (outcome IS NULL OR outcome IN ('sent', 'later', 'refused', 'unsure')) NOT VALID;
ALTER TABLE arrivals ADD CONSTRAINT arrivals_ways CHECK (way IN ('folder', 'mail')), ADD CONSTRAINT arrivals_outcomes CHECK (outcome IN ('loaded', 'refused'));

-- What older versions left behind stays; what is written from now on is checked.
ALTER TABLE ledger ADD CONSTRAINT ledger_message_fkey FOREIGN KEY (message_id) REFERENCES messages NOT VALID;
ALTER TABLE runs ADD CONSTRAINT runs_report_fkey FOREIGN KEY (report, report_version) REFERENCES report_versions (name, number);
ALTER TABLE messages ADD CONSTRAINT messages_identity_fkey FOREIGN KEY (identity) REFERENCES identities (name) NOT VALID;

-- The list before, so that of two people who change the same list at once one is told.
ALTER TABLE recipient_lists ADD COLUMN follows int;
UPDATE recipient_lists SET follows = (SELECT max(before.id) FROM recipient_lists AS before WHERE before.id < recipient_lists.id);
CREATE UNIQUE INDEX recipient_lists_follows ON recipient_lists (coalesce(follows, 0));

CREATE TABLE calls (
  user_id int NOT NULL REFERENCES users ON DELETE CASCADE, key text NOT NULL, request text NOT NULL, process text NOT NULL,
  status int, location text, etag text, answer json, created_at timestamptz NOT NULL DEFAULT now(), PRIMARY KEY (user_id, key)
);
CREATE INDEX calls_created ON calls (created_at);
`;
