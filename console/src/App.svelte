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
import { Asleep, Light, Logout, UserAvatar } from "carbon-icons-svelte";
import { type Component, onMount } from "svelte";
import { api, Problem } from "./lib/client";
import { setZone } from "./lib/format";
import { closeLive, onLive } from "./lib/live";
import { pageOf, type ShownPage } from "./lib/page-of";
import { onTheWay, pageState } from "./lib/page-state.svelte";
import { type Call, may, session } from "./lib/rights.svelte";
import { go, link, place } from "./lib/router.svelte";
import SignInPage from "./pages/SignInPage.svelte";
import SearchBar from "./parts/common/SearchBar.svelte";
import Trouble from "./parts/common/Trouble.svelte";
import HaltBar from "./parts/operations/HaltBar.svelte";

/** Each room with the call that it begins with. */
const rooms: readonly (readonly [room: string, title: string, call: Call])[] = [
  ["", "Overview", "showOverview"],
  ["data", "Data", "listDatasets"],
  ["recipients", "Recipients", "listRecipients"],
  ["templates", "Templates", "listTemplates"],
  ["reports", "Reports", "listReports"],
  ["enquiries", "Enquiries", "listEnquiries"],
  ["runs", "Runs", "listRuns"],
  ["outbox", "Outbox", "listOutbox"],
  ["letterbox", "Letterbox", "listLetters"],
  ["notices", "Notices", "listNotices"],
  ["calendars", "Calendars", "listCalendars"],
  ["ways-out", "Ways out", "listWaysOut"],
  ["settings", "Identities", "listIdentities"],
  ["people", "People", "listPeople"],
  ["trail", "Trail", "listTrail"],
  ["operations", "Operations", "goOnSending"],
  ["tools", "Tools", "takeSheetsApart"],
  ["api", "HTTP API", "showSession"],
];
/** Pages that are reached from that of people. */
const PEOPLE_ROOMS = ["known", "sign-in-provider"];
let dark = $state(
  localStorage.getItem("corbix-theme") === "dark" ||
    (localStorage.getItem("corbix-theme") === null && matchMedia("(prefers-color-scheme: dark)").matches),
);
let isNavOpen = $state(false);

$effect(() => {
  document.documentElement.setAttribute("theme", dark ? "g100" : "white");
  document.documentElement.style.colorScheme = dark ? "dark" : "light";
});

async function lookWho(): Promise<void> {
  try {
    const self = await api.get("/self");
    setZone(self.zone);
    session.self = self;
  } catch (problem) {
    const { status } = problem as Problem;
    if (status === 401) {
      closeLive();
      session.self = null;
    } else if (session.self === undefined) setTimeout(() => location.reload(), 2000);
  }
}

onMount(() => void lookWho());
// What somebody may do can change at any moment, or end.
const isIn = $derived(Boolean(session.self));
$effect(() =>
  isIn
    ? onLive(
        ({ kind }) => kind === "access" && void lookWho(),
        () => void lookWho(),
      )
    : undefined,
);

function turnTheme(): void {
  dark = !dark;
  localStorage.setItem("corbix-theme", dark ? "dark" : "light");
}

async function signOut(): Promise<void> {
  await api.delete("/session");
  closeLive();
  session.self = null;
}

const room = $derived(place.parts[0] ?? "");
/** The page of the address, once its code is there; nothing while that is on its way. */
let shown = $state.raw<{ readonly Page: Component<Record<string, unknown>>; readonly of: ShownPage }>();
let isMissing = $state(false);
let isLost = $state(false);
$effect(() => {
  // Before a second factor is added where the office asks for one, there is nothing else.
  const wanted = pageOf(session.self?.mustAddFactor ? ["account"] : place.parts);
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
    {#if may("search") && session.self}<SearchBar />{/if}
    <HeaderGlobalAction iconDescription={dark ? "Light" : "Dark"} icon={dark ? Light : Asleep} on:click={turnTheme} tooltipAlignment={session.self ? "center" : "end"} />
    {#if session.self}<HeaderGlobalAction iconDescription="Your account" icon={UserAvatar} on:click={() => go("account")} /><HeaderGlobalAction iconDescription="Sign out" icon={Logout} on:click={signOut} tooltipAlignment="end" />{/if}
  </HeaderUtilities>
</Header>

{#if room === "come-in" && place.parts[1] && session.self !== undefined}
  {#await import("./pages/ComeInPage.svelte") then { default: ComeInPage }}<ComeInPage secret={place.parts[1] ?? ""} oncame={() => { go(""); void lookWho(); }} />{/await}
{:else if session.self === null}
  <SignInPage onsignedin={() => void lookWho()} />
{:else if session.self}
  <SideNav bind:isOpen={isNavOpen} aria-label="Rooms">
    <SideNavItems>
      {#each session.self.mustAddFactor ? [] : rooms.filter(([, , call]) => may(call)) as [name, title] (name)}
        <SideNavLink href={name === "" ? "#/" : link(name)} text={title} isSelected={room === name || (name === "people" && PEOPLE_ROOMS.includes(room))} />
      {/each}
    </SideNavItems>
  </SideNav>
  <Content>
    {#if !session.self.mustAddFactor && room !== "operations"}<HaltBar />{/if}
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
