<script lang="ts">
import {
  Content,
  Header,
  HeaderGlobalAction,
  HeaderUtilities,
  SideNav,
  SideNavItems,
  SideNavLink,
  SkeletonText,
  SkipToContent,
} from "carbon-components-svelte";
import { Asleep, Light, Logout } from "carbon-icons-svelte";
import { type Component, onMount } from "svelte";
import { api, Problem } from "./lib/client";
import { closeLive } from "./lib/live";
import { pageOf, type ShownPage } from "./lib/page-of";
import { onTheWay, pageState } from "./lib/page-state.svelte";
import { link, place } from "./lib/router.svelte";
import SignInPage from "./pages/SignInPage.svelte";
import SearchBar from "./parts/common/SearchBar.svelte";
import Trouble from "./parts/common/Trouble.svelte";

const rooms = [
  ["", "Overview"],
  ["data", "Data"],
  ["recipients", "Recipients"],
  ["templates", "Templates"],
  ["reports", "Reports"],
  ["enquiries", "Enquiries"],
  ["runs", "Runs"],
  ["outbox", "Outbox"],
  ["letterbox", "Letterbox"],
  ["notices", "Notices"],
  ["calendars", "Calendars"],
  ["ways-out", "Ways out"],
  ["settings", "Identities"],
  ["tools", "Tools"],
  ["api", "HTTP API"],
];

let user = $state<string | null>();
let dark = $state(
  localStorage.getItem("corbix-theme") === "dark" ||
    (localStorage.getItem("corbix-theme") === null && matchMedia("(prefers-color-scheme: dark)").matches),
);
let isNavOpen = $state(false);

$effect(() => {
  document.documentElement.setAttribute("theme", dark ? "g100" : "white");
  document.documentElement.style.colorScheme = dark ? "dark" : "light";
});

onMount(() => {
  api.get("/session").then(
    (session) => {
      user = session.name;
    },
    (problem: Problem) => {
      user = problem.status === 401 ? null : undefined;
      if (problem.status !== 401) setTimeout(() => location.reload(), 2000);
    },
  );
});

function turnTheme(): void {
  dark = !dark;
  localStorage.setItem("corbix-theme", dark ? "dark" : "light");
}

async function signOut(): Promise<void> {
  await api.delete("/session");
  closeLive();
  user = null;
}

const room = $derived(place.parts[0] ?? "");
/** The page of the address, once its code is there; nothing while that is on its way. */
let shown = $state.raw<{ readonly Page: Component<Record<string, unknown>>; readonly of: ShownPage }>();
let isMissing = $state(false);
let isLost = $state(false);
$effect(() => {
  const wanted = pageOf(place.parts);
  [isMissing, isLost] = [wanted === undefined, false];
  if (!wanted?.page) shown = undefined;
  if (!wanted) return;
  if (wanted.page) {
    shown = { Page: wanted.page, of: wanted };
    return;
  }
  let isLeft = false;
  wanted.load().then(
    (Page) => {
      if (!isLeft) shown = { Page, of: wanted };
    },
    () => {
      isLost = !isLeft;
    },
  );
  return () => {
    isLeft = true;
  };
});
</script>

<Header href="#/" bind:isSideNavOpen={isNavOpen} persistentHamburgerMenu={false}>
  <div class="contents" slot="skipToContent"><SkipToContent>Skip to the page</SkipToContent></div>
  <span slot="platform" class="brand">
    <svg viewBox="0 0 32 32" width="22" height="22" aria-hidden="true"><rect x="2" y="4" width="13" height="24" rx="2" fill="#8fbfae" /><rect x="17" y="4" width="13" height="11" rx="2" fill="#f3f1ea" /><rect x="19" y="18" width="11" height="10" rx="2" fill="#e08a3f" transform="rotate(8 24 23)" /></svg>
    Corbix
  </span>
  <HeaderUtilities>
    {#if user}<SearchBar />{/if}
    <HeaderGlobalAction iconDescription={dark ? "Light" : "Dark"} icon={dark ? Light : Asleep} on:click={turnTheme} />
    {#if user}<HeaderGlobalAction iconDescription="Sign out" icon={Logout} on:click={signOut} tooltipAlignment="end" />{/if}
  </HeaderUtilities>
</Header>

{#if user === null}
  <SignInPage onsignedin={(name) => { user = name; }} />
{:else if user}
  <SideNav bind:isOpen={isNavOpen} aria-label="Rooms">
    <SideNavItems>
      {#each rooms as [name, title]}
        <SideNavLink href={name === "" ? "#/" : link(name)} text={title} isSelected={room === name} />
      {/each}
    </SideNavItems>
  </SideNav>
  <Content>
    <Trouble problem={pageState.problem} />
    {#if shown}{#key shown.of.key}<shown.Page {...shown.of.props} />{/key}{#if onTheWay.size > 0 && !pageState.problem}<div class="waiting" aria-busy="true"><SkeletonText heading width="30%" /><SkeletonText paragraph lines={6} /></div>{/if}
    {:else if isMissing}<h1>There is no such page</h1><p><a href="#/">Back to the overview</a></p>
    {:else if isLost}<h1>This page could not be loaded</h1><p>Corbix was renewed meanwhile, or the line is down. <a href={location.href} onclick={() => location.reload()}>Load it again</a></p>
    {:else}<div aria-busy="true"><SkeletonText heading width="30%" /><SkeletonText paragraph lines={4} /></div>{/if}
  </Content>
{/if}

<style>
  /* What comes within a moment is not announced. */
  .waiting { margin-top: 1.5rem; animation: appear 0.15s 0.25s backwards; }
  @keyframes appear { from { opacity: 0; } }
  .brand { display: inline-flex; gap: 0.6rem; align-items: center; font-weight: 600; letter-spacing: 0.01em; }
</style>
