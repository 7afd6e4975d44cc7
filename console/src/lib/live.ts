import type { Problem } from "./client";
import { onTheWay, pageState } from "./page-state.svelte";

/** What the service announces while something happens: one stream for the whole console. */
export interface LiveEvent {
  kind: string;
  subject: string;
}

const listeners = new Set<(event: LiveEvent) => void>();
let stream: EventSource | undefined;

function open(): void {
  stream ??= new EventSource("/api/v1/events");
  stream.onmessage = (message) => {
    const event = JSON.parse(message.data) as LiveEvent;
    for (const listener of listeners) listener(event);
  };
}

/** What could not be read is asked for again so often, until it can. */
const AGAIN_MS = 4_000;

/**
 * Calls `reload` now, and soon after each event that concerns it; gives the function that ends it. What a page is made of is shown as
 * on its way while it is read for the first time; what cannot be read is told above the page and asked for again.
 */
export function whenever(
  concerns: (event: LiveEvent) => boolean,
  reload: () => unknown,
  of: "page" | "part" = "part",
): () => void {
  open();
  let waiting: ReturnType<typeof setTimeout> | undefined;
  let retry: ReturnType<typeof setTimeout> | undefined;
  let isEnded = false;
  const own: { problem?: Problem | undefined } = {};
  const settle = (): void => {
    if (own.problem !== undefined && pageState.problem === own.problem) pageState.problem = undefined;
    own.problem = undefined;
  };
  const read = async (isFirst: boolean): Promise<void> => {
    clearTimeout(retry);
    if (isFirst && of === "page") onTheWay.add(own);
    try {
      await reload();
      settle();
    } catch (error) {
      if (isEnded) return;
      own.problem = error as Problem;
      pageState.problem = own.problem;
      // What is refused stays refused; what was not answered may be yet.
      const { status } = own.problem;
      if (status === 0 || status >= 500) retry = setTimeout(() => void read(false), AGAIN_MS);
    } finally {
      onTheWay.delete(own);
    }
  };
  const listener = (event: LiveEvent): void => {
    // After a break of the service's own nobody knows what was missed.
    if ((event.kind !== "anything" && !concerns(event)) || waiting) return;
    waiting = setTimeout(() => {
      waiting = undefined;
      void read(false);
    }, 120);
  };
  listeners.add(listener);
  void read(true);
  return () => {
    isEnded = true;
    listeners.delete(listener);
    clearTimeout(waiting);
    clearTimeout(retry);
    onTheWay.delete(own);
    settle();
  };
}

/** Calls back for each event, and whenever the stream breaks: it may be that one was signed out. Gives the function that ends it. */
export function onLive(heard: (event: LiveEvent) => void, broken: () => void): () => void {
  open();
  listeners.add(heard);
  const own = stream;
  own?.addEventListener("error", broken);
  return () => {
    listeners.delete(heard);
    own?.removeEventListener("error", broken);
  };
}

export function closeLive(): void {
  stream?.close();
  stream = undefined;
}
