import { safeName, uniqueName } from "@corbix/core/naming";
import type { Client } from "../client.js";
import { writeFolder } from "../files.js";
import { findingLines, type Output } from "../output.js";

export interface TryOptions {
  readonly group?: string;
  readonly for?: string;
  readonly out: string;
}

/** A file of a report for one group, to be opened beside its rows. */
export async function tryTemplate(
  client: Client,
  report: string,
  file: string,
  options: TryOptions,
  output: Output,
): Promise<number> {
  const tried = await client.post("/reports/{name}/try", {
    path: { name: report },
    body: {
      file,
      ...(options.group === undefined ? {} : { group: options.group }),
      ...(options.for === undefined ? {} : { period: options.for }),
    },
  });
  const chosen = tried.groups.find((group) => group.key === tried.group);
  const taken = new Set<string>();
  const names: string[] = [];
  await writeFolder(options.out, async (add) => {
    for (const { kind } of tried.files) {
      const name = uniqueName(safeName(`${file} ${chosen?.label ?? tried.group}`), `.${kind}`, taken);
      await add(name, await client.get("/made/{id}/{kind}", { path: { id: tried.id, kind } }));
      names.push(name);
    }
  });
  const when = tried.period === null ? "" : `, ${tried.period}`;
  output.line(
    `${file} for ${chosen?.label ?? tried.group}${when}: ${chosen?.rows ?? 0} rows, one of ${tried.groups.length} groups`,
  );
  for (const name of names) output.line(`  ${options.out}/${name}`);
  for (const line of findingLines(tried.findings)) output.line(line);
  output.value({ ...tried, files: names });
  return 0;
}
