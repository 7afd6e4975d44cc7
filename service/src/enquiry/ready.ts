/** Large tables that are asked are made ready when they are new, not when somebody asks. */
import type { Context } from "../process/context.js";
import { choicesOf } from "../threads/look.js";
import { asOfNow, enquiries } from "./enquiries.js";

/** Smaller ones are opened sooner than anybody notices. */
const LARGE_ROWS = 20_000;

/** Makes tables ready, each once: one that had to be closed for others is opened again by whoever asks. */
export class ReadyEnquiries {
  private readonly done = new Set<string>();
  /** What is being made ready, one after the other; a stop does not wait for it. */
  private working: Promise<unknown> = Promise.resolve();

  constructor(private readonly context: Context) {}

  async look(): Promise<void> {
    const now = new Set<string>();
    for (const report of await enquiries(this.context)) {
      // Without data, or with data that do not fit any more, there is nothing to make ready.
      const asked = await asOfNow(this.context, report).catch(() => undefined);
      if (!asked || asked.edition.rowCount < LARGE_ROWS) continue;
      const { source } = asked;
      const key = JSON.stringify(source);
      now.add(key);
      if (this.done.has(key)) continue;
      this.done.add(key);
      this.working = this.working
        .then(() => choicesOf(this.context, source, [], 0))
        .catch((error: Error) =>
          this.context.log.warn({ report: report.name, error: error.message }, "an enquiry was not made ready"),
        );
    }
    for (const key of this.done) if (!now.has(key)) this.done.delete(key);
  }
}
