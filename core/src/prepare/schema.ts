import { z } from "zod";

/** A name in definitions, addresses and commands: small letters, digits, hyphens. */
export const nameSchema = z
  .string()
  .regex(/^[a-z0-9][a-z0-9-]{0,62}$/, "expected small letters, digits and hyphens, such as site-statement");

export const expressionSchema = z.string().min(1).max(10_000);
const text = z.string().min(1).max(2_000);
const columns = z.array(text).min(1);

const bringSchema = z.strictObject({
  from: nameSchema.describe("Another dataset; its newest edition is used."),
  match: z
    .record(z.string(), z.string())
    .refine((match) => Object.keys(match).length > 0, "expected at least one column here and its partner there")
    .describe("Column here: column there."),
  columns,
  partner: z
    .enum(["may-lack", "needed"])
    .default("may-lack")
    .describe("`needed` leaves out rows without a partner; otherwise their brought columns stay blank."),
});

const foldSchema = z.strictObject({
  into: text.describe("Name of the new column."),
  columns,
  where: expressionSchema.describe('Condition over `value` and `name` of each column, such as value = "yes".'),
  show: expressionSchema.optional().describe("What is shown of each that matches; its name if not given."),
  separator: z.string().max(20).default(", "),
  drop: z.boolean().default(false).describe("Whether the folded columns are left out afterwards."),
});

const stackSchema = z.strictObject({
  columns,
  name: text.describe("New column for the names of the stacked columns."),
  value: text.describe("New column for their values."),
  blanks: z.enum(["left-out", "kept"]).default("left-out"),
});

const replaceSchema = z.strictObject({
  column: text,
  list: z.record(z.string(), z.string()).optional().describe("Value as it stands: value it becomes."),
  from: nameSchema.optional().describe("A dataset that holds the list."),
  match: text.optional().describe("Its column of values as they stand."),
  take: text.optional().describe("Its column of values they become."),
});

const pickSchema = z.strictObject({
  per: columns.describe("One row is kept for each different value of these columns."),
  by: columns
    .optional()
    .describe("Which is first: sorted by these; a leading `-` sorts downwards. As they stand if not given."),
});

const single = <Key extends string, Shape extends z.ZodType>(key: Key, shape: Shape) =>
  z.strictObject({ [key]: shape } as { [K in Key]: Shape });

/** One step of a preparation; exactly one of the keys. */
export const stepSchema = z.union([
  single("keep", expressionSchema),
  single("add", z.record(z.string(), expressionSchema)),
  single("bring", bringSchema),
  single("fold", foldSchema),
  single("stack", stackSchema),
  single("replace", replaceSchema),
  single("sort", columns),
  single("first", pickSchema),
  single("last", pickSchema),
  single(
    "distinct",
    z.array(text).describe("Rows alike in these columns count as doubles; in all columns, if none are named."),
  ),
]);

export const shortFormSchema = {
  keep: expressionSchema.optional(),
  bring: z.array(bringSchema).default([]),
  add: z.record(z.string(), expressionSchema).default({}),
  prepare: z
    .array(stepSchema)
    .max(100)
    .default([])
    .describe("Steps in their order; they come after the conditions, the brought and the new columns."),
  sort: z.array(text).default([]),
};

export type Step = z.output<typeof stepSchema>;
export type BringStep = z.output<typeof bringSchema>;
export type FoldStep = z.output<typeof foldSchema>;
export type StackStep = z.output<typeof stackSchema>;
export type ReplaceStep = z.output<typeof replaceSchema>;
export type PickStep = z.output<typeof pickSchema>;

/** What a report does to the table before it is split. */
export interface PrepareSpec {
  readonly keep?: string | undefined;
  readonly bring?: readonly z.input<typeof bringSchema>[];
  /** New column → expression. Later ones may use earlier ones. */
  readonly add?: Readonly<Record<string, string>>;
  /** Columns to sort by; a leading `-` sorts downwards. */
  readonly sort?: readonly string[];
  readonly prepare?: readonly z.input<typeof stepSchema>[];
}

/** All steps in the order they are done: keep, bring, add, those of `prepare`, sort. */
export function stepsOf(spec: PrepareSpec): Step[] {
  return [
    ...(spec.keep === undefined ? [] : [{ keep: spec.keep }]),
    ...(spec.bring ?? []).map((bring) => ({ bring: bringSchema.parse(bring) })),
    ...Object.entries(spec.add ?? {}).map(([name, source]) => ({ add: { [name]: source } })),
    ...(spec.prepare ?? []).map((step) => stepSchema.parse(step)),
    ...(spec.sort && spec.sort.length > 0 ? [{ sort: [...spec.sort] }] : []),
  ];
}

/** Names of the other datasets a preparation needs. */
export function otherDatasets(spec: PrepareSpec): string[] {
  const names = stepsOf(spec).flatMap((step) => {
    if ("bring" in step) return [step.bring.from];
    return "replace" in step && step.replace.from !== undefined ? [step.replace.from] : [];
  });
  return [...new Set(names)];
}
