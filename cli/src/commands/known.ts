/** What is known of a person who asks. */
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import type { Client, Schemas } from "../client.js";
import { saveDownload } from "../files.js";
import { minute, type Output, tableText } from "../output.js";

type Search = Schemas["PersonSearch"];

export interface KnownOptions {
  readonly out?: string;
  readonly erase?: boolean;
  readonly reason?: string;
  readonly leave: readonly string[];
}

const PAUSE_MS = 300;

/** Looks through everything for a person; saves what was found, or erases it. */
export async function known(
  client: Client,
  words: readonly string[],
  options: KnownOptions,
  output: Output,
): Promise<number> {
  if (options.erase && !options.reason)
    throw new CorbixError("BAD_REQUEST", say().command.eraseNeedsReason(), {
      where: "--reason",
      advice: say().command.sayWhoAsked(),
    });
  const begun = await client.post("/person-searches", { body: { words: [...words] } });
  const path = { id: begun.id };
  const found = await ended(client, begun.id);
  if (options.out !== undefined)
    return saveDownload(client.get("/person-searches/{id}/export.zip", { path }), options.out, output);
  if (!options.erase) {
    show(found, output);
    return 0;
  }
  await client.post("/person-searches/{id}/erase", {
    path,
    body: { reason: options.reason ?? "", leave: [...options.leave] },
  });
  const after = await ended(client, begun.id);
  const count = ({ places }: Search): number => places.reduce((sum, one) => sum + one.count, 0);
  output.line(`erased: ${count(found) - count(after)} of ${count(found)} things named the person`);
  show(after, output);
  return 0;
}

async function ended(client: Client, id: string): Promise<Search> {
  for (;;) {
    const search = await client.get("/person-searches/{id}", { path: { id } });
    if (search.state === "failed") throw new CorbixError("FAILED", search.error ?? "");
    if (search.state !== "looking" && search.state !== "erasing") return search;
    await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
  }
}

function show(search: Search, output: Output): void {
  output.value(search);
  for (const { at, by, reason } of search.before) output.line(`erased ${minute(at)} by ${by}: ${reason}`);
  if (search.places.length === 0) {
    output.line("Nothing that is kept names them.");
    return;
  }
  output.line(
    tableText(
      ["Place", "", "Things", "Can be erased", "What keeps others"],
      search.places.map((one) => [
        one.place,
        one.title,
        String(one.count),
        String(one.erasable),
        one.kept.map(({ why, count }) => (one.kept.length > 1 ? `${count}: ${why}` : why)).join(" "),
      ]),
    ),
  );
}
