export {
  type BringStep,
  findColumn,
  type LeftOutRows,
  LISTED_ROWS,
  type PrepareContext,
  type Prepared,
  type PrepareSpec,
  preparedColumns,
  prepareTable,
} from "./prepare.js";
