<script lang="ts">
import { api, type Column, type DatasetSettings, type IntakeRules, matching, type Problem } from "../../lib/client";
import Trouble from "../common/Trouble.svelte";
import Corrections from "./Corrections.svelte";
import WaysIn from "./WaysIn.svelte";

/** How the next files of a dataset come in, and what is corrected in them. */
let {
  name,
  settings,
  etag,
  columns,
  onchange,
}: {
  name: string;
  settings: DatasetSettings;
  etag: string | undefined;
  columns: Column[];
  onchange: (settings: DatasetSettings) => void;
} = $props();
let problem = $state<Problem>();

async function keep(rules: IntakeRules): Promise<void> {
  problem = undefined;
  try {
    onchange(await api.put("/datasets/{name}/settings", { path: { name }, body: { rules }, ...matching(etag) }));
  } catch (error) {
    problem = error as Problem;
  }
}
</script>

<Trouble {problem} />
<h2>The next files</h2>
<WaysIn {name} {settings} {etag} {onchange} />
<h2>Corrections for the next files</h2>
{#key JSON.stringify(settings.rules)}<Corrections rules={settings.rules} {columns} action="Keep these corrections" onapply={keep} />{/key}
