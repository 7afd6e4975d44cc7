import { SvelteSet } from "svelte/reactivity";
import type { Problem } from "./client";

/** How the page that is open stands with what it reads. */
export const pageState = $state<{ problem: Problem | undefined }>({ problem: undefined });

/** What is on its way for the first time: each reading by a mark of its own. */
export const onTheWay = new SvelteSet<object>();
