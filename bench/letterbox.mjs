/** The letterbox in a process of its own, for the bench. */
import { openLetterbox } from "../service/dist/letterbox/letterbox.js";
import { openDatabase } from "../service/dist/records/index.js";

const [url, port] = process.argv.slice(2);
const silent = () => {};
const database = await openDatabase(url, { migrate: true });
const log = { debug: silent, info: silent, warn: silent, error: silent };
await openLetterbox({ database, log, takeReport: async () => {} }, Number(port));
process.stdout.write("open\n");
process.on("SIGTERM", () => process.exit(0));
