/** Seals everything that is kept sealed under another key, all or nothing. */
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { formerOf, layNextKey, maybeKey, newKey, replaceKey, secretsOf } from "../access/secrets.js";
import type { Settings } from "../process/settings.js";
import {
  addFormerKey,
  forgetFormerKeys,
  forgetSealed,
  knownKeyMark,
  livingProcesses,
  noteKeyMark,
  openAsking,
  openDatabase,
  sealAnew,
} from "../records/index.js";

export interface RekeyOptions {
  readonly settings: Settings;
  readonly databaseUrl: string;
  /** The other key; one is made where none is given. */
  readonly to?: string | undefined;
  /** The key before is lost: what was sealed with it is taken out. */
  readonly forget: boolean;
  /** Addresses that were signed with keys before end: where such a key became known. */
  readonly endLinks: boolean;
}

export interface Rekeyed {
  /** Secrets that were sealed anew, or taken out. */
  readonly secrets: number;
  readonly mark: string;
  /** `file`: the key lies in the data folder. `setting`: it has to be set before the next start. */
  readonly keptIn: "file" | "setting";
}

/** Throws `CONFLICT` while the service runs, and `BAD_SETTING` where the key is not the one that they are sealed with. */
export async function rekey({ settings, databaseUrl, to, forget, endLinks }: RekeyOptions): Promise<Rekeyed> {
  await refuseRunning(databaseUrl);
  const before = settings.secretKey ?? (await maybeKey(settings.data));
  const after = to ?? newKey();
  if (settings.secretKey !== undefined && to === undefined)
    throw new CorbixError("BAD_SETTING", say().serviceOperate.keyIsSetting(), {
      where: "CORBIX_SECRET_KEY",
      advice: say().serviceOperate.giveKeyFile(),
    });
  const database = await openDatabase(databaseUrl, { migrate: true });
  try {
    const next = secretsOf(after);
    const known = await knownKeyMark(database);
    const old = before === undefined ? undefined : secretsOf(before);
    if (!forget && known !== null && old?.mark !== known)
      throw new CorbixError("BAD_SETTING", say().serviceAccess.otherKey(), {
        where: "CORBIX_SECRET_KEY",
        advice: say().serviceAccess.restoreKeyOrForget(),
      });
    if (settings.secretKey === undefined) await layNextKey(settings.data, after);
    const secrets = await database.transaction(async (transaction) => {
      if (forget || endLinks) await forgetFormerKeys(database, transaction);
      const count =
        forget || !old
          ? await forgetSealed(database, transaction)
          : await sealAnew(database, (sealed) => next.seal(old.open(sealed)), transaction);
      if (!forget && !endLinks && before !== undefined && old)
        await addFormerKey(database, old.mark, next.seal(formerOf(before)), transaction);
      await noteKeyMark(database, next.mark, transaction);
      return count;
    });
    if (settings.secretKey === undefined) await replaceKey(settings.data);
    return { secrets, mark: next.mark, keptIn: settings.secretKey === undefined ? "file" : "setting" };
  } finally {
    await database.close();
  }
}

async function refuseRunning(databaseUrl: string): Promise<void> {
  const asking = await openAsking(databaseUrl);
  try {
    const count = await livingProcesses(asking);
    if (count > 0)
      throw new CorbixError("CONFLICT", say().serviceOperate.stillRuns({ count }), {
        where: "database",
        advice: say().serviceOperate.endFirst(),
      });
  } finally {
    await asking.close();
  }
}
