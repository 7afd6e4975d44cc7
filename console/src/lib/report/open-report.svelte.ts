/** A report that is open in the console: its draft, the version it began from, and one that somebody else saved meanwhile. */
import { api, matching, type Problem, type Report } from "../client";
import { go } from "../router.svelte";
import { Draft } from "./draft.svelte";
import { keepDraft, keptDraft } from "./kept-drafts";
import { moveDraft } from "./move-draft";

export class OpenReport {
  readonly draft = new Draft();
  /** As it was saved last; nothing of one that is new. */
  report = $state<Report>();
  /** A version that somebody saved while this one was changed here. */
  newer = $state<Report>();
  problem = $state<Problem>();
  isSaving = $state(false);
  private etag: string | undefined;

  constructor(readonly name: string) {}

  get version(): number | undefined {
    return this.report?.number;
  }

  /** The report as it is saved, while nothing of it is changed here. */
  get saved(): Report | undefined {
    return this.draft.isChanged ? undefined : this.report;
  }

  /** Takes the report as it is saved; what was changed here stays, and a version saved meanwhile is told. */
  async read(): Promise<void> {
    const { draft, name } = this;
    const kept = keptDraft(name);
    try {
      const found = await api.read("/reports/{name}", { path: { name } });
      if (found.data.name !== name) {
        // It was renamed: the address that was called leads to where it is now.
        moveDraft(name, found.data.name);
        go("reports", found.data.name);
        return;
      }
      if (found.data.number === this.report?.number) return;
      const isBegun = draft.text !== "";
      if (isBegun && draft.isChanged && draft.text !== found.data.source) {
        this.newer = found.data;
        return;
      }
      this.take(found.data, found.etag);
      if (isBegun || kept === undefined || kept.text === found.data.source) return;
      draft.write(kept.text);
      if (kept.version !== found.data.number) this.newer = found.data;
    } catch (error) {
      if (draft.text !== "") return;
      // Only what is known not to be there is new: anything else would be written over unseen.
      if (kept !== undefined && (error as Problem).status === 404) draft.begin(kept.text, false);
      else this.problem = error as Problem;
    }
  }

  private take(found: Report, tag: string | undefined): void {
    [this.report, this.etag, this.newer] = [found, tag, undefined];
    this.draft.begin(found.source, true);
  }

  /** Throws away what was changed here for the version that was saved meanwhile. */
  takeTheirs(): void {
    if (this.newer) this.take(this.newer, `"${this.newer.number}"`);
  }

  /** Keeps what was changed here, on top of the version that was saved meanwhile. */
  keepMine(): void {
    if (!this.newer) return;
    [this.report, this.etag] = [this.newer, `"${this.newer.number}"`];
    this.draft.saved = this.newer.source;
    this.newer = undefined;
  }

  /** What is not saved is kept in the browser. */
  keep(): void {
    const { draft, name, report } = this;
    if (draft.text !== "")
      keepDraft(name, draft.isChanged ? { text: draft.text, version: report?.number ?? 0 } : undefined);
  }

  async save(note: string): Promise<void> {
    const { draft, name } = this;
    this.isSaving = true;
    this.problem = undefined;
    const text = draft.text;
    const query = note.trim() === "" ? {} : { note: note.trim() };
    try {
      const kept = await api.put("/reports/{name}", { path: { name }, query, body: text, ...matching(this.etag) });
      [this.report, this.etag] = [kept, `"${kept.number}"`];
      draft.saved = text;
    } catch (error) {
      this.problem = error as Problem;
    } finally {
      this.isSaving = false;
    }
  }

  /** A saved report goes back to its version, which can be taken back; one that never was saved is gone. */
  discard(): void {
    if (this.report) this.draft.write(this.report.source);
    else {
      keepDraft(this.name, undefined);
      go("reports");
    }
  }
}
