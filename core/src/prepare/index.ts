export { type BringStep, findColumn, LISTED_ROWS, type LeftOutRows, type Prepared, type PrepareContext, preparedColumns, type PrepareSpec, prepareTable } from "./prepare.js";
