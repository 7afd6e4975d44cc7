<script lang="ts">
import type { Known } from "../../lib/report/choices";
import type { Path } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";
import type { Schema } from "../../lib/report/schema";
import Field from "./Field.svelte";
import Fields from "./Fields.svelte";
import type { Inner } from "./inner";

/** Some of the fields of a definition, or of a part of it: those that are there, and a menu of the others. */
let {
  draft,
  known,
  schema,
  path = [],
  only,
  name,
}: {
  draft: Draft;
  known: Known;
  schema: Schema;
  path?: Path;
  only?: readonly string[] | undefined;
  name?: string | undefined;
} = $props();
</script>

{#snippet inner(one: Inner)}<Field {draft} {known} {...one} />{/snippet}
<Fields {draft} {path} {schema} {only} {name} {inner} />
