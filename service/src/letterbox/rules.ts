/** What the letterbox is told to do wrong: simple rules, so that every way in which sending can fail can be tried out. */
import type { letterboxRule } from "@corbix/api";
import type { z } from "zod";
import { countLetterboxUse, type Database, letterboxRulesOf, type RuleRow } from "../records/index.js";

export type LetterboxRule = z.output<typeof letterboxRule>;

/** Rules are read again so often. */
const FRESH_MS = 300;

/** The rules of the database, kept for a moment. */
export class LetterboxRules {
  private rules: readonly RuleRow<LetterboxRule>[] = [];
  private readAt = 0;
  /** Uses that are counted here before the database knows of them. */
  private readonly used = new Map<number, number>();

  constructor(private readonly database: Database) {}

  /** The first rule of such a kind that meets a message, and counts as used by that. */
  async find(
    does: readonly LetterboxRule["does"][],
    about: { readonly to?: readonly string[]; readonly subject?: string },
  ): Promise<LetterboxRule | undefined> {
    await this.refresh();
    for (const { id, rule } of this.rules) {
      if (!does.includes(rule.does)) continue;
      if (
        rule.to !== undefined &&
        !(about.to ?? []).some((one) => one.toLowerCase().includes(rule.to?.toLowerCase() ?? ""))
      )
        continue;
      if (rule.subject !== undefined && !(about.subject ?? "").toLowerCase().includes(rule.subject.toLowerCase()))
        continue;
      const used = this.used.get(id) ?? 0;
      if (rule.times !== undefined && used >= rule.times) continue;
      if (Math.random() >= rule.share) continue;
      this.used.set(id, used + 1);
      await countLetterboxUse(this.database, id);
      return rule;
    }
    return undefined;
  }

  private async refresh(): Promise<void> {
    if (Date.now() - this.readAt < FRESH_MS) return;
    this.rules = await letterboxRulesOf<LetterboxRule>(this.database);
    this.readAt = Date.now();
    for (const { id, used } of this.rules) this.used.set(id, Math.max(used, this.used.get(id) ?? 0));
  }
}
