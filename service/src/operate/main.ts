/**
 * What an operator does on the machine itself, started by `scripts/operate.mjs`: one JSON value a line, progress first, then the
 * result or the error.
 */
import { readFile } from "node:fs/promises";
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { readSettings, shownSettings } from "../process/settings.js";
import { takeBackup } from "./backup.js";
import { checkBackup, chooseBackup } from "./check-backup.js";
import { examine } from "./doctor.js";
import { rekey } from "./rekey.js";
import { restoreBackup } from "./restore.js";
import { upgrade } from "./upgrade.js";

const tell = (value: object): void => void process.stdout.write(`${JSON.stringify(value)}\n`);
/** Signs that a key has at least. */
const SHORTEST_KEY = 16;
const PROGRESS_MS = 200;
let toldAt = 0;
const progress = (done: number, total: number): void => {
  if (done < total && performance.now() - toldAt < PROGRESS_MS) return;
  toldAt = performance.now();
  tell({ progress: { done, total } });
};

interface Asked {
  readonly version: string;
  readonly folder?: string;
  readonly out?: string;
  readonly keep?: number;
  readonly from?: string;
  readonly journal?: string;
  readonly keyFile?: string;
  readonly forget?: boolean;
  readonly endLinks?: boolean;
}

const WORK: Readonly<Record<string, (asked: Asked) => Promise<object>>> = {
  backup: async ({ out = "", keep, version }) => {
    const { settings, databaseUrl } = where();
    return takeBackup({ settings, databaseUrl, out, keep, version, progress });
  },
  check: async ({ folder = "", from }) => checkBackup(await chooseBackup(folder, from), progress),
  restore: async ({ folder = "", from, journal }) => {
    const { settings, databaseUrl } = where();
    return restoreBackup({ settings, databaseUrl, chosen: await chooseBackup(folder, from), journal, progress });
  },
  doctor: async () => ({ examined: await examine(where()) }),
  settings: async () => {
    const settings = readSettings(process.env, process.env.CORBIX_ROOT ?? process.cwd());
    return { settings: shownSettings(settings) };
  },
  rekey: async ({ keyFile, forget = false, endLinks = false }) => {
    const { settings, databaseUrl } = where();
    const to = keyFile === undefined ? undefined : await readKey(keyFile);
    return rekey({ settings, databaseUrl, to, forget, endLinks });
  },
  upgrade: async ({ out, version }) => {
    const { settings, databaseUrl } = where();
    return upgrade({ settings, databaseUrl, out, version, progress });
  },
};

async function readKey(path: string): Promise<string> {
  const key = (await readFile(path, "utf8")).trim();
  if (key.length >= SHORTEST_KEY) return key;
  throw new CorbixError("BAD_SETTING", say().serviceOperate.keyTooShort({ least: SHORTEST_KEY }), { where: path });
}

function where() {
  const settings = readSettings(process.env, process.env.CORBIX_ROOT ?? process.cwd());
  return { settings, databaseUrl: process.env.CORBIX_OPERATE_ON ?? settings.databaseUrl ?? "" };
}

try {
  const [what = "", asked = "{}"] = process.argv.slice(2);
  const work = WORK[what];
  if (!work) throw new Error(`nothing to do is called ${what}`);
  tell({ result: await work(JSON.parse(asked) as Asked) });
} catch (error) {
  if (!(error instanceof CorbixError)) throw error;
  const { code, message, where: place, advice } = error;
  tell({ error: { code, message, where: place, advice } });
  process.exitCode = error.exitCode;
}
