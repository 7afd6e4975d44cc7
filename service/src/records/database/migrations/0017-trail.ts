/** The trail: from where each deed came, chained so that nothing of it can be changed or taken out unseen, and closed to changes. */
export const up = `
ALTER TABLE actions ADD COLUMN called_from text, ADD COLUMN hash text;
CREATE INDEX actions_who ON actions (who, id DESC);
CREATE INDEX actions_at ON actions (at);

-- What the chain is made of: everything that is kept of a deed.
CREATE FUNCTION action_text(actions) RETURNS text LANGUAGE sql STABLE AS $$
  SELECT json_build_array(to_char($1.at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US'), $1.who, $1.what, $1.subject, $1.called_from, $1.facts::text)::text
$$;
CREATE FUNCTION chained_hash(before text, told text) RETURNS text LANGUAGE sql IMMUTABLE AS $$
  SELECT encode(sha256(convert_to(coalesce(before, '') || E'\\n' || told, 'UTF8')), 'hex')
$$;
DO $$
DECLARE one actions; before text;
BEGIN
  FOR one IN SELECT * FROM actions ORDER BY id LOOP
    before := chained_hash(before, action_text(one));
    UPDATE actions SET hash = before WHERE id = one.id;
  END LOOP;
END $$;
ALTER TABLE actions ALTER COLUMN hash SET NOT NULL;

-- One after the other, so that each number follows the one whose digest it carries on.
CREATE FUNCTION chain_action() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE before text;
BEGIN
  PERFORM pg_advisory_xact_lock(hashtext('trail'));
  NEW.id := nextval('actions_id_seq');
  SELECT hash INTO before FROM actions ORDER BY id DESC LIMIT 1;
  NEW.hash := chained_hash(before, action_text(NEW));
  RETURN NEW;
END $$;
CREATE TRIGGER actions_chained BEFORE INSERT ON actions FOR EACH ROW EXECUTE FUNCTION chain_action();
CREATE FUNCTION keep_actions() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'the trail is added to, never changed' USING ERRCODE = 'check_violation';
END $$;
CREATE TRIGGER actions_kept BEFORE UPDATE OR DELETE ON actions FOR EACH ROW EXECUTE FUNCTION keep_actions();
CREATE TRIGGER actions_whole BEFORE TRUNCATE ON actions FOR EACH STATEMENT EXECUTE FUNCTION keep_actions();
`;
