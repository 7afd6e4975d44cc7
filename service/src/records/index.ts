export { type Database, openDatabase } from "./database.js";
export { addEdition, getDataset, getEdition, getEditionById, type NewEdition, readEdition } from "./editions.js";
export * from "./models.js";
export { packTable, unpackTable } from "./pack.js";
