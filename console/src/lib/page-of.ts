/** Which page an address leads to: its code comes when somebody goes there, and stays. */
import type { Component } from "svelte";

type PageComponent = Component<Record<string, unknown>>;
type Load = () => Promise<{ readonly default: PageComponent }>;

/** A page with what it shows: they change together, so that none is ever given what is another's. */
export interface ShownPage {
  /** Its code, where that has come already. */
  readonly page: PageComponent | undefined;
  readonly load: () => Promise<PageComponent>;
  readonly props: Record<string, unknown>;
  /** A page of another thing is another page; what changes within the key is told by its properties. */
  readonly key: string;
}

const LOADED = new Map<Load, PageComponent>();

const PAGES = {
  overview: () => import("../pages/OverviewPage.svelte"),
  data: () => import("../pages/DataPage.svelte"),
  recipients: () => import("../pages/RecipientsPage.svelte"),
  templates: () => import("../pages/TemplatesPage.svelte"),
  newReport: () => import("../pages/NewReportPage.svelte"),
  report: () => import("../pages/ReportPage.svelte"),
  reports: () => import("../pages/ReportsPage.svelte"),
  enquiries: () => import("../pages/EnquiriesPage.svelte"),
  enquiry: () => import("../pages/EnquiryPage.svelte"),
  files: () => import("../pages/FilesPage.svelte"),
  run: () => import("../pages/RunPage.svelte"),
  runs: () => import("../pages/RunsPage.svelte"),
  outbox: () => import("../pages/OutboxPage.svelte"),
  letterbox: () => import("../pages/LetterboxPage.svelte"),
  settings: () => import("../pages/SettingsPage.svelte"),
  calendars: () => import("../pages/CalendarsPage.svelte"),
  waysOut: () => import("../pages/WaysPage.svelte"),
  notices: () => import("../pages/NoticesPage.svelte"),
  people: () => import("../pages/PeoplePage.svelte"),
  known: () => import("../pages/KnownPage.svelte"),
  provider: () => import("../pages/ProviderPage.svelte"),
  trail: () => import("../pages/TrailPage.svelte"),
  operations: () => import("../pages/OperationsPage.svelte"),
  account: () => import("../pages/AccountPage.svelte"),
  tools: () => import("../pages/ToolsPage.svelte"),
  api: () => import("../pages/ApiPage.svelte"),
} as const;

function open(name: keyof typeof PAGES, props: Record<string, unknown> = {}, key = ""): ShownPage {
  const load = PAGES[name] as unknown as Load;
  const come = async (): Promise<PageComponent> => {
    const { default: page } = await load();
    LOADED.set(load, page);
    return page;
  };
  return { page: LOADED.get(load), load: come, props, key: `${name} ${key}` };
}

/** `undefined` for an address that leads nowhere. */
export function pageOf([room = "", one, more]: readonly string[]): ShownPage | undefined {
  switch (room) {
    case "":
      return open("overview");
    case "data":
      return open("data", { name: one });
    case "recipients":
      return open("recipients", { wanted: one ?? "" }, one);
    case "templates":
      return open("templates", { name: one });
    case "reports":
      if (one === "new") return open("newReport");
      return one ? open("report", { name: one, step: more ?? "data" }, one) : open("reports");
    case "enquiries":
      return one ? open("enquiry", { name: one, question: more }, one) : open("enquiries");
    case "files":
      return one ? open("files", { report: one, period: more }, one) : undefined;
    case "runs":
      return one ? open("run", { id: one, parcel: more ? Number(more) : undefined }, one) : open("runs");
    case "letterbox":
      return open("letterbox", { id: one });
    case "settings":
      return open("settings", { name: one });
    case "calendars":
      return open("calendars", { name: one }, one);
    case "ways-out":
      return open("waysOut", { name: one }, one);
    case "people":
      return open("people", { name: one }, one);
    case "known":
      return open("known", { id: one });
    case "sign-in-provider":
      return open("provider");
    case "trail":
      return open("trail", { subject: one });
    case "account":
    case "operations":
    case "outbox":
    case "notices":
    case "tools":
    case "api":
      return open(room);
    default:
      return undefined;
  }
}
