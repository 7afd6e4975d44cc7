export { describeStep, type Prepared, preparedColumns, prepareTable, type StepAccount } from "./prepare.js";
export {
  expressionSchema,
  nameSchema,
  otherDatasets,
  type PrepareSpec,
  type Step,
  shortFormSchema,
  stepSchema,
  stepsOf,
} from "./schema.js";
export {
  findColumn,
  findColumns,
  findOther,
  type LeftOutRows,
  LISTED_ROWS,
  leftOutOf,
  type PrepareContext,
  rowEnv,
  rowScope,
} from "./step.js";
