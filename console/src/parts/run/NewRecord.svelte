<script lang="ts">
import { Button, Modal, TextInput } from "carbon-components-svelte";
import { Close } from "carbon-icons-svelte";
import { api, type Column, once, type Problem } from "../../lib/client";
import { recordOf } from "../../lib/report/record-form";
import { go } from "../../lib/router.svelte";
import { scrollable } from "../../lib/scrollable";
import Trouble from "../common/Trouble.svelte";

/** A record written by hand: the columns of the dataset as fields, its lines below each other; it has a run of its own at once. */
let {
  isOpen = $bindable(),
  report,
  columns,
  lines,
}: {
  isOpen: boolean;
  report: string;
  columns: readonly Column[];
  /** What the list of lines is called inside of the record. */
  lines: string | undefined;
} = $props();
let rows = $state<Record<string, string>[]>([{}]);
let problem = $state<Problem>();
let isSending = $state(false);

$effect(() => {
  if (!isOpen) return;
  rows = [{}];
  problem = undefined;
});

const HINTS: Readonly<Record<string, string>> = {
  date: "2026-11-02",
  datetime: "2026-11-02T09:30",
  time: "09:30",
  number: "1234.5",
  boolean: "true",
};

/** What one line has the next one has too, until it is written over. */
function addLine(): void {
  rows = [...rows, { ...rows[rows.length - 1] }];
}

async function send(): Promise<void> {
  problem = undefined;
  isSending = true;
  try {
    const record = recordOf($state.snapshot(rows), lines);
    const { occasions } = await api.post("/reports/{name}/occasions", {
      path: { name: report },
      body: new Blob([JSON.stringify(record)], { type: "application/json" }) as never,
      ...once(),
    });
    isOpen = false;
    if (occasions[0]) go("runs", occasions[0].run);
  } catch (error) {
    problem = error as Problem;
  } finally {
    isSending = false;
  }
}
const isBlank = $derived(rows.every((row) => Object.values(row).every((value) => value.trim() === "")));
</script>

<Modal size="lg" iconDescription="Close the dialog" bind:open={isOpen} modalHeading="New record" primaryButtonText="Run it" primaryButtonDisabled={isBlank || isSending} secondaryButtonText="Cancel" on:click:button--secondary={() => { isOpen = false; }} on:submit={send}>
  <Trouble {problem} />
  <p class="soft">It runs at once for this alone. A line below another begins with its values: change what is different.</p>
  <div class="wide" use:scrollable data-scrolls="The record"><table>
    <thead><tr>{#each columns as column (column.name)}<th scope="col">{column.name}</th>{/each}<th></th></tr></thead>
    <tbody>
      {#each rows as row, at}
        <tr>
          {#each columns as column (column.name)}
            <td><TextInput size="sm" hideLabel labelText={`${column.name}, line ${at + 1}`} placeholder={HINTS[column.type] ?? ""} value={row[column.name] ?? ""} on:input={(event) => { row[column.name] = String((event as CustomEvent).detail ?? ""); }} /></td>
          {/each}
          <td>{#if rows.length > 1}<Button size="small" kind="ghost" icon={Close} iconDescription={`Take out line ${at + 1}`} tooltipAlignment="end" on:click={() => { rows = rows.filter((_, other) => other !== at); }} />{/if}</td>
        </tr>
      {/each}
    </tbody>
  </table></div>
  <Button size="small" kind="ghost" on:click={addLine}>Add a line</Button>
</Modal>

<style>
  .wide { overflow-x: auto; margin: 0.75rem 0; }
  th { text-align: left; font-size: 0.75rem; padding: 0.2rem 0.3rem; white-space: nowrap; }
  td { min-width: 8.5rem; padding: 0.15rem 0.2rem; }
  td:last-child { min-width: 2.5rem; }
</style>
