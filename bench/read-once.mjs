/** Reads one file in a process of its own and prints the seconds it took and the most memory the process had, in MiB. */
import { readFileSync } from "node:fs";
import { loadTable } from "@corbix/core/table";

const [file] = process.argv.slice(2);
const bytes = readFileSync(file);
const started = performance.now();
const { table } = loadTable(bytes, file);
const seconds = (performance.now() - started) / 1000;
process.stdout.write(JSON.stringify({ seconds, rows: table.rowCount, MiB: process.resourceUsage().maxRSS / 1024 }));
