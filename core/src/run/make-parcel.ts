/** One group's parcel: its files and messages. The service and the command make it by this one function. */
import { type Finding, made } from "../common/index.js";
import type { Env } from "../expression/index.js";
import type { FontLibrary } from "../fonts/index.js";
import { type ComposedMessage, type Envelope, type MessagePart, messageId } from "../message/index.js";
import type { Recipient } from "../recipients/index.js";
import type { Group } from "../split/index.js";
import type { Table } from "../table/index.js";
import type { EarlierPeriods } from "./growing.js";
import type { MadeFile } from "./make-file.js";
import type { PlannedFile } from "./plan/plan-parcel.js";
import { plannedMessages } from "./planned-messages.js";
import type { OwnSeal, ReportMaker } from "./report-maker.js";
import { factsFor, type GroupPlace, groupEnv, type RunFacts } from "./scope.js";

export interface ParcelWork {
  readonly maker: ReportMaker;
  readonly table: Table;
  readonly group: Group;
  readonly place: GroupPlace;
  readonly recipients: readonly Recipient[];
  /** As they were planned: names and paths. */
  readonly files: readonly PlannedFile[];
  readonly facts: RunFacts;
  readonly fonts: FontLibrary;
  readonly seal?: OwnSeal | undefined;
  /** Of documents that grow, what the group was delivered before. */
  readonly earlier?: (file: string) => EarlierPeriods | undefined;
  /** What they make up for. */
  readonly caughtUp?: {
    readonly periods: readonly CaughtLines[];
    /** Keys of the periods that the run makes up for with any group. */
    readonly known: ReadonlySet<string>;
  };
  /** Whether nothing is to be sent to the group, such as for want of an attachment. */
  readonly isSilent?: boolean;
  /** What tells its deliveries from all others. */
  readonly delivery: {
    readonly report: string;
    readonly occasion: string;
    /** The domain of Message-IDs. */
    readonly domain: string;
  };
}

/** A group's rows of a period that is made up for. */
export interface CaughtLines extends Pick<ParcelWork, "table" | "group" | "place"> {
  /** The run's, in that period. */
  readonly facts: RunFacts;
}

/** A file of a parcel with its place among those of the run. */
export interface ParcelFile extends MadeFile {
  readonly path: string;
}

export interface ParcelMessage {
  readonly part: MessagePart;
  readonly message: ComposedMessage;
  readonly envelope: Envelope;
  readonly messageId: string;
  /** BCP 47 tag of the language it is written in. */
  readonly language: string;
}

export interface FinishedParcel {
  readonly files: readonly ParcelFile[];
  readonly messages: readonly ParcelMessage[];
  readonly findings: readonly Finding[];
}

/** Fills the files and composes the messages of one group. Throws what template and rows cannot do together. */
export function makeParcel(work: ParcelWork): FinishedParcel {
  const { maker, group, recipients, facts, seal, caughtUp } = work;
  const env = envFor(work, recipients, facts);
  const names = [...new Set(work.files.map((file) => file.file))];
  const filled = maker.make(env, names, work.fonts, facts, {
    seal,
    earlier: work.earlier,
    caughtUp: caughtUp && {
      known: caughtUp.known,
      periods: caughtUp.periods.map((one) => ({ facts: one.facts, env: envFor(one, recipients, one.facts) })),
    },
  });
  const written = (work.isSilent ? [] : plannedMessages(maker.report, recipients)).flatMap(({ part, envelope }) => {
    const own = factsFor(facts, part.language);
    const composed = maker.compose(envFor(work, part.recipients, own), seal, part.language);
    return composed ? [{ part, envelope, ...composed }] : [];
  });
  return {
    files: filled.files.map((file) => ({ ...file, path: pathOf(work.files, file) })),
    messages: written.map(({ part, envelope, message }) => ({
      part,
      message,
      envelope,
      messageId: messageId(
        {
          report: work.delivery.report,
          period: work.delivery.occasion,
          group: group.key,
          part: part.part,
          attempt: 1,
        },
        work.delivery.domain,
      ),
      language: part.language ?? maker.report.locale,
    })),
    findings: [...filled.findings, ...written.flatMap((one) => one.findings)],
  };
}

function envFor({ table, group, place }: CaughtLines, recipients: readonly Recipient[], facts: RunFacts): Env {
  return groupEnv(table, group, place, recipients, facts);
}

function pathOf(planned: readonly PlannedFile[], file: MadeFile): string {
  const found = planned.find((candidate) => candidate.file === file.file && candidate.kind === file.kind);
  return made(found, `the plan of ${file.file}.${file.kind}`).path;
}
