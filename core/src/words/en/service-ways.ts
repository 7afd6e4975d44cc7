import { counted, thousands } from "./numbers.js";

export const serviceWays = {
  waysOut: () => "ways out",
  cannotFind: ({ name }: { name: string }) => `Cannot find the way out \`${name}\`.`,
  nameTaken: ({ name }: { name: string }) => `Cannot call it \`${name}\`: a sending identity has that name.`,
  chooseAnotherName: () => "Choose another name.",
  neededByReports: ({ reports }: { reports: string }) =>
    `Cannot take it away: files of these reports go there: ${reports}.`,
  takeOutOfReports: () => "Take it out of their waysOut first.",
  somethingWaits: () => "Cannot take it away: files are held, wait or are undecided for it.",
  decideFirst: () => "See the outbox: let them go, leave them out or decide them first.",
  cannotPut: ({ words }: { words: string }) => `Cannot put a file there: ${words.replace(/[.]$/, "")}.`,
  seeSettings: () => "See the address, the sign-in and what that place permits; nothing was left there.",
  trialFile: () => "A trial by Corbix: it is taken away again.",
  noFolder: ({ root }: { root: string }) => `the folder ${root} is not there; is the share mounted?`,
  leadsOutside: ({ path }: { path: string }) => `"${path}" leads outside of the folder`,
  wasThere: ({ bytes, digest }: { bytes: number; digest: string }) =>
    `was there already: ${thousands(bytes)} bytes, SHA-256 ${digest}`,
  wasPut: ({ bytes, digest }: { bytes: number; digest: string }) =>
    `put and read again: ${thousands(bytes)} bytes, SHA-256 ${digest}`,
  anotherIsThere: () => "another file of that name is there, and is not written over",
  readsOtherwise: () => "what was written reads otherwise",
  tooMuchCame: ({ bytes }: { bytes: number }) => `more than ${thousands(bytes)} bytes came`,
  answered: ({ status, bytes, digest }: { status: number; bytes: number; digest: string }) =>
    `taken with ${status}: ${thousands(bytes)} bytes, SHA-256 ${digest}`,
  answeredOnly: ({ status }: { status: number }) => `it answered ${status}`,
  notSignedIn: ({ status }: { status: number }) => `it answered ${status}: the sign-in is not accepted`,
  answerLost: ({ words }: { words: string }) =>
    `the line broke before an answer came: nobody knows whether it was taken (${words})`,
  anotherHostKey: ({ shown }: { shown: string }) =>
    `the server shows another key, ${shown}: it is not spoken to until somebody has seen why`,
  lineClosed: () => "the line was closed",
  notPermitted: ({ words }: { words: string }) => `the server does not permit it: ${words}`,
  putAll: ({ count, way }: { count: number; way: string }) =>
    `${counted(count, "file", "files")} put on the way out ${way}`,
  subject: ({ names }: { names: readonly string[] }) =>
    names.length <= 2 ? names.join(", ") : `${names.slice(0, 2).join(", ")} and ${names.length - 2} more`,
  notMade: ({ path }: { path: string }) => `Cannot put "${path}" anywhere: it was not made.`,
  unknownWay: ({ name }: { name: string }) => `There is no way out \`${name}\`.`,
  setItUp: () => "Set it up in the settings, or take it out of the report's waysOut.",
  findingWhere: ({ name }: { name: string }) => `waysOut, ${name}`,
  notInRehearsal: ({ ways }: { ways: string }) => `In a rehearsal no files go to the ways out: ${ways}.`,
  nothingToDo: () => "Nothing to do.",
  noMessage: () => "Cannot show it as a message: it is files that go by a way out.",
  seeFiles: () => "See the files of its group.",
  noCorrections: () => "Cannot correct places: they come from the report.",
};
