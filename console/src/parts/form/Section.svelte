<script lang="ts">
import type { Known } from "../../lib/choices";
import type { Path } from "../../lib/definition";
import type { Draft } from "../../lib/draft.svelte";
import type { Schema } from "../../lib/schema";
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
