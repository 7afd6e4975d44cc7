/** Files that were made to be looked at or fetched once: held for a while, never stored. */

import { randomUUID } from "node:crypto";
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import type { KeptFile } from "../process/caches.js";
import type { Context } from "../process/context.js";

/** Holds files under one id. Throws `LIMIT_EXCEEDED` where they are more than can be held. */
export function keepFiles({ caches }: Pick<Context, "caches">, files: readonly KeptFile[]): string {
  const id = randomUUID();
  caches.files.set(id, files);
  if (caches.files.has(id)) return id;
  throw new CorbixError("LIMIT_EXCEEDED", say().serviceLibrary.cannotHoldMadeTooLarge(), {
    advice: say().serviceLibrary.makeCommandMakeLess(),
  });
}

/** All files held under an id. Throws `NOT_FOUND` where they are not held any more. */
export function keptFiles({ caches }: Pick<Context, "caches">, id: string): readonly KeptFile[] {
  const files = caches.files.get(id);
  if (files) return files;
  throw notHeld();
}

/** The file that ends so. Throws `NOT_FOUND` where it is not held any more. */
export function keptFile({ caches }: Pick<Context, "caches">, id: string, ending: string): KeptFile {
  const file = caches.files.get(id)?.find((one) => one.name.endsWith(`.${ending}`));
  if (file) return file;
  throw notHeld();
}

function notHeld(): CorbixError {
  return new CorbixError("NOT_FOUND", say().serviceLibrary.cannotFindFileHeldShort(), {
    where: "id",
    advice: say().serviceLibrary.makeAgain(),
  });
}
