export type { Transaction } from "sequelize";
export { blobUses, knowsBlobs, neededBlobs, noteBlob, sweepBlobs } from "./blobs.js";
export { type Database, isDatabaseAway, openDatabase } from "./database.js";
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
export { listed } from "./guards.js";
export { addParcelLines, addRunLines, linesOfParcel, type RunLines, runLines } from "./lines.js";
export * from "./models.js";
export { packLines, unpackLines } from "./pack.js";
export { newestRecipients } from "./recipient-lists.js";
export {
  addSteps,
  endStep,
  giveBackStep,
  type HandedStep,
  holdStep,
  idleSteps,
  StepLost,
  takeStep,
} from "./steps.js";
