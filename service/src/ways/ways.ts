/** Ways out besides mail: where files go after a release, kept by whoever runs the service. */
import { randomUUID } from "node:crypto";
import { wayOutSecret, wayOutSettings } from "@corbix/api";
import { CorbixError, sha256, suggestName, wordsOf } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import type { z } from "zod";
import { noteAction } from "../audit/audit.js";
import { checkExpected } from "../library/expected.js";
import type { Context } from "../process/context.js";
import {
  addIdentity,
  allIdentities,
  type IdentityRow,
  identityLoads,
  kindOfIdentity,
  removeIdentity,
  replaceIdentity,
  reportsWithWay,
  setIdentityPaused,
  versionOf,
} from "../records/index.js";
import { openFolder, outFolder } from "./folder.js";
import type { WayLine } from "./line.js";
import { openSftp } from "./sftp.js";
import { openUpload } from "./upload.js";
import { openWebDav } from "./web-dav.js";

export type WaySettings = z.output<typeof wayOutSettings>;
type WaySecret = z.output<typeof wayOutSecret>;

export interface WayOut {
  readonly name: string;
  readonly settings: WaySettings;
  readonly secrets: (keyof WaySecret)[];
  readonly paused: boolean;
  readonly restUntil: Date | null;
  readonly restWhy: string | null;
  readonly isResting: boolean;
}

export interface WayState extends WayOut {
  readonly place: string;
  readonly reports: string[];
  readonly waiting: number;
  readonly sending: number;
}

/** Each way out with the reports that go by it and what waits for it. */
export async function wayStates(context: Context): Promise<WayState[]> {
  const [rows, loads, reports] = await Promise.all([
    allIdentities(context.database, "way"),
    identityLoads(context.database),
    reportsWithWay(context.database),
  ]);
  return rows.map((row) => {
    const own = loads.find((one) => one.identity === row.name);
    const way = toWay(context, row);
    return {
      ...way,
      place: placeWords(context, way.settings),
      reports: reports.filter((one) => one.way === row.name).map((one) => one.report),
      waiting: own?.waiting ?? 0,
      sending: own?.sending ?? 0,
    };
  });
}

/** Throws `NOT_FOUND` with the names there are. */
export async function getWayState(context: Context, name: string): Promise<WayState> {
  const all = await wayStates(context);
  const found = all.find((one) => one.name === name);
  if (found) return found;
  throw unknownWay(
    name,
    all.map((one) => one.name),
  );
}

function unknownWay(name: string, names: readonly string[]): CorbixError {
  return new CorbixError("NOT_FOUND", say().serviceWays.cannotFind({ name }), {
    where: say().serviceWays.waysOut(),
    advice: suggestName(name, names, say().serviceWays.waysOut()),
  });
}

/** A way out with what opens lines to it. */
export interface OpenWay extends WayOut {
  /** Tells one place from another, with its secrets. */
  readonly key: string;
  readonly open: () => Promise<WayLine>;
}

export async function getWay(context: Context, name: string): Promise<OpenWay> {
  const rows = await allIdentities(context.database, "way");
  const row = rows.find((one) => one.name === name);
  if (!row)
    throw unknownWay(
      name,
      rows.map((one) => one.name),
    );
  const way = toWay(context, row);
  const secret = secretOf(context, row);
  return {
    ...way,
    key: JSON.stringify([way.settings, secret]),
    open: () => openLine(context, way.settings, secret),
  };
}

async function openLine(context: Context, settings: WaySettings, secret: WaySecret): Promise<WayLine> {
  switch (settings.kind) {
    case "folder":
      return openFolder(context.settings, settings.folder);
    case "web-dav":
      return openWebDav({ ...settings, password: secret.password, reach: context.reach });
    case "http":
      return openUpload({ ...settings, password: secret.password, token: secret.token, reach: context.reach });
    case "sftp":
      return openSftp({ ...settings, ...secret, reach: context.reach });
  }
}

export function wayVersion({ settings, secrets }: Pick<WayOut, "settings" | "secrets">): string {
  return versionOf({ settings, secrets });
}

/**
 * Sets a way out, new or known; secrets that are not given stay, and go where it leads elsewhere. Gives whether it is new. Throws
 * `CONFLICT` where a sending identity has the name, or `CHANGED_MEANWHILE` where it is not the expected version.
 */
