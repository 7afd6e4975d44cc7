/**
 * How worker processes are started: making pages leaves much behind that is needed for a moment only, and with the usual
 * 16 MiB for young things a part of it is taken for old, and swept up slowly. A third of the time of a page, for 48 MiB.
 */
export const WORKER_FLAGS: readonly string[] = ["--max-semi-space-size=32"];
