import type { Finding } from "../../common/index.js";
import type { Env } from "../../expression/index.js";
import { say } from "../../words/index.js";

/** The group that is worked on, for messages. */
export function groupWords(env: Env): string {
  return say().place.group({ name: String(env.spaces.group?.get("label") ?? "of this record") });
}

/** Marks in running text that came out blank for one group. */
export class Blanks {
  private readonly found = new Map<string, { where: string; source: string; count: number }>();

  add(where: string, source: string): void {
    const key = `${where}\n${source}`;
    const known = this.found.get(key);
    if (known) known.count++;
    else this.found.set(key, { where, source, count: 1 });
  }

  findings(env: Env): Finding[] {
    return this.about(groupWords(env).replace(/^group /, ""));
  }

  /** The same, about whatever is filled. */
  about(label: string): Finding[] {
    return [...this.found.values()].map(({ where, source, count }) => ({
      code: "blank-in-text",
      severity: "warn",
      where,
      what: say().run.blankMiddleText({ source, label, count }),
      advice: say().run.fillSayStandsInstead({ source: source.replace(/\s+as\s+"[^"]*"$/, "") }),
      ...(count > 1 ? { count } : {}),
    }));
  }
}
