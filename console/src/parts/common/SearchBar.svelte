<script lang="ts">
import type { Answer } from "@corbix/api/client";
import { HeaderSearch } from "carbon-components-svelte";
import { api } from "../../lib/client";
import { link } from "../../lib/router.svelte";

/** One search over everything that has a name, from every page. */
type Found = Answer<"get", "/search">["found"][number];
const KINDS: Readonly<Record<Found["kind"], string>> = {
  group: "Group",
  person: "Person",
  report: "Report",
  run: "Run",
  file: "File",
  dataset: "Data",
  template: "Template",
};

let place = $state<HTMLElement>();
/** The search's own buttons are called in English by those who made them. */
$effect(() => {
  void active;
  for (const button of place?.querySelectorAll("button[aria-label=Search]") ?? []) button.ariaLabel = "Search";
});
let value = $state("");
let active = $state(false);
let found = $state<{
  readonly text: string;
  readonly results: { href: string; text: string; description: string }[];
}>();
let asked = 0;
const text = $derived(value.trim());
const nothing = $derived(found !== undefined && found.text === text && found.results.length === 0 && text.length >= 2);

function addressOf({ kind, name, parcel }: Found): string {
  switch (kind) {
    case "group":
    case "file":
      return link("runs", name, parcel ?? "");
    case "run":
      return link("runs", name);
    case "report":
      return link("reports", name);
    case "dataset":
      return link("data", name);
    case "template":
      return link("templates", name);
    case "person":
      return link("recipients", name);
  }
}

$effect(() => {
  const wanted = text;
  if (wanted.length < 2) {
    found = undefined;
    return;
  }
  const mine = ++asked;
  const timer = setTimeout(async () => {
    const answer = await api.get("/search", { query: { text: wanted } }).catch(() => ({ found: [] }));
    if (mine !== asked) return;
    const results = answer.found.map((one) => ({
      href: addressOf(one),
      text: one.title,
      description: `${KINDS[one.kind]}${one.what === "" || one.kind === "dataset" || one.kind === "template" ? "" : `, ${one.what}`}`,
    }));
    found = { text: wanted, results };
  }, 150);
  return () => clearTimeout(timer);
});
const results = $derived(
  nothing
    ? [
        {
          href: location.hash,
          text: `Nothing is called “${text}”.`,
          description: "Groups, people, reports, runs, files, data and templates are looked through.",
        },
      ]
    : (found?.results ?? []),
);
</script>

<div class="contents" bind:this={place}>
<HeaderSearch closeButtonLabelText="Clear what is searched for" bind:value bind:active {results} placeholder="Group, person, file, run, report …" labelText="Search everything" on:select={({ detail }) => { location.hash = detail.selectedResult.href; }} let:result>
  <span class="found"><strong>{result.text}</strong><span class="what">{result.description}</span></span>
</HeaderSearch>
</div>

<style>
  .found { display: grid; line-height: 1.15rem; padding: 0.15rem 0; min-width: 0; }
  .found > * { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  .what { font-size: 0.75rem; color: var(--corbix-soft); }
</style>
