import { type Client, firstOf, type Schemas } from "../client.js";
import { type Output, short, tableText } from "../output.js";

/** For each group who would receive now and by which rule, or why nobody does. Ends with 8 where a group has nobody. */
export async function matching(
  client: Client,
  report: string,
  options: { readonly for?: string },
  output: Output,
): Promise<number> {
  const query = { limit: 1_000, ...(options.for ? { period: options.for } : {}) };
  const groups = await firstOf(client.all("/reports/{name}/matching", { path: { name: report }, query }));
  const without = groups.filter((one) => one.people.length === 0);
  const list = (people: readonly Schemas["Address"][]): string => people.map(({ address }) => address).join("; ");
  const rows = groups.flatMap((one) =>
    one.people.length === 0
      ? [[short(one.group, 30), one.rows, "nobody", "", one.nobody ?? ""]]
      : one.people.map((person, index) => [
          index === 0 ? short(one.group, 30) : "",
          index === 0 ? one.rows : "",
          person.name,
          short(
            [
              list(person.to),
              person.copies.length > 0 ? `copy ${list(person.copies)}` : "",
              person.blindCopies.length > 0 ? `blind ${list(person.blindCopies)}` : "",
            ]
              .filter(Boolean)
              .join("; "),
            60,
          ),
          person.why,
        ]),
  );
  output.line(
    groups.length === 0
      ? `${report} makes no groups of this period.`
      : tableText(["Group", "Rows", "Who", "Addresses", "Why"], rows),
  );
  output.line(
    `\n${groups.length} groups, ${without.length === 0 ? "each with somebody who receives" : `${without.length} with nobody`}.`,
  );
  output.value(groups);
  return without.length > 0 ? 8 : 0;
}
