export { type Appended, appendTable } from "./append.js";
export { compareEditions, type EditionDifference } from "./compare.js";
export { type Drift, findDrift } from "./drift.js";
