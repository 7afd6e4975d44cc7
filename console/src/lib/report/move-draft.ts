import { Definition } from "./definition.js";
import { keepDraft, keptDraft } from "./kept-drafts.js";

/** What was begun in this browser goes on under a report's new name: renaming made the next version, and changed nothing else. */
export function moveDraft(from: string, to: string): void {
  const kept = keptDraft(from);
  if (!kept || from === to) return;
  keepDraft(from, undefined);
  if (keptDraft(to) === undefined)
    keepDraft(to, { text: new Definition(kept.text).with(["report"], to).text, version: kept.version + 1 });
}
