/** A worker process: started by the service, or by hand on another machine against the same database and file store. */
import { closeContext, openPatiently } from "./open-context.js";
import { readSettings } from "./settings.js";
import { closeTraces, openTraces } from "./trace.js";
import { untilStopped } from "./until-stopped.js";
import { VERSION } from "./version.js";
import { underLease, workUntil } from "./worker-loop.js";

const settings = readSettings(process.env, process.env.CORBIX_ROOT ?? process.cwd());
const stopped = untilStopped();
await openTraces("worker", VERSION);
const context = await openPatiently(settings, settings.databaseUrl ?? "", {
  supervise: false,
  stopped,
  ...(process.env.CORBIX_WORKER ? { process: process.env.CORBIX_WORKER } : {}),
});
await underLease(context, settings.databaseUrl ?? "", "worker", stopped, workUntil);
await closeContext(context);
await closeTraces();
process.exit(0);
