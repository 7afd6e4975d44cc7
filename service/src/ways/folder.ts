/** Files put into a folder below the one that the service may write to, such as a mounted share. */
import { randomUUID } from "node:crypto";
import { link, mkdir, open, readFile, realpath, rename, rm, stat } from "node:fs/promises";
import { dirname, isAbsolute, join, resolve, sep } from "node:path";
import { sha256 } from "@corbix/core/common";
import { safeFolder } from "@corbix/core/naming";
import { say } from "@corbix/core/words";
import type { Settings } from "../process/settings.js";
import { systemCode } from "../store/store-errors.js";
import { PlaceInTrouble, PutRefused, type PutWish, type WayLine } from "./line.js";

/** The folder below which files may be put. */
export function outFolder(settings: Pick<Settings, "outFolder" | "data">): string {
  return isAbsolute(settings.outFolder) ? settings.outFolder : join(settings.data, settings.outFolder);
}

/** Throws `PlaceInTrouble` where the folder of all ways out is not there: a share that is not mounted is not written beside of. */
export async function openFolder(settings: Pick<Settings, "outFolder" | "data">, folder: string): Promise<WayLine> {
  const root = outFolder(settings);
  if (!isAbsolute(settings.outFolder)) await mkdir(root, { recursive: true });
  const isThere = await stat(root).then(
    (found) => found.isDirectory(),
    () => false,
  );
  if (!isThere) throw new PlaceInTrouble(say().serviceWays.noFolder({ root }));
  const own = join(root, safeFolder(folder));
  return {
    put: (path, bytes, wish) => putFile(root, placeIn(own, path), bytes, wish),
    remove: (path) => rm(placeIn(own, path), { force: true }),
    close: () => {},
  };
}

function placeIn(folder: string, path: string): string {
  const place = resolve(folder, ...path.split("/"));
  if (!place.startsWith(folder + sep)) throw new PutRefused(say().serviceWays.leadsOutside({ path }));
  return place;
}

async function putFile(
  root: string,
  place: string,
  bytes: Uint8Array,
  { over, sha256: digest }: PutWish,
): Promise<string> {
  const there = await readFile(place).catch((error: unknown) => {
    if (systemCode(error) === "ENOENT" || systemCode(error) === "ENOTDIR") return undefined;
    throw error;
  });
  if (there && sha256(there) === digest) return say().serviceWays.wasThere({ bytes: bytes.length, digest });
  if (there && !over) throw new PutRefused(say().serviceWays.anotherIsThere());
  const folder = dirname(place);
  await mkdir(folder, { recursive: true });
  // Somebody else may have made a link there that leads elsewhere.
  const [real, realRoot] = [await realpath(folder), await realpath(root)];
  if (real !== realRoot && !real.startsWith(realRoot + sep))
    throw new PutRefused(say().serviceWays.leadsOutside({ path: place }));
  const beside = join(folder, `.${randomUUID()}`);
  try {
    await writeFlushed(beside, bytes);
    if (sha256(await readFile(beside)) !== digest) throw new Error(say().serviceWays.readsOtherwise());
    if (over) await rename(beside, place);
    // Linked, not moved: what came there meanwhile is not written over.
    else
      await link(beside, place).catch((error: unknown) => {
        if (systemCode(error) === "EEXIST") throw new PutRefused(say().serviceWays.anotherIsThere());
        throw error;
      });
  } finally {
    await rm(beside, { force: true });
  }
  return say().serviceWays.wasPut({ bytes: bytes.length, digest });
}

async function writeFlushed(path: string, bytes: Uint8Array): Promise<void> {
  const file = await open(path, "wx");
  try {
    await file.writeFile(bytes);
    await file.sync();
  } finally {
    await file.close();
  }
}
