/** What left, as the journal beside the store tells it; halts, during which nothing leaves; deliveries of which the database has no message. */
export const up = `
CREATE TABLE installation (only_one boolean PRIMARY KEY DEFAULT true CHECK (only_one), id uuid NOT NULL DEFAULT gen_random_uuid(), made_at timestamptz NOT NULL DEFAULT now(), key_mark text);
INSERT INTO installation DEFAULT VALUES;
CREATE TABLE journal_files (name text PRIMARY KEY, read_to bigint NOT NULL DEFAULT 0, foreign_since timestamptz);

CREATE TABLE halts (
  id bigserial PRIMARY KEY, at timestamptz NOT NULL DEFAULT now(), why text NOT NULL, facts json NOT NULL DEFAULT '{}', by text NOT NULL,
  ended_at timestamptz, ended_by text, words text,
  CONSTRAINT halts_whys CHECK (why IN ('by-hand', 'restored', 'gone-back', 'other-journal', 'damaged-journal'))
);
CREATE INDEX halts_open ON halts (id) WHERE ended_at IS NULL;

CREATE TABLE found_left (
  id bigserial PRIMARY KEY, halt_id bigint NOT NULL REFERENCES halts, at timestamptz NOT NULL, run_id text NOT NULL, mail_id text NOT NULL, report text NOT NULL,
  occasion text NOT NULL, group_key text NOT NULL, label text NOT NULL, part text NOT NULL, addresses text[] NOT NULL, became text NOT NULL,
  message_id bigint REFERENCES messages ON DELETE SET NULL, counts boolean NOT NULL, decided_at timestamptz, decided_by text, decided text,
  CONSTRAINT found_left_becomes CHECK (became IN ('sent', 'unsure')), CONSTRAINT found_left_decided CHECK (decided IN ('arrived', 'due'))
);
CREATE UNIQUE INDEX found_left_once ON found_left (halt_id, run_id, mail_id);

-- A delivery that only the journal knows of has no message here: the ledger keeps it all the same.
ALTER TABLE ledger ALTER COLUMN message_id DROP NOT NULL, ADD COLUMN found_id bigint REFERENCES found_left,
  ADD CONSTRAINT ledger_of CHECK (message_id IS NOT NULL OR found_id IS NOT NULL);
CREATE INDEX ledger_found ON ledger (found_id) WHERE found_id IS NOT NULL;
ALTER TABLE delivered_rows DROP CONSTRAINT delivered_rows_pkey, ALTER COLUMN message_id DROP NOT NULL, ALTER COLUMN parcel_id DROP NOT NULL,
  ADD COLUMN found_id bigint REFERENCES found_left;
CREATE UNIQUE INDEX delivered_rows_once ON delivered_rows (report, row_key, group_key, coalesce(message_id, 0), coalesce(found_id, 0));
CREATE INDEX delivered_rows_found ON delivered_rows (found_id) WHERE found_id IS NOT NULL;

-- What operators see: which process it is, and by which id a run is found in logs and traces.
ALTER TABLE workers ADD COLUMN kind text, ADD COLUMN host text, ADD COLUMN pid int, ADD COLUMN version text, ADD COLUMN memory bigint;
ALTER TABLE runs ADD COLUMN trace text;

-- What former keys signed with, sealed under the key after them.
CREATE TABLE former_keys (mark text PRIMARY KEY, sealed text NOT NULL, since timestamptz NOT NULL DEFAULT now());

-- Which form of definitions a version was last read by: fields that came later have what stands for them.
ALTER TABLE report_versions ADD COLUMN form text;
`;
