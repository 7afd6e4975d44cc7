<script lang="ts">
import {
  Content,
  Header,
  HeaderGlobalAction,
  HeaderUtilities,
  SideNav,
  SideNavItems,
  SideNavLink,
  SkipToContent,
} from "carbon-components-svelte";
import { Asleep, Light, Logout } from "carbon-icons-svelte";
import { onMount } from "svelte";
import { api, Problem } from "./lib/client";
import { closeLive } from "./lib/live";
import { link, place } from "./lib/router.svelte";
import ApiPage from "./pages/ApiPage.svelte";
import DataPage from "./pages/DataPage.svelte";
import LetterboxPage from "./pages/LetterboxPage.svelte";
import NewReportPage from "./pages/NewReportPage.svelte";
import OutboxPage from "./pages/OutboxPage.svelte";
import OverviewPage from "./pages/OverviewPage.svelte";
import RecipientsPage from "./pages/RecipientsPage.svelte";
import ReportPage from "./pages/ReportPage.svelte";
import ReportsPage from "./pages/ReportsPage.svelte";
import RunPage from "./pages/RunPage.svelte";
import RunsPage from "./pages/RunsPage.svelte";
import SettingsPage from "./pages/SettingsPage.svelte";
import SignInPage from "./pages/SignInPage.svelte";
import TemplatesPage from "./pages/TemplatesPage.svelte";
import ToolsPage from "./pages/ToolsPage.svelte";
import SearchBar from "./parts/common/SearchBar.svelte";

const rooms = [
  ["", "Overview"],
  ["data", "Data"],
  ["recipients", "Recipients"],
  ["templates", "Templates"],
  ["reports", "Reports"],
  ["runs", "Runs"],
  ["outbox", "Outbox"],
  ["letterbox", "Letterbox"],
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
</script>

<Header href="#/" bind:isSideNavOpen={isNavOpen} persistentHamburgerMenu={false}>
  <svelte:fragment slot="skipToContent"><SkipToContent /></svelte:fragment>
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
    {#if room === ""}<OverviewPage />
    {:else if room === "data"}<DataPage name={place.parts[1]} />
    {:else if room === "recipients"}{#key place.parts[1]}<RecipientsPage wanted={place.parts[1] ?? ""} />{/key}
    {:else if room === "templates"}<TemplatesPage name={place.parts[1]} />
    {:else if room === "reports" && place.parts[1] === "new"}<NewReportPage />
    {:else if room === "reports" && place.parts[1]}
      {#key place.parts[1]}<ReportPage name={place.parts[1]} step={place.parts[2] ?? "data"} />{/key}
    {:else if room === "reports"}<ReportsPage />
    {:else if room === "runs" && place.parts[1]}
      {#key place.parts[1]}<RunPage id={place.parts[1]} parcel={place.parts[2] ? Number(place.parts[2]) : undefined} />{/key}
    {:else if room === "runs"}<RunsPage />
    {:else if room === "outbox"}<OutboxPage />
    {:else if room === "letterbox"}<LetterboxPage id={place.parts[1]} />
    {:else if room === "settings"}<SettingsPage name={place.parts[1]} />
    {:else if room === "tools"}<ToolsPage />
    {:else if room === "api"}<ApiPage />
    {:else}<h1>There is no such page</h1><p><a href="#/">Back to the overview</a></p>{/if}
  </Content>
{/if}

<style>
  .brand { display: inline-flex; gap: 0.6rem; align-items: center; font-weight: 600; letter-spacing: 0.01em; }
</style>
