/** The service process. The launcher has installed, built and, if needed, started a database before. */
import { CorbixError } from "@corbix/core/common";
import type { OpenedSignIn } from "../access/first-sign-in.js";
import { readSettings } from "./settings.js";
import { startService } from "./supervisor.js";
import { closeTraces, openTraces } from "./trace.js";
import { VERSION } from "./version.js";

const root = process.env.CORBIX_ROOT ?? process.cwd();
const write = (text: string): void => void process.stdout.write(`${text}\n`);

try {
  const settings = readSettings(process.env, root);
  if (!settings.databaseUrl)
    throw new CorbixError("BAD_SETTING", "Cannot start without a database.", {
      where: "CORBIX_DATABASE_URL",
      advice: "Use npm start, which brings its own, or set the address of one.",
    });
  await openTraces("service", VERSION);
  const service = await startService({
    settings,
    databaseUrl: settings.databaseUrl,
    consoleFolder: `${root}/console/dist`,
    demoFolder: `${root}/demo/files`,
  });
  write(banner(service.url, service.signIn, `${settings.data}/sign-in.json`, service.demoLoaded));
  let isClosing = false;
  const close = (): void => {
    if (isClosing) return;
    isClosing = true;
    service
      .close()
      .then(() => closeTraces())
      .then(() => process.exit(0));
  };
  for (const signal of ["SIGINT", "SIGTERM", "disconnect"] as const) process.on(signal, close);
} catch (error) {
  if (!(error instanceof CorbixError)) throw error;
  process.stderr.write(`${error.where ? `${error.where}: ` : ""}${error.message} ${error.advice ?? ""}\n`);
  process.exit(error.exitCode);
}

function banner(url: string, signIn: OpenedSignIn, kept: string, demoLoaded: boolean): string {
  const secret = signIn.isNew ? signIn.password : `as kept in ${kept}`;
  return `
  Corbix is running.${demoLoaded ? " The demo, a lift and escalator inspection office, was loaded." : ""}

    Console    ${url}
    Sign in    ${signIn.name} / ${secret}

  Three things to try:
    1. npx corbix run site-statement --for 2026-10     make October's statements and letters
    2. open ${url}/#/runs          look at the proof, open a parcel, release
    3. open ${url}/#/letterbox     read what arrived

  Ctrl-C ends everything.
`;
}
