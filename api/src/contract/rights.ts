/** Who may do what: for each call the role it needs, and of what. One table, which server, document and console keep to. */

/**
 * What people may do. `look`: see data, reports, runs and what went out. `prepare`: data, recipients, templates, reports, and starting
 * runs. `release`: let runs go and settle what became of messages. `operate`: people, identities, ways out, settings. `ask`: enquiries.
 */
export const ROLES = ["look", "prepare", "release", "operate", "ask"] as const;
export type Role = (typeof ROLES)[number];

/** Whoever has one of these may do what needs the role. */
export const HOLDERS: Readonly<Record<Role, readonly Role[]>> = {
  look: ["look", "prepare", "release"],
  prepare: ["prepare"],
  release: ["release"],
  operate: ["operate"],
  ask: ["ask", "look", "prepare", "release"],
};

/** For which reports somebody has a role: all, or those that are named. */
export type Scope = "all" | readonly string[];
export type Grants = Readonly<Partial<Record<Role, Scope | undefined>>>;

/**
 * What a call is about. `office`: everybody's, so that the role has to be for all reports. `some`: for any report is enough.
 * `listed`: the answer is narrowed to what the caller's reports need. Anything else is found by the call's address or body, with the
 * reports it belongs to: seen by whoever may for one of them, changed by whoever may for all.
 */
export type About =
  | "office"
  | "some"
  | "listed"
  | "report"
  | "run"
  | "message"
  | "file"
  | "question"
  | "dataset"
  | "template"
  | "kept"
  | "sent";

/** `nobody`: without a sign-in. `anybody`: whoever is signed in. */
export type Right = "nobody" | "anybody" | { readonly roles: readonly Role[]; readonly about: About };

const may = (role: Role | readonly Role[], about: About): Right => ({
  roles: typeof role === "string" ? [role] : role,
  about,
});

