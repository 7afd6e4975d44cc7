import type { Machine } from "./machine.js";

/** `sending`: a byte of it may have gone out. `returned`: taken by the server, and come back from behind it. */
export const MESSAGE_STATES = [
  "held",
  "queued",
  "sending",
  "sent",
  "refused",
  "unsure",
  "skipped",
  "returned",
] as const;
export type MessageState = (typeof MESSAGE_STATES)[number];

export type MessageEvent =
  | "release"
  | "leave-out"
  | "pass-over"
  | "begin"
  | "take"
  | "refuse"
  | "put-off"
  | "lose"
  | "repeat"
  | "decide-arrived"
  | "decide-again"
  | "take-up"
  | "return"
  | "confirm"
  | "find-sent"
  | "find-unsure";

export type MessageGuard = "released" | "delivering" | "owned" | "due" | "delivered" | "none-taken" | "repeatable";

/** The life of a message. */
export const MESSAGE_MACHINE: Machine<MessageState, MessageEvent, MessageGuard> = {
  states: MESSAGE_STATES,
  initial: "held",
  guards: {
    released: "its run was released as its report asks: by enough people, with no finding that stops it",
    delivering: "its run delivers and is not paused",
    owned: "the sending process holds the identity, and has shown lately that it lives",
    due: "nobody it goes to has had it for this occasion, or a person said again",
    delivered: "everybody it goes to has had it for this occasion",
    "none-taken": "no address of it was taken",
    repeatable: "it is files for a way out where the same ones can be put twice without harm",
  },
  moves: [
    {
      event: "release",
      from: ["held"],
      to: "queued",
      guards: ["released"],
      by: "person",
      means: "the run was let go",
    },
    {
      event: "leave-out",
      from: ["held", "queued"],
      to: "skipped",
      guards: [],
      by: "person",
      means: "its group was left out, was not chosen, or the run was stopped",
    },
    {
      event: "pass-over",
      from: ["queued"],
      to: "skipped",
      guards: ["delivered"],
      by: "service",
      means: "everybody has had it for its occasion",
    },
    {
      event: "begin",
      from: ["queued"],
      to: "sending",
      guards: ["released", "delivering", "owned", "due"],
      by: "service",
      means: "written down with ledger and attempt right before its first byte",
    },
    {
      event: "take",
      from: ["sending", "unsure"],
      to: "sent",
      guards: [],
      by: "server",
      means: "the server took it for somebody",
    },
    {
      event: "refuse",
      from: ["sending", "unsure"],
      to: "refused",
      guards: ["none-taken"],
      by: "server",
      means: "the server refused it for everybody, for good; it stays due",
    },
    {
      event: "put-off",
      from: ["sending", "unsure"],
      to: "queued",
      guards: ["released", "delivering"],
      by: "server",
      means: "certainly not taken by somebody, and tried again",
    },
    {
      event: "put-off",
      from: ["sending", "unsure"],
      to: "skipped",
      guards: ["none-taken"],
      by: "server",
      means: "certainly not taken, and its run was stopped meanwhile",
    },
    {
      event: "lose",
      from: ["sending"],
      to: "unsure",
      guards: [],
      by: "service",
      means: "the line broke after the last byte, or the process ended: nobody can know",
    },
    {
      event: "repeat",
      from: ["sending"],
      to: "queued",
      guards: ["released", "delivering", "repeatable"],
      by: "service",
      means: "the process ended: the files are put once more, and those that are there count as put",
    },
    {
      event: "decide-arrived",
      from: ["unsure"],
      to: "sent",
      guards: [],
      by: "person",
      means: "a person knows that it arrived",
    },
    {
      event: "decide-again",
      from: ["unsure", "refused"],
      to: "queued",
      guards: ["released"],
      by: "person",
      means: "a person says that it shall go again",
    },
    {
      event: "take-up",
      from: ["skipped", "refused", "returned"],
      to: "queued",
      guards: ["released", "none-taken"],
      by: "person",
      means: "a person says that it shall go after all; nobody got it, so it is a first time",
    },
    {
      event: "return",
      from: ["sent", "unsure", "returned"],
      to: "returned",
      guards: [],
      by: "server",
      means: "a report says that it came back from everybody; it stays due",
    },
    {
      event: "confirm",
      from: ["sent", "unsure", "returned"],
      to: "sent",
      guards: [],
      by: "server",
      means: "a report proves that it went out, and did not come back from everybody",
    },
    {
      event: "find-sent",
      from: ["held", "queued", "sending", "unsure", "refused", "skipped", "returned"],
      to: "sent",
      guards: [],
      by: "server",
      means: "the journal of what left kept its word, of which the database had gone back",
    },
    {
      event: "find-unsure",
      from: ["held", "queued", "sending", "sent", "refused", "skipped", "returned"],
      to: "unsure",
      guards: [],
      by: "service",
      means: "the journal says that it was begun, of which the database had gone back: nobody can know",
    },
  ],
};

/** States in which a message is still on its way, or may be. */
export const ON_ITS_WAY: readonly MessageState[] = ["queued", "sending"];
