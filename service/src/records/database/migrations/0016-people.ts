/** People with roles, their sessions and named tokens, and invitations. Whoever was there before may do everything, as before. */
export const up = `
ALTER TABLE users ALTER COLUMN password DROP NOT NULL,
  ADD COLUMN shown_name text, ADD COLUMN address text, ADD COLUMN language text, ADD COLUMN zone text,
  ADD COLUMN roles json NOT NULL DEFAULT '{"look":"all","prepare":"all","release":"all","operate":"all"}',
  ADD COLUMN state text NOT NULL DEFAULT 'active' CHECK (state IN ('invited', 'active', 'off')),
  ADD COLUMN invitation text UNIQUE, ADD COLUMN invited_until timestamptz,
  ADD COLUMN signed_in_at timestamptz, ADD COLUMN created_by text;
ALTER TABLE users ALTER COLUMN roles DROP DEFAULT;
CREATE UNIQUE INDEX users_folded ON users (lower(name));
ALTER TABLE tokens ADD COLUMN name text, ADD COLUMN roles json, ADD COLUMN per_minute int, ADD COLUMN used_at timestamptz, ADD COLUMN used_from text,
  ADD COLUMN opened_from text, ADD COLUMN agent text, ADD COLUMN old_digest text UNIQUE, ADD COLUMN old_until timestamptz;
`;
