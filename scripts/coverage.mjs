/**
 * `npm run coverage:service`: what the tests of service and command reach of the service, in all its processes. Fails where a room
 * falls below its floor; the floors only rise.
 */
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { build } from "./lib/build.mjs";
import { run } from "./lib/run.mjs";
import { Advice, say } from "./lib/say.mjs";

const root = fileURLToPath(new URL("..", import.meta.url)).replace(/\/$/, "");

/** Per cent of branches by room. */
const FLOORS = { outbox: 95, records: 95, run: 95, access: 95, queue: 90, store: 88, threads: 88 };
/** Per cent of lines of the service as a whole. */
const LINES = 95;

const percent = ({ covered, total }) => (total === 0 ? 100 : (100 * covered) / total);

const raw = mkdtempSync(join(tmpdir(), "corbix-coverage-"));
try {
  await build(root);
  say("Tests of service and command, measured …");
  await run("npx", ["vitest", "run", "--project", "corbix", "service", "cli"], {
    cwd: root,
    loud: true,
    what: "the tests",
    env: { ...process.env, NODE_V8_COVERAGE: raw },
  });
  const reports = join(root, "coverage", "service");
  await run(
    "npx",
    [
      ...["c8", "report", "--temp-directory", raw, "--reports-dir", reports, "--reporter", "json-summary"],
      ...["--include", "service/src/**", "--include", "service/dist/**", "--exclude-after-remap"],
    ],
    { cwd: root, what: "the report" },
  );
  const files = JSON.parse(readFileSync(join(reports, "coverage-summary.json"), "utf8"));
  const rooms = new Map();
  for (const [file, { branches, lines }] of Object.entries(files)) {
    const room = /service\/src\/([^/]+)\//.exec(file)?.[1];
    if (room === undefined) continue;
    const sum = rooms.get(room) ?? { branches: { covered: 0, total: 0 }, lines: { covered: 0, total: 0 } };
    rooms.set(room, sum);
    for (const [whole, own] of [
      [sum.branches, branches],
      [sum.lines, lines],
    ]) {
      whole.covered += own.covered;
      whole.total += own.total;
    }
  }
  let isBelow = false;
  for (const [room, { branches, lines }] of [...rooms].sort()) {
    const floor = FLOORS[room];
    const reached = percent(branches);
    const low = floor !== undefined && reached < floor;
    isBelow ||= low;
    say(
      `${room.padEnd(10)} branches ${reached.toFixed(1).padStart(5)} %, lines ${percent(lines).toFixed(1).padStart(5)} %${low ? `: below ${floor} %` : ""}`,
    );
  }
  const whole = percent(files.total.lines);
  say(`all        lines ${whole.toFixed(1)} %`);
  if (isBelow || whole < LINES) throw new Advice("The tests reach less of the service than they did.");
} catch (error) {
  if (!(error instanceof Advice)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 1;
} finally {
  rmSync(raw, { recursive: true, force: true });
}
