<script lang="ts">
import { Accordion, AccordionItem, Link, Tag } from "carbon-components-svelte";

interface Operation {
  summary: string;
  tags: string[];
  parameters?: { name: string; in: string; required: boolean; description?: string }[];
  requestBody?: { content: Record<string, { schema?: object }> };
  responses: Record<string, { content?: Record<string, { schema?: object }> }>;
}
let schemas: Record<string, object> = {};
let paths = $state<Record<string, Record<string, Operation>>>();
fetch("/openapi.json")
  .then((answer) => answer.json())
  .then((document: { paths: Record<string, Record<string, Operation>>; components: { schemas: typeof schemas } }) => {
    schemas = document.components.schemas;
    paths = document.paths;
  });
/** A shape that has a name is shown as what it is. */
const shown = (schema: { $ref?: string }): string =>
  JSON.stringify(schema.$ref ? (schemas[schema.$ref.split("/").pop() ?? ""] ?? schema) : schema, null, 2);
const all = $derived(
  Object.entries(paths ?? {}).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, operation]) => ({ path, method, operation })),
  ),
);
const tags = $derived([...new Set(all.map((one) => one.operation.tags[0]))]);
const kinds: Record<string, "teal" | "green" | "purple" | "red"> = {
  get: "teal",
  post: "green",
  put: "purple",
  delete: "red",
};
</script>

<h1>HTTP API</h1>
<p class="soft">Console and command use this API and nothing else. Send a token with each call: <code>Authorization: Bearer …</code>. The document is <Link href="/openapi.json">/openapi.json</Link> (OpenAPI 3.1); errors are problem details (RFC 9457); all addresses lie under <code>/api/v1</code>, and <code>/api/v1/events</code> is a stream of server-sent events.</p>
{#each tags as tag}
  <h2>{tag}</h2>
  <Accordion size="sm">
    {#each all.filter((one) => one.operation.tags[0] === tag) as { path, method, operation }}
      <AccordionItem>
        <span slot="title" class="row"><Tag size="sm" type={kinds[method]}>{method.toUpperCase()}</Tag><code>/api/v1{path}</code> <span class="soft">{operation.summary}</span></span>
        {#if operation.parameters}
          <ul class="parameters">{#each operation.parameters as parameter}<li><code>{parameter.name}</code> <span class="soft">in {parameter.in}{parameter.required ? ", required" : ""}{parameter.description ? `: ${parameter.description}` : ""}</span></li>{/each}</ul>
        {/if}
        {#each Object.entries(operation.requestBody?.content ?? {}) as [type, body]}<p class="soft">Body: {type}</p>{#if body.schema}<pre>{shown(body.schema)}</pre>{/if}{/each}
        {#each Object.entries((operation.responses["200"] ?? operation.responses["201"] ?? operation.responses["202"])?.content ?? {}) as [type, answer]}<p class="soft">Answer: {type}</p>{#if answer.schema}<pre>{shown(answer.schema)}</pre>{/if}{/each}
      </AccordionItem>
    {/each}
  </Accordion>
{/each}

<style>
  code { overflow-wrap: anywhere; }
  .parameters { margin-bottom: 0.5rem; }
  pre { max-height: 20rem; }
</style>
