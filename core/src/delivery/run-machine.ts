import type { Machine } from "./machine.js";

export const RUN_STATES = [
  "planning",
  "making",
  "proving",
  "waiting",
  "held",
  "delivering",
  "done",
  "stopped",
  "failed",
] as const;
export type RunState = (typeof RUN_STATES)[number];

export type RunEvent =
  | "planned"
  | "planned-empty"
  | "all-made"
  | "proved"
  | "end-empty"
  | "wait"
  | "go-on"
  | "fail"
  | "release"
  | "finish"
  | "stop"
  | "break-off"
  | "reopen";

export type RunGuard =
  | "owned"
  | "all-made"
  | "provable"
  | "nothing-due"
  | "approved"
  | "nothing-on-its-way"
  | "released"
  | "no-incident";

/** The life of a run. */
export const RUN_MACHINE: Machine<RunState, RunEvent, RunGuard> = {
  states: RUN_STATES,
  initial: "planning",
  guards: {
    owned: "whoever writes has the newest token of the step",
    "all-made": "no parcel is planned any more",
    "nothing-due": "rows were there, and each was left out for a reason; nothing else is wrong",
    provable: "the proof has no finding that stops",
    approved: "as many different people have said so as the report asks",
    "nothing-on-its-way": "no message of it is queued or sending",
    released: "it was released before",
    "no-incident": "it was not broken off by an incident",
  },
  moves: [
    {
      event: "planned",
      from: ["planning"],
      to: "making",
      guards: ["owned"],
      by: "service",
      means: "the plan and its parcels were written, all or nothing",
    },
    {
      event: "planned-empty",
      from: ["planning"],
      to: "proving",
      guards: ["owned"],
      by: "service",
      means: "the plan has no parcels",
    },
    {
      event: "all-made",
      from: ["making"],
      to: "proving",
      guards: ["owned", "all-made"],
      by: "service",
      means: "every parcel was made, or failed",
    },
    {
      event: "proved",
      from: ["proving"],
      to: "held",
      guards: ["owned"],
      by: "service",
      means: "what was made was put against the plan",
    },
    {
      event: "end-empty",
      from: ["proving"],
      to: "done",
      guards: ["owned", "nothing-due"],
      by: "service",
      means: "there is nothing to send this time",
    },
    {
      event: "wait",
      from: ["planning", "making", "proving"],
      to: "waiting",
      guards: ["owned"],
      by: "service",
      means: "no space is left, or the file store is away; nothing half done is kept",
    },
    {
      event: "go-on",
      from: ["waiting"],
      to: "planning",
      guards: [],
      by: "service",
      means: "there is room again, and it was planning",
    },
    {
      event: "go-on",
      from: ["waiting"],
      to: "making",
      guards: [],
      by: "service",
      means: "there is room again, and it was making",
    },
    {
      event: "go-on",
      from: ["waiting"],
      to: "proving",
      guards: [],
      by: "service",
      means: "there is room again, and it was proving",
    },
    {
      event: "fail",
      from: ["planning", "making", "proving"],
      to: "failed",
      guards: ["owned"],
      by: "service",
      means: "the definition cannot work, or a step failed again and again",
    },
    {
      event: "release",
      from: ["held"],
      to: "delivering",
      guards: ["provable", "approved"],
      by: "person",
      means: "its messages may go",
    },
    {
      event: "finish",
      from: ["delivering"],
      to: "done",
      guards: ["nothing-on-its-way"],
      by: "service",
      means: "nothing is on its way any more",
    },
    {
      event: "stop",
      from: ["planning", "making", "proving", "waiting", "held", "delivering"],
      to: "stopped",
      guards: [],
      by: "person",
      means: "what has not gone will not go",
    },
    {
      event: "break-off",
      from: ["delivering"],
      to: "stopped",
      guards: [],
      by: "service",
      means: "an incident: a file belongs to another group",
    },
    {
      event: "reopen",
      from: ["done", "stopped"],
      to: "delivering",
      guards: ["released", "no-incident"],
      by: "person",
      means: "a message of it shall go after all, or again",
    },
  ],
};

/** States in which a worker has something to do for a run. */
export const WORKED_ON: readonly RunState[] = ["planning", "making", "proving"];
