/** The pace at which messages of an identity go out. */
import { monotonicMs } from "../process/clock.js";
import type { Context } from "../process/context.js";
import { setSlotWait, slotWaitMs, triesOf } from "../records/index.js";

/** The longest time between two messages that a pace can ask for. */
const LONGEST_SLOT_MS = 600_000;

/** How many messages in a minute and in an hour. */
interface PaceSettings {
  readonly perMinute: number;
  readonly perHour?: number | undefined;
}

/** Kept over restarts where it is slow. Times are of the monotonic clock, which nobody can set. */
export class Pace {
  /** When the next message may go. */
  private nextSlot: number | undefined;

  constructor(
    private readonly context: Context,
    private readonly name: string,
    /** What was not used for so long may be made up for. */
    private readonly idleMs: number,
  ) {}

  /** How many messages the pace allows now. */
  async slots(settings: PaceSettings, underWay: number): Promise<number> {
    const interval = 60_000 / settings.perMinute;
    const now = monotonicMs();
    if (this.nextSlot === undefined) this.nextSlot = await this.storedSlot(now);
    // What was not used a moment ago may be made up for, no more.
    this.nextSlot = Math.max(this.nextSlot, now - this.idleMs);
    const minute = Math.max(0, Math.floor((now - this.nextSlot) / interval) + (this.nextSlot <= now ? 1 : 0));
    if (settings.perHour === undefined || minute === 0) return minute;
    // Those under way that have not begun yet are about to count; they were taken before the others are counted, so that none falls between.
    const count = await triesOf(this.context.database, this.name, this.context.now());
    return Math.min(minute, Math.max(0, settings.perHour - count - underWay));
  }

  used(settings: PaceSettings, count: number): void {
    const interval = 60_000 / settings.perMinute;
    const next = (this.nextSlot ?? monotonicMs()) + count * interval;
    this.nextSlot = next;
    // A slow pace has to outlive this process.
    if (interval > 1_000)
      setSlotWait(this.context.database, this.name, Math.max(0, next - monotonicMs())).catch(() => {});
  }

  private async storedSlot(now: number): Promise<number> {
    const wait = await slotWaitMs(this.context.database, this.name);
    // A clock that has been set back makes no pause longer than the pace ever asks for.
    return now + Math.min(LONGEST_SLOT_MS, wait);
  }
}
