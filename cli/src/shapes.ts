/** The parts of the service's answers that the command uses; /openapi.json tells them whole. */
import type { Finding } from "@corbix/core/common";
import type { Decision } from "@corbix/core/table";

export interface RunAnswer {
  readonly id: string;
  readonly report: string;
  readonly title: string;
  readonly data: string;
  readonly edition: number;
  readonly period: string;
  readonly periodLabel: string;
  readonly state: string;
  readonly rehearsalTo: string | null;
  /** It is released by itself when no finding stops it. */
  readonly goesOn: boolean;
  readonly parcelCount: number;
  readonly sentences: readonly string[];
  readonly findings: readonly Finding[];
  readonly progress: {
    readonly parcels: Readonly<Record<string, number>>;
    readonly messages: Readonly<Record<string, number>>;
  };
  readonly proof: {
    readonly mayBeReleased: boolean;
    readonly files: { readonly planned: number; readonly made: number };
    readonly messages: number;
    readonly people: number;
  } | null;
  readonly error: {
    readonly code: string;
    readonly message: string;
    readonly where?: string;
    readonly advice?: string;
  } | null;
  /** How it came to its period, where nobody named one. */
  readonly periodSentence: string | null;
  /** What its release would do, while it is held. */
  readonly outlook?: {
    readonly groups: number;
    readonly messages: number;
    readonly had: number;
    readonly sentences: readonly string[];
    readonly notable: readonly {
      readonly label: string;
      readonly what: string;
      readonly day?: string;
      readonly run?: string;
    }[];
  } | null;
  readonly waitingFor: { readonly message: string; readonly advice?: string } | null;
  readonly outcome?: "released" | "approved" | "set" | "taken back";
  readonly approvals: readonly { readonly by: string }[];
  readonly createdAt: string;
}

export interface ParcelAnswer {
  readonly number: number;
  readonly label: string;
  readonly rowCount: number;
  readonly totals: Readonly<Record<string, string>>;
  readonly state: string;
  readonly files: readonly {
    readonly id: string;
    readonly path: string;
    readonly kind: string;
    readonly size: number;
  }[];
  readonly message: {
    readonly state: string;
    readonly response: string | null;
    readonly envelope: Envelope;
  } | null;
}

export interface Person {
  readonly address: string;
  readonly name?: string;
}

export interface EditionAnswer {
  readonly dataset: string;
  readonly number: number;
  readonly origin: string;
  readonly rowCount: number;
  readonly headerRow: number;
  readonly reading: Readonly<Record<string, string>>;
  readonly columns: readonly { readonly name: string; readonly type: string }[];
  readonly leftOut: readonly { readonly reason: string; readonly count: number }[];
  readonly decisions: readonly Decision[];
  readonly appended: { readonly added: number; readonly replaced: number } | null;
  readonly findings: readonly Finding[];
  readonly createdAt: string;
}

export interface ReportAnswer {
  readonly name: string;
  readonly number: number;
  readonly source: string;
  readonly definition: {
    readonly title: string;
    readonly data: string;
    readonly schedule?: { readonly rule: string; readonly at: string; readonly zone: string };
  };
  readonly nextTimes: readonly string[];
}

interface Envelope {
  readonly to: readonly Person[];
  readonly cc: readonly Person[];
  readonly bcc: readonly Person[];
}

export interface MessageAnswer {
  readonly id: string;
  readonly report: string;
  readonly period: string;
  readonly rehearsalTo: string | null;
  readonly label: string;
  readonly subject: string;
  readonly envelope: Envelope;
  readonly state: string;
  readonly response: string | null;
  readonly sentAt: string | null;
  readonly touchedAt: string;
}

export interface MessageDetails extends Omit<MessageAnswer, "report" | "period" | "label" | "rehearsalTo"> {
  readonly messageId: string;
  readonly identity: string;
  readonly againReason: string | null;
  readonly size: number | null;
  readonly results: Readonly<Record<string, { readonly state: string; readonly response?: string }>>;
  readonly attempts: readonly {
    readonly number: number;
    readonly startedAt: string;
    readonly outcome: string | null;
    readonly response: string | null;
  }[];
  readonly reports: readonly { readonly at: string; readonly facts: unknown }[];
  readonly downloads: readonly { readonly at: string; readonly path: string }[];
}

export interface IdentityAnswer {
  readonly name: string;
  readonly settings: {
    readonly from: string;
    readonly host?: string;
    readonly port: number;
    readonly security: string;
  };
  readonly waiting: number;
  readonly sending: number;
  readonly sentInHour: number;
  readonly paused: boolean;
  readonly restUntil: string | null;
  readonly restWhy: string | null;
}
