/** What the letterbox is told to do wrong: simple rules, so that every way in which sending can fail can be tried out. */
import { z } from "zod";
import type { Database } from "../records/index.js";

export const letterboxRuleSchema = z.strictObject({
  does: z
    .enum([
      "refuse",
      "defer",
      "full",
      "slow",
      "slow-answer",
      "throttle",
      "break-before",
      "break-within",
      "break-after",
      "lose",
      "bounce",
      "refuse-data",
      "defer-data",
    ])
    .describe(
      "refuse, defer or full: an answer to an address (550, 451, 452). slow: waits before it answers a sender; slow-answer: after it has kept the message. throttle: 421 to whoever sends more than a few a second. break-before, break-within, break-after: the connection ends before, in the middle of, and after the data, which is kept then; lose: after the data, which is not kept. bounce: takes it, and sends a report of non-delivery. refuse-data, defer-data: an answer to the data (554, 451).",
    ),
  to: z.string().max(300).optional().describe("Only addresses that hold this text."),
  subject: z.string().max(300).optional().describe("Only subjects that hold this text; for rules about the data."),
  share: z.number().min(0).max(1).default(1).describe("Only this share of messages, by chance."),
  times: z.number().int().min(1).optional().describe("Only so often, then no more."),
  seconds: z.number().min(0).max(600).default(2).describe("Of slow and slow-answer: how long it waits."),
  perSecond: z.number().min(0.1).max(10_000).default(5).describe("Of throttle: how many it takes."),
  says: z
    .string()
    .max(200)
    .regex(/^[\x20-\x7e]*$/, "expected one line of plain characters")
    .optional()
    .describe("Words of the answer."),
});
export type LetterboxRule = z.output<typeof letterboxRuleSchema>;

export interface KeptRule {
  readonly id: number;
  readonly rule: LetterboxRule;
  readonly used: number;
}

/** Rules are read again so often. */
const FRESH_MS = 300;

/** The rules of the database, kept for a moment. */
export class LetterboxRules {
  private rules: readonly KeptRule[] = [];
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
      await this.database.execute("UPDATE letterbox_rules SET used = used + 1 WHERE id = $1", [id]);
      return rule;
    }
    return undefined;
  }

  private async refresh(): Promise<void> {
    if (Date.now() - this.readAt < FRESH_MS) return;
    this.rules = await letterboxRules(this.database);
    this.readAt = Date.now();
    for (const { id, used } of this.rules) this.used.set(id, Math.max(used, this.used.get(id) ?? 0));
  }
}

export async function letterboxRules(database: Database): Promise<KeptRule[]> {
  return database.select<KeptRule>("SELECT id, rule, used FROM letterbox_rules ORDER BY id");
}
