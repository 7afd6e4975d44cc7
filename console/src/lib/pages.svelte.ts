import { untrack } from "svelte";

/** A list that comes page by page: what is shown so far, and whether there is more. */
interface ListPage<Item> {
  items: Item[];
  next: string | null;
  total?: number;
}

const FIRST = 100;
const MOST = 1_000;

export class Pages<Item> {
  items = $state<Item[]>();
  total = $state<number>();
  next = $state<string | null>(null);
  private asked = 0;

  constructor(private readonly load: (wish: { limit: number; cursor?: string }) => Promise<ListPage<Item>>) {}

  /** Looks again at as much as is shown; only the newest question's answer is taken. */
  async reload(from = this.shown()): Promise<void> {
    const mine = ++this.asked;
    const page = await this.load({ limit: from });
    if (mine === this.asked) this.take(page.items, page);
  }

  /** An effect that asks for the list does not hang on what it gets: it would ask without end. */
  private shown(): number {
    return untrack(() => Math.min(MOST, Math.max(FIRST, this.items?.length ?? 0)));
  }

  /** Begins anew: something else is asked for. */
  begin(): Promise<void> {
    return this.reload(FIRST);
  }

  async more(): Promise<void> {
    if (this.next === null) return;
    const mine = ++this.asked;
    const page = await this.load({ limit: FIRST, cursor: this.next });
    if (mine === this.asked) this.take([...(this.items ?? []), ...page.items], page);
  }

  private take(items: Item[], { next, total }: ListPage<Item>): void {
    this.items = items;
    this.next = next;
    this.total = total;
  }
}
