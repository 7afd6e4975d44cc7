import { basename } from "node:path";
import type { Call } from "@corbix/api/client";
import { CorbixError, textFromBytes } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { type Client, firstOf } from "../client.js";
import { readInput } from "../files.js";
import { type Output, tableText } from "../output.js";

/** Lists the sending identities, or sets one from a file. Secrets come from the environment, never from the file. */
export async function identities(client: Client, path: string | undefined, output: Output): Promise<number> {
  if (path !== undefined) return setIdentity(client, path, output);
  const all = await firstOf(client.all("/identities"));
  output.line(
    tableText(
      ["Identity", "From", "Server", "Line", "Waiting", "Sending", "Sent in an hour", ""],
      all.map(({ name, settings, ...one }) => [
        name,
        settings.from,
        settings.host ? `${settings.host}:${settings.port}` : "of the settings",
        settings.host ? settings.security : "",
        one.waiting,
        one.sending,
        one.sentInHour,
        one.paused ? "paused" : one.restUntil ? `left alone until ${one.restUntil.slice(11, 16)}: ${one.restWhy}` : "",
      ]),
    ),
  );
  output.value(all);
  return 0;
}

async function setIdentity(client: Client, path: string, output: Output): Promise<number> {
  const { parseYaml } = await import("@corbix/core/report");
  const read = parseYaml(textFromBytes(await readInput(path)), basename(path), "BAD_DEFINITION") as { name?: unknown };
  const name = read?.name;
  if (typeof name !== "string")
    throw new CorbixError("BAD_REQUEST", say().command.cannotSetIdentityWithoutName(), {
      where: basename(path),
      advice: say().command.writeTopSuchNameOffice(),
    });
  const { name: _name, ...settings } = read;
  const { CORBIX_MAIL_PASSWORD: password, CORBIX_DKIM_KEY_FILE: keyFile } = process.env;
  const secret = {
    ...(password ? { password } : {}),
    ...(keyFile ? { dkimKey: textFromBytes(await readInput(keyFile)) } : {}),
  };
  // What the file says is checked by the service, which names what is wrong with it.
  const body = { settings, secret } as Call<"put", "/identities/{name}">["body"];
  const answer = await client.put("/identities/{name}", { path: { name }, body });
  output.line(`identity ${name} is set`);
  output.value(answer);
  return 0;
}
