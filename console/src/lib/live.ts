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

/** Calls `reload` now, and soon after each event that concerns it; gives the function that ends it. */
export function whenever(concerns: (event: LiveEvent) => boolean, reload: () => void): () => void {
  open();
  let waiting: ReturnType<typeof setTimeout> | undefined;
  const listener = (event: LiveEvent): void => {
    // After a break of the service's own nobody knows what was missed.
    if ((event.kind !== "anything" && !concerns(event)) || waiting) return;
    waiting = setTimeout(() => {
      waiting = undefined;
      reload();
    }, 120);
  };
  listeners.add(listener);
  reload();
  return () => {
    listeners.delete(listener);
    clearTimeout(waiting);
  };
}

export function closeLive(): void {
  stream?.close();
  stream = undefined;
}
