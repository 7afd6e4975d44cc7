/** Attachments of a run that are not made: from the library and the folder of attachments into the store. */

import { readdir, readFile } from "node:fs/promises";
import { isAbsolute, join } from "node:path";
import { type Finding, made, sha256 } from "@corbix/core/common";
import { type AttachmentSource, type FoundAttachments, findAttachments, type PlannedParcel } from "@corbix/core/run";
import { say } from "@corbix/core/words";
import type { Context } from "../process/context.js";
import type { EnclosedFile, ParcelRow, RunRow } from "../records/index.js";

export type Enclosures = FoundAttachments<Omit<EnclosedFile, "kind" | "name" | "origin">>;

/** Fetches what the parcels' messages take along, and keeps it. */
export function encloseFiles(
  context: Context,
  run: Pick<RunRow, "id" | "templates">,
  parcels: readonly PlannedParcel[],
  groupNames: readonly string[],
): Promise<Enclosures> {
  return findAttachments(parcels, groupNames, sourceOf(context, run), async (bytes, parcel) => ({
    run: run.id,
    group: parcel.group.key,
    sha256: await context.store.put(bytes),
    size: bytes.length,
  }));
}

function sourceOf(context: Context, run: Pick<RunRow, "templates">): AttachmentSource {
  const root = attachFolder(context);
  return {
    fixed: (name) => context.store.get(made(run.templates[name], `the file ${name} of the library`)),
    list: async (folder) => {
      const entries = await readdir(join(root, folder), { withFileTypes: true }).catch(() => []);
      return entries.filter((entry) => entry.isFile()).map((entry) => entry.name);
    },
    read: (path) => readFile(join(root, path)).catch(() => undefined),
  };
}

/** Files of a run that are not in the folder any more as they were when it was planned. */
export async function changedSince(
  context: Context,
  parcels: readonly Pick<ParcelRow, "label" | "enclosed">[],
): Promise<Finding[]> {
  const findings: Finding[] = [];
  for (const { label, enclosed } of parcels)
    for (const file of enclosed) {
      if (file.kind !== "found") continue;
      const now = await readFile(join(attachFolder(context), file.origin)).catch(() => undefined);
      if (now && sha256(now) === file.sha256) continue;
      findings.push({
        code: "attachment-changed",
        severity: "stop",
        where: say().place.group({ name: label }),
        what: say().serviceRun.afterRunPlanned({ origin: file.origin, isNow: Boolean(now) }),
        advice: say().serviceRun.runAgainSoGoesOut(),
      });
    }
  return findings;
}

function attachFolder({ settings }: Context): string {
  return isAbsolute(settings.attachFolder) ? settings.attachFolder : join(settings.data, settings.attachFolder);
}
