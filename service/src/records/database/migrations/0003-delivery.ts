/** Identities with their servers, several messages a parcel, what became of each address, bytes as sent, reports that came back. */
export const up = `
ALTER TABLE identities ADD COLUMN settings json NOT NULL DEFAULT '{}';
ALTER TABLE identities ADD COLUMN secret text;
ALTER TABLE identities ADD COLUMN paused boolean NOT NULL DEFAULT false;
ALTER TABLE identities ADD COLUMN rest_until timestamptz;
ALTER TABLE identities ADD COLUMN rest_why text;
ALTER TABLE identities ADD COLUMN failures int NOT NULL DEFAULT 0;
ALTER TABLE identities ADD COLUMN holder text;
ALTER TABLE identities ADD COLUMN held_until timestamptz;

ALTER TABLE runs ADD COLUMN emptied json NOT NULL DEFAULT '{}';
ALTER TABLE files ADD COLUMN removed_at timestamptz;
ALTER TABLE runs ADD COLUMN paused boolean NOT NULL DEFAULT false;
ALTER TABLE runs ADD COLUMN release_at timestamptz;
ALTER TABLE runs ADD COLUMN approvals json NOT NULL DEFAULT '[]';

ALTER TABLE messages DROP CONSTRAINT messages_parcel_id_key;
ALTER TABLE messages ADD COLUMN part text NOT NULL DEFAULT '';
ALTER TABLE messages ADD COLUMN again int NOT NULL DEFAULT 0;
ALTER TABLE messages ADD COLUMN again_reason text;
ALTER TABLE messages ADD COLUMN identity text NOT NULL DEFAULT 'office';
ALTER TABLE messages ADD COLUMN results json NOT NULL DEFAULT '{}';
ALTER TABLE messages ADD COLUMN dated_at timestamptz;
ALTER TABLE messages ADD COLUMN mime bytea;
ALTER TABLE messages ADD COLUMN sha256 text;
ALTER TABLE messages ADD COLUMN size int;
ALTER TABLE messages ADD COLUMN language text;
ALTER TABLE messages ADD COLUMN findings json NOT NULL DEFAULT '[]';
ALTER TABLE messages ADD CONSTRAINT messages_once UNIQUE (parcel_id, part, again);
CREATE INDEX messages_waiting ON messages (identity, id) WHERE state = 'queued';
CREATE INDEX messages_message_id ON messages (message_id);

ALTER TABLE parcels ADD COLUMN enclosed json NOT NULL DEFAULT '[]';
ALTER TABLE ledger ADD COLUMN part text NOT NULL DEFAULT '';
ALTER TABLE ledger DROP CONSTRAINT ledger_pkey;
ALTER TABLE ledger ADD PRIMARY KEY (report, period, group_key, part, attempt);

ALTER TABLE attempts ADD COLUMN identity text NOT NULL DEFAULT 'office';
ALTER TABLE attempts ADD COLUMN stage text;
CREATE INDEX attempts_identity ON attempts (identity, started_at);
CREATE INDEX attempts_message ON attempts (message_id);

CREATE TABLE delivery_reports (
  id bigserial PRIMARY KEY, at timestamptz NOT NULL DEFAULT now(), sha256 text NOT NULL UNIQUE, message_id bigint REFERENCES messages ON DELETE CASCADE,
  original_message_id text, facts json NOT NULL, raw bytea NOT NULL
);
CREATE TABLE downloads (
  id bigserial PRIMARY KEY, at timestamptz NOT NULL DEFAULT now(), message_id bigint NOT NULL REFERENCES messages ON DELETE CASCADE, file_id bigint NOT NULL REFERENCES files ON DELETE CASCADE
);
CREATE INDEX downloads_message ON downloads (message_id);
CREATE TABLE letterbox_rules (
  id serial PRIMARY KEY, rule json NOT NULL, used int NOT NULL DEFAULT 0, created_by text NOT NULL, created_at timestamptz NOT NULL DEFAULT now()
);
`;
