import type { Response } from "express";
import { CHANNEL } from "../events/events.js";
import type { Context } from "../process/context.js";

/** A comment is sent so often, so that proxies keep the line open; whoever has signed out meanwhile is left. */
const KEEP_ALIVE_MS = 5_000;

/** An open stream, and what looks whether its viewer may still see it. */
interface Viewer {
  readonly response: Response;
  readonly look: () => void;
}

const VIEWERS = new WeakMap<Context, Set<Viewer>>();

/** Passes what is announced on the database to all open event streams. */
export async function openEventStreams(context: Context): Promise<() => Promise<void>> {
  const viewers = new Set<Viewer>();
  VIEWERS.set(context, viewers);
  const tell = (payload: string): void => {
    // Whose rights changed is told, and left where they have none any more.
    const isAccess = (JSON.parse(payload) as { kind?: string }).kind === "access";
    for (const { response, look } of viewers) {
      response.write(`data: ${payload}\n\n`);
      if (isAccess) look();
    }
  };
  const unlisten = await context.database.listen(CHANNEL, tell, () => {
    context.log.info("events are heard again");
    // What was announced meanwhile was missed: everybody looks again.
    tell(JSON.stringify({ kind: "anything", subject: "" }));
  });
  return async () => {
    for (const { response } of viewers) response.end();
    await unlisten();
  };
}

/** Server-sent events (HTML living standard, 9.2): one `data` line of JSON per event, as long as the sign-in lasts. */
export function eventStream(context: Context, response: Response, identify: () => Promise<unknown>): void {
  response.writeHead(200, {
    "Content-Type": "text/event-stream",
    "Cache-Control": "no-store",
    Connection: "keep-alive",
  });
  response.write("retry: 1000\n\n");
  const viewers = VIEWERS.get(context);
  const look = (): void => {
    identify().catch((error: { code?: string }) => {
      if (error.code === "NOT_SIGNED_IN") response.end();
    });
  };
  const viewer: Viewer = { response, look };
  viewers?.add(viewer);
  const timer = setInterval(() => {
    response.write(": still here\n\n");
    look();
  }, KEEP_ALIVE_MS);
  response.on("close", () => {
    clearInterval(timer);
    viewers?.delete(viewer);
  });
}
