/** The moment from which a message may have gone out: ledger, attempt and state are written right before its first byte, or it does not go. */
import { foldAddress } from "@corbix/core/recipients";
import type { Context } from "../process/context.js";
import { type BegunMessage, beginAsked } from "../records/index.js";

/** What is about to begin. */
export interface Beginning {
  readonly id: string;
  readonly runId: string;
  readonly shared: string;
  readonly addresses: readonly string[];
  readonly people: readonly string[];
  /** A person's word that it goes whoever has had it. */
  readonly isAgain: boolean;
  /** The date it bears. */
  readonly datedAt: Date;
}

/**
 * Begins messages: in one statement, so together or not at all for each. It asks the database for everything that has to hold: the
 * message is queued and was released, its run delivers, this process is alive to others and holds the identity, and nobody of those
 * it goes to has had it for its occasion meanwhile. Gives those that have begun, with the number of the attempt. The message's own row
 * decides against a stop at the same moment: whoever has it first, the other sees.
 */
export async function beginMessages(
  context: Context,
  identity: string,
  asked: readonly Beginning[],
): Promise<Map<string, BegunMessage>> {
  const begun = await beginAsked(
    context.database,
    asked.map(({ id, addresses, people, isAgain, datedAt }) => ({
      id,
      addresses: addresses.map(foldAddress),
      people: people.map(foldAddress),
      isAgain,
      datedAt,
    })),
    { identity, process: context.process, now: context.now() },
  );
  return new Map(begun.map((one) => [one.id, one]));
}

async function noteBegun(
  context: Context,
  begun: ReadonlyMap<string, BegunMessage>,
  batch: readonly { readonly one: Beginning }[],
): Promise<void> {
  const at = context.now().toISOString();
  await context.journal.begin(
    batch.flatMap(({ one }) => {
      const own = begun.get(one.id);
      if (!own) return [];
      const { attempts, rows, ...facts } = own;
      const to = one.addresses.map(foldAddress);
      return [
        { kind: "begin", at, process: context.process, ...facts, attempt: attempts, to, ...(rows ? { rows } : {}) },
      ];
    }),
  );
}

interface Asking {
  readonly one: Beginning;
  readonly resolve: (attempt: number | undefined) => void;
  readonly reject: (error: unknown) => void;
}

/** Gathers what is about to begin while the statement before is on its way: one round trip for several messages. */
export class Beginner {
  private asking: Asking[] = [];
  private isBusy = false;

  constructor(
    private readonly context: Context,
    private readonly identity: string,
  ) {}

  /** The number of the attempt, or `undefined` where the message may not go. Throws where the database cannot be asked. */
  begin(one: Beginning): Promise<number | undefined> {
    return new Promise((resolve, reject) => {
      this.asking.push({ one, resolve, reject });
      if (!this.isBusy) void this.askAll();
    });
  }

  private async askAll(): Promise<void> {
    this.isBusy = true;
    // What was asked for in the same moment goes together.
    await Promise.resolve();
    while (this.asking.length > 0) {
      const batch = this.takeBatch();
      try {
        const begun = await beginMessages(
          this.context,
          this.identity,
          batch.map(({ one }) => one),
        );
        // Whoever loses the database after this still knows what left.
        await noteBegun(this.context, begun, batch);
        for (const { one, resolve } of batch) resolve(begun.get(one.id)?.attempts);
      } catch (error) {
        for (const { reject } of batch) reject(error);
      }
    }
    this.isBusy = false;
  }

  /** Two runs' messages for one group go one after the other: within one statement neither would see the other. */
  private takeBatch(): Asking[] {
    const runs = new Map<string, string>();
    const batch = this.asking.filter(({ one }) => {
      const known = runs.get(one.shared);
      if (known !== undefined && known !== one.runId) return false;
      runs.set(one.shared, one.runId);
      return true;
    });
    this.asking = this.asking.filter((asking) => !batch.includes(asking));
    return batch;
  }
}
