import { type ChildProcess, fork } from "node:child_process";
import { randomUUID } from "node:crypto";
import { once } from "node:events";
import { createServer, type Server } from "node:http";
import { createServer as createSecureServer, Server as SecureServer } from "node:https";
import type { AddressInfo } from "node:net";
import { fileURLToPath } from "node:url";
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { firstSignIn, type OpenedSignIn } from "../access/first-sign-in.js";
import { loadDemo } from "../demo/load-demo.js";
import { ReadyEnquiries } from "../enquiry/ready.js";
import { Ready } from "../health/ready.js";
import { makeApp } from "../http/app.js";
import { openEventStreams } from "../http/event-stream.js";
import { tellCallbacks } from "../intake/callbacks.js";
import { openIntakeMail } from "../intake/intake-mail.js";
import { FolderWatch, LOOK_MS } from "../intake/watch-folder.js";
import { mayLeave, reconcile } from "../journal/reconcile.js";
import { type Letterbox, openLetterbox } from "../letterbox/letterbox.js";
import { readDefinitionsAnew } from "../library/definition-form.js";
import { takeReport } from "../outbox/reports.js";
import { makeFiguresDue } from "../run/figures.js";
import { releaseDue } from "../run/release.js";
import { sweepAll } from "../run/retention.js";
import { sweep, sweepStore, workerEnded } from "../run/sweep.js";
import { tick } from "../schedule/tick.js";
import { tellDue } from "../tell/tell-due.js";
import { openCertificates } from "./certificates.js";
import type { Context } from "./context.js";
import { Liveness } from "./lease/liveness.js";
import { closeContext, openContext } from "./open-context.js";
import { environmentName, type Settings, settingsSchema } from "./settings.js";
import { siteOf } from "./site.js";
import { WORKER_FLAGS } from "./worker-flags.js";

export interface Service {
  readonly context: Context;
  readonly url: string;
  readonly signIn: OpenedSignIn;
  readonly demoLoaded: boolean;
  readonly workers: readonly ChildProcess[];
  /** Port on which files are taken by mail, if they are. */
  readonly intakeMailPort: number | undefined;
  readonly close: () => Promise<void>;
}

export interface ServiceOptions {
  readonly settings: Settings;
  readonly databaseUrl: string;
  /** Folder of the console's built files. */
  readonly consoleFolder: string;
  /** Folder of the demo's files. */
  readonly demoFolder: string;
  /** The worker's program; in tests the built one too. */
  readonly workerProgram?: string;
  readonly now?: () => Date;
}

/** Schedules are looked at so often. */
/** Systems that want to know of a run that is over are told so often. */
const CALLBACK_MS = 1_000;
const TICK_MS = 5_000;
/** Processes that are gone, and what they left, are looked for so often. */
const SWEEP_MS = 1_000;
/** What has been kept long enough is looked for so often, and at the start. */
const RETENTION_MS = 600_000;
/** A worker that ends is started again after this pause. */
const RESTART_MS = 500;
/** Workers may finish the job they have; then they are ended. */
const STOP_MS = 8_000;

/** Starts HTTP, letterbox, schedules and workers. Throws `PORT_TAKEN` or `DATABASE_UNREACHABLE`, with nothing left running. */
export async function startService(options: ServiceOptions): Promise<Service> {
  const { settings } = options;
  let context = await openContext(settings, options.databaseUrl, {
    supervise: true,
    ...(options.now ? { now: options.now } : {}),
  });
  const closing: (() => Promise<unknown>)[] = [() => closeContext(context)];
  const close = async (): Promise<void> => {
    while (closing.length > 0)
      await closing
        .pop()?.()
        .catch((error: Error) => context.log.warn({ error: error.message }, "closing"));
  };
  try {
    await readDefinitionsAnew(context);
    await reconcile(context);
    const signIn = await firstSignIn(context.database, settings.data);
    const demoLoaded = settings.demo ? await loadDemo(context, options.demoFolder) : false;
    const letterbox =
      settings.mailUrl && settings.letterboxPort === 0
        ? undefined
        : await openLetterbox({ ...context, takeReport: (raw) => takeReport(context, raw) }, settings.letterboxPort);
    if (letterbox) closing.push(() => letterbox.close());
    // Everything behind this knows the port that the letterbox has got.
    context = withLetterbox(context, letterbox);
    closing.push(await openEventStreams(context));
    if (settings.inbox !== "none") {
      const watch = new FolderWatch(context);
      closing.push(repeat(context, LOOK_MS, () => watch.look()));
    }
    const certificates = openCertificates(settings);
    const intakeMail =
      settings.intakeMailPort > 0
        ? await openIntakeMail(context, settings.intakeMailPort, certificates?.options)
        : undefined;
    if (intakeMail) closing.push(() => intakeMail.close());
    const readiness = new Ready(context);
    const app = makeApp(context, options.consoleFolder, readiness);
    const server = certificates ? createSecureServer(certificates.options, app) : createServer(app);
    const stopWatching = certificates?.watch(
      (next) => {
        if (server instanceof SecureServer) server.setSecureContext(next);
        intakeMail?.renew(next);
        context.log.info("the certificate was read anew");
      },
      (why) => context.log.warn({ why }, "the certificate cannot be read anew"),
    );
    closing.push(async () => stopWatching?.());
    const url = await listen(server, settings);
    closing.push(async () => {
      // Whoever passes calls on learns first that none should come here any more.
      readiness.drain();
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
    });
    closing.push(
      repeat(context, TICK_MS, async () => {
        if (!(await mayLeave(context))) return;
        await tick(context);
        await releaseDue(context);
      }),
    );
    closing.push(repeat(context, TICK_MS, () => makeFiguresDue(context)));
    const ready = new ReadyEnquiries(context);
    closing.push(repeat(context, TICK_MS, () => ready.look()));
    closing.push(repeat(context, CALLBACK_MS, () => tellCallbacks(context)));
    closing.push(repeat(context, CALLBACK_MS, () => tellDue(context)));
    closing.push(
      repeat(context, RETENTION_MS, async () => {
        await sweepAll(context);
        await sweepStore(context);
        // What the journal has is held against the database while both are there: a start has little left to do.
        await reconcile(context);
      }),
    );
    const workers = new Workers(context, options, letterbox);
    closing.push(() => workers.stop());
    const liveness = new Liveness(context);
    closing.push(
      repeat(context, SWEEP_MS, async () => {
        for (const dead of await sweep(context, liveness)) workers.end(dead);
      }),
    );
    return { context, url, signIn, demoLoaded, workers: workers.children, intakeMailPort: intakeMail?.port, close };
  } catch (error) {
    await close();
    throw error;
  }
}

