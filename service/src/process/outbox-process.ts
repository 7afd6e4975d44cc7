/** The outbox's process: started by the service, or by hand on another machine against the same database and file store. */

import { sendUntil } from "../outbox/outbox.js";
import { closeContext, openPatiently } from "./open-context.js";
import { readSettings } from "./settings.js";
import { closeTraces, openTraces } from "./trace.js";
import { untilStopped } from "./until-stopped.js";
import { VERSION } from "./version.js";
import { underLease } from "./worker-loop.js";

const settings = readSettings(process.env, process.env.CORBIX_ROOT ?? process.cwd());
const stopped = untilStopped();
await openTraces("outbox", VERSION);
const context = await openPatiently(settings, settings.databaseUrl ?? "", {
  supervise: false,
  stopped,
  ...(process.env.CORBIX_WORKER ? { process: process.env.CORBIX_WORKER } : {}),
});
await underLease(context, settings.databaseUrl ?? "", "outbox", stopped, (own, until) => sendUntil(own, until));
await closeContext(context);
await closeTraces();
process.exit(0);
