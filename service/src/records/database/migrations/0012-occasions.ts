/** Calendars and what a run's periods go by; what a schedule waits for; records that come in and who sends them; what somebody should be told. */
export const up = `
CREATE TABLE calendars (
  name text PRIMARY KEY, definition json NOT NULL, created_by text NOT NULL, created_at timestamptz NOT NULL DEFAULT now(), changed_at timestamptz NOT NULL DEFAULT now()
);
ALTER TABLE runs ADD COLUMN calendar json;

ALTER TABLE schedules ADD COLUMN waits_since timestamptz, ADD COLUMN waits_until timestamptz, ADD COLUMN data_at timestamptz, ADD COLUMN data_edition integer;

ALTER TABLE files DROP CONSTRAINT files_kinds, ADD CONSTRAINT files_kinds
  CHECK (kind IN ('xlsx', 'docx', 'pptx', 'pdf', 'csv', 'tsv', 'txt', 'json', 'jsonl', 'ods', 'html', 'ics', 'vcf'));

-- Records that came in by themselves: editions with numbers below zero, each with a run of its own.
CREATE TABLE record_keys (
  report text NOT NULL, key text NOT NULL, digest text NOT NULL, process text NOT NULL, edition int, run_id text, callback text, sender int,
  at timestamptz NOT NULL DEFAULT now(), told_at timestamptz, tries int NOT NULL DEFAULT 0, try_at timestamptz, PRIMARY KEY (report, key)
);
CREATE INDEX record_keys_run ON record_keys (run_id);
CREATE TABLE senders (
  id serial PRIMARY KEY, report text NOT NULL, name text NOT NULL, way text NOT NULL CHECK (way IN ('token', 'signature')), digest text UNIQUE, secret text,
  header text, form text, per_minute int NOT NULL, created_by text NOT NULL, created_at timestamptz NOT NULL DEFAULT now(), used_at timestamptz, UNIQUE (report, name)
);

CREATE TABLE notices (
  id bigserial PRIMARY KEY, at timestamptz NOT NULL, kind text NOT NULL, report text, run_id text, what text NOT NULL, advice text
);
CREATE INDEX notices_at ON notices (at);
CREATE INDEX notices_report ON notices (report);
-- Who wants to be told of what, and what is on its way to them.
CREATE TABLE watchers (
  name text PRIMARY KEY, way text NOT NULL CHECK (way IN ('mail', 'callback')), address text NOT NULL, kinds json NOT NULL, reports json,
  morning text, zone text NOT NULL, secret text, created_by text NOT NULL, created_at timestamptz NOT NULL DEFAULT now()
);
CREATE TABLE tellings (
  id bigserial PRIMARY KEY, notice_id bigint NOT NULL REFERENCES notices ON DELETE CASCADE, watcher text, address text NOT NULL,
  due_at timestamptz NOT NULL, tries int NOT NULL DEFAULT 0, told_at timestamptz, error text
);
CREATE INDEX tellings_due ON tellings (due_at) WHERE told_at IS NULL;
`;
