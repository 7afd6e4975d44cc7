/** Definitions of older versions of Corbix have fields that came later, too: each version's text is read anew once. */
import { sha256, wordsOf } from "@corbix/core/common";
import { parseReport, reportSchema } from "@corbix/core/report";
import { z } from "zod";
import type { Context } from "../process/context.js";
import { definitionsOfOtherForm, setDefinitionForm } from "../records/index.js";

const AT_ONCE = 100;

/** Tells forms of definitions apart: it changes with the schema. */
function currentForm(): string {
  return sha256(JSON.stringify(z.toJSONSchema(reportSchema, { io: "input", unrepresentable: "any" }))).slice(0, 16);
}

/** What cannot be read any more, such as what only older versions took, stays as it was read then, and is told in the log. */
export async function readDefinitionsAnew({ database, log }: Pick<Context, "database" | "log">): Promise<void> {
  const form = currentForm();
  for (;;) {
    const some = await definitionsOfOtherForm(database, form, AT_ONCE);
    for (const { id, name, source } of some) {
      let definition: ReturnType<typeof parseReport> | undefined;
      try {
        definition = parseReport(source, name);
      } catch (error) {
        log.warn({ report: name, version: id, error: wordsOf(error) }, "a definition cannot be read any more");
      }
      await setDefinitionForm(database, id, form, definition);
    }
    if (some.length < AT_ONCE) return;
  }
}
