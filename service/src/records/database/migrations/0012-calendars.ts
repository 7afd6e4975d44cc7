/** Named calendars; what a run's periods go by; what a schedule waits for; and what somebody should be told. */
export const up = `
CREATE TABLE calendars (
  name text PRIMARY KEY, definition json NOT NULL, created_by text NOT NULL, created_at timestamptz NOT NULL DEFAULT now(), changed_at timestamptz NOT NULL DEFAULT now()
);
ALTER TABLE runs ADD COLUMN calendar json;

ALTER TABLE schedules ADD COLUMN waits_since timestamptz, ADD COLUMN waits_until timestamptz, ADD COLUMN data_at timestamptz, ADD COLUMN data_edition integer;

ALTER TABLE files DROP CONSTRAINT files_kinds, ADD CONSTRAINT files_kinds
  CHECK (kind IN ('xlsx', 'docx', 'pptx', 'pdf', 'csv', 'tsv', 'txt', 'json', 'jsonl', 'ods', 'html', 'ics', 'vcf'));

CREATE TABLE notices (
  id bigserial PRIMARY KEY, at timestamptz NOT NULL, kind text NOT NULL, report text, run_id text, what text NOT NULL, advice text
);
CREATE INDEX notices_at ON notices (at);
CREATE INDEX notices_report ON notices (report);
`;