async function listen(server: Server | SecureServer, settings: Settings): Promise<string> {
  server.listen(settings.port, settings.host);
  await once(server, "listening").catch((cause: NodeJS.ErrnoException) => {
    const why = cause.code === "EADDRINUSE" ? say().serviceProcess.anotherProgramUses() : cause.message;
    throw new CorbixError(
      "PORT_TAKEN",
      say().serviceProcess.cannotListen({ host: settings.host, port: settings.port, why }),
      {
        where: "CORBIX_PORT",
        advice: say().serviceProcess.endOtherProgramSetAnother(),
        cause,
      },
    );
  });
  const { port } = server.address() as AddressInfo;
  return siteOf({ ...settings, publicUrl: undefined, port });
}

/** Runs work now and again and again, never twice at a time; gives the function that ends it. */
function repeat(context: Context, everyMs: number, work: () => Promise<void>): () => Promise<void> {
  let running: Promise<void> = Promise.resolve();
  let busy = false;
  const look = (): void => {
    if (busy) return;
    busy = true;
    running = work()
      .catch((error: Error) => context.log.error({ error: error.message }, "housekeeping"))
      .finally(() => {
        busy = false;
      });
  };
  const timer = setInterval(look, everyMs);
  look();
  return async () => {
    clearInterval(timer);
    await running;
  };
}

/** The service writes to the letterbox as the outbox does: where that listens is known once it does. */
function withLetterbox(context: Context, letterbox: Letterbox | undefined): Context {
  return letterbox ? { ...context, settings: { ...context.settings, letterboxPort: letterbox.port } } : context;
}

function program(name: string): string {
  return fileURLToPath(new URL(`./${name}.js`, import.meta.url));
}

/** The worker processes and the outbox: one that dies is replaced, and what it left is taken up. */
class Workers {
  readonly children: ChildProcess[] = [];
  private readonly ids = new Map<string, ChildProcess>();
  private isStopping = false;

  constructor(
    private readonly context: Context,
    private readonly options: ServiceOptions,
    private readonly letterbox: Letterbox | undefined,
  ) {
    const { workers } = options.settings;
    for (let index = 0; index < workers; index++) this.start(index, options.workerProgram ?? program("worker"));
    // Messages go out from a process of their own, which no work on files can hold up.
    if (workers > 0) this.start(workers, program("outbox-process"));
  }

  async stop(): Promise<void> {
    this.isStopping = true;
    await Promise.all(
      this.children.map(async (child) => {
        if (child.exitCode !== null || child.signalCode !== null) return;
        const timer = setTimeout(() => child.kill("SIGKILL"), STOP_MS);
        child.kill("SIGTERM");
        await once(child, "exit");
        clearTimeout(timer);
      }),
    );
  }

  /** A process of ours that was declared dead and still stands there, such as a frozen one, is replaced. */
  end(id: string): void {
    const child = this.ids.get(id);
    if (child && child.exitCode === null && child.signalCode === null) child.kill("SIGKILL");
  }

  private start(index: number, path: string): void {
    const id = randomUUID();
    const child = fork(path, [], {
      env: { ...process.env, ...this.environment(), CORBIX_WORKER: id },
      execArgv: [...process.execArgv, ...WORKER_FLAGS],
    });
    this.children[index] = child;
    this.ids.set(id, child);
    child.on("exit", (code, signal) => {
      this.ids.delete(id);
      if (this.isStopping) return;
      this.context.log.warn({ worker: id, code, signal }, "worker ended");
      workerEnded(this.context, id).catch((error: Error) =>
        this.context.log.error({ error: error.message }, "housekeeping"),
      );
      setTimeout(() => {
        if (!this.isStopping) this.start(index, path);
      }, RESTART_MS);
    });
  }

  /** The settings this process has, whatever they came from. */
  private environment(): Record<string, string> {
    const settings: Record<string, unknown> = {
      ...this.options.settings,
      databaseUrl: this.options.databaseUrl,
      letterboxPort: this.letterbox?.port ?? 0,
      workers: 0,
    };
    return Object.fromEntries(
      Object.keys(settingsSchema.shape).flatMap((key) =>
        settings[key] === undefined ? [] : [[environmentName(key), String(settings[key])]],
      ),
    );
  }
}
