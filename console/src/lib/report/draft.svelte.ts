/** A report while it is made: its text, what the service makes of it, and which group is looked at. */
import { api, type DraftLook, type Problem } from "../client";
import { Definition, type Path } from "./definition";

const PAUSE_MS = 250;
/** Steps that can be taken back. */
const KEPT = 200;

export class Draft {
  text = $state("");
  /** As it was saved last; nothing of a report that is new. */
  saved = $state<string>();
  look = $state<DraftLook>();
  problem = $state<Problem>();
  isLooking = $state(false);
  group = $state<string>();
  search = $state("");
  period = $state("");
  /** Of its dataset; the newest without one. */
  edition = $state<number>();
  /** Conditions that are shown, each counted by itself. */
  private conditions: readonly string[] = [];
  readonly definition = $derived(new Definition(this.text));
  /** What stands in the way, of the whole or of a part. */
  readonly problems = $derived([
    ...(this.definition.problem
      ? [{ what: `Line ${this.definition.problem.line}: ${this.definition.problem.what}`, where: "text" }]
      : []),
    ...(this.problem
      ? [{ what: this.problem.message, where: this.problem.where ?? "", advice: this.problem.advice }]
      : []),
    ...(this.look?.problems ?? []).map(({ title, where, advice }) => ({ what: title, where: where ?? "", advice })),
  ]);
  readonly isChanged = $derived(this.text !== this.saved);
  private before = $state<string[]>([]);
  private asked = 0;
  private waiting: ReturnType<typeof setTimeout> | undefined;

  /** Which rows are looked at: those of an edition and of a period. */
  get rows(): { readonly period?: string; readonly edition?: number } {
    return {
      ...(this.period === "" ? {} : { period: this.period }),
      ...(this.edition === undefined ? {} : { edition: this.edition }),
    };
  }

  /** What is asked about every text: which rows, and part of the groups' names. */
  get wish(): { readonly period?: string; readonly edition?: number; readonly search?: string } {
    return {
      ...this.rows,
      ...(this.search === "" ? {} : { search: this.search }),
    };
  }

  get canTakeBack(): boolean {
    return this.before.length > 0;
  }

  get(path: Path): unknown {
    return this.definition.problem ? undefined : this.definition.get(path);
  }

  /** Sets a field; `undefined` takes it out. */
  set(path: Path, value: unknown): void {
    if (this.definition.problem) return;
    this.write(this.definition.with(path, value).text);
  }

  move(path: Path, to: number): void {
    if (!this.definition.problem) this.write(this.definition.moved(path, to).text);
  }

  rename(path: Path, name: string): void {
    if (!this.definition.problem) this.write(this.definition.renamed(path, name).text);
  }

  write(text: string): void {
    if (text === this.text) return;
    this.before = [...this.before.slice(1 - KEPT), this.text];
    this.text = text;
    this.refresh();
  }

  takeBack(): void {
    const text = this.before.at(-1);
    if (text === undefined) return;
    this.before = this.before.slice(0, -1);
    this.text = text;
    this.refresh();
  }

  /** Begins with a text; `saved` where it is kept already. */
  begin(text: string, isSaved: boolean): void {
    this.text = text;
    this.saved = isSaved ? text : undefined;
    this.before = [];
    this.refresh();
  }

  /** Looks at another edition; of one that is not the newest, a run has to be told too. */
  lookAt(edition: number | undefined): void {
    this.edition = edition;
    this.refresh();
  }

  choose(group: string | undefined): void {
    this.group = group;
    this.refresh();
  }

  /** Has conditions counted from now on, while they are shown. */
  count(conditions: readonly string[]): void {
    const isNew = conditions.some((one) => !this.conditions.includes(one));
    this.conditions = conditions;
    if (isNew) this.refresh();
  }

  /** Asks what the text makes of the data, once it has been still for a moment; only the newest answer counts. */
  refresh(): void {
    clearTimeout(this.waiting);
    this.waiting = setTimeout(() => void this.ask(), PAUSE_MS);
  }

  private async ask(): Promise<void> {
    const mine = ++this.asked;
    this.isLooking = true;
    try {
      const look = await api.post("/drafts/look", {
        body: {
          definition: this.text,
          ...(this.group === undefined ? {} : { group: this.group }),
          ...this.wish,
          ...(this.conditions.length === 0 ? {} : { conditions: [...this.conditions] }),
        },
      });
      if (mine !== this.asked) return;
      this.look = look;
      this.problem = undefined;
    } catch (error) {
      if (mine === this.asked) this.problem = error as Problem;
    } finally {
      if (mine === this.asked) this.isLooking = false;
    }
  }
}
