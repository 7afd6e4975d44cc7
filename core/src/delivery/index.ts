export {
  isStarred,
  type JournalBegin,
  type JournalEnd,
  type JournalEntry,
  type JournalHead,
  journalLine,
  type LeftMessage,
  leftKey,
  leftMessages,
  type ReadLine,
  readJournal,
  starredLine,
} from "./journal.js";
export { fromStates, type Machine, type Move, type Moved, nextState, pairsOf } from "./machine.js";
export {
  MESSAGE_MACHINE,
  MESSAGE_STATES,
  type MessageEvent,
  type MessageGuard,
  type MessageState,
  ON_ITS_WAY,
} from "./message-machine.js";
export {
  type GoneRows,
  isRecordOccasion,
  type OccasionFacts,
  type Once,
  type OnceKind,
  occasionKey,
  onceOf,
  onceSentence,
  recordOccasion,
  rowKeyReader,
  rowsGone,
} from "./occasion.js";
export { type GroupOutlook, type Outlook, outlookOf } from "./outlook.js";
export { rowContentReader } from "./row-content.js";
export {
  RUN_MACHINE,
  RUN_STATES,
  type RunEvent,
  type RunGuard,
  type RunState,
  WORKED_ON,
} from "./run-machine.js";
