import { basename } from "node:path";
import type { Call } from "@corbix/api/client";
import { textFromBytes } from "@corbix/core/common";
import { type Client, firstOf } from "../client.js";
import { readInput } from "../files.js";
import { type Output, tableText } from "../output.js";

type Definition = Call<"put", "/calendars/{name}">["body"];

/** Lists the calendars, or shows one with what is off in a year. */
export async function calendars(
  client: Client,
  name: string | undefined,
  options: { readonly year?: string },
  output: Output,
): Promise<number> {
  if (name !== undefined) return showCalendar(client, name, options, output);
  const all = await firstOf(client.all("/calendars"));
  output.line(
    all.length === 0
      ? "There is no calendar yet. Monday to Friday are worked, and no day is off."
      : tableText(
          ["Calendar", "Title", "Days off", "Fiscal years", "Own periods", "Used by"],
          all.map((one) => [
            one.name,
            one.title,
            one.daysOff,
            one.fiscal ? "yes" : "",
            one.periods,
            one.usedBy.join(", "),
          ]),
        ),
  );
  output.value(all);
  return 0;
}

async function showCalendar(
  client: Client,
  name: string,
  options: { readonly year?: string },
  output: Output,
): Promise<number> {
  const year = options.year ?? String(new Date().getFullYear());
  const { title, definition, usedBy } = await client.get("/calendars/{name}", { path: { name } });
  const shown = await client.post("/calendar-years/{year}", {
    path: { year: Number(year) },
    body: definition as unknown as Definition,
  });
  const named = shown.days.filter((one) => one.name !== null);
  output.line(`${title} (${name}), ${year}`);
  for (const one of named) output.line(`  ${one.day}  ${one.name}${one.half ? ", half a day" : ""}`);
  if (named.length === 0) output.line("  no day has a name");
  for (const one of shown.periods) output.line(`  ${one.from} to ${one.to}  ${one.label} (${one.key})`);
  if (usedBy.length > 0) output.line(`Used by ${usedBy.join(", ")}`);
  output.value({ name, year: Number(year), ...shown });
  return 0;
}

/** Sets a calendar from its text, or adds what a file of days or periods names. */
export async function setCalendar(client: Client, name: string, path: string, output: Output): Promise<number> {
  const bytes = await readInput(path);
  const isText = /\.(?:ya?ml|json)$/i.test(path);
  const body = isText ? await definitionFrom(bytes, path) : await withFile(client, name, bytes, basename(path));
  const kept = await client.put("/calendars/{name}", { path: { name }, body });
  output.line(
    `calendar ${name} is set: ${kept.daysOff} days off, ${kept.periods} periods of its own${kept.fiscal ? ", fiscal years" : ""}`,
  );
  if (kept.usedBy.length > 0) output.line(`The next times of ${kept.usedBy.join(", ")} go by it.`);
  output.value(kept);
  return 0;
}

async function definitionFrom(bytes: Uint8Array, path: string): Promise<Definition> {
  const { parseYaml } = await import("@corbix/core/report");
  // What the file says is checked by the service, which names what is wrong with it.
  return parseYaml(textFromBytes(bytes), basename(path), "BAD_DEFINITION") as Definition;
}

async function withFile(client: Client, name: string, bytes: Uint8Array, file: string): Promise<Definition> {
  const found = await client.post("/calendar-files", { query: { file }, body: bytes as never });
  const all = await firstOf(client.all("/calendars"));
  const known = all.some((one) => one.name === name)
    ? (await client.get("/calendars/{name}", { path: { name } })).definition
    : { title: name };
  const before = known as { off?: object[]; periods?: object[] };
  const keyed = (list: readonly object[]) => new Map(list.map((one) => [JSON.stringify(one), one]));
  const merge = (one: readonly object[] = [], two: readonly object[] = []) => [
    ...new Map([...keyed(one), ...keyed(two)]).values(),
  ];
  return {
    ...known,
    off: merge(before.off, found.off),
    periods: merge(before.periods, found.periods).sort((a, b) =>
      String((a as { from: string }).from).localeCompare(String((b as { from: string }).from)),
    ),
  } as unknown as Definition;
}
