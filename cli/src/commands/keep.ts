import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import type { Client, Schemas } from "../client.js";
import { type Output, tableText } from "../output.js";

type Kept = Schemas["Kept"];
type Kind = Kept["kind"];

const KINDS: Readonly<Record<string, Kind>> = { report: "reports", dataset: "datasets", template: "templates" };

function pathOf(kind: string, name: string): { readonly kind: Kind; readonly name: string } {
  const found = KINDS[kind] ?? KINDS[kind.replace(/s$/, "")];
  if (found) return { kind: found, name };
  throw new CorbixError("BAD_REQUEST", say().command.cannotTellExpectedReportDataset({ kind }), {
    where: "kind",
  });
}

/** What hangs on something, and what it was called before. */
export async function hanging(client: Client, kind: string, name: string, output: Output): Promise<number> {
  const kept = await client.get("/library/{kind}/{name}", { path: pathOf(kind, name) });
  tell(kept, output);
  output.value(kept);
  return 0;
}

function tell(kept: Kept, output: Output): void {
  if (kept.formerNames.length > 0) output.line(`${kept.name}, before ${kept.formerNames.join(", ")}`);
  if (kept.archivedAt) output.line(`archived by ${kept.archivedBy}`);
  output.line(
    kept.hanging.length === 0
      ? "Nothing hangs on it."
      : tableText(
          ["On it", "Count", "Named", "Stops"],
          kept.hanging.map((one) => [one.what, one.count, one.names.join(", "), one.stops.join(", ")]),
        ),
  );
}

/** Gives something another name, or makes a copy of it under one. */
export async function underName(
  client: Client,
  deed: "rename" | "copy",
  [kind, name, to]: readonly [string, string, string],
  { title }: { readonly title?: string },
  output: Output,
): Promise<number> {
  const call = { path: pathOf(kind, name), body: { to, ...(title === undefined ? {} : { title }) } };
  const kept =
    deed === "rename"
      ? await client.post("/library/{kind}/{name}/rename", call)
      : await client.post("/library/{kind}/{name}/copy", call);
  output.line(deed === "rename" ? `${name} is called ${kept.name} now` : `${kept.name} is a copy of ${name}`);
  output.value(kept);
  return 0;
}

export async function archive(
  client: Client,
  kind: string,
  name: string,
  { back }: { readonly back?: boolean },
  output: Output,
): Promise<number> {
  const path = pathOf(kind, name);
  const kept = back
    ? await client.post("/library/{kind}/{name}/bring-back", { path })
    : await client.post("/library/{kind}/{name}/archive", { path });
  output.line(back ? `${kept.name} is back` : `${kept.name} is archived`);
  output.value(kept);
  return 0;
}

/** Without `yes` it is only said what hangs on it. */
export async function remove(
  client: Client,
  kind: string,
  name: string,
  { yes }: { readonly yes?: boolean },
  output: Output,
): Promise<number> {
  const path = pathOf(kind, name);
  if (!yes) {
    const kept = await client.get("/library/{kind}/{name}", { path });
    tell(kept, output);
    output.line("Nothing was deleted. Say --yes to delete it.");
    output.value(kept);
    return 0;
  }
  const gone = await client.delete("/library/{kind}/{name}", { path });
  output.line(
    gone.keptForRuns
      ? `${gone.name} is deleted; what its runs were made with stays for them`
      : `${gone.name} is deleted`,
  );
  output.value(gone);
  return 0;
}
