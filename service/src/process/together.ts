/** Something asked for, and who waits for it. */
interface Waiting<Asked, Done> {
  readonly asked: Asked;
  readonly resolve: (done: Done) => void;
  readonly reject: (error: unknown) => void;
}

/** What came of something asked for: what is given back for it, or what was wrong with it alone. */
export type Outcome<Done> = { readonly done: Done } | { readonly error: unknown };

/**
 * Gathers what is asked for while what was asked for before is on its way, and does it together: few round trips for many, and no
 * waiting for one. Where the work throws, nothing of it was done, and each is done alone.
 */
export class Together<Asked, Done> {
  private waiting: Waiting<Asked, Done>[] = [];
  private isBusy = false;

  /** `work` takes at most so many; `idle` is called whenever nothing is left. */
  constructor(
    private readonly work: (asked: readonly Asked[]) => Promise<readonly Outcome<Done>[]>,
    private readonly most: number,
    private readonly idle: () => void = () => {},
  ) {}

  do(asked: Asked): Promise<Done> {
    return new Promise((resolve, reject) => {
      this.waiting.push({ asked, resolve, reject });
      if (!this.isBusy) void this.workOn();
    });
  }

  private async workOn(): Promise<void> {
    this.isBusy = true;
    // What was asked for in the same moment goes together.
    await Promise.resolve();
    while (this.waiting.length > 0) await this.settle(this.waiting.splice(0, this.most));
    this.isBusy = false;
    this.idle();
  }

  private async settle(some: readonly Waiting<Asked, Done>[]): Promise<void> {
    try {
      const outcomes = await this.work(some.map(({ asked }) => asked));
      for (const [at, { resolve, reject }] of some.entries()) {
        const outcome = outcomes[at];
        if (outcome === undefined) reject(new Error("nothing came of what was asked for"));
        else if ("error" in outcome) reject(outcome.error);
        else resolve(outcome.done);
      }
    } catch (error) {
      const [only, ...others] = some;
      if (others.length === 0) only?.reject(error);
      else for (const one of some) await this.settle([one]);
    }
  }
}
