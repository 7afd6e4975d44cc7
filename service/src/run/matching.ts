/** Who would receive for each group, before anything is run. */

import { getReport, templateBytes } from "../library/definitions.js";
import { trialInput } from "../library/template-preview.js";
import type { Context } from "../process/context.js";
import type { GroupMatching } from "../threads/make-tasks.js";

/** Each group with its people and the rule that names them, or the reason why there is nobody. */
export async function matchingOf(context: Context, name: string, period: string | undefined): Promise<GroupMatching[]> {
  const { definition: report } = await getReport(context, name);
  const input = await trialInput(context, report, { period }, await templateBytes(context));
  return context.threads.isolated("matchPeople", { input, group: undefined });
}
