/** Second factors, passkeys, the office's own provider of sign-ins, and tries that all processes count together. */
export const up = `
ALTER TABLE users ADD COLUMN totp text, ADD COLUMN totp_wanted text, ADD COLUMN totp_since timestamptz, ADD COLUMN totp_step bigint,
  ADD COLUMN recovery_codes text[] NOT NULL DEFAULT '{}',
  ADD COLUMN provider_issuer text, ADD COLUMN provider_subject text,
  ADD COLUMN roles_from text NOT NULL DEFAULT 'here' CHECK (roles_from IN ('here', 'groups'));
CREATE UNIQUE INDEX users_provider ON users (provider_issuer, provider_subject);
CREATE TABLE passkeys (
  id serial PRIMARY KEY,
  user_id int NOT NULL REFERENCES users ON DELETE CASCADE,
  credential text NOT NULL UNIQUE,
  public_key bytea NOT NULL,
  counter bigint NOT NULL,
  transports json NOT NULL,
  name text NOT NULL,
  created_at timestamptz NOT NULL DEFAULT now(),
  used_at timestamptz
);
CREATE INDEX passkeys_user ON passkeys (user_id);
-- Challenges that were answered: none is answered twice.
CREATE TABLE spent_challenges (digest text PRIMARY KEY, until timestamptz NOT NULL);
CREATE TABLE sign_in_provider (
  id int PRIMARY KEY DEFAULT 1 CHECK (id = 1),
  settings json NOT NULL,
  secret text
);
-- Counted by all processes together; what is lost with the database's memory is a minute's worth.
CREATE UNLOGGED TABLE tries (key text PRIMARY KEY, count int NOT NULL, since timestamptz NOT NULL);
-- By what a session was opened; those from before by a password.
ALTER TABLE tokens ADD COLUMN way text;
UPDATE tokens SET way = 'password' WHERE kind = 'session';
`;