export const RIGHTS = {
  showHealth: "nobody",
  signIn: "nobody",
  showSession: "anybody",
  signOut: "anybody",
  showWaysIn: "nobody",
  beginPasskeySignIn: "nobody",
  signInByPasskey: "nobody",
  showOverview: "anybody",
  search: may("look", "listed"),
  verifyStore: may("operate", "office"),
  showVerification: may("operate", "office"),

  showOperations: may("operate", "office"),
  listHalts: "anybody",
  haltSending: may(["operate", "release"], "office"),
  goOnSending: may(["operate", "release"], "office"),
  listFoundMessages: may(["operate", "release"], "office"),
  decideFoundMessage: may(["operate", "release"], "office"),

  listDatasets: may("look", "listed"),
  showDataset: may("look", "dataset"),
  listEditions: may("look", "dataset"),
  showEdition: may("look", "dataset"),
  uploadFile: may("prepare", "some"),
  showUpload: may("prepare", "some"),
  previewEdition: may("prepare", "dataset"),
  loadUpload: may("prepare", "dataset"),
  loadFile: may("prepare", "dataset"),
  showDatasetSettings: may("look", "dataset"),
  changeDatasetSettings: may("prepare", "dataset"),
  listArrivals: may("look", "listed"),
  listRows: may("look", "dataset"),
  lookAtRows: may("look", "dataset"),
  profileColumns: may("look", "dataset"),
  listChangedCells: may("look", "dataset"),
  downloadEdition: may("look", "dataset"),
  emptyEdition: may("prepare", "dataset"),
  compareEditions: may("look", "dataset"),
  listPartners: may("look", "dataset"),
  listGroups: may("look", "dataset"),

  listTemplates: may("look", "listed"),
  saveTemplate: may("prepare", "template"),
  showTemplate: may("look", "template"),
  listMarks: may("look", "template"),
  listPlaces: may("look", "template"),
  downloadTemplate: may("look", "template"),
  printTemplate: may("look", "template"),
  listFonts: may("look", "some"),
  addFont: may("prepare", "office"),

  listReports: may("look", "listed"),
  showReport: may("look", "report"),
  saveReport: may("prepare", "report"),
  listReportVersions: may("look", "report"),
  showReportVersion: may("look", "report"),
  listSteps: may("look", "report"),
  listMatching: may("look", "report"),
  listPeriods: may("look", "report"),
  listProspect: may("look", "report"),
  tryReport: may("look", "report"),
  showMessageWords: may("look", "report"),
  previewMessage: may("look", "report"),
  saveMessageWords: may("prepare", "report"),
  showReportSchema: "anybody",

  listCalendars: may("look", "some"),
  showCalendar: may("look", "some"),
  saveCalendar: may("prepare", "office"),
  deleteCalendar: may("prepare", "office"),
  showCalendarYear: may("look", "some"),
  readCalendarFile: may("prepare", "some"),
  lookAtDraft: may("look", "listed"),
  tryDraft: may("look", "listed"),

  listEnquiries: may("ask", "listed"),
  showEnquiry: may("ask", "report"),
  ask: may("ask", "report"),
  listQuestions: may("ask", "listed"),
  showQuestion: may("ask", "question"),
  showAnswerRow: may("ask", "question"),
  downloadAnswer: may("ask", "question"),
  listColleagues: may("operate", "office"),
  saveColleague: may("operate", "office"),
  deleteColleague: may("operate", "office"),

  listArchived: may("look", "office"),
  showKept: may("look", "kept"),
  renameKept: may("prepare", "office"),
  copyKept: may("prepare", "office"),
  archiveKept: may("prepare", "kept"),
  bringBackKept: may("prepare", "kept"),
  deleteKept: may("prepare", "kept"),

  listRecipients: may("look", "office"),
  importRecipients: may("prepare", "office"),
  previewRecipients: may("prepare", "office"),
  showRecipient: may("look", "office"),
  addRecipient: may("prepare", "office"),
  changeRecipient: may("prepare", "office"),
  removeRecipient: may("prepare", "office"),
  listRecipientVersions: may("look", "office"),
  exportRecipients: may("look", "office"),

  // A sender of the report, or whoever may prepare it: told apart by the call itself.
  takeRecords: "nobody",
  listSenders: may("look", "report"),
  saveSender: may("prepare", "report"),
  deleteSender: may("prepare", "report"),

  listRuns: may("look", "listed"),
  startRun: may("prepare", "sent"),
  lookAtPicks: may("look", "report"),
  showRun: may("look", "run"),
  listFindings: may("look", "run"),
  releaseRun: may("release", "run"),
  stopRun: may(["release", "prepare"], "run"),
  pauseRun: may("release", "run"),
  resumeRun: may("release", "run"),
  skipGroups: may("release", "run"),
  keepFigures: may("prepare", "run"),
  listPeriodFiles: may("look", "report"),
  listParcels: may("look", "run"),
  showParcel: may("look", "run"),
  listParcelRows: may("look", "run"),
  downloadRun: may("look", "run"),
  printRun: may("look", "run"),
  auditRun: may("look", "run"),
  exportToFolder: may("release", "run"),
  exportToWebFolder: may("release", "run"),
  downloadMadeFile: may("look", "file"),

  listWatchers: may("look", "office"),
  saveWatcher: may(["prepare", "release", "operate"], "office"),
  deleteWatcher: may(["prepare", "release", "operate"], "office"),
  listNotices: may("look", "listed"),

  listOutbox: may("look", "listed"),
  showMessage: may("look", "message"),
  downloadMessage: may("look", "message"),
  decideMessage: may("release", "message"),
  sendAgain: may("release", "message"),
  takeDeliveryReport: may(["operate", "release"], "office"),
  listIdentities: may(["look", "operate"], "some"),
  showIdentity: may(["look", "operate"], "some"),
  saveIdentity: may("operate", "office"),
  pauseIdentity: may(["operate", "release"], "office"),
  resumeIdentity: may(["operate", "release"], "office"),
  listLetterboxRules: may("operate", "office"),
  addLetterboxRule: may("operate", "office"),
  showLetterboxRule: may("operate", "office"),
  removeLetterboxRule: may("operate", "office"),
  listLetters: may("look", "office"),
  showLetter: may("look", "office"),
  downloadLetter: may("look", "office"),
  downloadLetterAttachment: may("look", "office"),

  listWaysOut: may(["look", "operate"], "some"),
  showWayOut: may(["look", "operate"], "some"),
  saveWayOut: may("operate", "office"),
  removeWayOut: may("operate", "office"),
  tryWayOut: may("operate", "office"),
  hostKeyOf: may("operate", "office"),
  pauseWayOut: may(["operate", "release"], "office"),
  resumeWayOut: may(["operate", "release"], "office"),

  takeSheetsApart: may("prepare", "some"),
  replaceWords: may("prepare", "some"),
  holdWorkbook: may("prepare", "some"),
  compareWorkbooks: may("prepare", "some"),
  putTogether: may("prepare", "some"),
  downloadMade: may("look", "some"),

  showSelf: "anybody",
  changeSelf: "anybody",
  changePassword: "anybody",
  showFactors: "anybody",
  beginAuthenticator: "anybody",
  addAuthenticator: "anybody",
  dropAuthenticator: "anybody",
  makeRecoveryCodes: "anybody",
  listPasskeys: "anybody",
  beginPasskey: "anybody",
  addPasskey: "anybody",
  dropPasskey: "anybody",
  showProvider: may("operate", "office"),
  saveProvider: may("operate", "office"),
  deleteProvider: may("operate", "office"),
  listSessions: "anybody",
  endSession: "anybody",
  endOtherSessions: "anybody",
  listTokens: "anybody",
  addToken: "anybody",
  rotateToken: "anybody",
  revokeToken: "anybody",
  showInvitation: "nobody",
  acceptInvitation: "nobody",
  listTrail: may("operate", "office"),
  listTrailWords: may("operate", "office"),
  downloadTrail: may("operate", "office"),
  listPeople: may("operate", "office"),
  showPerson: may("operate", "office"),
  invitePerson: may("operate", "office"),
  changePerson: may("operate", "office"),
  inviteAgain: may("operate", "office"),
  switchOff: may("operate", "office"),
  switchOn: may("operate", "office"),
  endSessionsOf: may("operate", "office"),
  dropFactorsOf: may("operate", "office"),
  searchPerson: may("operate", "office"),
  showPersonSearch: may("operate", "office"),
  exportPerson: may("operate", "office"),
  erasePerson: may("operate", "office"),
} as const satisfies Readonly<Record<string, Right>>;

