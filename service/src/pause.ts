/** Waits so long, or until stopped. */
export function pause(ms: number, stopped: AbortSignal): Promise<void> {
  return new Promise((resolve) => {
    const timer = setTimeout(done, ms);
    stopped.addEventListener("abort", done, { once: true });
    function done(): void {
      clearTimeout(timer);
      stopped.removeEventListener("abort", done);
      resolve();
    }
  });
}
