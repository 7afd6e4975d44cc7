/** Documents and decks that grow without a service: what `corbix make` wrote for the period before says which they are. */
import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { CorbixError } from "@corbix/core/common";
import { describeProblems, type Report } from "@corbix/core/report";
import {
  type EarlierPeriods,
  type HeldPeriods,
  officeKind,
  type ParcelFile,
  type PlannedParcel,
} from "@corbix/core/run";
import { say } from "@corbix/core/words";
import { z } from "zod";
import { readInput } from "../../files.js";

/** Its name in the folder of a run. */
export const SO_FAR = "growing.json";

const grownSchema = z.array(
  z.strictObject({ file: z.string(), group: z.string(), path: z.string(), periods: z.array(z.string()) }),
);
export type GrownFile = z.infer<typeof grownSchema>[number];

export interface SoFar {
  /** What the growing files of each group hold. */
  readonly held: readonly HeldPeriods[];
  /** What a group's file held, as far as it is there. */
  readonly of: (file: string, group: string) => EarlierPeriods | undefined;
  readonly periods: (file: string, group: string) => readonly string[];
}

/** Throws `BAD_REQUEST` for a folder in which no run of a growing report was made. */
export async function readSoFar(folder: string, report: Report): Promise<SoFar> {
  const where = join(folder, SO_FAR);
  const text = await readFile(where, "utf8").catch((cause: unknown) => {
    throw new CorbixError("BAD_REQUEST", say().command.cannotGoOnFrom({ folder }), {
      where: "--so-far",
      advice: say().command.nameFolderOfMake(),
      cause,
    });
  });
  const read = grownSchema.safeParse(maybeJson(text));
  if (!read.success) throw new CorbixError("BAD_REQUEST", describeProblems(read.error), { where });
  // A deck does not go on from the documents that were there before it.
  const alike = read.data.filter(
    ({ file, path }) => officeKind(path) === officeKind(report.files[file]?.template ?? ""),
  );
  const bytes = new Map(
    await Promise.all(alike.map(async (one) => [one, await readInput(join(folder, one.path))] as const)),
  );
  const find = (file: string, group: string): GrownFile | undefined =>
    alike.find((one) => one.file === file && one.group === group);
  return {
    held: alike,
    periods: (file, group) => find(file, group)?.periods ?? [],
    of: (file, group) => {
      const found = find(file, group);
      const content = found && bytes.get(found);
      if (!found || !content) return undefined;
      return {
        periods: found.periods.map((period) => ({ period, section: undefined })),
        whole: () => new Uint8Array(content),
      };
    },
  };
}

/** What a text holds as JSON; nothing where it is damaged. */
function maybeJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

/** What is written down of a parcel's files that grow. */
export function grownFiles(
  report: Report,
  parcel: PlannedParcel,
  files: readonly ParcelFile[],
  soFar: SoFar | undefined,
): GrownFile[] {
  return files
    .filter(({ file, kind }) => report.files[file]?.grows && kind !== "pdf")
    .map(({ file, path, sections = [] }) => ({
      file,
      group: parcel.group.key,
      path,
      periods: [...(soFar?.periods(file, parcel.group.key) ?? []), ...sections.map(({ period }) => period)],
    }));
}
