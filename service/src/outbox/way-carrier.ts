/** Takes a group's files to a way out: several over one line, each with its receipt. */
import { CorbixError, wordsOf } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import type { AddressAnswer, Outcome, Stage } from "../mail/smtp.js";
import type { Context } from "../process/context.js";
import type { BareMessage } from "../records/index.js";
import { PlaceInTrouble, PutRefused, PutUnknown, type WayLine } from "../ways/line.js";
import type { OpenWay } from "../ways/ways.js";
import type { Carrier, Going, LoadFacts } from "./carriage.js";
import { checkProvenance } from "./compose.js";

interface Carried {
  readonly to: string;
  readonly bytes: Uint8Array;
  readonly sha256: string;
}

export function wayCarrier(context: Pick<Context, "store">, way: OpenWay): Carrier {
  const idle: WayLine[] = [];
  let isClosed = false;
  return {
    load: async (message, facts) => {
      const files = await carriedFiles(context, message, facts);
      const over = message.carried?.over ?? false;
      const key = message.messageId.replace(/^<|>$/g, "");
      return {
        frame: undefined,
        raw: undefined,
        packed: undefined,
        send: async (go) => {
          let line: WayLine;
          try {
            line = idle.pop() ?? (await way.open());
          } catch (error) {
            return notBegun("connecting", wordsOf(error));
          }
          const { outcome, isWhole } = await putAll(line, files, { over, key, way: way.name }, go);
          if (isWhole && !isClosed) idle.push(line);
          else line.close();
          return outcome;
        },
      };
    },
    close: () => {
      isClosed = true;
      for (const line of idle.splice(0)) line.close();
    },
  };
}

function notBegun(stage: Stage, response: string): Outcome {
  return { kind: "later", stage, response, taken: [], later: [], refused: [] };
}

/** The files of a message, each compared with what the message is of. */
async function carriedFiles(
  { store }: Pick<Context, "store">,
  message: BareMessage,
  { run, parcel, files }: LoadFacts,
): Promise<Carried[]> {
  const found: Carried[] = [];
  for (const { path, to } of message.carried?.files ?? []) {
    const file = files.find((one) => one.path === path);
    if (!file)
      throw new CorbixError("FILE_MISSING", say().serviceWays.notMade({ path }), {
        where: say().place.group({ name: parcel.label }),
      });
    checkProvenance(run, parcel, message, file);
    found.push({ to, sha256: file.sha256, bytes: await store.get(file.sha256) });
  }
  return found;
}

interface PutAll {
  readonly over: boolean;
  readonly key: string;
  readonly way: string;
}

/** Puts those files that are left, one after the other; after trouble with the line the rest waits. */
async function putAll(
  line: WayLine,
  files: readonly Carried[],
  { over, key, way }: PutAll,
  { to, begin, isOurs }: Going,
): Promise<{ readonly outcome: Outcome; readonly isWhole: boolean }> {
  const refusal = await begin().then(
    (may) => (may ? undefined : say().serviceMail.mayNotBegin()),
    (error: Error) => error.message,
  );
  if (refusal !== undefined) return { outcome: notBegun("envelope", refusal), isWhole: true };
  const receipts: Record<string, string> = {};
  const later: AddressAnswer[] = [];
  const refused: AddressAnswer[] = [];
  let broken: unknown;
  for (const { to: address, bytes, sha256 } of files.filter((file) => to.includes(file.to))) {
    if (broken !== undefined || !isOurs()) {
      later.push({ address, response: wordsOf(broken ?? say().serviceMail.mayNotBegin()) });
      continue;
    }
    try {
      receipts[address] = await line.put(address, bytes, { over, sha256, key: `${key}/${address}` });
    } catch (error) {
      if (error instanceof PutRefused) refused.push({ address, response: error.message });
      else {
        broken = error;
        later.push({ address, response: wordsOf(error) });
      }
    }
  }
  const taken = Object.keys(receipts);
  const first = broken === undefined ? (refused[0] ?? later[0])?.response : wordsOf(broken);
  const outcome: Outcome = {
    kind: broken instanceof PutUnknown ? "unsure" : taken.length > 0 ? "sent" : later.length > 0 ? "later" : "refused",
    response: first ?? say().serviceWays.putAll({ count: taken.length, way }),
    // A place in trouble is left alone by everything that goes there.
    stage: broken instanceof PlaceInTrouble ? "connecting" : "answer",
    taken,
    later,
    refused,
    receipts,
  };
  return { outcome, isWhole: broken === undefined };
}
