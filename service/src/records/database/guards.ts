/** The state machines of the core as rules that the database itself keeps: a move that is not in their tables is refused there. */
import { MESSAGE_MACHINE, pairsOf, RUN_MACHINE } from "@corbix/core/delivery";

const quoted = (text: string): string => `'${text.replaceAll("'", "''")}'`;
/** Words as a list for `IN (…)`, in a statement that is planned once for all its uses. */
export const listed = (words: readonly string[]): string => words.map(quoted).join(", ");
const among = (pairs: readonly (readonly [string, string])[]): string =>
  pairs.map((pair) => `(${pair.map(quoted).join(", ")})`).join(", ");

/**
 * Statements that put the rules into the database, made anew from the tables at each start. Besides the moves they keep: no message
 * is queued or sent whose run was not released, and no run delivers that was not.
 */
export function guardStatements(): string[] {
  return [
    `CREATE OR REPLACE FUNCTION keep_message_moves() RETURNS trigger LANGUAGE plpgsql AS $$
     BEGIN
       IF TG_OP = 'UPDATE' AND (OLD.state, NEW.state) NOT IN (${among(pairsOf(MESSAGE_MACHINE))}) THEN
         RAISE EXCEPTION 'a message cannot become % from %', NEW.state, OLD.state USING ERRCODE = 'check_violation';
       END IF;
       IF NEW.state IN ('queued', 'sending') AND (NEW.released_at IS NULL OR NOT EXISTS (SELECT 1 FROM runs WHERE id = NEW.run_id AND released_at IS NOT NULL)) THEN
         RAISE EXCEPTION 'a message of a run that was not released cannot go' USING ERRCODE = 'check_violation';
       END IF;
       RETURN NEW;
     END $$`,
    `CREATE OR REPLACE TRIGGER message_moves BEFORE UPDATE OF state ON messages FOR EACH ROW WHEN (OLD.state IS DISTINCT FROM NEW.state) EXECUTE FUNCTION keep_message_moves()`,
    `CREATE OR REPLACE TRIGGER message_begins BEFORE INSERT ON messages FOR EACH ROW EXECUTE FUNCTION keep_message_moves()`,
    `CREATE OR REPLACE FUNCTION keep_run_moves() RETURNS trigger LANGUAGE plpgsql AS $$
     BEGIN
       IF (OLD.state, NEW.state) NOT IN (${among(pairsOf(RUN_MACHINE))}) THEN
         RAISE EXCEPTION 'a run cannot become % from %', NEW.state, OLD.state USING ERRCODE = 'check_violation';
       END IF;
       IF NEW.state = 'delivering' AND NEW.released_at IS NULL THEN
         RAISE EXCEPTION 'a run that was not released cannot deliver' USING ERRCODE = 'check_violation';
       END IF;
       RETURN NEW;
     END $$`,
    `CREATE OR REPLACE TRIGGER run_moves BEFORE UPDATE OF state ON runs FOR EACH ROW WHEN (OLD.state IS DISTINCT FROM NEW.state) EXECUTE FUNCTION keep_run_moves()`,
  ];
}
