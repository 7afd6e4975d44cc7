<script lang="ts">
import type { Role } from "@corbix/api/rights";
import { Checkbox, Select, SelectItem } from "carbon-components-svelte";
import type { Self } from "../../lib/client";
import { ROLE_WORDS } from "../../lib/rights.svelte";

/** What somebody may do: each role for no report, for all or for those that are ticked. */
let {
  roles = $bindable(),
  reports,
  idPrefix,
}: {
  roles: Self["roles"];
  reports: readonly { readonly name: string; readonly title: string }[];
  /** Tells the fields of several such parts on a page apart. */
  idPrefix: string;
} = $props();

type Reach = "none" | "all" | "some";
const reachOf = (role: Role): Reach => (roles[role] === undefined ? "none" : roles[role] === "all" ? "all" : "some");
const ticked = (role: Role): readonly string[] => {
  const scope = roles[role];
  return Array.isArray(scope) ? scope : [];
};

function setReach(role: Role, reach: string): void {
  const { [role]: _, ...rest } = roles;
  const [first] = reports;
  if (reach === "none") roles = rest;
  else if (reach === "all" || role === "operate" || !first) roles = { ...rest, [role]: "all" };
  else roles = { ...rest, [role]: [first.name] };
}

function tick(role: Role, report: string, isOn: boolean): void {
  const now = ticked(role);
  if (isOn === now.includes(report)) return;
  const next = isOn ? [...now, report] : now.filter((one) => one !== report);
  const { [role]: _, ...rest } = roles;
  roles = next.length === 0 ? rest : { ...rest, [role]: next };
}
</script>

<div class="roles" role="group" aria-label="What they may do">
  {#each ROLE_WORDS as { role, title, says } (role)}
    <div class="role">
      <Select size="sm" id="{idPrefix}-{role}" labelText={title} helperText={says} selected={reachOf(role)} on:update={({ detail }) => setReach(role, String(detail))}>
        <SelectItem value="none" text="No" />
        <SelectItem value="all" text={role === "operate" ? "Yes" : "For all reports"} />
        {#if role !== "operate" && reports.length > 0}<SelectItem value="some" text="For these reports" />{/if}
      </Select>
      {#if reachOf(role) === "some"}
        <div class="ticks" role="group" aria-label={title}>
          {#each reports as one (one.name)}<Checkbox labelText={one.title} checked={ticked(role).includes(one.name)} on:check={({ detail }) => tick(role, one.name, detail)} />{/each}
        </div>
      {/if}
    </div>
  {/each}
</div>

<style>
  .roles { display: grid; gap: 0.75rem; }
  .ticks { margin: 0.25rem 0 0 0.75rem; display: grid; grid-template-columns: repeat(auto-fill, minmax(14rem, 1fr)); }
  .ticks :global(.bx--checkbox-wrapper) { margin: 0; }
</style>