export async function setWay(
  context: Context,
  name: string,
  { settings, secret }: { readonly settings: WaySettings; readonly secret: WaySecret },
  by: string,
  expected?: string,
): Promise<boolean> {
  for (;;) {
    const known = (await allIdentities(context.database, "way")).find((one) => one.name === name);
    if (!known && (await kindOfIdentity(context.database, name)) !== undefined)
      throw new CorbixError("CONFLICT", say().serviceWays.nameTaken({ name }), {
        where: say().place.wayOut({ name }),
        advice: say().serviceWays.chooseAnotherName(),
      });
    const before = known && toWay(context, known);
    checkExpected(expected, before && wayVersion(before), say().place.wayOut({ name }), undefined);
    // A secret is of one place: it is not handed to whatever the way is led to next.
    const kept = {
      ...(known && before && leadsTo(before.settings) === leadsTo(settings) ? secretOf(context, known) : {}),
      ...secret,
    };
    const sealed = Object.keys(kept).length > 0 ? context.secrets.seal(JSON.stringify(kept)) : null;
    const isKept = known
      ? await replaceIdentity(context.database, known, settings, sealed)
      : await addIdentity(context.database, name, settings, sealed, "way");
    if (!isKept) continue;
    await noteAction(context.database, by, known ? "way out changed" : "way out added", name, settings);
    return known === undefined;
  }
}

/** Takes a way out away. Throws `CONFLICT` where a report needs it or something waits for it. */
export async function removeWay(context: Context, name: string, by: string): Promise<void> {
  const { reports } = await getWayState(context, name);
  const where = say().place.wayOut({ name });
  if (reports.length > 0)
    throw new CorbixError("CONFLICT", say().serviceWays.neededByReports({ reports: reports.join(", ") }), {
      where,
      advice: say().serviceWays.takeOutOfReports(),
    });
  if (!(await removeIdentity(context.database, name)))
    throw new CorbixError("CONFLICT", say().serviceWays.somethingWaits(), {
      where,
      advice: say().serviceWays.decideFirst(),
    });
  await noteAction(context.database, by, "way out removed", name);
}

export async function pauseWay(context: Context, name: string, paused: boolean, by: string): Promise<void> {
  await getWay(context, name);
  await setIdentityPaused(context.database, name, paused);
  await noteAction(context.database, by, paused ? "way out paused" : "way out resumed", name);
}

/** Puts a small file there and takes it away again. Throws `SERVICE_UNREACHABLE` with what is wrong. */
export async function tryWay(context: Context, name: string): Promise<string> {
  const way = await getWay(context, name);
  const bytes = Buffer.from(`${say().serviceWays.trialFile()}\n`);
  const path = `corbix-trial-${randomUUID()}.txt`;
  try {
    const line = await way.open();
    try {
      const receipt = await line.put(path, bytes, { over: false, sha256: sha256(bytes), key: path });
      await line.remove(path);
      return receipt;
    } finally {
      line.close();
    }
  } catch (error) {
    throw new CorbixError("SERVICE_UNREACHABLE", say().serviceWays.cannotPut({ words: wordsOf(error) }), {
      where: say().place.wayOut({ name }),
      advice: say().serviceWays.seeSettings(),
      cause: error,
    });
  }
}

/** Whose secrets they are. */
function leadsTo(settings: WaySettings): string {
  switch (settings.kind) {
    case "folder":
      return "folder";
    case "sftp":
      return `sftp ${settings.host}:${settings.port} ${settings.user}`;
    default:
      return `${settings.kind} ${new URL(settings.address).origin} ${settings.user ?? ""}`;
  }
}

/** Where it leads, as people say it. */
function placeWords(context: Context, settings: WaySettings): string {
  switch (settings.kind) {
    case "folder":
      return [outFolder(context.settings), settings.folder].filter((part) => part !== "").join("/");
    case "sftp":
      return `${settings.user}@${settings.host}${settings.port === 22 ? "" : `:${settings.port}`}${settings.folder === "" ? "" : `, ${settings.folder}`}`;
    case "http":
      return `${settings.method} ${settings.address}`;
    case "web-dav":
      return settings.address;
  }
}

function toWay(context: Context, row: IdentityRow): WayOut {
  return {
    name: row.name,
    settings: wayOutSettings.parse(row.settings),
    secrets: Object.keys(secretOf(context, row)) as (keyof WaySecret)[],
    paused: row.paused,
    restUntil: row.restUntil,
    restWhy: row.restWhy,
    isResting: row.isResting ?? false,
  };
}

function secretOf(context: Context, row: IdentityRow): WaySecret {
  return row.secret ? wayOutSecret.parse(JSON.parse(context.secrets.open(row.secret))) : {};
}