/** What may be done in an office that asks for a second factor by who has none yet. */
export const WITHOUT_FACTOR: ReadonlySet<string> = new Set<keyof typeof RIGHTS>([
  "showSelf",
  "showSession",
  "signOut",
  "showFactors",
  "beginAuthenticator",
  "addAuthenticator",
  "beginPasskey",
  "addPasskey",
  "listPasskeys",
]);

/** For which reports somebody with these grants may do what needs one of the roles; nothing where they may not at all. */
export function scopeOf(grants: Grants, roles: readonly Role[]): Scope | undefined {
  const held = roles.flatMap((role) => HOLDERS[role]).flatMap((holder) => grants[holder] ?? []);
  if (held.includes("all")) return "all";
  return held.length === 0 ? undefined : [...new Set(held)];
}

/** What two grants have in common: a token is never worth more than its person. */
export function bothGrants(person: Grants, token: Grants): Grants {
  const both: Partial<Record<Role, Scope>> = {};
  for (const role of ROLES) {
    const wanted = token[role];
    if (wanted === undefined) continue;
    // A wider role of the person's covers a narrower one of the token's.
    const had = scopeOf(person, [role]);
    if (had === undefined) continue;
    const common = had === "all" ? wanted : wanted === "all" ? had : wanted.filter((report) => had.includes(report));
    if (common === "all" || common.length > 0) both[role] = common;
  }
  return both;
}
