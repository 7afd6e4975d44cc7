/** The standard's preset shapes, in its own formulas, written shorter: ECMA-376 part 1, 20.1.9.18 and 20.1.10.56. */
import type { Geometry, GeometryPath } from "../geometry.js";
import { ARROWS, ROUND_ARROWS } from "./arrows.js";
import { BASIC } from "./basic.js";
import { CALLOUTS } from "./callouts.js";
import { FLOW_CHARTS } from "./flow-charts.js";
import { STARS } from "./stars.js";

/** Definitions by name, as text; each is read when it is first asked for. */
const TEXTS: ReadonlyMap<string, string> = new Map(
  [BASIC, STARS, ARROWS, ROUND_ARROWS, CALLOUTS, FLOW_CHARTS].flatMap((texts) =>
    texts
      .split(/^= /m)
      .slice(1)
      .map((text): [string, string] => [/^\w+/.exec(text)?.[0] ?? "", text]),
  ),
);

const READ = new Map<string, Geometry>();

/** Names of all preset shapes. */
export function presetNames(): string[] {
  return [...TEXTS.keys()];
}

/** The geometry of a preset shape; `undefined` for a name that the standard does not have. */
export function presetGeometry(name: string): Geometry | undefined {
  const known = READ.get(name);
  const text = known ? undefined : TEXTS.get(name);
  if (text === undefined) return known;
  const read = readGeometry(text);
  READ.set(name, read);
  return read;
}

/**
 * First line: the name and what may be adjusted. Then guides, `name = operator operands` with `;` between; `text` with the sides of the
 * rectangle for text; and a line for each path, with its own size, fill and stroke where they are not the usual ones.
 */
function readGeometry(text: string): Geometry {
  const [first, ...lines] = text.trimEnd().split("\n");
  const adjust = first
    .split(" ")
    .slice(1)
    .map((one): [string, string] => [one.slice(0, one.indexOf("=")), `val ${one.slice(one.indexOf("=") + 1)}`]);
  const guides: [string, string][] = [];
  const paths: GeometryPath[] = [];
  let room: string[] | undefined;
  for (const line of lines) {
    if (line.startsWith("path ")) paths.push(readPath(line.slice(5)));
    else if (line.startsWith("text ")) room = line.slice(5).split(" ");
    else
      for (const guide of line.split(";")) {
        const sign = guide.indexOf(" = ");
        if (sign > 0) guides.push([guide.slice(0, sign).trim(), guide.slice(sign + 3).trim()]);
      }
  }
  return { adjust, guides, room, paths };
}

const OPERANDS: Readonly<Record<string, number>> = { M: 2, L: 2, A: 4, Q: 4, C: 6, Z: 0 };

function readPath(text: string): GeometryPath {
  const words = text.split(" ");
  const said = new Map<string, string>();
  while (words[0].includes("=")) {
    const [name, value] = (words.shift() ?? "").split("=");
    said.set(name, value);
  }
  const commands: string[][] = [];
  for (let at = 0; at < words.length; ) {
    const command = words[at++];
    const count = OPERANDS[command];
    // The same command goes on while operands follow.
    do {
      commands.push([command, ...words.slice(at, at + count)]);
      at += count;
    } while (count > 0 && at < words.length && !(words[at] in OPERANDS));
  }
  const size = (name: string): number | undefined => (said.has(name) ? Number(said.get(name)) : undefined);
  return {
    width: size("w"),
    height: size("h"),
    fill: said.get("fill") ?? "norm",
    isStroked: said.get("stroke") !== "0",
    commands,
  };
}
