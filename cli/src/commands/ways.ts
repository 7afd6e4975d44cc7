import { basename } from "node:path";
import type { Call } from "@corbix/api/client";
import { textFromBytes } from "@corbix/core/common";
import { type Client, firstOf, type Schemas } from "../client.js";
import { readInput } from "../files.js";
import { type Output, tableText } from "../output.js";

/** Lists the ways out besides mail, or sets one from a file. */
export async function waysOut(
  client: Client,
  name: string | undefined,
  options: { readonly file?: string; readonly try?: boolean; readonly remove?: boolean },
  output: Output,
): Promise<number> {
  if (name === undefined) return listWays(client, output);
  if (options.remove) {
    const gone = await client.delete("/ways-out/{name}", { path: { name } });
    output.line(`way out ${name} is taken away`);
    output.value(gone);
    return 0;
  }
  if (options.file !== undefined) await setWay(client, name, options.file, output);
  if (options.try) {
    const { words } = await client.post("/ways-out/{name}/try", { path: { name } });
    output.line(`A small file could be put there and taken away again: ${words}`);
  }
  const way = await client.get("/ways-out/{name}", { path: { name } });
  if (options.file === undefined && !options.try) output.line(wayTable([way]));
  output.value(way);
  return 0;
}

async function listWays(client: Client, output: Output): Promise<number> {
  const all = await firstOf(client.all("/ways-out"));
  output.line(
    all.length === 0
      ? "No way out is set up: files leave by mail alone. Set one up: corbix ways-out archive --file archive.yaml"
      : wayTable(all),
  );
  output.value(all);
  return 0;
}

function wayTable(ways: readonly Schemas["WayOut"][]): string {
  return tableText(
    ["Way out", "Leads to", "Used by", "Waiting", ""],
    ways.map((one) => [
      one.name,
      one.place,
      one.reports.join(", "),
      one.waiting + one.sending,
      one.paused ? "paused" : one.restUntil ? `left alone until ${one.restUntil.slice(11, 16)}: ${one.restWhy}` : "",
    ]),
  );
}

/** Secrets come from the environment, never from the file. */
async function setWay(client: Client, name: string, path: string, output: Output): Promise<void> {
  const { parseYaml } = await import("@corbix/core/report");
  const settings = parseYaml(textFromBytes(await readInput(path)), basename(path), "BAD_DEFINITION");
  const { CORBIX_WAY_PASSWORD: password, CORBIX_WAY_TOKEN: token, CORBIX_WAY_KEY_FILE: keyFile } = process.env;
  const secret = {
    ...(password ? { password } : {}),
    ...(token ? { token } : {}),
    ...(keyFile ? { privateKey: textFromBytes(await readInput(keyFile)) } : {}),
  };
  // What the file says is checked by the service, which names what is wrong with it.
  const body = { settings, secret } as Call<"put", "/ways-out/{name}">["body"];
  const kept = await client.put("/ways-out/{name}", { path: { name }, body });
  output.line(`way out ${name} is set: ${kept.place}`);
}
