export { type Database, openDatabase } from "./database.js";
export {
  addEdition,
  type ChangedCell,
  getDataset,
  getEdition,
  getEditionById,
  type NewEdition,
  packedEdition,
  readChanges,
  readEdition,
  readPeriod,
} from "./editions.js";
export * from "./models.js";
export { packLines, unpackLines } from "./pack.js";
