/** JSON, not its binary kind: the order of files, columns and totals in a definition means something and has to be kept. */
export const up = `
CREATE TABLE users (
  id serial PRIMARY KEY, name text NOT NULL UNIQUE, password text NOT NULL, created_at timestamptz NOT NULL DEFAULT now()
);
CREATE TABLE tokens (
  id serial PRIMARY KEY, user_id int NOT NULL REFERENCES users, digest text NOT NULL UNIQUE, kind text NOT NULL,
  expires_at timestamptz, created_at timestamptz NOT NULL DEFAULT now()
);
CREATE TABLE actions (
  id bigserial PRIMARY KEY, at timestamptz NOT NULL DEFAULT now(), who text NOT NULL, what text NOT NULL, subject text NOT NULL, facts json NOT NULL DEFAULT '{}'
);
CREATE TABLE datasets (id serial PRIMARY KEY, name text NOT NULL UNIQUE, created_at timestamptz NOT NULL DEFAULT now());
CREATE TABLE editions (
  id serial PRIMARY KEY, dataset_id int NOT NULL REFERENCES datasets, number int NOT NULL, origin text NOT NULL, sha256 text NOT NULL,
  row_count int NOT NULL, columns json NOT NULL, reading json NOT NULL, header_row int NOT NULL, left_out json NOT NULL, findings json NOT NULL,
  created_by text NOT NULL, created_at timestamptz NOT NULL DEFAULT now(), UNIQUE (dataset_id, number)
);
CREATE TABLE edition_chunks (
  edition_id int NOT NULL REFERENCES editions ON DELETE CASCADE, number int NOT NULL, first_row int NOT NULL, row_count int NOT NULL,
  stats json NOT NULL, data bytea NOT NULL, PRIMARY KEY (edition_id, number)
);
CREATE TABLE recipient_lists (
  id serial PRIMARY KEY, origin text NOT NULL, sha256 text NOT NULL, recipients json NOT NULL, findings json NOT NULL,
  created_by text NOT NULL, created_at timestamptz NOT NULL DEFAULT now()
);
CREATE TABLE template_versions (
  id serial PRIMARY KEY, name text NOT NULL, number int NOT NULL, sha256 text NOT NULL, size int NOT NULL,
  created_by text NOT NULL, created_at timestamptz NOT NULL DEFAULT now(), UNIQUE (name, number)
);
CREATE TABLE report_versions (
  id serial PRIMARY KEY, name text NOT NULL, number int NOT NULL, source text NOT NULL, definition json NOT NULL,
  created_by text NOT NULL, created_at timestamptz NOT NULL DEFAULT now(), UNIQUE (name, number)
);
CREATE TABLE schedules (
  report text PRIMARY KEY, next_at timestamptz, last_at timestamptz
);
CREATE TABLE runs (
  id text PRIMARY KEY, report text NOT NULL, report_version int NOT NULL, period text NOT NULL, state text NOT NULL,
  edition_id int NOT NULL REFERENCES editions, editions json NOT NULL, recipient_list_id int REFERENCES recipient_lists, templates json NOT NULL,
  run_date int NOT NULL, rehearsal_to text, only_groups json, again_reason text, columns json, plan json, proof json, error json,
  parcel_count int NOT NULL DEFAULT 0, started_by text NOT NULL, released_by text,
  created_at timestamptz NOT NULL DEFAULT now(), touched_at timestamptz NOT NULL DEFAULT now(), released_at timestamptz, finished_at timestamptz
);
CREATE INDEX runs_created ON runs (created_at DESC);
CREATE TABLE parcels (
  id bigserial PRIMARY KEY, run_id text NOT NULL REFERENCES runs ON DELETE CASCADE, number int NOT NULL, group_key text NOT NULL, label text NOT NULL,
  row_count int NOT NULL, rows_digest text NOT NULL, recipients json NOT NULL, planned json NOT NULL, attachments json NOT NULL, totals json NOT NULL,
  lines bytea NOT NULL, state text NOT NULL, error json, findings json NOT NULL DEFAULT '[]', UNIQUE (run_id, number), UNIQUE (run_id, group_key)
);
CREATE TABLE files (
  id bigserial PRIMARY KEY, run_id text NOT NULL REFERENCES runs ON DELETE CASCADE, parcel_id bigint NOT NULL REFERENCES parcels ON DELETE CASCADE,
  file text NOT NULL, kind text NOT NULL, path text NOT NULL, sha256 text NOT NULL, size int NOT NULL, pages int,
  group_key text NOT NULL, rows_digest text NOT NULL, provenance json NOT NULL, created_at timestamptz NOT NULL DEFAULT now(), UNIQUE (parcel_id, path)
);
CREATE INDEX files_run ON files (run_id);
CREATE TABLE messages (
  id bigserial PRIMARY KEY, run_id text NOT NULL REFERENCES runs ON DELETE CASCADE, parcel_id bigint NOT NULL REFERENCES parcels ON DELETE CASCADE UNIQUE,
  group_key text NOT NULL, subject text NOT NULL, html text NOT NULL, text text NOT NULL, envelope json NOT NULL, message_id text NOT NULL,
  state text NOT NULL, attempts int NOT NULL DEFAULT 0, response text, not_before timestamptz, worker text, sent_at timestamptz, touched_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX messages_run ON messages (run_id, state);
CREATE INDEX messages_state ON messages (state);
CREATE TABLE attempts (
  id bigserial PRIMARY KEY, message_id bigint NOT NULL REFERENCES messages ON DELETE CASCADE, number int NOT NULL, worker text NOT NULL,
  started_at timestamptz NOT NULL DEFAULT now(), finished_at timestamptz, outcome text, response text
);
CREATE TABLE ledger (
  report text NOT NULL, period text NOT NULL, group_key text NOT NULL, attempt int NOT NULL, run_id text NOT NULL, message_id bigint NOT NULL,
  written_at timestamptz NOT NULL DEFAULT now(), PRIMARY KEY (report, period, group_key, attempt)
);
CREATE TABLE identities (
  name text PRIMARY KEY, next_slot_at timestamptz NOT NULL DEFAULT now()
);
INSERT INTO identities (name) VALUES ('office');
CREATE TABLE workers (
  id text PRIMARY KEY, started_at timestamptz NOT NULL DEFAULT now(), seen_at timestamptz NOT NULL DEFAULT now(), ended_at timestamptz
);
CREATE TABLE letters (
  id bigserial PRIMARY KEY, received_at timestamptz NOT NULL DEFAULT now(), mail_from text NOT NULL, rcpt_to json NOT NULL, subject text NOT NULL,
  message_id text NOT NULL, size int NOT NULL, attachments int NOT NULL, raw bytea NOT NULL
);
CREATE INDEX letters_received ON letters (received_at DESC);
`;
