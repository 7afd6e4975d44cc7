<script lang="ts">
import { Button, Select, SelectItem } from "carbon-components-svelte";
import { Close } from "carbon-icons-svelte";
import { meant } from "../../lib/report/choices";
import type { Path } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";

/** The order of the rows: columns one after the other, each upwards or downwards. */
let { draft, names, path = ["sort"] }: { draft: Draft; names: readonly string[]; path?: Path } = $props();

interface Order {
  readonly column: string;
  readonly isDown: boolean;
}
const said = $derived([draft.get(path) ?? []].flat().map(String));
const orders = $derived(
  said.map((one): Order => {
    const isDown = one.startsWith("-");
    const column = isDown ? one.slice(1) : one;
    return { column: meant(column, names) ?? column, isDown };
  }),
);

function write(next: readonly Order[]): void {
  const all = next.map(({ column, isDown }) => (isDown ? `-${column}` : column));
  draft.set(path, all.length === 0 ? undefined : all);
}
const change = (at: number, more: Partial<Order>): void =>
  write(orders.map((one, index) => (index === at ? { ...one, ...more } : one)));
const left = $derived(names.filter((name) => !orders.some(({ column }) => column === name)));
</script>

{#each orders as order, at (order.column)}
  <div class="order">
    <span class="soft">{at === 0 ? "by" : "then by"}</span>
    <Select size="sm" hideLabel labelText={`Sorted by, ${at + 1}`} selected={order.column} on:update={({ detail }) => { if (detail !== order.column) change(at, { column: String(detail) }); }}>
      {#each [order.column, ...left] as one (one)}<SelectItem value={one} text={one} />{/each}
    </Select>
    <Select size="sm" hideLabel labelText={`Direction of ${order.column}`} selected={order.isDown ? "down" : "up"} on:update={({ detail }) => { if ((detail === "down") !== order.isDown) change(at, { isDown: detail === "down" }); }}>
      <SelectItem value="up" text="upwards" /><SelectItem value="down" text="downwards" />
    </Select>
    <Button size="small" kind="ghost" icon={Close} iconDescription={`Do not sort by ${order.column}`} tooltipAlignment="end" on:click={() => write(orders.filter((_, index) => index !== at))} />
  </div>
{/each}
{#if left.length > 0}
  <div class="order last">
    <span class="soft">{orders.length === 0 ? "by" : "then by"}</span>
    {#key orders.length}
      <Select size="sm" hideLabel labelText="Sort by" selected="" on:update={({ detail }) => { if (detail !== "") write([...orders, { column: String(detail), isDown: false }]); }}>
        <SelectItem value="" text={orders.length === 0 ? "as they were loaded" : "nothing more"} />{#each left as one (one)}<SelectItem value={one} text={one} />{/each}
      </Select>
    {/key}
  </div>
{/if}

<style>
  .order { display: grid; grid-template-columns: 3.5rem minmax(0, 1.2fr) minmax(0, 1fr) auto; gap: 0.4rem; align-items: center; margin-bottom: 0.4rem; }
  .last { grid-template-columns: 3.5rem minmax(0, 16rem); }
</style>
