import type { Client } from "../client.js";
import { type Output, tableText } from "../output.js";

/** The service is asked so often how far it is. */
const LOOK_MS = 500;

/** Lets the service go through its trail and read its whole file store against its records, and tells what it found. Gives 3 where something is wrong. */
export async function verify(client: Client, output: Output): Promise<number> {
  let state = await client.post("/verification");
  const bar = output.progress("read", Math.max(1, state.total));
  while (state.state === "running") {
    await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
    state = await client.get("/verification");
    bar.step(state.checked);
  }
  bar.stop();
  output.value(state);
  if (state.state === "failed") {
    output.line(`The file store could not be read: ${state.error}`);
    return 9;
  }
  const { trail } = state;
  const isBroken = trail !== null && trail.brokenAt !== null;
  if (trail)
    output.line(
      isBroken
        ? `The trail is not what was written: entry ${trail.brokenAt}, behind ${trail.entries.toLocaleString("en")} whole ones.`
        : `${trail.entries.toLocaleString("en")} entries of the trail: whole, up to ${trail.head?.slice(0, 16) ?? "none"}.${trail.erased > 0 ? ` ${trail.erased} of them name nobody any more.` : ""}`,
    );
  const spare = state.nobodys === 0 ? "" : ` ${state.nobodys} of them nobody needs; they go by themselves.`;
  output.line(`${state.checked.toLocaleString("en")} files: ${state.whole.toLocaleString("en")} whole.${spare}`);
  if (state.faults.length === 0) {
    output.line("Nothing is damaged, nothing is missing.");
    return isBroken ? 3 : 0;
  }
  output.line(
    `\n${tableText(
      ["File", "", "Needed by"],
      state.faults.map((fault) => [fault.sha256.slice(0, 12), fault.what, fault.uses.join("; ") || "nobody"]),
    )}`,
  );
  output.line("\nLoad the same file again, which heals it, or restore the data folder from a backup.");
  return 3;
}
