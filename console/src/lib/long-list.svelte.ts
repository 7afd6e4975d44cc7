/** A list of any length: only the parts that are looked at are asked for and kept. */
import { untrack } from "svelte";

export interface Part<Item> {
  readonly items: readonly Item[];
  readonly total: number;
}

/** Rows asked for at once. */
const CHUNK = 100;
/** So many parts are kept; those looked at longest ago go first. */
const KEPT = 30;

export class LongList<Item> {
  /** Not known before the first part has come. */
  total = $state<number>();
  private parts = $state<Readonly<Record<number, readonly Item[]>>>({});
  /** The parts that were looked at last, the newest at the end. */
  private looked: number[] = [];
  private visible: readonly number[] = [0];
  /** What is asked for now; answers to what was asked before are not taken. */
  private question = 0;

  constructor(private readonly load: (wish: { first: number; limit: number }) => Promise<Part<Item>>) {}

  /** The row at a place; nothing while it is on its way. */
  at(place: number): Item | undefined {
    return this.parts[Math.floor(place / CHUNK)]?.[place % CHUNK];
  }

  /** Looks at rows from one place up to another; what is not there is asked for. */
  async look(from: number, until: number): Promise<void> {
    const first = Math.floor(Math.max(0, from) / CHUNK);
    const last = Math.floor(Math.max(0, until - 1) / CHUNK);
    this.visible = Array.from({ length: last - first + 1 }, (_, at) => first + at);
    const wanted = this.visible;
    // What was asked for anew meanwhile is not taken: it is asked for once more.
    for (let time = 0; time < 3; time++) {
      const missing = untrack(() => wanted.filter((part) => this.parts[part] === undefined));
      if (missing.length === 0) return;
      await Promise.all(missing.map((part) => this.ask(part)));
    }
  }

  /** Asks again for what is looked at; the rest is asked for when somebody looks. */
  async reload(): Promise<void> {
    this.question++;
    const visible = this.visible;
    await Promise.all(visible.map((part) => this.ask(part)));
    this.parts = Object.fromEntries(
      Object.entries(untrack(() => this.parts)).filter(([part]) => visible.includes(Number(part))),
    );
    this.looked = [...visible];
  }

  /** Something else is asked for: nothing of what was shown counts any more. */
  async begin(): Promise<void> {
    this.question++;
    this.visible = [0];
    await this.ask(0, true);
  }

  private async ask(part: number, isNew = false): Promise<void> {
    const mine = this.question;
    const found = await this.load({ first: part * CHUNK, limit: CHUNK });
    if (mine !== this.question) return;
    const before = isNew ? {} : untrack(() => this.parts);
    this.looked = [...(isNew ? [] : this.looked.filter((one) => one !== part)), part];
    const gone = this.looked.slice(0, Math.max(0, this.looked.length - KEPT));
    this.looked = this.looked.slice(-KEPT);
    this.parts = Object.fromEntries(
      Object.entries({ ...before, [part]: found.items }).filter(([one]) => !gone.includes(Number(one))),
    );
    this.total = found.total;
  }
}
