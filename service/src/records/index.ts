export type { Transaction } from "sequelize";
export * from "./actions.js";
export * from "./arrivals.js";
export * from "./belonging.js";
export { blobUses, knowsBlobs, neededBlobs, noteBlobs, sweepBlobs } from "./blobs.js";
export * from "./calendars.js";
export * from "./calls.js";
export { type Database, isDatabaseAway, openDatabase } from "./database/database.js";
export { listed } from "./database/guards.js";
export { pendingMigrations } from "./database/migrate.js";
export { packLines, unpackLines } from "./database/pack.js";
export { containing, cursorOf, keysOfCursor, type ListPage, type PageWish, pageOf } from "./database/page.js";
export * from "./database/row-types.js";
export {
  type Asking,
  countTables,
  dropEverything,
  livingProcesses,
  migrationsOf,
  openAsking,
  openSnapshot,
  type Snapshot,
  serverFacts,
  serverSettings,
} from "./database/snapshot.js";
export * from "./datasets.js";
export * from "./deliveries.js";
export {
  addEdition,
  addRecordEditions,
  type ChangedCell,
  checkFull,
  emptyEdition,
  getDataset,
  getEdition,
  getEditionById,
  maybeNewestNumbers,
  type NewEdition,
  type NewRecordEdition,
  needsOfEdition,
  newestNumbers,
  overdueEditions,
  packedEdition,
  readChanges,
  readEdition,
  readPeriod,
  readRecordEditions,
} from "./editions.js";
export * from "./factors.js";
export * from "./halts.js";
export * from "./identities.js";
export * from "./keeping.js";
export * from "./letters.js";
export * from "./library.js";
export { addParcelLines, addRunLines, linesOfParcel, OWN_CAUGHT, type RunLines, runLines } from "./lines.js";
export * from "./messages.js";
export * from "./notices.js";
export * from "./operations.js";
export { countEverything, isAnswering, troublesOf } from "./overview.js";
export * from "./parcels.js";
export * from "./person-places.js";
export * from "./persons.js";
export * from "./questions.js";
export * from "./recipient-lists.js";
export * from "./record-keys.js";
export * from "./run-audit.js";
export * from "./runs.js";
export * from "./schedules.js";
export * from "./sealed.js";
export { type FoundNames, searchEverything } from "./search.js";
export * from "./senders.js";
export {
  addSteps,
  endStep,
  endSteps,
  giveBackStep,
  type HandedStep,
  hasOpenSteps,
  holdStep,
  holdSteps,
  idleSteps,
  StepLost,
  takeStep,
  takeSteps,
} from "./steps.js";
export * from "./users.js";
export * from "./workers.js";
