/** Fonts that people bring, in a folder that every process looks into. */

import { mkdir, readFile, rename, rm, writeFile } from "node:fs/promises";
import { isAbsolute, join } from "node:path";
import { CorbixError, sha256 } from "@corbix/core/common";
import { readFont } from "@corbix/core/fonts";
import { say } from "@corbix/core/words";
import { noteAction } from "../audit/audit.js";
import { announce } from "../events/events.js";
import type { Context } from "../process/context.js";
import type { Settings } from "../process/settings.js";
import { storeError } from "../store/store-errors.js";

export function fontFolder({ fonts, data }: Pick<Settings, "fonts" | "data">): string {
  return isAbsolute(fonts) ? fonts : join(data, fonts);
}

/** Puts a font into the folder. Throws `BAD_REQUEST` for a file that is no font, or a name that is none. */
export async function addFont(
  context: Context,
  name: string,
  bytes: Uint8Array,
  by: string,
): Promise<{ family: string; bold: boolean; italic: boolean }> {
  if (!/^[\p{L}\p{N}][\p{L}\p{N} ._-]{0,100}\.(?:ttf|woff)$/iu.test(name))
    throw new CorbixError("BAD_REQUEST", say().serviceLibrary.cannotUseFontSName({ name }), {
      where: "fonts",
    });
  const { family, bold, italic } = readFont(name, bytes);
  const folder = fontFolder(context.settings);
  await mkdir(folder, { recursive: true });
  // Whole under its name or not there at all: other processes look at any time.
  const waiting = join(folder, `.${name}.part`);
  try {
    await writeFile(waiting, bytes, { mode: 0o600, flush: true });
    if (sha256(await readFile(waiting)) !== sha256(bytes))
      throw new CorbixError("STORE_AWAY", say().serviceLibrary.cannotKeepFontReadsOtherwise(), {
        where: folder,
        advice: say().serviceLibrary.seeDiskWellNothingKept(),
      });
    await rename(waiting, join(folder, name));
  } catch (error) {
    await rm(waiting, { force: true }).catch(() => {});
    throw storeError(error);
  }
  await noteAction(context.database, by, "font added", family, { file: name });
  await announce(context.database, { kind: "template", subject: name });
  return { family, bold, italic };
}
