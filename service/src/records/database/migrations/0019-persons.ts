/** Editions and versions of the list can be emptied and stay known; entries of the trail can be made to name nobody, and the chain still holds. */
export const up = `
ALTER TABLE editions DROP CONSTRAINT editions_blob, ADD COLUMN stored text, ADD COLUMN emptied_at timestamptz,
  ADD COLUMN rewritten int NOT NULL DEFAULT 0;
UPDATE editions SET stored = sha256;
ALTER TABLE editions ADD CONSTRAINT editions_blob FOREIGN KEY (stored) REFERENCES blobs;
CREATE INDEX editions_stored ON editions (stored);
ALTER TABLE recipient_lists ADD COLUMN emptied_at timestamptz;

-- An entry of form 2 is chained by the digest of what it tells; that digest stays where what it told is erased.
ALTER TABLE actions ADD COLUMN form int NOT NULL DEFAULT 1, ADD COLUMN erased text;
CREATE FUNCTION action_digest(actions) RETURNS text LANGUAGE sql STABLE AS $$
  SELECT encode(sha256(convert_to(action_text($1), 'UTF8')), 'hex')
$$;
CREATE OR REPLACE FUNCTION chain_action() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE before text;
BEGIN
  PERFORM pg_advisory_xact_lock(hashtext('trail'));
  NEW.id := nextval('actions_id_seq');
  NEW.form := 2;
  NEW.erased := NULL;
  SELECT hash INTO before FROM actions ORDER BY id DESC LIMIT 1;
  NEW.hash := chained_hash(before, action_digest(NEW));
  RETURN NEW;
END $$;
CREATE OR REPLACE FUNCTION keep_actions() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'UPDATE' AND OLD.form = 2 AND (NEW.id, NEW.at, NEW.what, NEW.hash, NEW.form) = (OLD.id, OLD.at, OLD.what, OLD.hash, OLD.form)
    AND NEW.erased = coalesce(OLD.erased, action_digest(OLD)) THEN
    RETURN NEW;
  END IF;
  RAISE EXCEPTION 'the trail is added to, never changed' USING ERRCODE = 'check_violation';
END $$;
`;
