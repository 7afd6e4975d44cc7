/** How long a process that was told to end may take to finish what it has. */
const GRACE_MS = 30_000;

/**
 * A signal that comes when this process is told to end, or when the service that started it is gone, also if that was gone before
 * anybody listened. A process that cannot finish then is ended: what it had is taken up by others.
 */
export function untilStopped(): AbortSignal {
  const stop = new AbortController();
  const end = (): void => {
    if (stop.signal.aborted) return;
    stop.abort();
    setTimeout(() => process.exit(1), GRACE_MS).unref();
  };
  for (const signal of ["SIGTERM", "SIGINT", "disconnect"] as const) process.on(signal, end);
  if (process.env.CORBIX_WORKER && !process.connected) end();
  return stop.signal;
}
