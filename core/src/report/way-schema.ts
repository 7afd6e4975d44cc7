/** Where files go by themselves besides mail, as written. */
import { z } from "zod";
import { expressionSchema as expression } from "../prepare/index.js";
import { text } from "./fields.js";

/** What goes to one way out, whose name it stands under; the way out itself is kept by whoever runs the service. */
export const wayOutSchema = z.strictObject({
  files: z
    .array(text)
    .min(1)
    .optional()
    .describe(
      "Files of the report by name, `name.pdf` for the PDF of a file that is also kept as it is; all if left out.",
    ),
  folder: text
    .optional()
    .describe("Folder there; marks are filled, a slash parts folders. The folder each file has anyway if left out."),
  name: text
    .optional()
    .describe("Name there; marks are filled, the ending is added. The name it has anyway if left out."),
  over: z
    .boolean()
    .default(false)
    .describe(
      "Whether a file that is there already is written over; otherwise another one of its name stays, and this says so.",
    ),
  when: expression.optional().describe("Condition over the group; its files go only where it is true."),
});
