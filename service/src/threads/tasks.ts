/**
 * What is computed in threads, so that the service answers meanwhile: all of it core, none of it with a database.
 * A thread loads only what its task works with, since most live for one task.
 */
const reading = () => import("./read-tasks.js");
const viewing = () => import("./grid-tasks.js");
const defining = () => import("./report-tasks.js");
const making = () => import("./make-tasks.js");

export const TASKS = {
  load: async () => (await reading()).load,
  recipients: async () => (await reading()).recipients,
  groups: async () => (await reading()).groups,
  compare: async () => (await reading()).compare,
  partners: async () => (await reading()).partners,
  openGrid: async () => (await viewing()).openGrid,
  look: async () => (await viewing()).look,
  profile: async () => (await viewing()).profile,
  choices: async () => (await viewing()).choices,
  takeFound: async () => (await viewing()).takeFound,
  foundRowNumbers: async () => (await viewing()).foundRowNumbers,
  placeOf: async () => (await viewing()).placeOfRow,
  tryTemplate: async () => (await making()).tryTemplate,
  lookAtDraft: async () => (await making()).lookAtDraft,
  tryMessages: async () => (await making()).tryMessages,
  planGroups: async () => (await making()).planGroups,
  planPicks: async () => (await making()).planPicks,
  takeApart: async () => (await making()).takeApart,
  makeAnswer: async () => (await making()).makeAnswer,
  packEntries: async () => (await making()).packEntries,
  replaceIn: async () => (await making()).replaceIn,
  readDefinition: async () => (await defining()).readDefinition,
  checkDefinition: async () => (await defining()).checkDefinition,
  readTemplate: async () => (await defining()).readTemplate,
  marksOf: async () => (await defining()).marksOf,
  placesOf: async () => (await defining()).placesOf,
  pagesOf: async () => (await defining()).pagesOf,
  auditPages: async () => (await defining()).auditPages,
  packFiles: async () => (await defining()).packFiles,
  joinFiles: async () => (await defining()).joinFiles,
  compareFiles: async () => (await making()).compareFiles,
} as const;

export type TaskName = keyof typeof TASKS;
type Task<Name extends TaskName> = Awaited<ReturnType<(typeof TASKS)[Name]>>;
export type TaskInput<Name extends TaskName> = Parameters<Task<Name>>[0];
export type TaskOutput<Name extends TaskName> = ReturnType<Task<Name>>;
